"""What is found for a design: `evaluate`, its walk, checks, notes, reasons."""
