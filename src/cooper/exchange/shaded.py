"""Shaded pictures of a train's solids from any side: a ray for every pixel, by Embree on the processor alone."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cached_property
from typing import Any

import numpy as np
from msgspec import Struct

from cooper.arrays import Loose as Array
from cooper.document.models import Design
from cooper.exchange.body import Body
from cooper.exchange.camera import Camera, Color
from cooper.exchange.machine_parts import machine_bodies, shaft_facets
from cooper.exchange.mesh_file import body_facets
from cooper.exchange.solid import Place
from cooper.exchange.train import placed_bodies
from cooper.results.result_tree import Results

LIGHT = np.array([0.35, 0.75, 0.56]) / np.linalg.norm([0.35, 0.75, 0.56])
"""Where the light comes from, in the viewer's frame: right, up, towards the viewer."""
AMBIENT = 0.6
CREASE = np.cos(np.radians(28.0))
"""Neighbouring surfaces that lean more than this are parted by a line; facets of one flank lean far less."""
CHORD = 0.02
"""Chord error of the facets, modules."""
AT_ONCE = 200_000
"""Rays that are sent in one go."""
PLACES = 12
"""Places around the output's turn at which the train's extent is looked at."""


class Solid(Struct, frozen=True, dict=True):
    """A gear as triangles about its own axis: points (n, 3) in mm and faces (m, 3); ``stage`` and ``gear`` (0, 1)
    tell which it is. A shaft with what is on it has stage -1 and its number."""

    points: Array
    faces: Array
    stage: int
    gear: int

    @cached_property
    def rays(self) -> Any:
        """What rays are sent at: made once, in the solid's own frame, so that turning it costs nothing."""
        from embreex.mesh_construction import TriangleMesh
        from embreex.rtcore_scene import EmbreeScene

        scene = EmbreeScene()
        # The mesh must live as long as the scene.
        self.__dict__["_mesh"] = TriangleMesh(scene, self.points.astype(np.float32), self.faces)
        return scene

    @cached_property
    def hull(self) -> Array:
        """Points around the solid: at both ends the corners of its section's convex hull."""
        from scipy.spatial import ConvexHull

        section = ConvexHull(self.points[:, :2]).vertices
        xy = self.points[section, :2]
        ends = self.points[:, 2].min(), self.points[:, 2].max()
        return np.concatenate([np.column_stack((xy, np.full(len(xy), z))) for z in ends])


class PlacedSolid(Struct, frozen=True):
    """A solid where it stands: its axis through (x, y), the middle of its width at z, turned by ``angle``; mm and
    rad."""

    solid: Solid
    x: float
    y: float
    z: float
    angle: float

    @property
    def turned(self) -> Array:
        """Columns: the solid's own axes in the train's frame."""
        c, s = np.cos(self.angle), np.sin(self.angle)
        return np.array([[c, -s, 0.0], [s, c, 0.0], [0.0, 0.0, 1.0]])

    def world(self, points: Array) -> Array:
        """Points of the solid's own frame in the train's."""
        return np.asarray(points) @ self.turned.T + [self.x, self.y, self.z]


