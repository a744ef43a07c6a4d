"""A moving picture of the train: frames of the Train lens as GIF, MP4 or WebM."""

from __future__ import annotations

import io
import os
import tempfile
from collections.abc import Callable
from math import pi
from pathlib import Path
from typing import Any

from PIL import Image
from PySide6.QtCore import QBuffer, QIODevice, QRectF
from PySide6.QtGui import QImage, QPainter

from cooper.desk.base import theme as th
from cooper.desk.lenses.train_painter import HOUSING, Look, TrainPainter
from cooper.desk.widgets.solid_view import image_of, sight_of
from cooper.document.models import Design
from cooper.exchange.camera import Camera
from cooper.exchange.shaded import Solids
from cooper.exchange.solid_pictures import picture
from cooper.results.result_tree import Results

CODEC = {".mp4": "libx264", ".webm": "libvpx-vp9"}
CODECS = {
    "libx264": {"crf": "20"},
    "libvpx-vp9": {"crf": "28", "b": "0", "deadline": "realtime", "cpu-used": "6"},
}
"""Encoders of films and how they are set."""
FRAMES, EACH_MS = 60, 50
SMOOTHER = 2
"""Pictures of a film for each of a GIF."""


def write_film(
    design: Design,
    results: Results,
    path: Path,
    theme: th.Theme,
    look: Look | None = None,
    camera: Camera | None = None,
    turns: float = 1.0,
    size: tuple[int, int] = (720, 480),
) -> None:
    """Write ``turns`` of the input in end view or with a ``camera`` as shaded solids in the housing's frame, by the
    suffix as GIF, MP4 or WebM, which end where they begin; raises OSError when the disk refuses. Needs a running Qt
    application."""
    sense = -1 if design.train.duty.direction == "clockwise" else 1
    painter = TrainPainter(results, theme, sense)
    solids = Solids(design, results) if camera is not None else None

    def draw(p: QPainter, room: QRectF, turn: float) -> None:
        if solids is None or camera is None:
            painter.paint(p, room, turn, look or Look(HOUSING))
        else:
            size = round(room.width()), round(room.height())
            p.drawImage(room.topLeft(), image_of(*size, picture(solids, sight_of(turn, camera, size, theme)).tobytes()))

    kind = path.suffix.lower()
    number = FRAMES * (1 if kind == ".gif" else SMOOTHER)
    frames = [_frame(draw, 2 * pi * sense * turns * n / number, theme, size) for n in range(number)]
    handle, name = tempfile.mkstemp(prefix=f".{path.stem}.", suffix=kind, dir=path.parent)
    os.close(handle)
    temporary = Path(name)
    try:
        if kind == ".gif":
            first, *rest = [f.quantize(64) for f in frames]
            first.save(temporary, save_all=True, append_images=rest, duration=EACH_MS, loop=0, optimize=False)
        else:
            _encode(frames, temporary, CODEC[kind])
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


def _encode(frames: list[Image.Image], path: Path, codec: str) -> None:
    """A film of frames."""
    import av

    with av.open(str(path), "w") as film:
        stream: Any = film.add_stream(codec, rate=round(1000 * SMOOTHER / EACH_MS), options=CODECS[codec])
        stream.width, stream.height = frames[0].size
        stream.pix_fmt = "yuv420p"
        for frame in frames:
            film.mux(stream.encode(av.VideoFrame.from_image(frame)))
        film.mux(stream.encode())
