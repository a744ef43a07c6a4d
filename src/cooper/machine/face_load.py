"""How the load lies along the face of a mesh whose shafts bend, twist and sink into their bearings. ISO 6336-1:2019,
Annex E.

Both shafts, their bearings and the teeth are springs; of all slices of the face those bear whose gap is closed. The
standard's annex finds the same by going back and forth between load and deflection; here it is solved at once.
"""

from __future__ import annotations

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from cooper.arrays import Array, Real, all_, as_float, ascending
from cooper.machine.beam import Beam, bend
from cooper.machine.check_shaft import ShaftCheck
from cooper.machine.rolling_life import radial_give
from cooper.machine.shaft_beam import beam_of, loads_of, nodes_of
from cooper.machine.shaft_model import MadeShaft, Rules, ShaftRequirements

SLICES = 21
"""Slices of a face."""
G_STEEL = 79300.0
TURNS = 12
"""How often the slices that bear are sought anew."""


class Give(Struct, frozen=True):
    """How one shaft gives way in the direction of the teeth's force: ``C`` (slices, slices) at a slice for a force
    at another (mm/N), ``other`` what all other loads on it move at each slice along the force's direction (mm)."""

    C: Array
    other: Array


class FaceLoad(Struct, frozen=True):
    """The load along a face: ``y`` middles of the slices from its left end (mm), ``gap`` what shafts and bearings
    open at each (um, least 0), ``w`` the line load with the deviations of manufacture either way (2, slices; N/mm),
    K_Hbeta the greatest over the mean, and the slope and crowning (um) that would even it."""

    y: Array
    gap: Array
    w: Array
    K_Hbeta: float
    C_Hbeta: float
    C_beta: float


def bearing_stiffness(made: MadeShaft, checked: ShaftCheck, rules: Rules) -> tuple[float, ...]:
    """Radial stiffness of the bearings at their loads under K_A; secants of Palmgren's approximation.

    Parameters
    ----------
    made : MadeShaft
        The shaft as made.
    checked : ShaftCheck
        The shaft under its loads.
    rules : Rules
        What is counted, with least safeties and methods.

    Returns
    -------
    tuple[float, ...]
        Stiffness of each bearing (N/mm).
    """
    result = []
    for b, f in zip(made.bearings, checked.bearings, strict=True):
        k = b.bearing
        F = max(f.F_r * rules.K_A, 1e-3 * b.C)
        result.append(F / float(radial_give(k.D_w, k.Z, k.alpha, k.L_we, F)))
    return tuple(result)


def give_of(
    made: MadeShaft,
    checked: ShaftCheck,
    rules: Rules,
    *,
    gear: str,
    case: int,
    y: Array,
    direction: Array,
    point: Array,
    axial: float,
    r_b: float,
    d_body: tuple[float, float],
) -> Give:
    """How the shaft gives way at the slices of a face for forces on its teeth.

    Parameters
    ----------
    made : MadeShaft
        The shaft as made.
    checked : ShaftCheck
        The shaft under its loads.
    rules : Rules
        What is counted, with least safeties and methods.
    gear : str
        Name of the gear.
    case : int
        Number of the load case.
    y : Array
        Places of the slices along the machine (mm).
    direction : Array
        Direction of the force in the end view, x and y.
    point : Array
        Place of the force in the end view, x and y (mm).
    axial : float
        Force along the axis over that along the direction.
    r_b : float
        Base radius (mm).
    d_body : tuple[float, float]
        Outside and inside diameter of the body that twists (mm).

    Returns
    -------
    Give
        Displacements for unit loads (mm/N).

    Notes
    -----
    The body twists about its base radius from the side where the torque comes in.
    """
    x, d = nodes_of(made)
    x = ascending(np.concatenate((x, np.clip(y, x[0], x[-1]))))
    middle = (x[1:] + x[:-1]) / 2
    k = np.searchsorted([p.start for p in made.pieces], middle, side="right") - 1
    d = np.array([p.d for p in made.pieces])[k]
    beam: Beam = beam_of(made, x, d, bearing_stiffness(made, checked, rules))
    node = np.argmin(np.abs(x[None, :] - np.clip(y, x[0], x[-1])[:, None]), axis=1)
    arm = y - x[node]
    n = len(y)
    F, M = np.zeros((n, 2, len(x))), np.zeros((n, 2, len(x)))
    F[np.arange(n), :, node] = direction
    M[np.arange(n), :, node] = direction * arm[:, None] - point * axial
    unit = bend(beam, F, M)

    def along(w: Array, theta: Array) -> Array:
        moved = w[..., node] + theta[..., node] * arm
        lean = theta[..., node] * point[:, None]
        return as_float(np.einsum("...pi,p->...i", moved, direction) - axial * lean.sum(axis=-2))

    C = along(unit.w, unit.theta)
    others = [c for c in made.wish.contacts if c.gear != gear]
    other = np.zeros(n)
    if others:
        rest = MadeShaft(wish=_without(made, gear), pieces=made.pieces, bearings=made.bearings, joints=made.joints)
        F_o, M_o, _, _ = loads_of(rest, x)
        bent = bend(beam, rules.K_A * F_o[case], rules.K_A * M_o[case])
        other = along(bent.w, bent.theta)
    left = float(np.abs(checked.T[case][np.searchsorted(checked.x, y[0], side="right") - 1])) if len(checked.x) else 0.0
    k_right = min(int(np.searchsorted(checked.x, y[-1])), checked.T.shape[1] - 1)
    right = float(np.abs(checked.T[case][k_right]))
    s = y - y[0] if left >= right else y[-1] - y
    polar = np.pi * (d_body[0] ** 4 - d_body[1] ** 4) / 32
    twist = r_b**2 / (G_STEEL * polar) * np.minimum(s[:, None], s[None, :])
    return Give(C + twist, other)


