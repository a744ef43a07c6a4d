"""Everything that leaves: DXF, CSV, report."""
