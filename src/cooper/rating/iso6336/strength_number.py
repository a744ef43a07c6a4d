"""Strength number and life factor of a material: of metals by ISO 6336, of plastics by their own law."""

from __future__ import annotations

from cooper.arrays import Array, Real, any_, as_float, where
from cooper.rating.iso6336 import life
from cooper.stock.materials import plastic_strength


def strength_number(metal: Real, life_of: Real, plastic: Real, N_L: Real) -> Array:
    """The strength number: of metals a constant, of plastics one of the load cycles."""
    if not any_(plastic):
        return as_float(metal)
    return where(as_float(plastic) > 0, plastic_strength(life_of, N_L), metal)


def life_factor(plastic: Real, N_L: Real, corners: Array, at_1e10: Real) -> Array:
    """The life factor; 1 for plastics, whose strength number holds the life already."""
    return where(as_float(plastic) > 0, 1.0, life.life_factor(N_L, corners, at_1e10))
