"""The train as shaded solids in the window's colours."""

from __future__ import annotations

from PySide6.QtGui import QImage

from cooper.desk.base import theme as th
from cooper.exchange.camera import Camera, Color, Sight


def sight_of(turn: float, camera: Camera, size: tuple[int, int], theme: th.Theme) -> Sight:
    """How the solids are looked at in a theme."""
    return Sight(
        turn,
        camera,
        size,
        driver=_rgb(theme, "driver"),
        driven=_rgb(theme, "driven"),
        shaft=_plain(theme, "line"),
        ink=_rgb(theme, "ink", plain=True),
    )


def image_of(width: int, height: int, pixels: bytes) -> QImage:
    """The picture that came as bytes, which need not outlive this function."""
    return QImage(pixels, width, height, 4 * width, QImage.Format.Format_RGBA8888_Premultiplied).copy()


def _plain(theme: th.Theme, role: str) -> Color:
    """The steel of shafts and bearings."""
    line, card = theme.color(role), theme.color("card")
    return tuple(
        0.6 * a + 0.4 * b
        for a, b in zip(
            (line.redF(), line.greenF(), line.blueF()), (card.redF(), card.greenF(), card.blueF()), strict=True
        )
    )  # type: ignore[return-value]


def _rgb(theme: th.Theme, role: str, *, plain: bool = False) -> Color:
    line = theme.color(role)
    if plain:
        return line.redF(), line.greenF(), line.blueF()
    fill = theme.color(f"{role}_fill")
    # Between the line's and the fill's colour, so that light and shade both show on either paper.
    part = 0.12 if fill.lightnessF() > 0.5 else 0.5
    return tuple(
        part * a + (1 - part) * b
        for a, b in zip(
            (line.redF(), line.greenF(), line.blueF()), (fill.redF(), fill.greenF(), fill.blueF()), strict=True
        )
    )  # type: ignore[return-value]
