"""Life factors and the passage from static to endurance strength. ISO 6336-2:2019, 11; ISO 6336-3:2019, 12."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, Real, as_float, clip, where

ENDURANCE_CYCLES = 1e10
"""Cycles at which the life curves state their last value."""


def life_factor(N_L: Real, corners: Real, at_1e10: Real) -> Array:
    """Life factor Z_NT or Y_NT, on straight lines between the corners in a log-log plot.

    Parameters
    ----------
    N_L : Real
        Load cycles.
    corners : Real
        Cycles and factors at the end of static strength, one point between, and the reference life; shape (2, 3, ...).
    at_1e10 : Real
        Factor at 1e10 cycles: 0.85, up to 1.0 for the best lubrication, material, manufacture and experience; beyond
        1e10 the last slope is kept.

    Returns
    -------
    Array
        Z_NT or Y_NT.

    References
    ----------
    ISO 6336-2:2019, 11; ISO 6336-3:2019, 12.

    Examples
    --------
    >>> corners = [[1e5, 2.236068e6, 5e7], [1.6, 1.2649111, 1.0]]
    >>> [round(float(life_factor(n, corners, 0.85)), 3) for n in (1e3, 5e7, 1e10)]
    [1.6, 1.0, 0.85]
    """
    log_n = np.log(np.maximum(as_float(N_L), 1.0))
    corners = as_float(corners)
    end = as_float(at_1e10)
    xs = [np.log(corners[0, i]) for i in range(3)] + [np.log(ENDURANCE_CYCLES)]
    ys = [np.log(corners[1, i]) for i in range(3)] + [np.log(end)]

    def line(i: int) -> Array:
        return as_float(ys[i] + (log_n - xs[i]) * (ys[i + 1] - ys[i]) / (xs[i + 1] - xs[i]))

    value = where(log_n < xs[1], line(0), where(log_n < xs[2], line(1), line(2)))
    return np.exp(where(log_n <= xs[0], ys[0], value))


def strength_curve(static: Real, reference: Real, corners: Real, at_1e10: Real) -> tuple[Array, Array]:
    """Permissible stress over load cycles as a log-log polyline.

    Parameters
    ----------
    static : Real
        Permissible stress at the first corner, all influence factors included (MPa).
    reference : Real
        Permissible stress at the last corner, all influence factors included (MPa).
    corners : Real
        Cycles and factors at the end of static strength, one point between, and the reference life; shape (2, 3, ...).
    at_1e10 : Real
        Factor at 1e10 cycles, 0.85 to 1.

    Returns
    -------
    tuple[Array, Array]
        Cycles and stresses (MPa) of four corners, shape (4, ...).

    Notes
    -----
    Between both corners the influence factors pass over as in `endurance_share`.

    References
    ----------
    ISO 6336-2:2019, 6.3; ISO 6336-3:2019, 5.4.
    """
    corners = as_float(corners)
    static, reference = as_float(static), as_float(reference)
    # The influence factors alone: the permissible stress less what the life factor makes of it.
    ends = static / corners[1, 0], reference / corners[1, 2]
    middle = corners[1, 1] * between(ends[0], ends[1], endurance_share(corners[0, 1], corners))
    cycles = np.stack(np.broadcast_arrays(corners[0, 0], corners[0, 1], corners[0, 2], ENDURANCE_CYCLES))
    last = ends[1] * as_float(at_1e10)
    return cycles, np.stack(np.broadcast_arrays(static, middle, reference, last))


def cycles_to(stress: Real, curve: tuple[Array, Array]) -> Array:
    """Cycles that a stress may act.

    Parameters
    ----------
    stress : Real
        Stresses (MPa).
    curve : tuple[Array, Array]
        Corners by `strength_curve`.

    Returns
    -------
    Array
        Cycles: 0 above static strength, infinite below a level last branch.

    References
    ----------
    ISO 6336-6:2019.

    Examples
    --------
    >>> curve = strength_curve(1600.0, 1000.0, [[1e5, 2.236068e6, 5e7], [1.6, 1.2649111, 1.0]], 0.85)
    >>> [f"{float(cycles_to(s, curve)):.3g}" for s in (1700.0, 1600.0, 1000.0, 850.0)]
    ['0', '1e+05', '5e+07', '1e+10']
    """
    n, s = np.log(curve[0]), np.log(curve[1])
    y = np.log(np.maximum(as_float(stress), 1e-300))

    def line(i: int) -> Array:
        drop = s[i] - s[i + 1]
        level = drop < 1e-12
        along = n[i] + (s[i] - y) * (n[i + 1] - n[i]) / where(level, 1.0, drop)
        return where(level, where(y <= s[i] + 1e-12, np.inf, n[i]), along)

    value = where(y > s[1], line(0), where(y > s[2], line(1), line(2)))
    with np.errstate(over="ignore"):
        return where(y > s[0] + 1e-12, 0.0, np.exp(np.minimum(value, np.inf)))


def endurance_share(N_L: Real, corners: Real) -> Array:
    """Where N_L stands between static strength (0) and the reference life (1), on a log scale.

    Parameters
    ----------
    N_L : Real
        Load cycles.
    corners : Real
        Cycles and factors at the end of static strength, one point between, and the reference life; shape (2, 3, ...).

    Returns
    -------
    Array
        Share, 0 to 1.

    Notes
    -----
    The permissible stress for limited life lies on a straight log-log line between its static and its reference value
    (ISO 6336-2:2019, 6.3; ISO 6336-3:2019, 5.4), so each influence factor enters as static^(1-share) * reference^share.

    References
    ----------
    ISO 6336-2:2019, 6.3; ISO 6336-3:2019, 5.4.
    """
    corners = as_float(corners)
    low, high = np.log(corners[0, 0]), np.log(corners[0, 2])
    return as_float(clip((np.log(np.maximum(as_float(N_L), 1.0)) - low) / (high - low), 0.0, 1.0))


def between(static: Real, reference: Real, share: Real) -> Array:
    """An influence factor at limited life, between its static and its reference value.

    Parameters
    ----------
    static : Real
        Factor for static strength.
    reference : Real
        Factor at the reference life.
    share : Real
        Share by `endurance_share`.

    Returns
    -------
    Array
        static^(1 - share) reference^share.

    References
    ----------
    ISO 6336-2:2019, 6.3; ISO 6336-3:2019, 5.4.
    """
    return as_float(as_float(static) ** (1 - as_float(share)) * as_float(reference) ** as_float(share))
