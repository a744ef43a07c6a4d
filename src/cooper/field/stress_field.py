"""The stress field of a tooth for any place of its load: fields of unit loads along the flank, between which all
others lie."""

from __future__ import annotations

import pickle
from functools import cached_property
from typing import Any

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from cooper.arrays import Array, Index, Marks
from cooper.field.compliance import Compliance, compliance_of
from cooper.field.elastic import Plane, principal
from cooper.field.elements import elements_of
from cooper.field.tooth_grid import USUAL, Fineness, frame_of, grid_of
from cooper.field.unit_loads import UnitLoads, unit_loads
from cooper.gears.rack_gear import is_rack
from cooper.gears.root import RootForm, root_form
from cooper.gears.tooth import Tooth
from cooper.gears.virtual import virtual_tooth
from cooper.kept import Kept

CLEAR = 0.4
"""Modules from the end of the fillet within which a load presses on it itself, as a patch that is wider than the
contact."""
THIN = 3.5
"""Modules of rim under the root below which a body does not hold it from beneath."""


class Body(Struct, frozen=True, kw_only=True):
    """One gear as its section is made: tooth, root form, ``edge`` (diameter of bore or rim, outside of a ring,
    height of a rack's back; mm, 0 for none), ``ring`` whether nothing stands under its rim, E (MPa), nu, and the
    lengths of roll between which it is in contact (mm)."""

    tooth: Tooth
    form: RootForm
    edge: float
    ring: bool
    E: float
    nu: float
    L_f: float
    L_a: float


def section_body(body: Body) -> tuple[Body, float]:
    """The body whose section is solved: of helical gears the virtual spur gear of the normal section.

    Parameters
    ----------
    body : Body
        Tooth with its bore or rim and lengths of roll in use.

    Returns
    -------
    tuple[Body, float]
        The body with lengths of roll and edge in the section, and cos(beta_b).
    """
    tooth = body.tooth
    if float(tooth.beta) == 0:
        return body, 1.0
    virtual = virtual_tooth(tooth)
    cos_b = float(np.cos(tooth.beta_b))
    edge = body.edge
    if edge > 0 and not is_rack(tooth):
        # As much metal under the root as before.
        under = abs(float(tooth.d_f)) - edge
        edge = max(abs(float(virtual.d_f)) - under, 0.0)
    form = root_form(virtual)
    return (
        Body(
            tooth=virtual,
            form=form,
            edge=edge,
            ring=body.ring,
            E=body.E,
            nu=body.nu,
            L_f=body.L_f / cos_b,
            L_a=body.L_a / cos_b,
        ),
        cos_b,
    )


class Loaded(Struct, frozen=True):
    """A section under its unit loads: stresses at all nodes (loads, n, 3), along the fillets of the loaded side and
    of the other (2, loads, nodes; MPa), which loads stand clear of the fillet, and how far the largest stress of the
    loaded side may be off under these, over it."""

    plane: Plane
    loads: UnitLoads
    stress: Array
    push: Index
    sigma: Array
    clear: Marks
    error: float
    rim: float
    solid: bool


SECTIONS: Kept[Loaded] = Kept(8)
"""Sections under their unit loads that were found last."""


def loaded_section(body: Body, f: Fineness) -> Loaded:
    """The section of a body (`section_body`) under its unit loads; what was found last is kept.

    Parameters
    ----------
    body : Body
        Tooth with its bore or rim and lengths of roll in use.
    f : Fineness
        Fineness of the grid.

    Returns
    -------
    Loaded
        The section with its stresses and displacements.
    """
    return SECTIONS.of((pickle.dumps(body), f), lambda: _loaded(body, f))


def _loaded(body: Body, f: Fineness) -> Loaded:
    frame = frame_of(body.tooth, body.form, body.edge)
    rim = abs(frame.half[0, 1] - frame.rim) if frame.straight else abs(np.hypot(*frame.half[0]) - frame.rim)
    solid = not body.ring or bool(rim >= THIN * float(body.tooth.m_n))
    grid = grid_of(frame, f, solid)
    plane = Plane(grid, elements_of(grid), body.E, body.nu)
    loads = unit_loads(plane, body.tooth, body.L_f, body.L_a)
    stress = plane.stresses(loads.u)
    push = _mirrored(grid.nodes, grid.fillet)
    pulled, off = plane.on_fillet(loads.u, stress, grid.fillet)
    pushed, _ = plane.on_fillet(loads.u, stress, push)
    rows, worst = np.arange(len(pulled)), pulled.argmax(axis=1)
    top = pulled[rows, worst]
    clear = loads.s > grid.along[grid.flank] + CLEAR * float(body.tooth.m_n)
    clear = clear if clear.any() else np.ones_like(clear)
    error = float((off[rows, worst] / np.maximum(top, 1e-12))[clear].max())
    return Loaded(plane, loads, stress, push, np.stack((pulled, pushed)), clear, error, float(rim), solid)


