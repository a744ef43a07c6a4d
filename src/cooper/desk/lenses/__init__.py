"""Ways to look at the design."""
