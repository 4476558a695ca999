-- Whether somebody has the application in the light or in the dark; '' for as the device has it.
ALTER TABLE person ADD COLUMN theme TEXT NOT NULL DEFAULT '';

-- Posts behind a password stand in lists for those who can be asked for it, which a static host cannot.
UPDATE listing SET audience = 'locked' WHERE placement_id IN (SELECT id FROM placement WHERE audience LIKE 'password:%');
