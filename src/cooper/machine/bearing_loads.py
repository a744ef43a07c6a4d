"""Equivalent loads of rolling bearings. ISO 281:2007, ISO 76:2006."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, Real, as_float, where
from cooper.i18n.text import tr

E_OF_LOAD = np.array([0.172, 0.345, 0.689, 1.03, 1.38, 2.07, 3.45, 5.17, 6.89])


E_BALL = np.array([0.19, 0.22, 0.26, 0.28, 0.30, 0.34, 0.38, 0.42, 0.44])


Y_BALL = np.array([2.30, 1.99, 1.71, 1.55, 1.45, 1.31, 1.15, 1.04, 1.00])
"""Limit e and axial factor Y of deep groove ball bearings over f_0 F_a / C_0. ISO 281:2007, Table 3."""


ANGULAR = {
    25: (0.68, 0.41, 0.87, 0.38),
    30: (0.80, 0.39, 0.76, 0.33),
    35: (0.95, 0.37, 0.66, 0.29),
    40: (1.14, 0.35, 0.57, 0.26),
}
"""e, X, Y and the static Y_0 of single-row angular contact ball bearings by contact angle. ISO 281:2007, Table 3;
ISO 76:2006, Table 2."""


def axial_factors(kind: str, alpha: Real, F_a: Real, C_0: Real, f_0: Real = 14.0) -> tuple[Array, Array, Array, Array]:
    """Limit e, factors X and Y where F_a / F_r passes it, and Y where it does not, by type of bearing.

    Parameters
    ----------
    kind : str
        Type of bearing.
    alpha : Real
        Nominal contact angle (rad); ball bearings with 0 go by their axial load.
    F_a : Real
        Axial load (N).
    C_0 : Real
        Basic static rating (N).
    f_0 : Real
        Factor f_0 of ISO 76.

    Returns
    -------
    tuple[Array, Array, Array, Array]
        e, X, Y and Y_1, the factor up to F_a / F_r = e.

    References
    ----------
    ISO 281:2007, Tables 3 and 8.

    Examples
    --------
    >>> e, X, Y, Y_1 = axial_factors("deep groove ball", 0.0, 1380.0, 14000.0)
    >>> round(float(e), 2), float(X), round(float(Y), 2)
    (0.3, 0.56, 1.45)
    """
    F_a, C_0, alpha = np.abs(as_float(F_a)), as_float(C_0), as_float(alpha)
    none = np.zeros(np.broadcast_shapes(np.shape(F_a), np.shape(C_0)))
    if kind == "deep groove ball":
        at = np.log(np.clip(as_float(f_0) * F_a / C_0, E_OF_LOAD[0], E_OF_LOAD[-1]))
        e, Y = (np.interp(at, np.log(E_OF_LOAD), v) for v in (E_BALL, Y_BALL))
        return as_float(e), none + 0.56, as_float(Y), none
    if kind == "angular contact ball":
        e, X, Y, _ = ANGULAR[min(ANGULAR, key=lambda a: abs(a - float(np.degrees(alpha))))]
        return none + e, none + X, none + Y, none
    if kind == "tapered roller":
        return none + 1.5 * np.tan(alpha), none + 0.4, none + 0.4 / np.tan(alpha), none
    if kind == "spherical roller":
        return none + 1.5 * np.tan(alpha), none + 0.67, none + 0.67 / np.tan(alpha), none + 0.45 / np.tan(alpha)
    if kind in RADIAL_ONLY:
        return none + 1e9, none + 1.0, none, none
    raise ValueError(
        tr("bearing type {kind!r} has no axial factors: add them to `axial_factors` and `static_load`", kind=kind)
    )


RADIAL_ONLY = ("cylindrical roller", "needle roller")
"""Types without ribs that bear thrust."""


def equivalent_load(kind: str, alpha: Real, F_r: Real, F_a: Real, C_0: Real, f_0: Real = 14.0) -> Array:
    """Dynamic equivalent radial load.

    Parameters
    ----------
    kind : str
        Type of bearing.
    alpha : Real
        Nominal contact angle (rad).
    F_r : Real
        Radial load (N).
    F_a : Real
        Axial load (N).
    C_0 : Real
        Basic static rating (N).
    f_0 : Real
        Factor f_0 of ISO 76.

    Returns
    -------
    Array
        P (N).

    Notes
    -----
    F_r (with Y_1 F_a where a bearing has it) up to F_a / F_r = e, then X F_r + Y F_a.

    References
    ----------
    ISO 281:2007, 5.2 and 7.2.

    Examples
    --------
    >>> round(float(equivalent_load("tapered roller", np.radians(14.0), 4000.0, 3000.0, 50000.0)))
    6413
    """
    F_r, F_a = np.abs(as_float(F_r)), np.abs(as_float(F_a))
    e, X, Y, Y_1 = axial_factors(kind, alpha, F_a, C_0, f_0)
    return where(F_a > e * F_r, np.maximum(X * F_r + Y * F_a, F_r), F_r + Y_1 * F_a)


def static_load(kind: str, alpha: Real, F_r: Real, F_a: Real) -> Array:
    """Static equivalent radial load.

    Parameters
    ----------
    kind : str
        Type of bearing.
    alpha : Real
        Nominal contact angle (rad).
    F_r : Real
        Radial load (N).
    F_a : Real
        Axial load (N).

    Returns
    -------
    Array
        P_0 (N).

    Notes
    -----
    X_0 F_r + Y_0 F_a, at least F_r.

    References
    ----------
    ISO 76:2006, 5.3 and 6.3.

    Examples
    --------
    >>> float(static_load("deep groove ball", 0.0, 1000.0, 2000.0))
    1600.0
    """
    F_r, F_a = np.abs(as_float(F_r)), np.abs(as_float(F_a))
    if kind == "deep groove ball":
        X, Y = 0.6, as_float(0.5)
    elif kind == "angular contact ball":
        X, Y = 0.5, as_float(ANGULAR[min(ANGULAR, key=lambda a: abs(a - float(np.degrees(alpha))))][3])
    elif kind == "tapered roller":
        X, Y = 0.5, 0.22 / np.tan(as_float(alpha))
    elif kind == "spherical roller":
        X, Y = 1.0, 0.44 / np.tan(as_float(alpha))
    elif kind in RADIAL_ONLY:
        X, Y = 1.0, as_float(0.0)
    else:
        raise ValueError(
            tr(
                "bearing type {kind!r} has no static axial factors: add them to `axial_factors` and `static_load`",
                kind=kind,
            )
        )
    return np.maximum(X * F_r + Y * F_a, F_r)


def mean_load(P: Array, n: Array, q: Array, rollers: bool) -> Array:
    """The load that damages as those of a spectrum do.

    Parameters
    ----------
    P : Array
        Equivalent loads, levels on the last axis (N).
    n : Array
        Speeds of the levels (1/min).
    q : Array
        Shares of the time.
    rollers : bool
        Whether it is a roller bearing, else a ball bearing.

    Returns
    -------
    Array
        Load (N).

    Notes
    -----
    (sum q n P^p / sum q n)^(1/p), p = 3 of balls, 10/3 of rollers.

    References
    ----------
    Miner's rule.

    Examples
    --------
    >>> round(float(mean_load(np.array([1000.0, 2000.0]), np.array([100.0, 100.0]), np.array([0.5, 0.5]), False)), 1)
    1651.0
    """
    p = 10 / 3 if rollers else 3.0
    turns = as_float(q) * n
    return as_float((np.sum(turns * as_float(P) ** p, axis=-1) / np.maximum(np.sum(turns, axis=-1), 1e-12)) ** (1 / p))


def paired_thrust(F_rA: Real, F_rB: Real, Y_A: Real, Y_B: Real, K_a: Real) -> tuple[Array, Array]:
    """Axial loads of an adjusted pair. Customary rule for bearings without play.

    Parameters
    ----------
    F_rA : Real
        Radial load of bearing A (N).
    F_rB : Real
        Radial load of bearing B (N).
    Y_A : Real
        Factor Y of bearing A.
    Y_B : Real
        Factor Y of bearing B.
    K_a : Real
        Outer axial force towards A (N).

    Returns
    -------
    tuple[Array, Array]
        F_aA and F_aB (N).

    Notes
    -----
    Each presses with F_r / (2 Y) against the other: F_aA = max(F_rA / 2 Y_A, F_rB / 2 Y_B + K_a), F_aB = max(F_rB / 2
    Y_B, F_rA / 2 Y_A - K_a).

    Examples
    --------
    >>> tuple(float(v) for v in paired_thrust(4000.0, 2000.0, 1.6, 1.6, 500.0))
    (1250.0, 750.0)
    """
    own_A, own_B = np.abs(as_float(F_rA)) / (2 * as_float(Y_A)), np.abs(as_float(F_rB)) / (2 * as_float(Y_B))
    return np.maximum(own_A, own_B + K_a), np.maximum(own_B, own_A - K_a)
