"""A made shaft as a beam: nodes, loads, notches along it."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
from msgspec.structs import replace

from cooper.arrays import Array, as_float, ascending
from cooper.machine import joint_notches
from cooper.machine import notch_factors as notch
from cooper.machine.beam import RIGID, Beam
from cooper.machine.shaft_model import MadeShaft, Piece
from cooper.machine.shaft_section import shaft_mass
from cooper.machine.shaft_strength import (
    measured_notch,
)
from cooper.stock.fasteners import nut_for
from cooper.stock.undercuts import undercut_of

FACE_POINTS = 4
"""Elements over the face of a gear, along which its force is spread."""


def hole_of(made: MadeShaft, piece: Piece) -> float:
    """Diameter of the hole across the middle of a piece, its own or that of the pin through its hub.

    Parameters
    ----------
    made : MadeShaft
        The shaft as made.
    piece : Piece
        The piece of the shaft.

    Returns
    -------
    float
        Diameter (mm), 0 without one.
    """
    return max([piece.hole, *(j.d_pin for j in made.joints if j.piece == piece.name)])


def nodes_of(made: MadeShaft) -> tuple[Array, Array]:
    """Nodes of the beam and the diameters between them.

    Parameters
    ----------
    made : MadeShaft
        The shaft as made.

    Returns
    -------
    tuple[Array, Array]
        Places (n; mm) and diameters (n - 1; mm).
    """
    xs = [p.start for p in made.pieces] + [made.pieces[-1].end] + [made.support(k) for k in range(len(made.bearings))]
    xs += [p.at for p in made.pieces if hole_of(made, p)]
    for c in made.wish.contacts:
        xs += list(np.linspace(c.at - c.b / 2, c.at + c.b / 2, FACE_POINTS + 1))
    result = ascending(np.round(np.clip(xs, made.start, made.end), 4))
    middle = (result[1:] + result[:-1]) / 2
    k = np.searchsorted([p.start for p in made.pieces], middle, side="right") - 1
    return result, np.array([p.d for p in made.pieces])[k]


def loads_of(made: MadeShaft, x: Array) -> tuple[Array, Array, Array, Array]:
    """Forces, moments, torque and thrust at the nodes, from the contacts with nominal torque.

    Parameters
    ----------
    made : MadeShaft
        The shaft as made.
    x : Array
        Places of the nodes (mm).

    Returns
    -------
    tuple[Array, Array, Array, Array]
        Forces (N) and moments (N mm) in two planes (cases, 2, n), torque (N mm) and thrust (N) behind each node (cases,
        n).

    Notes
    -----
    An axial force at a point off the axis bends.
    """
    cases = max((len(c.force) for c in made.wish.contacts), default=1)
    F, M = np.zeros((cases, 2, len(x))), np.zeros((cases, 2, len(x)))
    T, N = np.zeros((cases, len(x))), np.zeros((cases, len(x)))
    for c in made.wish.contacts:
        end = next((p for p in made.pieces if p.name == c.gear), None)
        if end is not None:
            # A force from outside stands in the middle of the end that it is on.
            c = replace(c, at=end.at, b=end.length)
        places = np.linspace(c.at - c.b / 2, c.at + c.b / 2, FACE_POINTS + 1)
        share = np.array([0.5, *[1.0] * (FACE_POINTS - 1), 0.5]) / FACE_POINTS
        k = np.clip(np.searchsorted(x, np.round(np.clip(places, x[0], x[-1]), 4)), 0, len(x) - 1)
        for node, part, place in zip(k, share, places, strict=True):
            F[:, :, node] += part * c.force[:, :2]
            # What stands beyond the shaft's end, as the teeth of a ring on its disc, acts on it with an arm.
            M[:, :, node] += part * (c.force[:, :2] * (place - x[node]) - c.point * c.force[:, 2:])
            T[:, node] += part * (c.point[:, 0] * c.force[:, 1] - c.point[:, 1] * c.force[:, 0])
            N[:, node] += part * c.force[:, 2]
    return F, M, T, N


GRAVITY = 9.81


def weight_of(made: MadeShaft, x: Array, d: Array) -> Array:
    """Weight of shaft and gears at the nodes, down in the end view.

    Parameters
    ----------
    made : MadeShaft
        The shaft as made.
    x : Array
        Places of the nodes (mm).
    d : Array
        Diameters between the nodes (mm).

    Returns
    -------
    Array
        Weights (N).
    """
    share = np.zeros(len(x))
    own = as_float(shaft_mass(d, np.minimum(made.wish.d_i, 0.9 * d), np.diff(x)))
    share[:-1] += own / 2
    share[1:] += own / 2
    for s in made.wish.seats:
        share[int(np.argmin(np.abs(x - s.at)))] += s.mass
    return -GRAVITY * share


def beam_of(made: MadeShaft, x: Array, d: Array, stiffness: tuple[float, ...] | None = None) -> Beam:
    """The shaft as a beam on its bearings.

    Parameters
    ----------
    made : MadeShaft
        The shaft as made.
    x : Array
        Places of the nodes (mm).
    d : Array
        Diameters between the nodes (mm).
    stiffness : tuple[float, ...] | None
        Stiffness of the bearings (N/mm), None for rigid ones.

    Returns
    -------
    Beam
        The beam.
    """
    at = tuple(int(np.argmin(np.abs(x - made.support(k)))) for k in range(len(made.bearings)))
    d_i = np.minimum(np.full(len(d), made.wish.d_i), 0.9 * d)
    return Beam(x=x, d=d, d_i=d_i, supports=at, stiffness=stiffness or (RIGID,) * len(at))


def notches_of(made: MadeShaft, x: Array, d: Array, sigma_B: float, sigma_S: float) -> tuple[Array, Array, Array]:
    """Notch factors at both ends of all elements, those of joints that were measured on other shafts apart, and form
    factors.

    Parameters
    ----------
    made : MadeShaft
        The shaft as made.
    x : Array
        Places of the nodes (mm).
    d : Array
        Diameters between the nodes (mm).
    sigma_B : float
        Tensile strength of the part (MPa).
    sigma_S : float
        Yield point of the part (MPa).

    Returns
    -------
    tuple[Array, Array, Array]
        Notch factors, measured ones and form factors, (n - 1, 2, 3) each: tension, bending, torsion.

    References
    ----------
    DIN 743-2:2012.
    """
    plain = np.ones((len(d), 2, 3))
    joints, forms = plain.copy(), plain.copy()
    steps = [(one, two) for one, two in pairwise(made.pieces) if abs(one.d - two.d) > 1e-6]
    if steps:
        small = [one if one.d < two.d else two for one, two in steps]
        d_s, D_s = np.array([p.d for p in small]), np.array([max(one.d, two.d) for one, two in steps])
        r = np.array([p.r or 0.05 * p.d for p in small])
        nodes = np.searchsorted(x, np.round([two.start for _, two in steps], 4))
        before = np.array([p is one for p, (one, _) in zip(small, steps, strict=True)])
        at = (np.where(before, nodes - 1, nodes), np.where(before, 1, 0))
        form = notch.shoulder_form(d_s, D_s, r)
        beta = np.maximum(form / notch.support(d_s, D_s, r, sigma_S), 1.0)
        for k, p in enumerate(small):
            if p.undercut:
                u = undercut_of(p.undercut, p.d)
                ground = p.d - 2 * u.t_1
                # Stresses are those of the whole cylinder: what the undercut takes of it stands in the factors.
                left = (ground / p.d) ** np.array([2.0, 3.0, 3.0])
                beta[k] = notch.undercut_notch(ground, p.d, D_s[k], u.r, sigma_S) / left
                form[k] = notch.undercut_form(ground, p.d, D_s[k], u.r) / left
        plain[at] = beta
        forms[at] = form
    for k, p in enumerate(made.pieces):
        if p.kind == "groove":
            beside = min(made.pieces[k - 1].d, made.pieces[k + 1].d)
            t, width = (beside - p.d) / 2, p.length
            # A round ground by the form of the groove, a square one, as for a retaining ring, as it was measured.
            if p.r >= 0.4 * width:
                beta = notch.groove_notch(p.d, beside, max(p.r, 0.05), sigma_S)
            else:
                beta = joint_notches.ring_groove_notch(t, max(p.r, 0.05), width, sigma_S)
            inside = np.nonzero((x[:-1] > p.start - 1e-6) & (x[1:] < p.end + 1e-6))[0]
            plain[inside] = beta
        if p.kind == "thread" and (nut := nut_for(p.d)) is not None:
            # Its root as a groove around the core.
            inside = np.nonzero((x[:-1] > p.start - 1e-6) & (x[1:] < p.end + 1e-6))[0]
            plain[inside] = notch.groove_notch(nut.core, p.d, THREAD_ROOT * nut.P, sigma_S)
        hole = hole_of(made, p)
        if hole:
            # Stresses are those of the whole section: what the hole leaves of it stands in the factors.
            q, place = min(hole, notch.HOLE_MOST * p.d), int(np.searchsorted(x, round(p.at, 4)))
            left = notch.cross_hole_left(p.d, q)
            for k_el, end in ((place - 1, 1), (place, 0)):
                if 0 <= k_el < len(d):
                    plain[k_el, end] = np.maximum(plain[k_el, end], notch.cross_hole_notch(p.d, q, sigma_S) / left)
                    forms[k_el, end] = np.maximum(forms[k_el, end], notch.cross_hole_form(p.d, q) / left)
    by_kind = {
        "key": joint_notches.key_notch,
        "two keys": joint_notches.two_keys_notch,
        "spline": joint_notches.spline_notch,
        "press fit": joint_notches.press_notch,
    }
    for j in made.joints:
        if j.kind == "pin" or j.screws:
            # Pin: notch factor of the cross hole (DIN 743-2). Set screw: no standard notch case.
            continue
        piece = made.piece(j.piece)
        make = by_kind.get(j.kind, joint_notches.spline_notch)
        inside = np.nonzero((x[:-1] > piece.start - 1e-6) & (x[1:] < piece.end + 1e-6))[0]
        beta = measured_notch(make(sigma_B), piece.d)
        joints[inside] = np.maximum(joints[inside], beta)
    return plain, joints, forms


THREAD_ROOT = 0.144
"""Radius of the root of a metric thread in pitches. ISO 68-1."""
SPLINE_DEPTH = 2.2
"""Modules by which the root circle of an external spline is smaller than its reference diameter, what it is named
by. DIN 5480-1."""


def cores_of(made: MadeShaft, x: Array, d: Array) -> Array:
    """Diameters that bear between the nodes: of splined pieces the root circle, of threads the core.

    Parameters
    ----------
    made : MadeShaft
        The shaft as made.
    x : Array
        Places of the nodes (mm).
    d : Array
        Diameters between the nodes (mm).

    Returns
    -------
    Array
        Diameters (mm).
    """
    core = d.copy()
    for j in made.joints:
        if j.kind == "spline":
            p = made.piece(j.piece)
            inside = (x[:-1] > p.start - 1e-6) & (x[1:] < p.end + 1e-6)
            core[inside] = np.minimum(core[inside], p.d - SPLINE_DEPTH * j.m)
    for p, nut in made.nuts:
        inside = (x[:-1] > p.start - 1e-6) & (x[1:] < p.end + 1e-6)
        core[inside] = np.minimum(core[inside], nut.core)
    return core


def piece_of(pieces: tuple[Piece, ...], at: float) -> Piece:
    """The piece of shaft at a place.

    Parameters
    ----------
    pieces : tuple[Piece, ...]
        Pieces of the shaft from left to right.
    at : float
        Place (mm).

    Returns
    -------
    Piece
        The piece.
    """
    return next((p for p in pieces if p.start - 1e-6 <= at <= p.end + 1e-6), pieces[-1])
