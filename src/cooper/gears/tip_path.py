"""Where the mate's tips go in a tooth space, and how near they come to the root."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, clip, where
from cooper.gears.fillets import fillet
from cooper.gears.root import RootForm
from cooper.gears.tip import land_half_angle
from cooper.gears.tooth import Tooth

ROLLS, LANDS, FILLETS = 241, 9, 121


def tip_path(tooth: Tooth, mate: Tooth, a_w: float, j_t: float = 0.0) -> Array:
    """Places of the mate's tip land in a space of a wheel.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.
    mate : Tooth
        Tooth of the mate.
    a_w : float
        Working centre distance as drawn (mm, positive).
    j_t : float
        Circumferential backlash at the reference circle (mm).

    Returns
    -------
    Array
        (positions, places of the land, 2): radius (mm) and angle from the middle of the space (rad).

    Notes
    -----
    The mate turns past as it meshes, its teeth pressed onto one flank by half of the backlash.
    """
    inward, ring = float(tooth.sign) < 0, float(mate.sign) < 0
    z_1, z_2 = abs(float(tooth.z)), abs(float(mate.z))
    r_a = abs(float(mate.d_a)) / 2
    land = float(land_half_angle(mate))
    # Far enough for the tip to leave the space.
    reach = 2.2 * np.pi / z_1 + 0.6 * np.pi / z_2
    roll = np.linspace(-reach, reach, ROLLS)[:, None]
    at = np.linspace(-land, land, LANDS)[None, :]
    if inward:
        centre, theta = a_w, roll * z_1 / z_2 + at
    elif ring:
        centre, theta = -a_w, roll * z_1 / z_2 + at
    else:
        centre, theta = a_w, np.pi - roll * z_1 / z_2 + at
    x, y = centre + r_a * np.cos(theta), r_a * np.sin(theta)
    angle = np.arctan2(y, x) - roll + j_t / abs(float(tooth.d))
    return np.stack((np.hypot(x, y), angle), axis=-1)


def tip_room(tooth: Tooth, form: RootForm, mate: Tooth, a_w: float, j_t: float = 0.0) -> float:
    """The least distance of the mate's tip path from the fillet and root of a wheel.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.
    form : RootForm
        Root form of the tooth.
    mate : Tooth
        Tooth of the mate.
    a_w : float
        Working centre distance as drawn (mm, positive).
    j_t : float
        Circumferential backlash at the reference circle (mm).

    Returns
    -------
    float
        Distance (mm), negative where it would cut them.

    Notes
    -----
    Chords of the fillet are some thousandths of a module long.
    """
    path = tip_path(tooth, mate, a_w, j_t).reshape(-1, 2)
    sign = float(tooth.sign)
    r, psi = fillet(tooth, 1 + (float(form.t) - 1) * np.linspace(0, 1, FILLETS))
    r_F = abs(float(form.d_Ff)) / 2
    # What stands above the flank's end meets the flank, not the root.
    below = path[sign * path[:, 0] <= sign * r_F + 1e-9]
    if not len(below):
        return float("inf")
    radius, angle = below[:, 0], np.abs(below[:, 1])
    order = np.argsort(r)
    wide = np.interp(radius, r[order], psi[order])
    cut = (angle > wide) | (sign * radius < sign * r[0] - 1e-9)
    x, y = radius * np.sin(angle), radius * np.cos(angle)
    # The foot of the space lies between the ends of both fillets.
    foot = np.linspace(0, psi[0], 8)[:-1]
    line = np.concatenate(
        (
            np.column_stack((r[0] * np.sin(foot), r[0] * np.cos(foot))),
            np.column_stack((r * np.sin(psi), r * np.cos(psi))),
        )
    )
    a, d = line[:-1], np.diff(line, axis=0)
    t = clip(
        ((x[:, None] - a[:, 0]) * d[:, 0] + (y[:, None] - a[:, 1]) * d[:, 1]) / np.maximum((d**2).sum(axis=1), 1e-30),
        0,
        1,
    )
    away = np.hypot(x[:, None] - a[:, 0] - t * d[:, 0], y[:, None] - a[:, 1] - t * d[:, 1]).min(axis=1)
    return float(where(cut, -away, away).min())
