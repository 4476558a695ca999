"""The proof: of one post, of every post, and the house style for words."""
