"""A made shaft under its loads: statics in space, strength along it, bearings, joints, whirling."""

from __future__ import annotations

from collections.abc import Callable
from itertools import pairwise

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from cooper.arrays import Array, as_float, ascending, where
from cooper.machine import notch_factors as notch
from cooper.machine import rolling_life as life
from cooper.machine.beam import RIGID, Beam, Bent, bend, whirling_speeds
from cooper.machine.check_bearing import BearingCheck, check_bearing, thrust_factor
from cooper.machine.check_joint import JointCheck, check_joint
from cooper.machine.shaft_model import MadeShaft, Piece, Rules
from cooper.machine.shaft_section import bending_modulus, section_area, shaft_mass, torsion_modulus
from cooper.machine.shaft_strength import (
    ShaftMaterial,
    endurance_limit,
    fatigue_safety,
    goodman_safety,
    measured_notch,
    notch_total,
    yield_safety,
)
from cooper.stock.shaft_steel import size_factor
from cooper.stock.undercuts import undercut_of

FACE_POINTS = 4
"""Elements over the face of a gear, along which its force is spread."""


class ShaftCheck(Struct, frozen=True):
    """A shaft under its loads. ``slopes`` the greatest in each bearing (rad); ``x`` nodes; ``ends`` (elements, 2)
    the places of what is known at both ends of every element: ``M`` bending moment in two planes (cases, 2, elements,
    2; N m), ``T`` torque (cases, elements; N m), safeties ``S_D`` and ``S_Y`` and ``n_G`` by Goodman's line (elements,
    2), the worst of all cases, ``beta`` and ``K`` notch factor and total influence there (elements, 2, 3), K_1,
    ``sigma_B`` and ``sigma_S`` of the material in this shaft (MPa); ``sigma`` bending and ``tau`` torsional stress
    (MPa); ``w`` deflection (cases, 2, nodes; mm), ``reactions`` of the bearings (cases, bearings, 3; N)."""

    x: Array
    ends: Array
    d: Array
    M: Array
    V: Array
    T: Array
    N: Array
    sigma: Array
    tau: Array
    S_D: Array
    S_Y: Array
    n_G: Array
    beta: Array
    K: Array
    sigma_B: float
    sigma_S: float
    K_1: float
    w: Array
    theta: Array
    reactions: Array
    slopes: tuple[float, ...]
    bearings: tuple[BearingCheck, ...]
    joints: tuple[JointCheck, ...]
    w_gears: dict[str, float]
    slope_gears: dict[str, float]
    n_crit: float
    mass: float

    def place(self, S: Array) -> tuple[float, float]:
        """Where a safety is least, and how much it is there."""
        k = np.unravel_index(int(np.argmin(S)), S.shape)
        return float(self.ends[k]), float(S[k])


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
    found = ascending(np.round(np.clip(xs, made.start, made.end), 4))
    middle = (found[1:] + found[:-1]) / 2
    k = np.searchsorted([p.start for p in made.pieces], middle, side="right") - 1
    return found, np.array([p.d for p in made.pieces])[k]


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


