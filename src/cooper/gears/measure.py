"""What can be measured on a gear: span over teeth, size over balls or pins, chordal thickness (ISO 21771, ISO 1122)."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, Real, as_float, clip, where
from cooper.gears.involute import inverse_inv, pressure_angle_at
from cooper.gears.tooth import Tooth


def span(tooth: Tooth, k: Real, x: Real | None = None) -> Array:
    """Base tangent length W_k over k teeth of an external gear.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.
    k : Real
        Number of teeth spanned.
    x : Real | None
        Profile shift coefficient in place of the generating one, for the nominal value or a limit of the allowance.

    Returns
    -------
    Array
        Base tangent length W_k (mm).

    Notes
    -----
    W_k = cos(alpha_n) m_n ((k - 1/2) pi + z inv(alpha_t)) + 2 x m_n sin(alpha_n).

    References
    ----------
    ISO 21771:2007.

    Examples
    --------
    >>> from cooper.gears.rack import Rack
    >>> t = Tooth(20.0, 2.0, 0.0, 0.0, 0.0, Rack(np.radians(20), 1.0, 1.25, 0.38), 44.0)
    >>> round(float(span(t, 3)), 4)
    15.3209
    """
    shift = tooth.x_E if x is None else as_float(x)
    alpha_n = tooth.rack.alpha_n
    return tooth.m_n * (
        np.cos(alpha_n) * (np.pi * (as_float(k) - 0.5) + tooth.z * tooth.inv_t) + 2 * shift * np.sin(alpha_n)
    )


def span_contact_diameter(tooth: Tooth, k: Real) -> Array:
    """Diameter at which the measuring faces touch, when they stand evenly to both sides.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.
    k : Real
        Number of teeth spanned.

    Returns
    -------
    Array
        Diameter (mm).
    """
    return np.hypot(tooth.d_b, span(tooth, k) * np.cos(tooth.beta_b))


def measurable_span(tooth: Tooth, d_Ff: Real) -> tuple[Array, Array]:
    """Least and greatest k for which both faces touch the involute between root form and tip circle.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.
    d_Ff : Real
        Root form diameter (mm).

    Returns
    -------
    tuple[Array, Array]
        Least and greatest k, whole numbers as floats, 2 or more; the least above the greatest where no span can be
        measured.
    """
    low, high = (np.sqrt(np.maximum(as_float(d) ** 2 - tooth.d_b**2, 0)) for d in (d_Ff, tooth.d_a))
    alpha_n = tooth.rack.alpha_n

    def teeth(tangent: Array) -> Array:
        W = tangent / np.cos(tooth.beta_b)
        rest = (W / tooth.m_n - 2 * tooth.x_E * np.sin(alpha_n)) / np.cos(alpha_n) - tooth.z * tooth.inv_t
        return rest / np.pi + 0.5

    return np.maximum(np.ceil(teeth(low) - 1e-9), 2.0), np.floor(teeth(high) + 1e-9)


def best_span(tooth: Tooth, d_Ff: Real) -> Array:
    """The k whose contact lies nearest to the circle d + 2 x m_n, within the measurable range.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.
    d_Ff : Real
        Root form diameter (mm).

    Returns
    -------
    Array
        Number of teeth spanned.
    """
    target = np.maximum(tooth.d + 2 * tooth.x_E * tooth.m_n, tooth.d_b * (1 + 1e-9))
    W = np.sqrt(target**2 - tooth.d_b**2) / np.cos(tooth.beta_b)
    alpha_n = tooth.rack.alpha_n
    rest = (W / tooth.m_n - 2 * tooth.x_E * np.sin(alpha_n)) / np.cos(alpha_n) - tooth.z * tooth.inv_t
    low, high = measurable_span(tooth, d_Ff)
    return clip(np.round(rest / np.pi + 0.5), low, np.maximum(low, high))


def least_face_width_for_span(tooth: Tooth, k: Real) -> Array:
    """Face width that a helical gear must exceed for the span over k teeth to reach both flanks.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.
    k : Real
        Number of teeth spanned.

    Returns
    -------
    Array
        Face width (mm).
    """
    return span(tooth, k) * np.sin(tooth.beta_b)


def ball_centre_diameter(tooth: Tooth, D_M: Real, x: Real | None = None) -> Array:
    """Diameter d_K of the circle on which the centre of a ball rests in a tooth space.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.
    D_M : Real
        Diameter of the ball (mm).
    x : Real | None
        Profile shift coefficient in place of the generating one.

    Returns
    -------
    Array
        d_K (mm), NaN where the ball is too small to touch the involutes.

    Notes
    -----
    inv(alpha_Kt) = inv(alpha_t) + D_M/(z m_n cos(alpha_n)) - (pi/2 - 2 x tan(alpha_n))/z.

    References
    ----------
    ISO 21771:2007.
    """
    shift = tooth.x_E if x is None else as_float(x)
    alpha_n = tooth.rack.alpha_n
    value = tooth.inv_t + as_float(D_M) / (tooth.z * tooth.m_n * np.cos(alpha_n))
    value = value - (np.pi / 2 - 2 * shift * np.tan(alpha_n)) / tooth.z
    return where(value > 0, tooth.d_b / np.cos(inverse_inv(np.maximum(value, 0.0))), np.nan)


def over_two_balls(tooth: Tooth, D_M: Real, x: Real | None = None) -> Array:
    """Size M_dK over two balls in opposite spaces, odd counts by the nearest ones.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.
    D_M : Real
        Diameter of the balls (mm).
    x : Real | None
        Profile shift coefficient in place of the generating one.

    Returns
    -------
    Array
        Size (mm); of internal gears the size between the balls.

    Notes
    -----
    For spur gears pins give the same size.

    References
    ----------
    ISO 21771:2007.
    """
    d_K = ball_centre_diameter(tooth, D_M, x)
    odd = np.mod(np.abs(tooth.z), 2) == 1
    return as_float(np.abs(where(odd, d_K * np.cos(np.pi / (2 * as_float(tooth.z))), d_K) + as_float(D_M)))


def over_three_pins(tooth: Tooth, D_M: Real, x: Real | None = None) -> Array:
    """Size over three pins, two on one side.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.
    D_M : Real
        Diameter of the pins (mm).
    x : Real | None
        Profile shift coefficient in place of the generating one.

    Returns
    -------
    Array
        Size (mm).

    Notes
    -----
    d_K + D_M for even counts, (d_K (1 + cos(pi/z)))/2 + D_M for odd ones.

    References
    ----------
    ISO 21771:2007.
    """
    d_K = ball_centre_diameter(tooth, D_M, x)
    odd = np.mod(np.abs(tooth.z), 2) == 1
    return as_float(np.abs(where(odd, d_K * (1 + np.cos(np.pi / as_float(tooth.z))) / 2, d_K) + as_float(D_M)))


def ball_contact_diameter(tooth: Tooth, D_M: Real) -> Array:
    """Diameter at which a ball touches the flanks; must lie between root form and tip circle.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.
    D_M : Real
        Diameter of the ball (mm).

    Returns
    -------
    Array
        Diameter (mm).
    """
    tangent = np.sqrt(np.maximum((ball_centre_diameter(tooth, D_M) / tooth.d_b) ** 2 - 1, 0))
    return np.abs(tooth.d_b) * np.hypot(1.0, tangent - as_float(D_M) * np.cos(tooth.beta_b) / tooth.d_b)


def best_ball(tooth: Tooth) -> Array:
    """Ball that touches the flanks at the circle d + 2 x m_n; mm (not rounded to a size on the market).

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.

    Returns
    -------
    Array
        Diameter of the ball (mm), not rounded to a size on the market.

    Notes
    -----
    Closed for spur gears; helical ones get it through the base helix, near enough for a choice of ball.
    """
    d_b = np.abs(tooth.d_b)
    middle = np.abs(tooth.d + 2 * tooth.x_E * tooth.m_n)
    touch = clip(middle, d_b * 1.001, where(tooth.sign > 0, tooth.d_a, np.inf))
    touch = tooth.sign * np.maximum(touch, where(tooth.sign > 0, 0.0, -tooth.d_a))
    alpha = pressure_angle_at(tooth.d_b, touch)
    half_space = tooth.sign * (np.pi / np.abs(tooth.z) - tooth.half_angle(touch))
    return as_float(tooth.sign * d_b * (np.tan(alpha + half_space) - np.tan(alpha)) / np.cos(tooth.beta_b))


def chordal_thickness(tooth: Tooth, x: Real | None = None) -> tuple[Array, Array]:
    """Chord of the normal tooth thickness at the reference circle and its height below the tip circle.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.
    x : Real | None
        Profile shift coefficient in place of the generating one.

    Returns
    -------
    tuple[Array, Array]
        Chord and height (mm).

    Notes
    -----
    In the normal section, whose circle has the diameter d/cos^2(beta).

    References
    ----------
    ISO 21771:2007.
    """
    d_n = tooth.d / np.cos(tooth.beta) ** 2
    s_n = tooth.s_t(x) * np.cos(tooth.beta)
    return d_n * np.sin(s_n / d_n), (tooth.d_a - tooth.d) / 2 + d_n / 2 * (1 - np.cos(s_n / d_n))
