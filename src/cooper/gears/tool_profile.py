"""The tooth of the rack that cuts a gear, in its normal section, as a drawing shows it. ISO 53:1998, with
protuberance and stock."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from cooper.arrays import Array
from cooper.gears.rack import Rack

ROUND = 25
"""Points on the rounding of the tip."""


class ToolProfile(Struct, frozen=True):
    """Lengths as factors of m_n from the middle of the tool's tooth on its datum line, the tip upwards. ``half`` (n,
    2) the right side from the middle of the tip land to the middle of the next space; ``rounding`` the middle of the
    arc of the tip, ``ramp`` that of the ramp of a protuberance, ``bulge`` where this stands out most, ``flank`` a point
    of the straight flank, each on the profile; ``finished`` (2, 2) the flank that is left when the stock is ground
    off."""

    half: Array
    rounding: Array
    ramp: Array
    bulge: Array
    flank: Array
    finished: Array


def tool_profile(rack: Rack) -> ToolProfile:
    """The profile of one rack (scalar fields).

    Parameters
    ----------
    rack : Rack
        Basic rack of the tool.

    Returns
    -------
    ToolProfile
        Its curves, lengths over the module.

    Examples
    --------
    >>> r = Rack(np.radians(20), 1.0, 1.25, 0.38)
    >>> p = tool_profile(r)
    >>> [round(float(v), 4) for v in (p.half[0, 1], p.half[-2, 1], p.half[-1, 0])]
    [1.25, -1.0, 1.5708]
    """
    alpha, h_fP, rho, h_aP = (float(v) for v in (rack.alpha_n, rack.h_fP, rack.rho_fP, rack.h_aP))
    pr, q, s_pr = float(rack.pr_P), float(rack.q_P), float(rack.s_pr)
    y_c = h_fP - rho
    x_c = np.pi / 4 - y_c * np.tan(alpha) + (s_pr - rho) / np.cos(alpha)
    stands_out = pr > 0
    first = float(rack.alpha_prP) if stands_out else alpha
    theta = np.linspace(np.pi / 2, first, ROUND)
    arc = np.column_stack((x_c + rho * np.cos(theta), y_c + rho * np.sin(theta)))

    def cutting(y: float) -> Array:
        """The tool's flank, which leaves the stock."""
        return np.array([np.pi / 4 - y * np.tan(alpha) - q / np.cos(alpha), y])

    low = -h_aP
    corners = [cutting(low), np.array([np.pi / 2, low])]
    ramp = bulge = arc[-1]
    if stands_out:
        # Along the ramp from the end of the arc until it meets the flank.
        x_0, y_0 = arc[-1]
        gap = x_0 - float(cutting(y_0)[0])
        length = gap * np.cos(alpha) / np.sin(alpha - first)
        foot = np.array([x_0 + length * np.sin(first), y_0 - length * np.cos(first)])
        ramp = (arc[-1] + foot) / 2
        corners = [foot, *corners]
        k = int(np.argmax([(x - float(cutting(y)[0])) for x, y in arc]))
        bulge = arc[k]
    half = np.vstack((np.array([[0.0, h_fP]]), arc, *[c[None] for c in corners]))
    side = np.array([[np.pi / 4 - y * np.tan(alpha), y] for y in (y_c, low)])
    return ToolProfile(half, arc[ROUND // 2], ramp, bulge, cutting(-0.4 * h_aP), side)