def _thrust(made: MadeShaft, N: Array, F_r: Array) -> Array:
    """Axial load of every bearing (cases, bearings; N): all of it on the fixed one, or shared by an adjusted pair.
    One with a contact angle presses itself apart by F_r / (2 Y) also where it stands alone, which then comes to the
    fixed one too."""
    total = N.sum(axis=-1)
    found = np.zeros_like(F_r)
    tilted = [k for k, b in enumerate(made.bearings[:2]) if b.bearing.adjusted]
    own = {k: F_r[:, k] / (2 * thrust_factor(made.bearings[k])) for k in tilted}
    if len(tilted) == 2:
        Y = [thrust_factor(b) for b in made.bearings[:2]]
        one_left = made.bearings[0].at < made.bearings[1].at
        # Face to face a force to the right is taken by the right bearing, back to back by the left one.
        towards_2 = total if one_left != made.wish.back_to_back else -total
        two, one = life.paired_thrust(F_r[:, 1], F_r[:, 0], Y[1], Y[0], towards_2)
        found[:, 0], found[:, 1] = one, two
        return found
    for k, b in enumerate(made.bearings):
        if b.fixed:
            found[:, k] = np.abs(total) + sum(v for n, v in own.items() if n != k)
        if k in own:
            found[:, k] = np.maximum(found[:, k], own[k])
    return found


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
                beta = notch.ring_groove_notch(t, max(p.r, 0.05), width, sigma_S)
            inside = np.nonzero((x[:-1] > p.start - 1e-6) & (x[1:] < p.end + 1e-6))[0]
            plain[inside] = beta
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
        "key": notch.key_notch,
        "two keys": notch.two_keys_notch,
        "spline": notch.spline_notch,
        "press fit": notch.press_notch,
    }
    for j in made.joints:
        if j.kind == "pin" or j.screws:
            # Pin: notch factor of the cross hole (DIN 743-2). Set screw: no standard notch case.
            continue
        piece = made.piece(j.piece)
        make = by_kind.get(j.kind, notch.spline_notch)
        inside = np.nonzero((x[:-1] > piece.start - 1e-6) & (x[1:] < piece.end + 1e-6))[0]
        beta = measured_notch(make(sigma_B), piece.d)
        joints[inside] = np.maximum(joints[inside], beta)
    return plain, joints, forms


SPLINE_DEPTH = 2.2
"""Modules by which the root circle of an external spline is smaller than its reference diameter, what it is named
by. DIN 5480-1."""


