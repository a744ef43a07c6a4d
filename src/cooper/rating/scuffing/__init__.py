"""Scuffing of steel gears by ISO/TS 6336-20 and -21."""