def compliance_in(body: Body, f: Fineness, driver: bool) -> Compliance:
    """Influence numbers of a body (`section_body`).

    Parameters
    ----------
    body : Body
        Tooth with its bore or rim and lengths of roll in use.
    f : Fineness
        Fineness of the grid.
    driver : bool
        Whether the gear drives.

    Returns
    -------
    Compliance
        Influence numbers (mm/N and MPa mm/N).
    """
    result = loaded_section(body, f)
    return compliance_of(result.plane, result.loads, result.sigma[0], driver)


class FieldBasis(Struct, frozen=True, dict=True):
    """Fields for 1 N/mm at each of the lengths of roll ``L`` (loads; mm): ``u`` displacements (loads, nodes, 2; mm)
    and ``stress`` (loads, nodes, 3; MPa) over ``nodes`` (mm) of the nine-node ``elements``; the loads' ``places``
    (loads, 2; mm) and ``directions`` (loads, 2).

    ``pull`` and ``push`` are the nodes of the fillets of the loaded side and of the other from the middle of the space
    on, ``sigma`` the stress along them (2, loads, nodes; MPa), ``error`` how far the largest of the loaded side may be
    off, over it; ``tangent`` the node at the 30 degree tangent (60 of rings), ``held`` those that stand still; ``rim``
    what stands under the root in the section (mm), ``solid`` whether it is held from beneath. ``m_n`` in mm; ``cos_b``
    cos beta_b, 1 for spur gears.
    """

    L: Array
    nodes: Array
    elements: Index
    u: Array
    stress: Array
    places: Array
    directions: Array
    chain: Index
    pull: Index
    push: Index
    sigma: Array
    clear: Marks
    error: float
    tangent: int
    held: Index
    rim: float
    solid: bool
    nu: float
    m_n: float
    cos_b: float

    @cached_property
    def tree(self) -> Any:
        """The nodes, to be asked for the nearest of a place."""
        from scipy.spatial import cKDTree

        return cKDTree(self.nodes)

    def between(self, L: float, rows: Array) -> Array:
        """Rows over the loads at a length of roll, between the two nearest."""
        t = float(np.clip((L - self.L[0]) / (self.L[1] - self.L[0]), 0, len(self.L) - 1 - 1e-9))
        i, v = int(t), t - int(t)
        return np.asarray((1 - v) * rows[i] + v * rows[i + 1])

    def root(self, L: float) -> tuple[float, int, float, int]:
        """Largest stress along the loaded side's fillet and its node, smallest along the other's and its node, for 1
        N/mm."""
        one, two = self.between(L, self.sigma[0]), self.between(L, self.sigma[1])
        a, b = int(np.argmax(one)), int(np.argmin(two))
        return float(one[a]), int(self.pull[a]), float(two[b]), int(self.push[b])

    def roots(self, L: Array) -> tuple[Array, Array]:
        """Largest stress along the loaded side's fillet and smallest along the other's at lengths of roll, for 1
        N/mm."""
        t = np.clip((L - self.L[0]) / (self.L[1] - self.L[0]), 0, len(self.L) - 1 - 1e-9)
        i = t.astype(int)
        v = (t - i)[:, None]
        pull, push = ((1 - v) * rows[i] + v * rows[i + 1] for rows in self.sigma)
        return np.asarray(pull.max(axis=1)), np.asarray(push.min(axis=1))

    def tangent_angle(self, node: int) -> float:
        """Angle between the fillet's tangent at one of its nodes and the middle of the tooth; degrees."""
        angles = _tangents(self.nodes, self.pull)
        return float(np.degrees(angles[int(np.nonzero(self.pull == node)[0][0])]))


