"""What lenses and sheets are made of."""
