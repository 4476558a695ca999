"""Posts of another site, read from open formats."""
