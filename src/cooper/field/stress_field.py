"""The stress field of a tooth for any place of its load: fields of unit loads along the flank, between which all others lie."""

from __future__ import annotations

from collections import OrderedDict
from dataclasses import dataclass

import numpy as np

from cooper.arrays import Array
from cooper.field.compliance import PATCH, Compliance, compliance_of, patch_load, place_of
from cooper.field.elastic import Plane, elements_of, principal
from cooper.field.tooth_grid import USUAL, Fineness, Frame, frame_of, grid_of
from cooper.gears.root import RootForm, root_form
from cooper.gears.tooth import Tooth
from cooper.gears.virtual import virtual_tooth

FIELDS = 17
"""Places of the load for which the field is solved."""
THIN = 3.5
"""Modules of rim under the root below which a body does not hold it from beneath."""


@dataclass(frozen=True, kw_only=True)
class Body:
    """One gear as its section is made: tooth, root form, ``edge`` (diameter of bore or rim, outside of a ring, height of a rack's back; mm, 0 for none), ``ring``
    whether nothing stands under its rim, E (MPa), nu, and the lengths of roll between which it is in contact (mm)."""

    tooth: Tooth
    form: RootForm
    edge: float
    ring: bool
    E: float
    nu: float
    L_f: float
    L_a: float


def section_body(body: Body) -> tuple[Body, float]:
    """The body whose section is solved, with lengths of roll and edge in it, and cos beta_b: of helical gears the virtual spur gear of the normal section."""
    tooth = body.tooth
    if float(tooth.beta) == 0:
        return body, 1.0
    virtual = virtual_tooth(tooth)
    cos_b = float(np.cos(tooth.beta_b))
    edge = body.edge
    if edge > 0 and not _straight(tooth):
        # As much metal under the root as before.
        under = abs(float(tooth.d_f)) - edge
        edge = max(abs(float(virtual.d_f)) - under, 0.0)
    form = root_form(virtual)
    return (
        Body(
            tooth=virtual, form=form, edge=edge, ring=body.ring, E=body.E, nu=body.nu, L_f=body.L_f / cos_b, L_a=body.L_a / cos_b
        ),
        cos_b,
    )  # fmt: skip


def _straight(tooth: Tooth) -> bool:
    from cooper.gears.rack_gear import is_rack

    return is_rack(tooth)


_KEPT: OrderedDict[tuple[object, ...], object] = OrderedDict()
KEPT = 12


def _key(body: Body, f: Fineness) -> tuple[object, ...]:
    import pickle

    return (pickle.dumps(body), f)


def plane_of(body: Body, f: Fineness) -> tuple[Plane, Frame]:
    """The section of a body (`section_body`), held and ready to be loaded."""
    key = ("plane", *_key(body, f))
    found = _KEPT.get(key)
    if found is None:
        frame = frame_of(body.tooth, body.form, body.edge)
        rim = abs(frame.half[0, 1] - frame.rim) if frame.straight else abs(np.hypot(*frame.half[0]) - frame.rim)
        solid = not body.ring or rim >= THIN * float(body.tooth.m_n)
        grid = grid_of(frame, f, solid)
        found = Plane(grid, elements_of(grid), body.E, body.nu), frame
        _KEPT[key] = found
        if len(_KEPT) > KEPT:
            _KEPT.popitem(last=False)
    else:
        _KEPT.move_to_end(key)
    return found  # type: ignore[return-value]


def compliance_in(body: Body, f: Fineness, driver: bool) -> Compliance:
    """Influence numbers of a body (`section_body`)."""
    key = ("compliance", driver, *_key(body, f))
    found = _KEPT.get(key)
    if found is None:
        plane, _ = plane_of(body, f)
        found = compliance_of(plane, body.tooth, body.L_f, body.L_a, driver)
        _KEPT[key] = found
        if len(_KEPT) > KEPT:
            _KEPT.popitem(last=False)
    return found  # type: ignore[return-value]