class Solids:
    """The solids of a train, made once; placed for any turn of its input."""

    def __init__(self, design: Design, results: Results) -> None:
        self.design, self.results = design, results
        self.solids: list[Solid] = []
        self._anywhere: list[PlacedSolid] = []
        m = results.machine
        # A rack has no shaft, and stands in the train's own places.
        self.machine = m if m is not None and all(s.kind.turns for s in results.stages) else None
        for body, _places, stage in self._bodies(0.0)[0]:
            points, faces = body_facets(body, CHORD * float(body.tooth.m_n))
            gear = 0 if body.tooth is results.stages[stage].teeth[0] else 1
            self.solids.append(Solid(points, faces.astype(np.int32), stage, gear))
        self.shafts: list[list[Solid]] = []
        if self.machine is not None:
            for k, shaft in enumerate(self.machine.shafts):
                facets = shaft_facets(shaft.made)
                self.shafts.append([Solid(points, faces.astype(np.int32), -1, k) for points, faces in facets])

    def _bodies(self, turn: float) -> tuple[list[tuple[Body, list[Place], int]], list[float]]:
        """Every gear with its places, and the angles of the shafts, at a turn of the input."""
        if self.machine is not None:
            return machine_bodies(self.design, self.results, self.machine, turn)
        return placed_bodies(self.design, self.results, turn), []

    def placed(self, turn: float) -> list[PlacedSolid]:
        """Every solid at a turn of the input (rad), planets one by one; with the machine, where it counts."""
        result = []
        placed, angles = self._bodies(turn)
        for (_body, places, _stage), solid in zip(placed, self.solids, strict=True):
            result += [PlacedSolid(solid, *place) for place in places]
        if self.machine is not None:
            for shaft, solids, angle in zip(self.machine.shafts, self.shafts, angles, strict=True):
                result += [PlacedSolid(solid, *shaft.axis, 0.0, angle) for solid in solids]
        return result

    def frame(self, camera: Camera, size: tuple[int, int]) -> tuple[tuple[float, float], float]:
        """Middle and scale at which the train fits a picture wherever it stands, so that it does not jump as it
        moves."""
        if not self._anywhere:
            slowest = 2 * np.pi * abs(self.results.train.get("u", 1.0))
            self._anywhere = [at for k in range(PLACES) for at in self.placed(slowest * k / PLACES)]
        return frame(self._anywhere, camera, (0.97 * size[0], 0.97 * size[1]))


class Hits(Struct, frozen=True):
    """What the rays of a picture (rows from above, columns from the left) meet: number of the solid (-1 none), its
    normal in the viewer's frame, and the height over the plane of the picture (towards the viewer; mm)."""

    solid: Array
    normal: Array
    height: Array


