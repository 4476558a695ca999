"""The proof: an ordered table of checks, one a file, and what they read and find."""
