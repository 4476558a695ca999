-- Whether pages that stand elsewhere ask this server to count that they are read (1 or 0).
ALTER TABLE blog ADD COLUMN counts_reads INTEGER NOT NULL DEFAULT 0;
