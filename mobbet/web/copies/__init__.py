"""Reading copies: what a friend sees of a draft, and the notes they leave."""
