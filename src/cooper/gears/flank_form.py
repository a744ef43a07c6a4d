"""What is taken off a flank on purpose: relief of tip and root, profile and helix crowning, slopes, end relief. ISO
21771-1:2024, ISO 1328-1.

Amounts in um, taken away where positive; places along the profile by length of roll from the base tangent point, along
the helix from the left end.
"""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from cooper.arrays import Array, Real, as_float, clip

SHAPES = ("straight", "curved", "circular")


def eased(share: Real, shape: str, amount: Real = 0.0, length: Real = 1.0) -> Array:
    """How much of its amount a relief has taken at a share of its length (0 at its start, 1 at its end).

    Parameters
    ----------
    share : Real
        Share of the relief's length, 0 at its start to 1 at its end.
    shape : str
        A key of `SHAPES`.
    amount : Real
        Amount of the relief (um), needed for the arc alone.
    length : Real
        Length of the relief (mm), needed for the arc alone.

    Returns
    -------
    Array
        Share of the amount.

    Notes
    -----
    Straight: in proportion; curved: by the power of 1.5, between line and parabola; circular: an arc that leaves the
    flank without a kink, (R - sqrt(R^2 - s^2)) / C with 2 R C = L^2 + C^2.

    Examples
    --------
    >>> [round(float(eased(0.5, s, 30.0, 2.0)), 4) for s in SHAPES]
    [0.5, 0.3536, 0.25]
    """
    q = clip(share, 0.0, 1.0)
    if shape == "straight":
        return as_float(q)
    if shape == "curved":
        return as_float(q**1.5)
    C, L = np.maximum(as_float(amount) / 1000, 1e-12), as_float(length)
    R = (L**2 + C**2) / (2 * C)
    return as_float((R - np.sqrt(R**2 - (q * L) ** 2)) / C)


class FlankForm(Struct, frozen=True, kw_only=True):
    """Forms of the flanks of one gear. Tip relief ``C_a`` reaches over the length of roll ``l_Ca`` from the end of
    the contact at the tip, root relief ``C_f`` over ``l_Cf`` from that at the root; crowning ``C_alpha`` and slope
    ``C_Halpha`` (positive: taken at the tip) reach over the whole contact; likewise ``C_beta`` and ``C_Hbeta``
    (positive: taken at the right end) over the face, end relief ``C_bI`` and ``C_bII`` over ``l_I`` and ``l_II`` (mm)
    of its left and right end."""

    C_a: float = 0.0
    l_Ca: float = 0.0
    C_f: float = 0.0
    l_Cf: float = 0.0
    shape: str = "straight"
    C_alpha: float = 0.0
    C_Halpha: float = 0.0
    C_beta: float = 0.0
    C_Hbeta: float = 0.0
    C_bI: float = 0.0
    l_I: float = 0.0
    C_bII: float = 0.0
    l_II: float = 0.0


def profile_form(form: FlankForm, L: Real, L_f: float, L_a: float) -> Array:
    """What is taken off the profile at lengths of roll.

    Parameters
    ----------
    form : FlankForm
        What is taken off the flank on purpose.
    L : Real
        Lengths of roll (mm).
    L_f : float
        Length of roll at the root end of the contact (mm).
    L_a : float
        Length of roll at the tip end of the contact (mm).

    Returns
    -------
    Array
        Amounts (um).

    Examples
    --------
    >>> form = FlankForm(C_a=20.0, l_Ca=2.0, C_alpha=4.0)
    >>> [round(float(v), 2) for v in profile_form(form, np.array([6.0, 10.0, 13.0, 14.0]), 6.0, 14.0)]
    [4.0, 0.0, 12.25, 24.0]
    """
    L = as_float(L)
    # An internal tooth rolls from a long length at its root to a short one at its tip.
    from_root = (L - L_f) / (L_a - L_f)
    length = abs(L_a - L_f)
    result = np.zeros_like(L)
    for C, reach, away in ((form.C_a, form.l_Ca, 1 - from_root), (form.C_f, form.l_Cf, from_root)):
        if C and reach > 0:
            result = result + C * eased(1 - away * length / reach, form.shape, C, reach)
    return as_float(result + form.C_alpha * (2 * from_root - 1) ** 2 + form.C_Halpha * from_root)


def long_relief(g_alpha: float, p_et: float) -> float:
    """Length of roll of a long relief: from where one pair fewer begins to bear to the end of the contact; of hardly
    any more than whole pitches a pitch.

    Parameters
    ----------
    g_alpha : float
        Length of the path of contact (mm).
    p_et : float
        Transverse base pitch (mm).

    Returns
    -------
    float
        Length of roll (mm).

    Notes
    -----
    Mm.

    Examples
    --------
    >>> round(long_relief(8.0, 5.0), 6), round(long_relief(11.0, 5.0), 6)
    (3.0, 1.0)
    """
    over = g_alpha % p_et
    return over if over > 0.05 * p_et else p_et


class MadeFlank(Struct, frozen=True):
    """A form with the lengths of roll between which it reaches, ``L_f`` at the root and ``L_a`` at the tip, and at
    which the fillet begins, ``L_Ff`` (mm)."""

    form: FlankForm
    L_f: float
    L_a: float
    L_Ff: float

    def off(self, L: Real) -> Array:
        """What is taken off at lengths of roll (um). Beyond the tip end as much as there; from the root end to the
        fillet it runs out.

        >>> made = MadeFlank(FlankForm(C_a=20.0, l_Ca=2.0, C_f=6.0, l_Cf=1.0), 6.0, 14.0, 5.0)
        >>> [round(float(v), 2) for v in made.off(np.array([5.0, 5.5, 6.0, 10.0, 13.0, 15.0]))]
        [0.0, 3.0, 6.0, 0.0, 10.0, 20.0]
        """
        L = as_float(L)
        low, high = min(self.L_f, self.L_a), max(self.L_f, self.L_a)
        result = profile_form(self.form, clip(L, low, high), self.L_f, self.L_a)
        room = abs(self.L_f - self.L_Ff)
        beyond = np.maximum((self.L_f - L) * np.sign(self.L_a - self.L_f), 0.0)
        return as_float(result * clip(1 - beyond / max(room, 1e-9), 0.0, 1.0))


def helix_form(form: FlankForm, y: Real, b: float) -> Array:
    """What is taken off along the face.

    Parameters
    ----------
    form : FlankForm
        What is taken off the flank on purpose.
    y : Real
        Places from the left end of the face (mm).
    b : float
        Face width (mm).

    Returns
    -------
    Array
        Amounts (um).

    Examples
    --------
    >>> form = FlankForm(C_beta=8.0, C_bII=10.0, l_II=5.0)
    >>> [round(float(v), 2) for v in helix_form(form, np.array([0.0, 10.0, 17.5, 20.0]), 20.0)]
    [8.0, 0.0, 9.5, 18.0]
    """
    y = as_float(y)
    at = 2 * y / b - 1
    result = form.C_beta * at**2 + form.C_Hbeta * (at + 1) / 2
    if form.C_bI and form.l_I > 0:
        result = result + form.C_bI * clip(1 - y / form.l_I, 0, 1)
    if form.C_bII and form.l_II > 0:
        result = result + form.C_bII * clip(1 - (b - y) / form.l_II, 0, 1)
    return as_float(result)
