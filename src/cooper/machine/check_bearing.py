"""A bearing under its loads: equivalent loads, lives, static safety, thrust and tilt."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from cooper.arrays import Array, as_float
from cooper.kept import keeps
from cooper.machine import bearing_loads
from cooper.machine import rolling_life as life
from cooper.machine.rolling_rating import dynamic_rating, fatigue_load_limit, static_factor, static_rating
from cooper.machine.shaft_model import Borne, Rules
from cooper.stock.rolling import Bearing


class BearingCheck(Struct, frozen=True):
    """A bearing under its loads, the worst of all cases: radial and axial force and equivalent load (N), lives (h),
    static safety, slope (rad), viscosity ratio."""

    name: str
    F_r: float
    F_a: float
    P: float
    P_0: float
    L_10h: float
    L_nmh: float
    S_0: float
    a_ISO: float
    kappa: float
    slope: float
    n: float


@keeps(4096)
def ratings(b: Bearing) -> tuple[float, float]:
    """Dynamic and static rating of a bearing from its geometry.

    Parameters
    ----------
    b : Bearing
        The bearing.

    Returns
    -------
    tuple[float, float]
        C and C_0 (N).

    References
    ----------
    ISO 281:2007 and ISO 76:2006.
    """
    C = float(dynamic_rating(b.D_w, b.Z, b.D_pw, b.alpha, b.L_we, b.i, b.b_m))
    return C, float(static_rating(b.D_w, b.Z, b.D_pw, b.alpha, b.L_we, b.i))


def thrust_factor(b: Borne) -> float:
    """Factor Y by which a bearing under a radial load presses along the axis, F_r/(2 Y).

    Parameters
    ----------
    b : Borne
        The bearing at its place.

    Returns
    -------
    float
        Y.

    References
    ----------
    ISO 281:2007.
    """
    return float(bearing_loads.axial_factors(b.bearing.type, b.bearing.alpha, 0.0, b.C_0)[2])


class Lives(Struct, frozen=True):
    """What loads do to bearings of one type, an array over them: equivalent loads (N), lives (h), static safety,
    viscosity ratio, and which case is the worst."""

    P: Array
    P_0: Array
    L_10h: Array
    L_nmh: Array
    S_0: Array
    a_ISO: Array
    kappa: Array
    case: Array


def lives_of(
    kind: Bearing, C: Array, C_0: Array, D_pw: Array, f_0: Array, F_r: Array, F_a: Array, n: float, rules: Rules
) -> Lives:
    """Lives and static safety of bearings of one type.

    Parameters
    ----------
    kind : Bearing
        A bearing of the type.
    C : Array
        Dynamic ratings (N).
    C_0 : Array
        Static ratings (N).
    D_pw : Array
        Pitch diameter of the rolling elements (mm).
    f_0 : Array
        Factors f_0 of ISO 76.
    F_r : Array
        Radial loads of all cases (N).
    F_a : Array
        Axial loads of all cases (N).
    n : float
        Speed (1/min).
    rules : Rules
        What is counted, with least safeties and methods.

    Returns
    -------
    Lives
        Lives (h) and safeties.

    References
    ----------
    ISO 281:2007 and ISO 76:2006.
    """
    q, n_rel = as_float(rules.q), as_float(rules.n_rel)
    load = as_float(rules.T_rel)
    # Bearings, cases, levels.
    P = bearing_loads.equivalent_load(
        kind.type,
        kind.alpha,
        F_r[None, :, None] * load,
        F_a[None, :, None] * load,
        C_0[:, None, None],
        f_0[:, None, None],
    )
    P_m = np.maximum(bearing_loads.mean_load(P, n * n_rel, q, kind.rollers), 1e-6)
    case = np.argmax(P_m, axis=1)
    P_w = P_m.max(axis=1)
    n_m = n * float(np.sum(n_rel * q) / np.sum(q))
    L = life.rating_life(C, P_w, n_m, kind.rollers)
    kappa = np.clip(rules.nu / life.reference_viscosity(n_m, D_pw), 0.1, 4.0)
    e_C = life.contamination_factor(rules.cleanliness, kappa, D_pw)
    C_u = fatigue_load_limit(C_0, D_pw, kind.rollers)
    a = life.life_factor_iso(kappa, e_C * C_u / P_w, kind.rollers)
    peak = max(rules.K_AP, rules.K_A)
    P_0 = np.maximum(np.max(bearing_loads.static_load(kind.type, kind.alpha, F_r * peak, F_a * peak)), 1e-6)
    L_nm = np.minimum(life.A_1[rules.reliability] * a * L, 1e9)
    # What bears no thrust does not hold the shaft under it for an hour.
    bears = float(kind.thrust or float(np.max(np.abs(F_a))) <= LEAST_THRUST * float(np.max(F_r)))
    return Lives(
        P_w, P_0 + 0 * C_0, bears * np.minimum(L, 1e9), bears * L_nm, bears * np.minimum(C_0 / P_0, 1e4), a, kappa, case
    )


LEAST_THRUST = 1e-6
"""Thrust over the radial load below which rounding alone has left it."""


@keeps(4096)
def static_factor_of(b: Bearing) -> float:
    """Factor f_0 of a bearing from its geometry.

    Parameters
    ----------
    b : Bearing
        The bearing.

    Returns
    -------
    float
        f_0.

    References
    ----------
    ISO 76:2006, Table 1.
    """
    return float(static_factor(b.D_w * np.cos(b.alpha) / b.D_pw))


def check_bearing(b: Borne, F_r: Array, F_a: Array, slope: float, n: float, rules: Rules) -> BearingCheck:
    """One bearing under the nominal loads of all cases.

    Parameters
    ----------
    b : Borne
        The bearing at its place.
    F_r : Array
        Radial loads of all cases (N).
    F_a : Array
        Axial loads of all cases (N).
    slope : float
        Slope of the shaft in the bearing (rad).
    n : float
        Speed (1/min).
    rules : Rules
        What is counted, with least safeties and methods.

    Returns
    -------
    BearingCheck
        Loads, lives (h), safeties and what was found short.

    References
    ----------
    ISO 281:2007 and ISO 76:2006.
    """
    one = [np.array([v]) for v in (b.C, b.C_0, b.bearing.D_pw, static_factor_of(b.bearing))]
    f = lives_of(b.bearing, one[0], one[1], one[2], one[3], F_r, F_a, n, rules)
    k = int(f.case[0])
    P, P_0, L, L_nm, S_0, a, kappa = (float(v[0]) for v in (f.P, f.P_0, f.L_10h, f.L_nmh, f.S_0, f.a_ISO, f.kappa))
    return BearingCheck(b.name, float(F_r[k]), float(F_a[k]), P, P_0, L, L_nm, S_0, a, kappa, slope, n)
