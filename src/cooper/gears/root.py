"""Where fillet and involute meet: root form circle, undercut."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np
from msgspec import Struct
from msgspec.structs import asdict, replace
from numpy.typing import NDArray

from cooper.arrays import Array, all_, as_float, where
from cooper.gears.cutter import ConicCut, FormCut, PinionCutter
from cooper.gears.fillets import conic_start, fillet, fillet_curve, flank_parallel, formed_centre
from cooper.gears.tooth import Tooth

BISECTIONS = 46
"""Halvings that take a shift to 1e-13."""
FALSE_POSITIONS = 12
"""Steps of false position that take the fillet's parameter to 1e-12."""


class RootForm(Struct, frozen=True):
    """Where fillet and involute meet.

    ``d_Ff`` root form diameter (mm, signed); ``t`` the parameter of the fillet there, above 0 only where the fillet
    crosses the involute instead of touching it; ``undercut`` whether it does so without a protuberance meant for it.
    """

    d_Ff: Array
    t: Array
    undercut: NDArray[np.bool_]


def root_form(tooth: Tooth) -> RootForm:
    """Root form diameter of a gear by its tool.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.

    Returns
    -------
    RootForm
        Root form diameter (mm) and where flank and fillet meet.

    Notes
    -----
    Found once for a tooth, which never changes, and kept with it.

    References
    ----------
    ISO 21771:2007, 7.6, and where curves cross by false position.
    """
    return tooth.kept("root form", lambda: _root_form(tooth))


def _root_form(tooth: Tooth) -> RootForm:
    shape = np.broadcast_shapes(*(np.shape(f) for f in _leaves(tooth)))
    r_b = np.abs(tooth.d_b) / 2
    reach = flank_end(tooth)
    undercut = np.broadcast_to((reach < 0) & (tooth.sign > 0), shape)
    if isinstance(tooth.tool, FormCut):
        undercut = np.zeros(shape, dtype=bool)
    d_Ff = np.array(np.broadcast_to(tooth.sign * 2 * np.hypot(where(undercut, 0, reach), r_b), shape))
    t = np.zeros(shape)
    crossed = undercut
    if tooth.tool is None:
        crossed = undercut | np.broadcast_to(tooth.rack.s_pr > 0, shape)
    if crossed.any():
        cut = _pick(tooth, shape, crossed)
        t_u = _crossing(cut)
        t[crossed] = t_u
        d_Ff[crossed] = cut.sign * 2 * fillet(cut, t_u)[0]
    return RootForm(d_Ff, t, undercut)


def flank_end(tooth: Tooth) -> Array:
    """Distance from the gear's base tangent point at which the tool's flank ends its work.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.

    Returns
    -------
    Array
        Distance (mm), negative for an external gear that is undercut.

    References
    ----------
    ISO 21771:2007, 7.6.
    """
    if isinstance(tooth.tool, PinionCutter):
        return tooth.cut.a_0 * np.sin(tooth.cut.alpha_w0) - tooth.cut.t_F
    if isinstance(tooth.tool, ConicCut):
        return conic_start(tooth, tooth.tool)
    if isinstance(tooth.tool, FormCut):
        return np.maximum(formed_centre(tooth)[2], 0.0)
    alpha_t = tooth.alpha_t
    return tooth.d / 2 * np.sin(alpha_t) - (tooth.rack.h_FfP - tooth.x_E) * tooth.m_n / np.sin(alpha_t)


def least_x_shaped(tooth: Tooth) -> Array:
    """Least generating profile shift coefficient at which the gear's pinion cutter leaves an external gear no undercut.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.

    Returns
    -------
    Array
        Profile shift coefficient.

    Notes
    -----
    By bisection on the place where the cutter's flank ends.
    """
    low, high = np.full(np.shape(tooth.z + tooth.x_E), -3.0), np.full(np.shape(tooth.z + tooth.x_E), 3.0)
    for _ in range(BISECTIONS):
        mid = (low + high) / 2
        clear = flank_end(replace(tooth, x_E=mid)) >= 0
        low, high = where(clear, low, mid), where(clear, mid, high)
    return high


def _leaves(value: Any) -> list[Array]:
    """All array fields of a tooth and of what it holds."""
    if value is None:
        return []
    if isinstance(value, Struct):
        return [leaf for name in value.__struct_fields__ for leaf in _leaves(getattr(value, name))]
    return [value]


def _pick(value: Any, shape: tuple[int, ...], mask: NDArray[np.bool_]) -> Any:
    """The gears of the mask alone, so that the search for a crossing is paid only where there is one."""
    if value is None or isinstance(value, str):
        return value
    if isinstance(value, Struct):
        return type(value)(**{name: _pick(v, shape, mask) for name, v in asdict(value).items()})
    return np.broadcast_to(as_float(value), shape)[mask]


def _crossing(tooth: Tooth) -> Array:
    """The fillet starts in the space, beyond the involute, and enters the tooth: the parameter where it does.

    Bracketed by the start and a place where it lies in the tooth: its passage through the base circle under undercut,
    the part parallel to the flank with a protuberance.
    """
    r_b = tooth.d_b / 2
    start = np.zeros(np.shape(r_b))
    curve = fillet_curve(tooth)
    deep = flank_parallel(tooth) if tooth.tool is None else np.zeros(())
    deep_enough = (deep > 0) & (curve(deep)[0] > r_b)
    end = deep
    if not all_(deep_enough):
        # Any place about there does for an end of the bracket.
        at_base = _false_position(lambda t: curve(t)[0] / r_b - 1, start, np.ones_like(start), 1e-9)
        end = where(deep_enough, deep, at_base)

    def into_space(t: Array) -> Array:
        radius, psi = curve(t)
        return np.pi / tooth.z - psi - tooth.half_angle(2 * np.maximum(radius, r_b))

    return _false_position(into_space, start, np.broadcast_to(end, start.shape), 1e-15)


def _false_position(f: Callable[[Array], Array], low: Array, high: Array, enough: float) -> Array:
    """The zero of f between low (f above 0) and high (f at or below 0), by false position with the stale end's value
    halved (Illinois); `FALSE_POSITIONS` steps leave less than bisection would, fewer are taken where f is ``enough``
    near 0 everywhere, and an end that is a zero stays."""
    f_low, f_high = f(low), f(high)
    # Without a change of sign the whole bracket lies on one side, and its end there is what is meant.
    first, last = f_low <= 0, f_high > 0
    start, end = low, high
    side = np.zeros(np.shape(f_low))
    for _ in range(FALSE_POSITIONS):
        span = f_low - f_high
        t = low + (high - low) * where(span > 0, f_low / where(span > 0, span, 1.0), 0.5)
        f_t = f(t)
        if all_(np.abs(f_t) <= enough):
            return where(first, start, where(last, end, t))
        above = f_t > 0
        f_high = where(above, where(side > 0, f_high / 2, f_high), f_t)
        f_low = where(above, f_t, where(side < 0, f_low / 2, f_low))
        side = where(above, 1.0, -1.0)
        low, high = where(above, t, low), where(above, high, t)
    # Within the bracket that is left the curve is straight.
    span = f_low - f_high
    result = low + (high - low) * where(span > 0, f_low / where(span > 0, span, 1.0), 0.5)
    return where(first, start, where(last, end, result))
