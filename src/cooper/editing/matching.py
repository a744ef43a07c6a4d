"""A part on the desk to be matched: measurements as a person writes them, and the gears that explain them."""

from __future__ import annotations

from math import degrees, radians

import numpy as np

from cooper.document.gear_data import SIZES
from cooper.document.models import Design
from cooper.document.units import parse
from cooper.editing.edit import set_many
from cooper.errors import Open, OutOfRange
from cooper.gears.identify import Match, identify, tip_miss
from cooper.i18n.text import tr
from cooper.stock.series import diametral_pitches, modules

FIND = "find"
"""Written for the helix angle when it is not known."""


def matches(
    z: str, tip: str, spans: str, pins: str, helix: str, system: str = "mm", most: int = 8, balls: str = ""
) -> list[Match]:
    """Explanations of a measured external gear, likeliest first, from what was written down.

    ``spans`` as teeth:size, ``pins`` and ``balls`` as diameter:size, several parted by semicolons; ``helix`` an angle
    or "find". All standard modules and diametral pitches are tried. Raises `OutOfRange` that names what cannot be.
    """
    count = round(parse(z, "count", system, quantity=tr("tooth count")))
    if not 4 <= count <= 2000:
        raise OutOfRange(tr("tooth count"), count, tr("an external gear is matched"), low=4, high=2000)
    d_a = parse(tip, "length", system, quantity=tr("outside diameter"))
    if not 0 < d_a < 1e5:
        raise OutOfRange(tr("outside diameter"), d_a, tr("it must be above 0"), low=Open(0.0), high=1e5, unit="mm")
    taken = {}
    for teeth, size in _pairs(spans, "span", system):
        if teeth != round(teeth) or not 2 <= teeth <= count:
            raise OutOfRange(
                "span",
                tr("{teeth:g} teeth", teeth=teeth),
                tr("it is written as teeth:size with 2 to {count} teeth", count=count),
                low=2,
                high=count,
            )
        taken[int(teeth)] = size
    over_pins, over_balls = dict(_pairs(pins, "pin", system)), dict(_pairs(balls, "ball", system))
    word = helix.strip().lower()
    beta = None if word in (FIND, "") else radians(parse(word, "angle", system, quantity="helix"))
    if beta is not None and not 0 <= beta < radians(60):
        raise OutOfRange("helix", degrees(beta), tr("it is 0 for spur gears"), low=0, high=60, unit="deg")
    series = tuple(sorted({*modules(), *(25.4 / P for P in diametral_pitches())}))
    return identify(count, d_a, taken, series, balls=over_balls, pins=over_pins, beta=beta, most=most)


FAR = 0.05
"""Distance from the measured sizes, over the module, from which an explanation is none."""


def warning_of(result: list[Match]) -> str:
    """That even the likeliest gear is far from what was measured, and by how much; empty where it is near."""
    if not result:
        return tr("No gear of the series has such sizes: look at count, diameter and sizes again.")
    best = result[0]
    if max(float(tip_miss(np.array(best.tip_residual), np.array(best.m_n))), abs(best.span_residual)) <= FAR * best.m_n:
        return ""
    return tr(
        "None of these is near: the likeliest is off by {tip_residual:+.3f} mm on the outside "
        "diameter and by {span_residual:.3f} mm on the sizes. Measure again, or the tips are turned "
        "down, the teeth worn or of another rack.",
        tip_residual=best.tip_residual,
        span_residual=best.span_residual,
    )


def _pairs(text: str, name: str, system: str) -> list[tuple[float, float]]:
    result = []
    for part in filter(None, (p.strip() for p in text.split(";"))):
        first, colon, second = part.partition(":")
        if not colon:
            raise OutOfRange(name, part, tr("it is written as number:size"))
        kind = "factor" if name == "span" else "length"
        one, size = parse(first, kind, system, quantity=name), parse(second, "length", system, quantity=name)
        if not (one > 0 and size > 0):
            raise OutOfRange(name, part, tr("sizes must be above 0"))
        result.append((one, size))
    return result


def take_match(design: Design, stage: int, match: Match, z: int, d_a: float) -> Design:
    """The design with the driving gear as the measured one; its mate keeps its count, the centre distance follows."""
    doc = design.train.stages[stage]
    one, two = doc.paths
    changes: dict[str, object] = {f"{doc.path}.{n}": None for n in SIZES}
    changes |= {
        f"{doc.path}.m_n": match.m_n,
        f"{doc.path}.alpha_n": round(degrees(match.alpha_n), 6),
        f"{doc.path}.beta": round(degrees(match.beta), 4),
        f"{doc.path}.a_w": None,
        f"{one}.z": z,
        f"{one}.x": round(match.x, 4),
        f"{one}.d_a": d_a,
        f"{two}.x": doc.gears[1].x or 0.0,
    }
    return set_many(design, changes)