def cast(
    placed: Sequence[PlacedSolid], camera: Camera, middle: tuple[float, float], scale: float, size: tuple[int, int]
) -> Hits:
    """Send a ray through the middle of every pixel; ``middle`` is the place in the viewer's frame (right, up; mm)
    that stands in the picture's middle, ``scale`` pixels per mm, ``size`` width and height."""
    width, height = size
    solid = np.full((height, width), -1, dtype=np.int32)
    normal = np.zeros((height, width, 3), dtype=np.float32)
    high = np.full((height, width), -np.inf, dtype=np.float32)
    x = (middle[0] + (np.arange(width) + 0.5 - width / 2) / scale).astype(np.float32)
    y = (middle[1] - (np.arange(height) + 0.5 - height / 2) / scale).astype(np.float32)
    for n, at in enumerate(placed):
        seen = camera.seen(at.world(at.solid.hull))
        # Only the part of the picture in which the solid may be seen.
        left, right = np.searchsorted(x, (seen[:, 0].min(), seen[:, 0].max()))
        top, bottom = np.searchsorted(-y, (-seen[:, 1].max(), -seen[:, 1].min()))
        if left == right or top == bottom:
            continue
        far = float(seen[:, 2].max()) + 1.0
        own = camera.axes @ at.turned
        # Right, up and towards the viewer in the solid's own frame are the rows of own.
        base = far * own[2] - at.turned.T @ [at.x, at.y, at.z]
        # By strips: who does not want the picture any more is heard between two of them.
        rows = max(1, AT_ONCE // (right - left))
        for upper in range(top, bottom, rows):
            lower = min(upper + rows, bottom)
            start = (x[left:right][None, :, None] * own[0] + y[upper:lower][:, None, None] * own[1] + base).astype(
                np.float32
            )
            away = np.broadcast_to((-own[2]).astype(np.float32), (start.shape[0] * start.shape[1], 3))
            result = at.solid.rays.run(start.reshape(-1, 3), np.ascontiguousarray(away), query="INTERSECT", output=1)
            shape = start.shape[:2]
            met = np.where(result["primID"] >= 0, far - result["tfar"], -np.inf).reshape(shape)
            window = (slice(upper, lower), slice(left, right))
            nearer = met > high[window]
            high[window][nearer] = met[nearer]
            solid[window][nearer] = n
            lean = result["Ng"].reshape(*shape, 3)[nearer] @ own.T.astype(np.float32)
            length = np.maximum(np.sqrt(np.einsum("ij,ij->i", lean, lean)), 1e-30)
            normal[window][nearer] = lean * (np.where(lean[:, 2] < 0, -1, 1) / length)[:, None]
    return Hits(solid, normal, high)


def frame(
    placed: Sequence[PlacedSolid], camera: Camera, size: tuple[float, float]
) -> tuple[tuple[float, float], float]:
    """Middle and scale at which all solids fit a picture."""
    seen = np.concatenate([camera.seen(at.world(at.solid.hull))[:, :2] for at in placed])
    low, high = seen.min(axis=0), seen.max(axis=0)
    middle = (low + high) / 2
    return (float(middle[0]), float(middle[1])), float(min(size[0] / (high[0] - low[0]), size[1] / (high[1] - low[1])))


def shaded(
    placed: Sequence[PlacedSolid],
    colors: Sequence[Color],
    ink: Color,
    camera: Camera,
    size: tuple[int, int],
    fine: int = 1,
    look: tuple[tuple[float, float], float] | None = None,
) -> Array:
    """The picture as (height, width, 4) bytes, red to alpha (premultiplied), nothing where no solid is; ``colors``
    (0 to 1) by solid, ``ink`` for edges, ``fine`` rays along each side of a pixel, ``look`` another middle and scale
    than those that show all."""
    width, height = size[0] * fine, size[1] * fine
    middle, scale = look or frame(placed, camera, (0.97 * size[0], 0.97 * size[1]))
    scale *= fine
    hits = cast(placed, camera, middle, scale, (width, height))
    light = AMBIENT + (1 - AMBIENT) * np.clip(hits.normal @ LIGHT.astype(np.float32), 0, 1)
    # Rays that miss have index -1 and so pick the last, transparent colour.
    table = np.array([(*c, 1.0) for c in colors] + [(0.0, 0.0, 0.0, 0.0)], dtype=np.float32)
    out = table[hits.solid]
    out[..., :3] *= light[..., None]
    line = _edges(hits, scale)
    out[line, :3] = 0.35 * out[line, :3] + 0.65 * np.array(ink, dtype=np.float32)
    if fine > 1:
        out = sum(out[i::fine, k::fine] for i in range(fine) for k in range(fine)) / fine**2
    return np.ascontiguousarray((255 * np.clip(out, 0, 1) + 0.5).astype(np.uint8))


def _edges(hits: Hits, scale: float) -> Array:
    """Pixels at which a solid, a surface or the depth changes against the pixel beside or below."""
    # By how much the depth changes from pixel to pixel on the surface that is seen.
    facing = np.maximum(hits.normal[..., 2], 0.02)
    slope = np.sqrt(np.maximum(1 - facing**2, 0)) / facing
    edge = np.zeros(hits.solid.shape, dtype=bool)
    for axis in (0, 1):
        a = [slice(None), slice(None)]
        b = [slice(None), slice(None)]
        a[axis], b[axis] = slice(None, -1), slice(1, None)
        one, two = tuple(a), tuple(b)
        other = hits.solid[one] != hits.solid[two]
        crease = np.einsum("...k,...k->...", hits.normal[one], hits.normal[two]) < CREASE
        both = (hits.solid[one] >= 0) & (hits.solid[two] >= 0)
        with np.errstate(invalid="ignore"):
            # A step in depth that no slope of a seen surface explains.
            step = (
                np.abs(hits.height[one] - hits.height[two]) > (4.0 + 2.0 * np.maximum(slope[one], slope[two])) / scale
            )
        edge[one] |= (other | ((crease | step) & both)) & (hits.solid[one] >= 0)
    return edge
