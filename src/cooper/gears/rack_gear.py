"""The rack as a gear: the limit of ever more teeth.

The core's formulas take a rack as a wheel with `COUNT` teeth, whose flanks leave the straight ones by less than a
hundredth of a micrometre within a tooth. What is drawn or made uses heights above the datum line and places along it
instead of radii and angles.
"""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array
from cooper.gears.outline import half_tooth
from cooper.gears.root import RootForm
from cooper.gears.tooth import Tooth

COUNT = 4_000_000


def is_rack(tooth: Tooth) -> bool:
    """Whether a (single) tooth is that of a rack.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.

    Returns
    -------
    bool
        True for a rack.
    """
    return bool(np.ndim(tooth.z) == 0 and float(tooth.z) >= COUNT)


def transverse_pitch(tooth: Tooth) -> float:
    """Pitch along the datum line in the transverse section.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.

    Returns
    -------
    float
        Pitch (mm).
    """
    return float(np.pi * tooth.m_t)


def rack_tooth(tooth: Tooth, tolerance: float = 1e-3, form: RootForm | None = None) -> Array:
    """One tooth of a rack from the middle of one space to the next.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.
    tolerance : float
        Greatest chord error (mm).
    form : RootForm | None
        Root form of the tooth; None to work it out.

    Returns
    -------
    Array
        Points (n, 2): place along the datum line and height above it (mm).
    """
    # Angles times one radius, so that every tooth is exactly one pitch wide at each height.
    left, right = (
        np.column_stack((side * float(tooth.d) / 2 * half[:, 1], half[:, 0] - float(tooth.d) / 2))
        for side, half in ((side, half_tooth(one, tolerance, form)) for side, one in ((-1, tooth.turned), (1, tooth)))
    )
    return np.concatenate((left, right[-2::-1]))


def rack_outline(tooth: Tooth, teeth: int, back: float, tolerance: float = 1e-3, form: RootForm | None = None) -> Array:
    """Closed outline of a rack, its middle at place 0.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.
    teeth : int
        Number of teeth.
    back : float
        Height of the back under the datum line (mm).
    tolerance : float
        Greatest chord error (mm).
    form : RootForm | None
        Root form of the tooth; None to work it out.

    Returns
    -------
    Array
        Points (n, 2; mm), counter-clockwise, first point not repeated: along the teeth from the right to the left,
        round the back.
    """
    one = rack_tooth(tooth, tolerance, form)[::-1][:-1]
    p = transverse_pitch(tooth)
    places = p * (np.arange(teeth)[::-1] - (teeth - 1) / 2)
    points = np.concatenate([one + [at, 0.0] for at in places])
    end = teeth * p / 2
    last = [-end, one[0, 1]]
    return np.vstack((points, last, [-end, -back], [end, -back]))


def tooth_place(z_1: float, r_1: float, j_wt: float, roll: float, side: float) -> float:
    """Place of the middle of the rack's tooth next above the line of centres.

    Parameters
    ----------
    z_1 : float
        Tooth count of the pinion.
    r_1 : float
        Reference radius of the pinion (mm).
    j_wt : float
        Backlash along the datum line (mm).
    roll : float
        Angle of the pinion (rad).
    side : float
        +1 or -1 by the flank that drives, 0 to stand in the middle of the backlash.

    Returns
    -------
    float
        Place along the datum line (mm).

    Notes
    -----
    The pinion is at the origin and the rack's datum line at +x, teeth pointing to -x. The driving flanks touch for side
    +1 (pinion counter-clockwise) and -1.
    """
    return float(roll * r_1 + np.pi * r_1 / z_1 - side * j_wt / 2)