@dataclass(frozen=True)
class FieldBasis:
    """Fields for 1 N/mm at each of the lengths of roll ``L`` (loads; mm): ``u`` displacements (loads, nodes, 2; mm) and ``stress`` (loads, nodes, 3; MPa) over
    ``nodes`` (mm) of the nine-node ``elements``; the loads' ``places`` (loads, 2; mm) and ``directions`` (loads, 2).

    ``pull`` and ``push`` are the nodes of the fillets of the loaded side and of the other from the middle of the space on, ``sigma`` the stress along them
    (2, loads, nodes; MPa), ``error`` how far the largest of the loaded side may be off, over it; ``tangent`` the node at the 30 degree tangent (60 of rings), ``held``
    those that stand still. ``m_n`` in mm; ``cos_b`` cos beta_b, 1 for spur gears.
    """

    L: Array
    nodes: Array
    elements: Array
    u: Array
    stress: Array
    places: Array
    directions: Array
    chain: Array
    pull: Array
    push: Array
    sigma: Array
    error: float
    tangent: int
    held: Array
    nu: float
    m_n: float
    cos_b: float

    def between(self, L: float, rows: Array) -> Array:
        """Rows over the loads at a length of roll, between the two nearest."""
        t = float(np.clip((L - self.L[0]) / (self.L[1] - self.L[0]), 0, len(self.L) - 1 - 1e-9))
        i, v = int(t), t - int(t)
        return np.asarray((1 - v) * rows[i] + v * rows[i + 1])

    def root(self, L: float) -> tuple[float, int, float, int]:
        """Largest stress along the loaded side's fillet and its node, smallest along the other's and its node, for 1 N/mm."""
        one, two = self.between(L, self.sigma[0]), self.between(L, self.sigma[1])
        a, b = int(np.argmax(one)), int(np.argmin(two))
        return float(one[a]), int(self.pull[a]), float(two[b]), int(self.push[b])


def field_basis(body: Body, f: Fineness = USUAL) -> FieldBasis:
    """Fields of unit loads along the flank of a body; of helical gears in the normal section."""
    own, cos_b = section_body(body)
    plane, frame = plane_of(own, f)
    grid = plane.grid
    L = np.linspace(min(own.L_f, own.L_a), max(own.L_f, own.L_a), FIELDS)
    chain = grid.chains[grid.mid]
    a = PATCH * float(own.tooth.m_n)
    loads = np.zeros((FIELDS, len(grid.nodes), 2))
    places, directions = np.zeros((FIELDS, 2)), np.zeros((FIELDS, 2))
    x = grid.nodes[chain]
    for j, s in enumerate(place_of(grid, own.tooth, L)):
        load, directions[j] = patch_load(grid, chain, float(s), a)
        np.add.at(loads[j], chain, load)
        places[j] = [np.interp(s, grid.along, x[:, k]) for k in (0, 1)]
    u = plane.displaced(loads)
    stress = np.stack([plane.stresses(v) for v in u])
    push = _mirrored(grid.nodes, grid.fillet)
    one = [plane.on_fillet(v, s, grid.fillet) for v, s in zip(u, stress, strict=True)]
    two = [plane.on_fillet(v, s, push)[0] for v, s in zip(u, stress, strict=True)]
    sigma = np.stack((np.stack([s for s, _ in one]), np.stack(two)))
    worst = [(float(d[int(np.argmax(s))]) / max(float(s.max()), 1e-12)) for s, d in one]
    return FieldBasis(
        L * cos_b, grid.nodes, grid.elements, u, stress, places, directions, chain, grid.fillet, push, sigma, max(worst),
        _tangent_node(grid.nodes, grid.fillet, frame.inward), grid.held, plane.nu, float(own.tooth.m_n), cos_b,
    )  # fmt: skip


def _mirrored(nodes: Array, chain: Array) -> Array:
    from scipy.spatial import cKDTree

    return np.asarray(cKDTree(nodes).query(nodes[chain] * [-1.0, 1.0])[1])


def _tangent_node(nodes: Array, fillet: Array, inward: bool) -> int:
    """The node of the fillet where its tangent stands at 30 degrees to the middle of the tooth, 60 of internal teeth. ISO 6336-3:2019, 6."""
    x = nodes[fillet]
    t = np.gradient(x, axis=0)
    angle = np.abs(np.arctan2(t[:, 0], t[:, 1]))
    return int(fillet[int(np.argmin(np.abs(angle - np.radians(60 if inward else 30))))])


def crack_path(basis: FieldBasis, stress: Array, start: int, steps: int = 60) -> Array:
    """Where a crack would run from a node, at right angles to the largest principal stress of the field without it; (n, 2) in mm. A crack alters the field as it
    grows: this is its first way."""
    from scipy.spatial import cKDTree

    tree = cKDTree(basis.nodes)
    step = 0.04 * basis.m_n
    at = basis.nodes[start].copy()
    middle = np.array([0.0, at[1]])
    heading = (middle - at) / max(float(np.hypot(*(middle - at))), 1e-9)
    path = [at.copy()]
    for _ in range(steps):
        distance, near = tree.query(at, k=6)
        w = 1 / (distance + 1e-3 * basis.m_n)
        here = (w[:, None] * stress[near]).sum(axis=0) / w.sum()
        one, _, angle = principal(here)
        if len(path) > 3 and (float(one) <= 0 or distance[0] > 0.4 * basis.m_n):
            break
        across = np.array([-np.sin(angle), np.cos(angle)])
        across = across if across @ heading >= 0 else -across
        heading = across
        at = at + step * across
        path.append(at.copy())
    return np.array(path)
