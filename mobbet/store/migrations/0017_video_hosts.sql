-- The hosts whose frames posts may show, as a JSON list. Blogs from before could show those of the made-up hosts.
ALTER TABLE blog ADD COLUMN video_hosts TEXT NOT NULL DEFAULT '[]';
UPDATE blog SET video_hosts = '["reel.example", "quay-sound.example"]';
