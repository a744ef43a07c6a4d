"""The train as shaded solids in the window's colours."""

from __future__ import annotations

from PySide6.QtGui import QImage

from cooper.desk.frame import theme as th
from cooper.exchange.camera import Camera
from cooper.exchange.shaded import Color, Solids, shaded
from cooper.results.pose import pose


def solid_image(
    solids: Solids, turn: float, camera: Camera, size: tuple[int, int], theme: th.Theme, fine: int
) -> QImage:
    """A picture of the train's solids at a turn of its input, with nothing behind them."""
    placed = solids.placed(turn)
    drivers = {(g.stage, g.i) for g in pose(solids.results, 0.0).gears if g.drives}
    colors = [
        _plain(theme, "line")
        if at.solid.stage < 0
        else _rgb(theme, "driver" if (at.solid.stage, at.solid.gear) in drivers else "driven")
        for at in placed
    ]
    pixels = shaded(placed, colors, _rgb(theme, "ink", plain=True), camera, size, fine, solids.frame(camera, size))
    image = QImage(pixels.data, size[0], size[1], 4 * size[0], QImage.Format.Format_RGBA8888_Premultiplied)
    # The bytes belong to the array, which does not outlive this function.
    return image.copy()


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
