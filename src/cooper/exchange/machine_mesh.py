"""The whole train as facets in place and phase: STL and 3MF, with shafts, bearings and keys where the machine
counts."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path
from typing import TYPE_CHECKING

import numpy as np

from cooper.arrays import Loose as Array
from cooper.document.models import Design
from cooper.exchange.machine_parts import machine_bodies, shaft_facets
from cooper.exchange.mesh_file import body_facets, write_meshes
from cooper.exchange.solid import Place
from cooper.exchange.statement import Said
from cooper.exchange.train import placed_bodies
from cooper.i18n.text import tr
from cooper.results.result_tree import Results

if TYPE_CHECKING:
    import trimesh


def whole_meshes(design: Design, results: Results, tolerance: float) -> Iterator[tuple[str, trimesh.Trimesh]]:
    """Name and mesh of every part at its place; chord error in mm."""
    m = results.machine
    if m is None:
        for body, places, _k in placed_bodies(design, results):
            yield from _copies(body.name, *body_facets(body, tolerance), places)
        return
    gears, angles = machine_bodies(design, results, m, openings=True)
    for body, places, _k in gears:
        yield from _copies(body.name, *body_facets(body, tolerance), places)
    for s, angle in zip(m.shafts, angles, strict=True):
        for n, (points, faces) in enumerate(shaft_facets(s.made)):
            yield from _copies(
                s.name if n == 0 else tr("{name}, part {n}", name=s.name, n=n), points, faces, [(*s.axis, 0.0, angle)]
            )


def _copies(name: str, points: Array, faces: Array, places: list[Place]) -> Iterator[tuple[str, trimesh.Trimesh]]:
    import trimesh

    for n, (x, y, z, angle) in enumerate(places, 1):
        c, s = np.cos(angle), np.sin(angle)
        turned = points @ np.array([[c, s, 0], [-s, c, 0], [0, 0, 1]]) + [x, y, z]
        yield (
            name if len(places) == 1 else tr("{name} {n}", name=name, n=n),
            trimesh.Trimesh(turned, faces, process=False),
        )


def write_whole_mesh(design: Design, results: Results, path: Path, tolerance: float, said: Said | None = None) -> None:
    """STL (all parts in one) or 3MF (one object each) of the whole train, by the path's suffix."""
    write_meshes(list(whole_meshes(design, results, tolerance)), path, tolerance, said)
