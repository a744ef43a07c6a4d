"""Amounts as shades: one scale for stress, pressure, error and topography."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QRectF
from PySide6.QtGui import QImage, QPainter

from cooper.arrays import Array
from cooper.desk.base import theme as th
from cooper.field.shades import shade_table


def shades(theme: th.Theme) -> Array:
    """256 colours as 0xffRRGGBB from no stress to the most."""
    rgb = shade_table("dark" if theme.dark else "light").astype(np.uint32)
    return np.asarray(np.uint32(0xFF000000) | (rgb[:, 0] << 16) | (rgb[:, 1] << 8) | rgb[:, 2])


def shaded(p: QPainter, theme: th.Theme, area: QRectF, share: Array, smooth: bool = True) -> None:
    """Shares of the scale (0 to 1; rows from above) as a picture that fills an area."""
    rows, columns = share.shape
    colours = shades(theme)[np.clip(np.nan_to_num(share) * 255, 0, 255).astype(int)]
    content = np.ascontiguousarray(colours).tobytes()
    image = QImage(content, columns, rows, 4 * columns, QImage.Format.Format_ARGB32_Premultiplied)
    p.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform, smooth)
    p.drawImage(area, image)
