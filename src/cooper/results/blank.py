"""The blank of a gear in half section: what is cut and where its teeth stand."""

from __future__ import annotations

from msgspec import Struct

from cooper.document.models import Design
from cooper.results.result_tree import Results

HUB = 1.6
"""Diameter of a hub over its bore, as it is drawn on a wheel with a web; the mass counts rim and web as entered."""


class Blank(Struct, frozen=True):
    """Diameters and widths of a blank (mm): tips ``d_a`` and roots ``d_f``, ``bore`` 0 for none, ``outside`` of a
    ring, width ``b``; of a wheel with a web its hub, the rim's inside and the web's width, else None."""

    d_a: float
    d_f: float
    b: float
    bore: float
    outside: float | None = None
    web: tuple[float, float, float] | None = None

    @property
    def greatest(self) -> float:
        """The greatest diameter."""
        return self.outside or self.d_a

    def cut(self, over: float = 0.0) -> list[tuple[float, float]]:
        """The cut face above the axis as places along it and radii, from the bore's left end on; ``over`` the depth
        of a keyway above the bore (mm)."""
        half = self.b / 2
        if self.outside is not None:
            low, high = self.d_f / 2, self.outside / 2
            return [(-half, low), (half, low), (half, high), (-half, high)]
        low, high = self.bore / 2 + over, self.d_f / 2
        if self.web is None:
            return [(-half, low), (half, low), (half, high), (-half, high)]
        hub, rim, web = self.web[0] / 2, self.web[1] / 2, self.web[2] / 2
        if hub <= self.bore / 2 + 1e-9:
            right = [(web, low), (web, rim), (half, rim), (half, high)]
        else:
            right = [(half, low), (half, max(hub, low)), (web, max(hub, low)), (web, rim), (half, rim), (half, high)]
        return [*right, *[(-x, r) for x, r in reversed(right)]]


def blank_of(design: Design, results: Results, k: int, i: int) -> Blank:
    """The blank of gear i (0, 1) of stage k; of one that turns."""
    stage = results.stages[k]
    g, kind = stage.gears[i], stage.kinds[i]
    doc = design.train.stages[k]
    gear = doc.gears[i]
    d_a, d_f, b = float(g.d_a), float(g.d_fE), float(g.b)
    if kind.inward:
        return Blank(d_a, d_f, b, 0.0, outside=float(kind.outside(g)))
    web = None
    if gear.d_i:
        web = (min(HUB * gear.d_bore, gear.d_i) if gear.d_bore else 0.0, gear.d_i, float(gear.b_s or b))
    return Blank(d_a, d_f, b, gear.d_bore, web=web)
