"""The published sites, as readers get them."""
