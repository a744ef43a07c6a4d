"""Bodies as closed triangle meshes: STL and 3MF at a stated chord error."""

from __future__ import annotations

import re
from itertools import pairwise
from pathlib import Path
from typing import TYPE_CHECKING

import numpy as np

from cooper.arrays import Loose as Array
from cooper.exchange.body import Body
from cooper.exchange.outlines import grown_diameter
from cooper.exchange.statement import Said
from cooper.exchange.three_mf import write_3mf
from cooper.i18n.text import tr

if TYPE_CHECKING:
    import trimesh

TOLERANCE = 0.01
"""Greatest distance between a facet and the true surface in a section, and along the helix; mm."""


def body_mesh(body: Body, tolerance: float = TOLERANCE, compensation: float = 0.0) -> trimesh.Trimesh:
    """A watertight mesh of a body in place and phase; ``compensation`` grows its section (mm)."""
    # Imported here, since the program's start does not need it.
    import trimesh

    points, faces = body_facets(body, tolerance, compensation)
    return trimesh.Trimesh(points + [body.x, 0.0, 0.0], faces, process=False)


def body_facets(body: Body, tolerance: float = TOLERANCE, compensation: float = 0.0) -> tuple[Array, Array]:
    """Points (n, 3) and triangles (m, 3) of a watertight mesh of a body about its own axis or datum line; mm."""
    # A facet between two layers of a helix leaves the surface by what profile and layers do together: (sqrt(one) +
    # sqrt(other))^2 at most.
    bent = bool(body.twist) or body.helix is not None
    tolerance = tolerance / 4 if bent else tolerance
    outline = body.outline(tolerance, compensation)
    net = _Net(body.section.inward)
    edge = None
    if body.bore_profile is not None:
        edge = body.bore_profile.points(tolerance)
    elif body.edge > 0:
        edge = _circle(grown_diameter(body.edge, compensation, body.section.inward), tolerance)
    groove = _circle(body.section.groove, tolerance) if body.gap > 0 else None
    top = None
    for low, high, twist in body.halves:
        # How far a chord between two layers leaves the helix; what does not turn leaves it nowhere.
        layers = abs(twist) * (high - low) * np.sqrt(body.section.reach / (8 * tolerance))
        # Likewise the crowning; where it has a kink there is a layer.
        layers = max(layers, np.sqrt(body.most_eased() / tolerance))
        z = [low]
        for start, end in body.bands(low, high):
            z += np.linspace(start, end, max(1, int(np.ceil(layers * (end - start) / (high - low)))) + 1)[1:].tolist()
        rings = [net.ring(body.moved(body.eased(outline, h, low, high, body.phase), h), h) for h in z]
        if top is None:
            net.cap(rings[0], net.ring(edge, low) if edge is not None else None, up=False)
        elif groove is None:
            # Without a gap the halves share their middle section.
            rings[0] = top
        else:
            inner = [net.ring(groove, h) for h in (-body.gap / 2, body.gap / 2)]
            net.cap(top, inner[0], up=True)
            net.wall(inner[0], inner[1])
            net.cap(rings[0], inner[1], up=False)
        for a, b in pairwise(rings):
            net.wall(a, b)
        top = rings[-1]
    assert top is not None
    end = body.halves[-1][1]
    net.cap(top, net.ring(edge, end) if edge is not None else None, up=True)
    if edge is not None:
        net.wall(net.loops[(id(edge), body.halves[0][0])], net.loops[(id(edge), end)], inward=True)
    return net.arrays()


def write_mesh(
    parts: tuple[Body, ...],
    path: Path,
    tolerance: float = TOLERANCE,
    compensation: float = 0.0,
    said: Said | None = None,
) -> None:
    """STL (all bodies in one) or 3MF (one object for each) by the path's suffix."""
    write_meshes([(b.name, body_mesh(b, tolerance, compensation)) for b in parts], path, tolerance, said)


