"""The design document and its evaluation: schema, units, open and save, `evaluate(design)`."""
