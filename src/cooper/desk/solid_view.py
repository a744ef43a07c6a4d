"""The train as shaded solids in the window's colours."""

from __future__ import annotations

from PySide6.QtGui import QImage

from cooper.desk import theme as th
from cooper.exchange.shaded import Camera, Color, Solids, shaded


def solid_image(solids: Solids, turn: float, camera: Camera, size: tuple[int, int], theme: th.Theme, fine: int) -> QImage:
    """A picture of the train's solids at a turn of its input, with nothing behind them."""
    placed = solids.placed(turn)
    planets = {(k, i) for one in solids.results.sets for k in one.stages for i in (0, 1) if one.kind != "idler"}
    colors = []
    for solid in (at.solid for at in placed):
        drives = solid.gear == 0 and ((solid.stage, 0) not in planets or _is_sun(solids, solid.stage))
        colors.append(_rgb(theme, "driver" if drives else "driven"))
    pixels = shaded(placed, colors, _rgb(theme, "ink", plain=True), camera, size, fine, solids.frame(camera, size))
    image = QImage(pixels.data, size[0], size[1], 4 * size[0], QImage.Format.Format_RGBA8888_Premultiplied)
    # The bytes belong to the array, which does not outlive this function.
    return image.copy()


def _is_sun(solids: Solids, stage: int) -> bool:
    one = solids.results.set_of(stage)
    return one is not None and ((one.kind != "two rings" and stage == one.first) or stage == one.first + 2)


def _rgb(theme: th.Theme, role: str, *, plain: bool = False) -> Color:
    line = theme.color(role)
    if plain:
        return line.redF(), line.greenF(), line.blueF()
    fill = theme.color(f"{role}_fill")
    # Between the line's and the fill's colour, so that light and shade both show on either paper.
    part = 0.12 if fill.lightnessF() > 0.5 else 0.5
    return tuple(part * a + (1 - part) * b for a, b in zip((line.redF(), line.greenF(), line.blueF()), (fill.redF(), fill.greenF(), fill.blueF()), strict=True))  # type: ignore[return-value]
