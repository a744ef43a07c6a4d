"""Undercuts at shoulders that are ground. DIN 509:2006, from knowledge."""

from __future__ import annotations

from msgspec import Struct

from cooper.i18n.text import tr

UNDERCUTS = ("E", "F", "E, stronger", "F, stronger")
"""E for a cylinder that is ground, F for its shoulder as well; stronger for shafts whose fatigue counts."""


class Undercut(Struct, frozen=True):
    """Radius ``r``, depth ``t_1`` under the cylinder, width ``f`` along it, ``g`` of its flat ground, depth ``t_2``
    into the shoulder (0 for form E); mm."""

    name: str
    r: float
    t_1: float
    f: float
    g: float
    t_2: float


USUAL = (
    (3.0, 0.2, 0.1, 1.0, 0.9, 0.1),
    (18.0, 0.4, 0.2, 2.0, 1.1, 0.1),
    (80.0, 0.6, 0.3, 2.5, 2.1, 0.2),
    (float("inf"), 1.0, 0.4, 4.0, 3.2, 0.3),
)
"""Up to a diameter: r, t_1, f, g, t_2; mm. DIN 509:2006, Table 1, usual load; from knowledge."""
STRONGER = (
    (50.0, 1.0, 0.2, 2.5, 1.8, 0.1),
    (80.0, 1.6, 0.3, 4.0, 3.1, 0.2),
    (125.0, 2.5, 0.4, 5.0, 4.8, 0.3),
    (float("inf"), 4.0, 0.5, 7.0, 6.4, 0.3),
)
"""The same of undercuts for higher fatigue strength; below 18 mm the usual ones are made."""


def undercut_of(form: str, d: float) -> Undercut:
    """The undercut of a form at a cylinder of a diameter (mm).

    >>> undercut_of("F", 40.0)
    Undercut(name='F 0.6 x 0.3', r=0.6, t_1=0.3, f=2.5, g=2.1, t_2=0.2)
    >>> undercut_of("E, stronger", 60.0).r
    1.6
    """
    shape, _, strong = form.partition(", ")
    rows = STRONGER if strong and d > 18 else USUAL
    _, r, t_1, f, g, t_2 = next(row for row in rows if d <= row[0])
    return Undercut(
        tr("{shape} {r:g} x {t_1:g}", shape=shape, r=r, t_1=t_1), r, t_1, f, g, t_2 if shape == "F" else 0.0
    )
