"""The rating of pairs by ISO 6336-1, -2 and -3:2019: its factors in the order, with the forces and the widths that
the standard has.

Usable without a document: a `PairInput` says all that the method asks for.
"""

from __future__ import annotations

from cooper.gears.inputs import PairInput
from cooper.gears.pair_shape import PairShape, pair_shape
from cooper.rating.iso6336.rate_flank import add_flank
from cooper.rating.iso6336.rate_loads import add_load_factors, add_loads
from cooper.rating.iso6336.rate_root import add_root
from cooper.rating.plastic_teeth import rate_plastics


def rate(p: PairInput, shape: PairShape | None = None) -> tuple[PairShape, PairInput]:
    """Add load, load factors, stresses and safeties to the values of pairs.

    Parameters
    ----------
    p : PairInput
        The pairs as entered, arrays of any shape.
    shape : PairShape | None
        Geometry of the pairs, None to work it out.

    Returns
    -------
    tuple[PairShape, PairInput]
        The shape with its values, and the input whose plastics have the temperature of their teeth; NaN where the
        method has no value.

    Notes
    -----
    K_V is found first, K_Hbeta with it, K_Halpha with both; then flank and root of both gears.

    References
    ----------
    ISO 6336:2019.
    """
    s = pair_shape(p) if shape is None else shape
    add_loads(p, s.mesh, s.gears)
    p = rate_plastics(p, s.mesh, s.gears)
    add_load_factors(p, s.teeth, s.mesh, s.gears)
    add_flank(p, s.mesh, s.gears)
    for i in (0, 1):
        add_root(p, i, s.teeth[i], s.mesh, s.gears[i])
    return s, p