def cores_of(made: MadeShaft, x: Array, d: Array) -> Array:
    """Diameters that bear between the nodes: of splined pieces the root circle.

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
    return core


def check_shaft(made: MadeShaft, rules: Rules) -> ShaftCheck:
    """A made shaft under its loads.

    Parameters
    ----------
    made : MadeShaft
        The shaft as made.
    rules : Rules
        What is counted, with least safeties and methods.

    Returns
    -------
    ShaftCheck
        Stresses, safeties, deflections, whirling and the checks of its bearings and joints.

    References
    ----------
    DIN 743:2012, ISO 281:2007.
    """
    return check_shaft_first(made, rules)[1]()


def check_shaft_first(made: MadeShaft, rules: Rules) -> tuple[ShaftCheck, Callable[[], ShaftCheck]]:
    """A made shaft under its loads, at first without the lives of its bearings, whirling and Goodman's line.

    Parameters
    ----------
    made : MadeShaft
        The shaft as made.
    rules : Rules
        What is counted, with least safeties and methods.

    Returns
    -------
    tuple[ShaftCheck, Callable[[], ShaftCheck]]
        What is known at once, and a function that adds the rest.

    References
    ----------
    DIN 743:2012.
    """
    x, d = nodes_of(made)
    F, M, T, N = loads_of(made, x)
    if rules.weight:
        # The nominal load that K_A multiplies holds the weight, which it should not: divided here, so that it counts
        # once.
        F[:, 1] += weight_of(made, x, d) / rules.K_A
    beam = beam_of(made, x, d)
    bent: Bent = bend(beam, F, M)
    R = np.moveaxis(bent.reactions, 1, 2)
    F_r = np.hypot(R[..., 0], R[..., 1])
    F_a = _thrust(made, N, F_r)
    # Torque and thrust run on behind each node; the coupling and the fixed bearing take what is left.
    torque = -np.cumsum(T, axis=-1)[:, :-1] / 1000
    if made.wish.left_end and not made.wish.right_end:
        torque = torque + T.sum(axis=-1, keepdims=True) / 1000
    along = -np.cumsum(N, axis=-1)[:, :-1]
    for k, b in enumerate(made.bearings):
        if b.fixed:
            along = along + where(x[:-1] >= x[beam.supports[k]], N.sum(axis=-1, keepdims=True), 0.0)
            break
    M_res = np.hypot(bent.M[:, 0], bent.M[:, 1])
    core = cores_of(made, x, d)
    hollow = np.minimum(beam.d_i, 0.95 * core)
    sigma = M_res / bending_modulus(core, hollow)[:, None]
    tau = np.abs(torque)[..., None] * 1000 / torsion_modulus(core, hollow)[:, None] + 0 * sigma
    pull = np.abs(along)[..., None] / section_area(core, hollow)[:, None] + 0 * sigma
    stress = np.stack((pull, sigma, tau), axis=-1)
    steel, biggest = made.wish.steel, max(p.d for p in made.pieces)
    K_1, K_1S = size_factor(steel.kind, biggest), size_factor(steel.kind, biggest, True)
    sigma_B, sigma_S = K_1 * steel.sigma_B, K_1S * steel.sigma_S
    stuff = ShaftMaterial(sigma_B=sigma_B, sigma_S=sigma_S, sigma_W=K_1 * as_float(steel.sigma_W))
    plain, joints, forms = notches_of(made, x, d, sigma_B, sigma_S)
    D = d[:, None]
    K = np.maximum(
        notch_total(plain, D, rules.Rz, sigma_B), notch_total(joints, D, rules.Rz, sigma_B, Rz_measured=20.0)
    )
    # Bending turns round the shaft; torsion swings as the rules say, tension stays.
    swing = {"steady": 0.0, "pulsating": 0.5, "alternating": 1.0}[rules.swing]
    amplitude = rules.K_A * stress * np.array([0.0, 1.0, swing])
    mean = rules.K_A * stress * np.array([1.0, 0.0, 1.0 - swing])
    S_D = fatigue_safety(amplitude, mean, K, stuff).min(axis=0)
    S_Y = yield_safety(max(rules.K_A, rules.K_AP) * stress, stuff, forms, made.wish.d_i > 0).min(axis=0)
    slopes = np.hypot(bent.theta[:, 0], bent.theta[:, 1])
    sag = np.hypot(bent.w[:, 0], bent.w[:, 1])
    in_bearings = tuple(float(slopes[:, at].max()) for at in beam.supports)
    near = {s.gear: int(np.argmin(np.abs(x - s.at))) for s in made.wish.seats}
    first = ShaftCheck(
        x,
        np.stack((x[:-1], x[1:]), axis=-1),
        d,
        bent.M / 1000,
        bent.V,
        torque,
        along,
        rules.K_A * sigma.max(axis=0),
        rules.K_A * tau.max(axis=0),
        S_D,
        S_Y,
        np.full(S_D.shape, np.inf),
        np.maximum(plain, joints),
        K,
        sigma_B,
        sigma_S,
        K_1,
        bent.w,
        bent.theta,
        np.concatenate((R, F_a[..., None]), axis=-1),
        in_bearings,
        (),
        tuple(check_joint(j, rules) for j in made.joints),
        {g: float(sag[:, k].max()) for g, k in near.items()},
        {g: float(slopes[:, k].max()) for g, k in near.items()},
        np.inf,
        float(sum(shaft_mass(p.d, made.wish.d_i, p.length) for p in made.pieces)),
    )

    def rest() -> ShaftCheck:
        bearings = tuple(
            check_bearing(b, F_r[:, k], F_a[:, k], in_bearings[k], made.wish.n, rules)
            for k, b in enumerate(made.bearings)
        )
        n_G = goodman_safety(
            amplitude, mean, np.maximum(plain, joints), endurance_limit(sigma_B, D), as_float(sigma_B)
        ).min(axis=0)
        return replace(first, bearings=bearings, n_G=n_G, n_crit=_whirls_at(made, beam, near))

    return first, rest


def _whirls_at(made: MadeShaft, beam: Beam, near: dict[str, int]) -> float:
    """First critical speed of a shaft with its gears at the nodes ``near`` them; rpm."""
    masses, inertia = np.zeros(len(beam.x)), np.zeros(len(beam.x))
    for s in made.wish.seats:
        masses[near[s.gear]] += s.mass
        inertia[near[s.gear]] += s.mass * (3 * (s.d_a / 2) ** 2 + s.b**2) / 12
    return float(whirling_speeds(beam, masses, inertia, count=1)[0] * 30 / np.pi)


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
