"""Amounts as shades: one scale for stress, pressure, error and topography."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QRectF
from PySide6.QtGui import QColor, QImage, QPainter

from cooper.arrays import Array
from cooper.desk.frame import theme as th

SHADES = {
    "light": ("#F4EDDF", "#E9CFA0", "#D0863F", "#93401F", "#4E1A22", "#160C12"),
    "dark": ("#262A2F", "#5A2A22", "#A3502A", "#DC9450", "#F2D08F", "#FFF8E4"),
}
"""From no stress to the most: ever darker on light paper, ever lighter on dark, so that grey prints and all eyes read the same order."""


def shades(theme: th.Theme) -> Array:
    """256 colours as 0xffRRGGBB from no stress to the most."""
    colours = [QColor(c) for c in SHADES[theme.name]]
    stops: Array = np.array([[c.red(), c.green(), c.blue()] for c in colours], dtype=float)
    at = np.linspace(0, len(stops) - 1, 256)
    rgb = np.stack([np.interp(at, np.arange(len(stops)), stops[:, k]) for k in range(3)], axis=1).round().astype(int)
    return np.asarray(0xFF000000 | (rgb[:, 0] << 16) | (rgb[:, 1] << 8) | rgb[:, 2], dtype=np.uint32)


def nice(value: float) -> float:
    """The next round number at or above a value.

    >>> nice(0.83), nice(412.0), nice(1001.0)
    (1.0, 500.0, 1200.0)
    """
    ten = 10.0 ** np.floor(np.log10(value))
    return float(next(s for s in (1, 1.2, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10) if s * ten >= value * (1 - 1e-9)) * ten)


def shaded(p: QPainter, theme: th.Theme, area: QRectF, share: Array, smooth: bool = True) -> None:
    """Shares of the scale (0 to 1; rows from above) as a picture that fills an area."""
    rows, columns = share.shape
    colours = shades(theme)[np.clip(np.nan_to_num(share) * 255, 0, 255).astype(int)]
    content = np.ascontiguousarray(colours).tobytes()
    image = QImage(content, columns, rows, 4 * columns, QImage.Format.Format_ARGB32_Premultiplied)
    p.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform, smooth)
    p.drawImage(area, image)
