"""Micropitting by ISO/TS 6336-22."""