def field_basis(body: Body, f: Fineness = USUAL) -> FieldBasis:
    """Fields of unit loads along the flank of a body; of helical gears in the normal section.

    Parameters
    ----------
    body : Body
        Tooth with its bore or rim and lengths of roll in use.
    f : Fineness
        Fineness of the grid.

    Returns
    -------
    FieldBasis
        Fields of the unit loads.
    """
    own, cos_b = section_body(body)
    result = loaded_section(own, f)
    grid, loads = result.plane.grid, result.loads
    chain = grid.chains[grid.mid]
    return FieldBasis(
        L=loads.L * cos_b,
        nodes=grid.nodes,
        elements=grid.elements,
        u=loads.u.astype(np.float32),
        stress=result.stress.astype(np.float32),
        places=loads.places.of(grid.nodes[chain]),
        directions=loads.normal,
        chain=chain,
        pull=grid.fillet,
        push=result.push,
        sigma=result.sigma,
        clear=result.clear,
        error=result.error,
        tangent=_tangent_node(grid.nodes, grid.fillet, grid.frame.inward),
        held=grid.held,
        rim=result.rim,
        solid=result.solid,
        nu=own.nu,
        m_n=float(own.tooth.m_n),
        cos_b=cos_b,
    )


def refined(coarse: FieldBasis, usual: FieldBasis) -> FieldBasis:
    """The finer of two bases of one body.

    Parameters
    ----------
    coarse : FieldBasis
        The basis on the coarser grid.
    usual : FieldBasis
        The basis on the finer grid.

    Returns
    -------
    FieldBasis
        The finer basis, its error no less than a third of what both differ by.

    Notes
    -----
    Elements three fifths as long leave two fifths of an error of second order, which is two thirds of the difference;
    the mean of elements and edge leaves half of that.
    """
    one, two = (np.array([b.root(float(L))[0] for L in usual.L]) for b in (coarse, usual))
    off = np.abs(one - two)[usual.clear] / two[usual.clear]
    return replace(usual, error=max(usual.error, float(off.max()) / 3))


def _mirrored(nodes: Array, chain: Index) -> Index:
    from scipy.spatial import cKDTree

    return np.asarray(cKDTree(nodes).query(nodes[chain] * [-1.0, 1.0])[1])


def _tangents(nodes: Array, fillet: Index) -> Array:
    """Angles (rad) between the tangent of a fillet at its nodes and the middle of the tooth."""
    t = np.gradient(nodes[fillet], axis=0)
    return np.asarray(np.abs(np.arctan2(t[:, 0], t[:, 1])))


def _tangent_node(nodes: Array, fillet: Index, inward: bool) -> int:
    """The node of the fillet where its tangent stands at 30 degrees to the middle of the tooth, 60 of internal
    teeth. ISO 6336-3:2019, 6."""
    return int(fillet[int(np.argmin(np.abs(_tangents(nodes, fillet) - np.radians(60 if inward else 30))))])


ENDS, BENDS = 0.12, 0.5
"""A first way of a crack is followed until the tension has fallen to this share of that where it starts, or turns by
more than this (rad) in a step."""


def crack_path(basis: FieldBasis, stress: Array, start: int, steps: int = 40) -> Array:
    """Where a crack would run from a node, at right angles to the largest principal stress of the field without it.

    Parameters
    ----------
    basis : FieldBasis
        Fields of the body.
    stress : Array
        Stresses at the nodes (n, 3; MPa).
    start : int
        Number of the node.
    steps : int
        Greatest number of steps.

    Returns
    -------
    Array
        Points (n, 2; mm).

    Notes
    -----
    A crack alters the field as it grows: this is its first way.
    """
    tree = basis.tree
    step = 0.05 * basis.m_n
    at = basis.nodes[start].copy()
    heading = np.array([0.0, at[1]]) - at
    path = [at.copy()]
    first = 0.0
    for _ in range(steps):
        result = tree.query(at, k=6)
        distance, near = np.asarray(result[0]), np.asarray(result[1])
        w = 1 / (distance + 1e-3 * basis.m_n)
        one, _, angle = principal((w[:, None] * stress[near]).sum(axis=0) / w.sum())
        first = first or float(one)
        if float(one) < ENDS * first or distance[0] > 0.4 * basis.m_n:
            break
        across = np.array([-np.sin(angle), np.cos(angle)])
        across = across if across @ heading >= 0 else -across
        if len(path) > 1 and across @ heading < np.cos(BENDS):
            break
        heading = across
        at = at + step * across
        path.append(at.copy())
    return np.array(path)
