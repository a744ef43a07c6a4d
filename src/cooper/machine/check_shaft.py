"""A made shaft under its loads: statics in space, strength along it, bearings, joints, whirling."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from cooper.arrays import Array, as_float, where
from cooper.machine import bearing_loads
from cooper.machine.beam import Beam, Bent, bend, whirling_speeds
from cooper.machine.check_bearing import BearingCheck, check_bearing, thrust_factor
from cooper.machine.check_joint import JointCheck, check_joint
from cooper.machine.shaft_beam import beam_of, cores_of, loads_of, nodes_of, notches_of, weight_of
from cooper.machine.shaft_model import MadeShaft, Rules
from cooper.machine.shaft_section import bending_modulus, section_area, shaft_mass, torsion_modulus
from cooper.machine.shaft_strength import (
    ShaftMaterial,
    endurance_limit,
    fatigue_safety,
    goodman_safety,
    notch_total,
    yield_safety,
)
from cooper.stock.shaft_steel import size_factor


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


def _thrust(made: MadeShaft, N: Array, F_r: Array) -> Array:
    """Axial load of every bearing (cases, bearings; N): all of it on the fixed one, or shared by an adjusted pair.
    One with a contact angle presses itself apart by F_r / (2 Y) also where it stands alone, which then comes to the
    fixed one too."""
    total = N.sum(axis=-1)
    result = np.zeros_like(F_r)
    tilted = [k for k, b in enumerate(made.bearings[:2]) if b.bearing.adjusted]
    own = {k: F_r[:, k] / (2 * thrust_factor(made.bearings[k])) for k in tilted}
    if len(tilted) == 2:
        Y = [thrust_factor(b) for b in made.bearings[:2]]
        one_left = made.bearings[0].at < made.bearings[1].at
        # Face to face a force to the right is taken by the right bearing, back to back by the left one.
        towards_2 = total if one_left != made.wish.back_to_back else -total
        two, one = bearing_loads.paired_thrust(F_r[:, 1], F_r[:, 0], Y[1], Y[0], towards_2)
        result[:, 0], result[:, 1] = one, two
        return result
    for k, b in enumerate(made.bearings):
        if b.fixed:
            result[:, k] = np.abs(total) + sum(v for n, v in own.items() if n != k)
        if k in own:
            result[:, k] = np.maximum(result[:, k], own[k])
    return result


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
