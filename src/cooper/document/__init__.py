"""The document: models, quantities, units, files."""
