"""Amounts as shades: one scale for stress, pressure, error and topography."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array

SHADES = {
    "light": ("#F4EDDF", "#E9CFA0", "#D0863F", "#93401F", "#4E1A22", "#160C12"),
    "dark": ("#262A2F", "#5A2A22", "#A3502A", "#DC9450", "#F2D08F", "#FFF8E4"),
}
"""From no stress to the most: ever darker on light paper, ever lighter on dark, so that grey prints and all eyes
read the same order."""


def shade_table(name: str) -> Array:
    """256 colours from no stress to the most, on light paper or dark.

    Parameters
    ----------
    name : str
        "light" or "dark".

    Returns
    -------
    Array
        Colours (256, 3), 0 to 255.

    Examples
    --------
    >>> shade_table("light")[[0, 255]].tolist()
    [[244, 237, 223], [22, 12, 18]]
    """
    stops = np.array([[int(c[k : k + 2], 16) for k in (1, 3, 5)] for c in SHADES[name]], dtype=float)
    at = np.linspace(0, len(stops) - 1, 256)
    return np.stack([np.interp(at, np.arange(len(stops)), stops[:, k]) for k in range(3)], axis=1).round().astype(int)


def nice(value: float) -> float:
    """The next round number at or above a value.

    Parameters
    ----------
    value : float
        The value.

    Returns
    -------
    float
        The number.

    Examples
    --------
    >>> nice(0.83), nice(412.0), nice(1001.0)
    (1.0, 500.0, 1200.0)
    """
    ten = 10.0 ** np.floor(np.log10(value))
    return float(next(s for s in (1, 1.2, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10) if s * ten >= value * (1 - 1e-9)) * ten)
