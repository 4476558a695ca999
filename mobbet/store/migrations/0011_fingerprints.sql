-- What a file at a place outside looks like there, so that a comparison need not make every file anew; '' where it is not known.
ALTER TABLE target_file ADD COLUMN fingerprint TEXT NOT NULL DEFAULT '';
