"""Other programs that write for a person: how they are allowed, Micropub, AtomPub."""
