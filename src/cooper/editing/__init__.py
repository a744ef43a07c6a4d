"""Functions from a design to another design."""
