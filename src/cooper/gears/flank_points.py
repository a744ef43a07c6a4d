"""Points of a tooth's flank at chosen diameters, in coordinates of choice."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, any_, as_float, where
from cooper.gears.fillets import fillet
from cooper.gears.root import RootForm
from cooper.gears.tip import tip_edge, tip_form_diameter
from cooper.gears.tooth import Tooth

HALVINGS = 48
FRAMES = {
    "gear": "from the gear's centre, tooth on +x",
    "tooth": "from the tooth's middle on the reference circle, x along the tooth",
    "polar": "radius and angle from the tooth's middle",
}


def half_angles(tooth: Tooth, form: RootForm, d_y: Array) -> Array:
    """Half angle of the tooth at diameters from the root circle on; exact at every one.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.
    form : RootForm
        Root form of the tooth.
    d_y : Array
        Diameters (mm, positive).

    Returns
    -------
    Array
        Half angles (rad), NaN below the root circle.

    Notes
    -----
    Beyond the tip circle the plain involute goes on.
    """
    d_y, sign = as_float(d_y), float(tooth.sign)
    d_f, d_Ff, d_Fa, d_a = (abs(float(d)) for d in (tooth.d_f, form.d_Ff, tip_form_diameter(tooth), tooth.d_a))
    up = sign * d_y

    def along(curve: object, wanted: Array, rising: bool) -> Array:
        # The radius runs one way along the curve: halve the parameter until it meets the wanted one.
        low, high = np.zeros_like(wanted), np.ones_like(wanted)
        for _ in range(HALVINGS):
            mid = (low + high) / 2
            short = (curve(mid)[0] * sign < wanted * sign) == rising  # type: ignore[operator]
            low, high = where(short, mid, low), where(short, high, mid)
        return as_float(curve((low + high) / 2)[1])  # type: ignore[operator]

    t_0 = float(form.t)

    def root(t: Array) -> tuple[Array, Array]:
        radius, psi = fillet(tooth, t_0 + (1 - t_0) * t)
        return radius, np.pi / abs(float(tooth.z)) - psi

    on_flank = (up >= sign * d_Ff) & ((up <= sign * d_Fa) | (up > sign * d_a) | (d_Fa == d_a))
    safe = where(on_flank, d_y, d_Ff)
    angle = as_float(tooth.made_angle(sign * np.maximum(safe, abs(float(tooth.d_b)))))
    below = (up < sign * d_Ff) & (up >= sign * d_f - 1e-9)
    if any_(below):
        angle = where(below, along(root, where(below, d_y, d_Ff) / 2, False), angle)
    edge = (up > sign * d_Fa) & (up <= sign * d_a) & (d_Fa != d_a)
    if any_(edge):
        edged = along(lambda t: tip_edge(tooth, t), where(edge, d_y, d_Fa) / 2, True) - tooth.tip_turn()
        angle = where(edge, edged, angle)
    return where(up < sign * d_f - 1e-9, np.nan, angle)


def in_frame(tooth: Tooth, d_y: Array, half: Array, frame: str) -> Array:
    """Points at diameters and half angles.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.
    d_y : Array
        Diameters (mm, positive).
    half : Array
        Half angles of the tooth (rad).
    frame : str
        "polar", or anything else for x and y.

    Returns
    -------
    Array
        (n, 2): x and y (mm), or radius (mm) and angle (deg).
    """
    r = as_float(d_y) / 2
    if frame == "polar":
        return np.column_stack((r, np.degrees(half)))
    x, y = r * np.cos(half), r * np.sin(half)
    if frame == "gear":
        return np.column_stack((x, y))
    return np.column_stack((float(tooth.sign) * (x - abs(float(tooth.d)) / 2), y))
