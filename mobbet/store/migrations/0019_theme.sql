-- Whether somebody has the application in the light or in the dark; '' for as the device has it.
ALTER TABLE person ADD COLUMN theme TEXT NOT NULL DEFAULT '';