def _without(made: MadeShaft, gear: str) -> ShaftRequirements:
    return replace(made.wish, contacts=tuple(c for c in made.wish.contacts if c.gear != gear))


def share_load(C: Array, gap: Array, stiffness: float, width: float, F: float) -> Array:
    """Line load of slices that give way to each other and by their teeth.

    Parameters
    ----------
    C : Array
        How the slices give way to each other (mm/N).
    gap : Array
        Gaps to begin with (mm).
    stiffness : float
        Stiffness of the teeth (N/(mm um)).
    width : float
        Width of a slice (mm).
    F : float
        Force on all together (N).

    Returns
    -------
    Array
        Line loads (N/mm); slices that do not touch bear nothing.

    Examples
    --------
    >>> w = share_load(np.zeros((4, 4)), np.array([0.0, 0.0, 0.0, 1.0]), 14.0, 10.0, 3000.0)
    >>> [round(float(v), 6) for v in w]
    [100.0, 100.0, 100.0, 0.0]
    """
    n = len(gap)
    A = C + np.diag(np.full(n, 1 / (1000 * stiffness * width)))
    bears = np.ones(n, dtype=bool)
    load = np.zeros(n)
    for _ in range(TURNS):
        k = int(bears.sum())
        system = np.zeros((k + 1, k + 1))
        system[:k, :k], system[:k, k], system[k, :k] = A[np.ix_(bears, bears)], -1.0, 1.0
        result = np.linalg.solve(system, np.append(-gap[bears], F))
        load = np.zeros(n)
        load[bears] = result[:k]
        closed = result[k] - gap - C @ load
        again = np.where(bears, load > 0, closed > 0)
        if not again.any() or all_(again == bears):
            break
        bears = again
    return np.maximum(load, 0.0) / width


def face_load(
    one: Give,
    two: Give,
    y: Array,
    b: float,
    *,
    F: float,
    stiffness: float,
    f_ma: float,
    C_Hbeta: float,
    C_beta: float,
    run_in: float,
) -> FaceLoad:
    """The load along the face of a mesh.

    Parameters
    ----------
    one : Give
        How the first shaft gives way.
    two : Give
        How the second shaft gives way.
    y : Array
        Places of the slices from the left end of the face (mm).
    b : float
        Face width (mm).
    F : float
        Normal force in the transverse plane with K_A and K_V (N).
    stiffness : float
        Mesh stiffness (N/(mm um)).
    f_ma : float
        Misalignment of manufacture (um).
    C_Hbeta : float
        Helix slope made on purpose (um), positive takes away at the right end.
    C_beta : float
        Crowning made on purpose (um).
    run_in : float
        Share of all mismatch that running-in leaves.

    Returns
    -------
    FaceLoad
        Line loads, gaps and K_Hbeta.

    Notes
    -----
    ``y`` from the left end of the face.

    References
    ----------
    ISO 6336-1:2019, Annex E.
    """
    n = len(y)
    width = b / n
    at = y / b - 0.5
    C = run_in * (one.C + two.C)
    # The driving gear, moved along the force on its mate, closes the gap; the driven one opens it.
    opened = two.other - one.other
    made_so = (C_Hbeta * at + C_beta * (2 * at) ** 2) / 1000
    loads = []
    for way in (1.0, -1.0):
        gap = run_in * (opened + made_so + way * f_ma * at / 1000)
        loads.append(share_load(C, gap - gap.min(), stiffness, width, F))
    w = np.stack(loads)
    mean = F / b
    # What an even load would open: its straight part is what a slope takes away.
    even = (one.C + two.C) @ np.full(n, F / n) + opened
    gap_um = 1000 * (even - even.min())
    slope = float(np.polyfit(at, 1000 * even, 1)[0])
    bow = 1000 * even - slope * at
    crowning = f_ma / 2 + float(np.ptp(bow)) / 2
    return FaceLoad(y, gap_um, w, max(greatest_load(w) / mean, 1.0), -slope, crowning)


def greatest_load(w: Real) -> float:
    """Greatest line load on a face from its loads at the middles of even slices.

    Parameters
    ----------
    w : Real
        Line loads (directions of the misalignment, slices; N/mm).

    Returns
    -------
    float
        Line load (N/mm).

    Notes
    -----
    At an end it is half a slice beyond the middle of the outer one, on the straight line through the last two.

    Examples
    --------
    >>> greatest_load([[3.0, 2.0, 1.0], [2.0, 2.0, 2.0]])
    3.5
    """
    w = as_float(w)
    ends = np.concatenate((1.5 * w[:, 0] - 0.5 * w[:, 1], 1.5 * w[:, -1] - 0.5 * w[:, -2]))
    return float(max(w.max(), ends.max()))