def write_meshes(
    parts: list[tuple[str, trimesh.Trimesh]], path: Path, tolerance: float = TOLERANCE, said: Said | None = None
) -> None:
    """STL (all parts in one) or 3MF (one object for each) by the path's suffix; both say the chord error and the
    unit, and what the file is."""
    import trimesh

    name = path.stem if said is None else said.name
    within = tr("facets within {tolerance:g} mm of the true surfaces", tolerance=tolerance)
    text = (
        tr("{within}, millimetres", within=within)
        if said is None
        else tr("{within}; {told}", within=within, told=said.told)
    )
    if path.suffix.lower() == ".3mf":
        named = [(tr("{i} {name}", i=i, name=name), m) for i, (name, m) in enumerate(parts, 1)]
        write_3mf(named, path, {"Title": name, "Description": text})
        return
    whole = trimesh.util.concatenate([m for _, m in parts])
    content = bytearray(trimesh.exchange.stl.export_stl(whole))
    # The first 80 bytes of a binary STL are free for words.
    state = "" if said is None else re.sub(r".*, (state \w+);.*", r", \1", said.told)
    content[:80] = (
        tr("Cooper: {name}{state}, mm, within {tolerance:g} mm", name=name[:24], state=state, tolerance=tolerance)
        .encode("ascii", "replace")[:80]
        .ljust(80)
    )
    path.write_bytes(content)


class _Net:
    """Points and triangles as they come; metal lies inside the outline, or outside it for internal gears."""

    def __init__(self, internal: bool) -> None:
        self.internal = internal
        self.points: list[Array] = []
        self.faces: list[Array] = []
        self.count = 0
        self.loops: dict[tuple[int, float], tuple[int, int]] = {}

    def ring(self, outline: Array, z: float) -> tuple[int, int]:
        """Add a closed loop of points at a height; returns first index and count. The same loop is added once."""
        key = (id(outline), z)
        if key not in self.loops:
            self.points.append(np.column_stack((outline, np.full(len(outline), z))))
            self.loops[key] = (self.count, len(outline))
            self.count += len(outline)
            self._keep = getattr(self, "_keep", [])
            self._keep.append(outline)  # so that its id stays its own
        return self.loops[key]

    def wall(self, low: tuple[int, int], high: tuple[int, int], inward: bool = False) -> None:
        """The band between two loops of equal count, facing away from their inside unless ``inward``."""
        n = low[1]
        a = np.arange(n)
        b = (a + 1) % n
        one = np.column_stack((low[0] + a, low[0] + b, high[0] + b))
        two = np.column_stack((low[0] + a, high[0] + b, high[0] + a))
        faces = np.concatenate((one, two))
        self.faces.append(faces[:, ::-1] if inward != self.internal else faces)

    def cap(self, outer: tuple[int, int], inner: tuple[int, int] | None, *, up: bool) -> None:
        """The flat face between two loops, the outer one being the bore's or rim's circle for internal gears."""
        import mapbox_earcut

        loops = [outer] if inner is None else [inner, outer] if self.internal else [outer, inner]
        points = np.concatenate(self.points)
        index = np.concatenate([np.arange(s, s + n) for s, n in loops])
        ends = np.cumsum([n for _, n in loops]).astype(np.uint32)
        flat = mapbox_earcut.triangulate_float64(points[index, :2], ends).reshape(-1, 3)
        faces = index[flat]
        a, b, c = (points[faces[:, k], :2] for k in range(3))
        area = (b[:, 0] - a[:, 0]) * (c[:, 1] - a[:, 1]) - (b[:, 1] - a[:, 1]) * (c[:, 0] - a[:, 0])
        turn = (area > 0) != up
        faces[turn] = faces[turn][:, ::-1]
        self.faces.append(faces)

    def arrays(self) -> tuple[Array, Array]:
        return np.concatenate(self.points), np.concatenate(self.faces)


def _circle(diameter: float, tolerance: float) -> Array:
    n = max(24, int(np.ceil(np.pi / np.arccos(1 - min(2 * tolerance / diameter, 1)))))
    t = 2 * np.pi * np.arange(n) / n
    return diameter / 2 * np.column_stack((np.cos(t), np.sin(t)))
