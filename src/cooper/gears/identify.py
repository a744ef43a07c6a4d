"""A part on the desk to be matched: module, pressure angle, helix and shift from what was measured."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from cooper.arrays import Array, where
from cooper.errors import OutOfRange
from cooper.gears.involute import inv
from cooper.gears.tooth import transverse_pressure_angle
from cooper.stock.series import preferred_modules


class Match(Struct, frozen=True):
    """One explanation of the measurements. mm and rad; residuals are measured less computed, ``score`` ranks (least
    best).

    ``h_a`` is the addendum factor that the outside diameter then asks for.
    """

    m_n: float
    alpha_n: float
    beta: float
    x: float
    h_a: float
    span_residual: float
    tip_residual: float
    score: float


HELICES = np.radians(np.linspace(0.0, 45.0, 181))
"""Helix angles between which a look for an unknown one begins."""


def identify(
    z: int,
    d_a: float,
    spans: dict[int, float],
    modules: tuple[float, ...],
    *,
    balls: dict[float, float] | None = None,
    pins: dict[float, float] | None = None,
    alphas_deg: tuple[float, ...] = (14.5, 20.0, 25.0),
    beta: float | None = 0.0,
    h_aP: tuple[float, ...] = (1.0, 0.8),
    most: int = 8,
) -> list[Match]:
    """Best explanations of an external gear, ranked.

    Parameters
    ----------
    z : int
        Tooth count.
    d_a : float
        Outside diameter (mm).
    spans : dict[int, float]
        Base tangent lengths (mm) by number of teeth spanned.
    modules : tuple[float, ...]
        Standard modules to try (mm).
    balls : dict[float, float] | None
        Sizes over two balls (mm) by ball diameter (mm).
    pins : dict[float, float] | None
        Sizes over two pins (mm) by pin diameter (mm); pins slide along a helical gear until they stand opposite each
        other.
    alphas_deg : tuple[float, ...]
        Normal pressure angles to try (deg).
    beta : float | None
        Helix angle as measured (rad), None to find it.
    h_aP : tuple[float, ...]
        Addendum factors to try.
    most : int
        Greatest number of explanations.

    Returns
    -------
    list[Match]
        Explanations, the likeliest first.

    Notes
    -----
    One or more of spans, balls and pins are needed. The shift follows from the sizes by least squares, the addendum
    from d_a = m_n (z/cos(beta) + 2 x + 2 h_a), an unknown helix from the addendum being a customary one, or is a whole
    number of degrees. Standard data come first: preferred modules, 20 degrees, whole addendum, whole degrees of helix,
    small shifts.
    """
    if not spans and not balls and not pins:
        raise OutOfRange("spans", "(none)", "at least one span or pin size is needed beside count and outside diameter")
    m = np.array(modules)[:, None, None, None]
    alpha = np.radians(np.array(alphas_deg))[None, :, None, None]
    h = np.array(h_aP)[None, None, :, None]
    helix = HELICES[None, None, None, :] if beta is None else np.array([beta])[None, None, None, :]
    sizes = (spans, balls or {}, pins or {})
    x, residual = _shift_of_sizes(z, m, alpha, helix, *sizes)
    tip = d_a - m * (z / np.cos(helix) + 2 * x + 2 * h)
    whole: object = True
    if beta is None:
        helix, x, residual, tip = _best_helix(z, d_a, m, alpha, h, sizes, tip)
        degrees = np.degrees(helix)
        whole = np.abs(degrees - np.round(degrees)) < 1e-9
    helix = np.broadcast_to(helix, tip.shape)
    # A shift of 0.6 weighs as much as a tip residual of a tenth of a module: small shifts and standard values are more
    # likely.
    usual = 0.02 * (h != 1.0) + 0.05 * (np.abs(np.degrees(alpha) - 20) > 0.1) + _rare(m)
    usual = usual + 0.02 * _uneven((d_a / m - z / np.cos(helix)) / 2 - h)
    slight = np.radians(SLIGHT)
    usual = usual + (beta is None) * (
        0.02 * (helix > 0) + 0.02 * ((helix > 0) & (helix < slight)) + 0.1 * ~np.asarray(whole)
    )
    score = np.hypot(np.hypot(residual * 10, tip_miss(tip, m)) / m, x / 6) + usual
    score = where(np.isfinite(score), score, np.inf)
    order = np.argsort(score, axis=None)
    result: list[Match] = []
    seen = set()
    for flat in order:
        at = tuple(int(v) for v in np.unravel_index(flat, score.shape))
        i, j = at[:2]
        # Of one module, angle and kind (spur or helical) only the likelier addendum is listed.
        kind = (i, j, bool(helix[at] > 0), bool(np.broadcast_to(np.asarray(whole), score.shape)[at]))
        if kind in seen or not np.isfinite(score[at]):
            continue
        seen.add(kind)
        if len(result) == most:
            break
        m_n, b, shift = float(m[i, 0, 0, 0]), float(helix[at]), float(np.broadcast_to(x, score.shape)[at])
        result.append(
            Match(
                m_n,
                float(alpha[0, j, 0, 0]),
                b,
                shift,
                float((d_a / m_n - z / np.cos(b)) / 2 - shift),
                float(np.broadcast_to(residual, score.shape)[at]),
                float(tip[at]),
                float(score[at]),
            )
        )
    return result


SLIGHT = 8.0
"""Helix angles (degrees) below this are rare: they overlap little."""
THINNED = 0.2
"""By so many modules the tip stands higher at most than the shift that is measured says, as the teeth are cut
thinner by their allowance and the tip is not."""


def tip_miss(tip: Array, m: Array) -> Array:
    """How far a tip residual lies from what thinned teeth of a module explain; within that the least is the likeliest.

    Parameters
    ----------
    tip : Array
        Tip residuals (mm).
    m : Array
        Modules (mm).

    Returns
    -------
    Array
        Misses (mm).

    Examples
    --------
    >>> [round(float(tip_miss(np.float64(tip), np.float64(2.0))), 3) for tip in (0.0, 0.3, 0.5, -0.1)]
    [0.0, 0.006, 0.11, 0.102]
    """
    over = np.maximum(tip - THINNED * m, 0.0) + np.maximum(-tip, 0.0)
    return np.asarray(over + 0.02 * np.abs(tip))


def _uneven(x: Array) -> Array:
    """How far a nominal shift, as the outside diameter tells it, is from a step of 0.05, which many are designed in:
    0 on it, 1 in the middle."""
    return np.asarray(2 * np.abs(20 * x - np.round(20 * x)))


def _rare(m: Array) -> Array:
    """What a module weighs that is not of the first series of ISO 54: of the second, of an inch pitch or of none."""
    first, second = (np.min(np.abs(m[..., None] / np.array(row) - 1), axis=-1) < 1e-6 for row in preferred_modules())
    return where(first, 0.0, where(second, 0.01, 0.03))


Sizes = tuple[dict[int, float], dict[float, float], dict[float, float]]
"""Sizes over spans, over two balls, over two pins."""


def _shift_of_sizes(
    z: int,
    m: Array,
    alpha: Array,
    beta: Array,
    spans: dict[int, float],
    balls: dict[float, float],
    pins: dict[float, float],
) -> tuple[Array, Array]:
    """The shift that explains the measured sizes best, and the mean residual of the sizes as spans; mm."""
    alpha_t = transverse_pressure_angle(alpha, beta)
    each = []
    for k, W in spans.items():
        plain = np.cos(alpha) * (np.pi * (k - 0.5) + z * inv(alpha_t))
        each.append((W / m - plain) / (2 * np.sin(alpha)))
    odd = np.cos(np.pi / (2 * z)) if z % 2 else 1.0
    for D, M, slides in [*((D, M, False) for D, M in balls.items()), *((D, M, True) for D, M in pins.items())]:
        d_K = (M - D) / where(np.asarray(slides & (beta > 0)), 1.0, odd)
        ratio = m * z / np.cos(beta) * np.cos(alpha_t) / d_K
        alpha_K = np.arccos(where(ratio < 1, ratio, np.nan))
        half = z * (inv(alpha_K) - inv(alpha_t)) - D / (m * np.cos(alpha)) + np.pi / 2
        each.append(half / (2 * np.tan(alpha)))
    shifts = np.stack(np.broadcast_arrays(*each))
    x = shifts.mean(axis=0)
    return x, np.sqrt(np.mean((shifts - x) ** 2, axis=0)) * 2 * m * np.sin(alpha)


WHOLE = np.radians(np.arange(0.0, 46.0))
"""Whole degrees of helix angle, which gears are designed with."""


def _best_helix(
    z: int, d_a: float, m: Array, alpha: Array, h: Array, sizes: Sizes, tip: Array
) -> tuple[Array, Array, Array, Array]:
    """Whole degrees, spur among them, and the helix angle at which the tip diameter agrees, for each module, angle
    and addendum.

    The grid of angles brackets the change of sign; a few secants bring it to the spacing of the numbers.
    """
    change = np.sign(tip[..., :-1]) != np.sign(tip[..., 1:])
    result = change.any(axis=-1)
    k = np.argmax(change, axis=-1)
    low, high = HELICES[k], HELICES[np.minimum(k + 1, len(HELICES) - 1)]
    for _ in range(40):
        mid = (low + high) / 2
        x, _r = _shift_of_sizes(z, m, alpha, mid[..., None], *sizes)
        at = (d_a - m * (z / np.cos(mid[..., None]) + 2 * x + 2 * h))[..., 0]
        first = np.take_along_axis(tip, k[..., None], -1)[..., 0]
        same = np.sign(at) == np.sign(first)
        low, high = where(same, mid, low), where(same, high, mid)
    whole = np.broadcast_to(WHOLE, (*low.shape, len(WHOLE)))
    helix = np.concatenate((whole, where(result, (low + high) / 2, np.nan)[..., None]), axis=-1)
    x, residual = _shift_of_sizes(z, m, alpha, helix, *sizes)
    return helix, x, residual, d_a - m * (z / np.cos(helix) + 2 * x + 2 * h)
