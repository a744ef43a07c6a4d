"""Strength number and life factor of a material: of metals by ISO 6336, of plastics by their own law."""

from __future__ import annotations

from cooper.arrays import Array, Real, any_, as_float, where
from cooper.rating.iso6336 import life
from cooper.stock.materials import plastic_strength


def strength_number(metal: Real, life_of: Real, plastic: Real, N_L: Real) -> Array:
    """The strength number: of metals a constant, of plastics one of the load cycles.

    Parameters
    ----------
    metal : Real
        Strength number of metals (MPa).
    life_of : Real
        Strength numbers of plastics over load cycles.
    plastic : Real
        Whether the gear is of plastic.
    N_L : Real
        Load cycles.

    Returns
    -------
    Array
        Strength number (MPa).
    """
    if not any_(plastic):
        return as_float(metal)
    return where(as_float(plastic) > 0, plastic_strength(life_of, N_L), metal)


def life_factor(plastic: Real, N_L: Real, corners: Array, at_1e10: Real) -> Array:
    """The life factor; 1 for plastics, whose strength number holds the life already.

    Parameters
    ----------
    plastic : Real
        Whether the gear is of plastic.
    N_L : Real
        Load cycles.
    corners : Array
        Cycles and factors at the end of static strength, one point between, and the reference life; shape (2, 3, ...).
    at_1e10 : Real
        Factor at 1e10 cycles, 0.85 to 1.

    Returns
    -------
    Array
        Z_NT or Y_NT.
    """
    return where(as_float(plastic) > 0, 1.0, life.life_factor(N_L, corners, at_1e10))
