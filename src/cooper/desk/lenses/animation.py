"""A moving picture of the train: frames of the Train lens as an animated GIF."""

from __future__ import annotations

import io
import os
import tempfile
from collections.abc import Callable
from math import pi
from pathlib import Path

from PIL import Image
from PySide6.QtCore import QBuffer, QIODevice, QRectF
from PySide6.QtGui import QImage, QPainter

from cooper.desk.frame import theme as th
from cooper.desk.lenses.train_lens import HOUSING, Look, TrainPainter
from cooper.desk.widgets.solid_view import solid_image
from cooper.document.models import Design
from cooper.exchange.shaded import Camera, Solids
from cooper.results.result_tree import Results

FRAMES, EACH_MS = 60, 50


def write_gif(
    design: Design,
    results: Results,
    path: Path,
    theme: th.Theme,
    look: Look | None = None,
    camera: Camera | None = None,
    turns: float = 1.0,
    size: tuple[int, int] = (720, 480),
) -> None:
    """Write ``turns`` of the input in `FRAMES` pictures, in end view or with a ``camera`` as shaded solids in the housing's frame;
    raises OSError when the disk refuses. Needs a running Qt application."""
    sense = -1 if design.train.duty.direction == "clockwise" else 1
    painter = TrainPainter(results, theme, sense)
    solids = Solids(design, results) if camera is not None else None

    def draw(p: QPainter, room: QRectF, turn: float) -> None:
        if solids is None or camera is None:
            painter.paint(p, room, turn, look or Look(HOUSING))
        else:
            p.drawImage(
                room.topLeft(), solid_image(solids, turn, camera, (round(room.width()), round(room.height())), theme, 1)
            )

    frames = [_frame(draw, 2 * pi * sense * turns * n / FRAMES, theme, size) for n in range(FRAMES)]
    handle, name = tempfile.mkstemp(prefix=f".{path.stem}.", suffix=".gif", dir=path.parent)
    os.close(handle)
    temporary = Path(name)
    try:
        first, *rest = [f.quantize(64) for f in frames]
        first.save(temporary, save_all=True, append_images=rest, duration=EACH_MS, loop=0, optimize=False)
        temporary.chmod(0o644)
        temporary.replace(path)
    finally:
        temporary.unlink(missing_ok=True)


def _frame(
    draw: Callable[[QPainter, QRectF, float], None], turn: float, theme: th.Theme, size: tuple[int, int]
) -> Image.Image:
    image = QImage(*size, QImage.Format.Format_RGB32)
    image.fill(theme.color("paper"))
    p = QPainter(image)
    p.setRenderHint(QPainter.RenderHint.Antialiasing)
    draw(p, QRectF(16, 16, size[0] - 32, size[1] - 32), turn)
    p.end()
    store = QBuffer()
    store.open(QIODevice.OpenModeFlag.WriteOnly)
    image.save(store, "PNG")  # type: ignore[call-overload]
    return Image.open(io.BytesIO(bytes(store.data().data()))).convert("RGB")
