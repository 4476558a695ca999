-- Whether a phone scales large pictures down before it sends them, as the owner has it.
ALTER TABLE blog ADD COLUMN scales_pictures INTEGER NOT NULL DEFAULT 1;
