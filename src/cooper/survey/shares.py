"""The sum of the profile shifts shared by a rule, as arrays; by closed forms, before any root is known."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array
from cooper.gears.pair import centre_distance
from cooper.gears.path_of_contact import specific_sliding
from cooper.gears.tooth import tip_diameter, transverse_pressure_angle

HALVINGS = 18
"""They take a shift to 1e-5; it is rounded to 1e-3."""
REACH = 1.2
DIGITS = 3


def shared_x(
    rule: str,
    z: tuple[Array, Array],
    m_n: Array,
    beta: Array,
    alpha_n: float,
    h_aP: float,
    x_sum: Array,
    least: tuple[Array, Array],
) -> Array:
    """Profile shift coefficient x_1 of external pairs whose shifts have a given sum.

    Parameters
    ----------
    rule : str
        How the sum is shared.
    z : tuple[Array, Array]
        Counts of both gears.
    m_n : Array
        Normal module (mm).
    beta : Array
        Helix angle (rad).
    alpha_n : float
        Normal pressure angle (rad).
    h_aP : float
        Addendum factor.
    x_sum : Array
        Sum of the profile shift coefficients.
    least : tuple[Array, Array]
        Shifts below which each gear is undercut.

    Returns
    -------
    Array
        x_1, rounded to thousandths.

    Notes
    -----
    Neither gear goes below its least where the sum lets it; of a sum that is too small the gear with fewer teeth has
    its own.
    """
    if rule == "sliding":
        x = _equal_sliding(z, m_n, beta, alpha_n, h_aP, x_sum)
    elif rule == "none":
        x = np.zeros(np.shape(x_sum + z[0]))
    else:
        # Half of it each, and no further from that than the roots ask for.
        x = np.broadcast_to(x_sum / 2, np.shape(x_sum + z[0]))
    up = np.ceil(least[0] * 10**DIGITS) / 10**DIGITS
    low = np.where(z[0] <= z[1], up, -np.inf)
    x = np.minimum(x, x_sum - least[1])
    return np.asarray(np.round(np.maximum(x, np.maximum(low, np.minimum(up, x_sum - least[1]))), DIGITS))


def _equal_sliding(z: tuple[Array, Array], m_n: Array, beta: Array, alpha_n: float, h_aP: float, x_sum: Array) -> Array:
    """By halving: the more shift the pinion has, the less it slides at its root."""
    alpha_t = transverse_pressure_angle(alpha_n, beta)
    a_w = centre_distance(z[0], z[1], m_n, x_sum, alpha_n, beta)
    d = [k * m_n / np.cos(beta) for k in z]
    r_b = [v / 2 * np.cos(alpha_t) for v in d]
    T2 = np.sqrt(np.maximum(a_w**2 - (r_b[0] + r_b[1]) ** 2, 0.0))
    u = z[1] / z[0]
    low = np.full(np.shape(T2), -REACH) + x_sum / 2
    high = low + 2 * REACH
    with np.errstate(all="ignore"):
        for _ in range(HALVINGS):
            x = (low + high) / 2
            r_a = [tip_diameter(k, m_n, beta, s, h_aP) / 2 for k, s in zip(z, (x, x_sum - x), strict=True)]
            start = T2 - np.sqrt(np.maximum(r_a[1] ** 2 - r_b[1] ** 2, 0.0))
            end = np.sqrt(np.maximum(r_a[0] ** 2 - r_b[0] ** 2, 0.0))
            pinion = np.where(start > 0, specific_sliding(start, T2, u)[0], -np.inf)
            wheel = np.where(end < T2, specific_sliding(T2 - end, T2, 1 / u)[0], -np.inf)
            # Both slide backwards at their roots: the one that slides more gets more shift.
            more = (pinion < wheel) | ((start <= 0) & (end < T2))
            low, high = np.where(more, x, low), np.where(more, high, x)
    return np.asarray((low + high) / 2)
