"""Sheets that open over the Bench."""
