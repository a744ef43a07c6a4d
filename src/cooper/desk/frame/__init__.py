"""The window and what stands around the sheets and lenses."""
