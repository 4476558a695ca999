-- Words, domains and e-mail addresses whose comments are refused for good (core/blocklist.py), as a JSON list.
ALTER TABLE blog ADD COLUMN blocklist TEXT NOT NULL DEFAULT '[]';
