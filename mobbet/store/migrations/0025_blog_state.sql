-- Whom a blog's site answers: everyone (''), its people alone ('people'), nobody ('closed'); and when it was set aside to be removed.
ALTER TABLE blog ADD COLUMN closed TEXT NOT NULL DEFAULT '';
ALTER TABLE blog ADD COLUMN set_aside_at INTEGER;
