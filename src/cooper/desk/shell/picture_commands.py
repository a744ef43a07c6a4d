"""The view that is looked at as a picture: copied, or saved as PNG, SVG or PDF."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QBuffer, QPoint, QRect, QSize, QSizeF, Qt
from PySide6.QtGui import QGuiApplication, QPageSize, QPaintDevice, QPainter, QPdfWriter, QPixmap
from PySide6.QtWidgets import QFileDialog, QWidget

from cooper.atomic_write import atomic_write_bytes
from cooper.desk.base.registry import Action, register_actions
from cooper.desk.widgets.in_memory import in_memory
from cooper.i18n.text import tr
from cooper.i18n.translate import translate

if TYPE_CHECKING:
    from cooper.desk.shell.window import Window

FINER = 2.0
"""Pixels of a picture for one of the screen."""
PX_MM = 25.4 / 96
"""Size of a pixel of the screen on paper; mm."""


def view_of(window: Window) -> QWidget:
    """What is looked at: the Bench with its lens, or the page that takes its place."""
    page = window.pages.currentWidget()
    return window.bench if window.pages.currentIndex() == 0 or page is None else page


def picture_of(view: QWidget) -> QPixmap:
    """A view as a picture, finer than the screen."""
    pixmap = QPixmap(view.size() * FINER)
    pixmap.setDevicePixelRatio(FINER)
    pixmap.fill(Qt.GlobalColor.transparent)
    view.render(pixmap)
    return pixmap


def copy_view(window: Window) -> None:
    """The view onto the clipboard."""
    QGuiApplication.clipboard().setPixmap(picture_of(view_of(window)))
    window.notice.report(tr("The view is on the clipboard as a picture"))


def save_view(view: QWidget, path: Path, title: str) -> None:
    """Save a view by the suffix of the path; lines stay lines in SVG and PDF. Painted into memory first: the
    toolkit's writers are silent where the disk is full."""
    size: QSize = view.size()
    if path.suffix == ".png":
        picture = picture_of(view).toImage()
        picture.setText(translate(tr("Title")), title)
        picture.setText(translate("Software"), "Cooper")
        content = in_memory(lambda out: picture.save(out, "PNG"))  # type: ignore[call-overload]
    elif path.suffix == ".svg":
        content = in_memory(lambda out: _as_svg(view, size, out, title))
    else:
        content = in_memory(lambda out: _as_pdf(view, size, out, title))
    atomic_write_bytes(path, content)


def _as_svg(view: QWidget, size: QSize, out: QBuffer, title: str) -> None:
    from PySide6.QtSvg import QSvgGenerator

    drawing = QSvgGenerator()
    drawing.setOutputDevice(out)
    drawing.setSize(size)
    drawing.setViewBox(QRect(QPoint(0, 0), size))
    drawing.setTitle(translate(title))
    _painted(view, drawing)


def _as_pdf(view: QWidget, size: QSize, out: QBuffer, title: str) -> None:
    page = QPdfWriter(out)
    page.setTitle(translate(title))
    page.setResolution(96)
    page.setPageSize(QPageSize(QSizeF(size) * PX_MM, QPageSize.Unit.Millimeter))
    page.setPageMargins(page.pageLayout().minimumMargins())
    _painted(view, page)


def _painted(view: QWidget, on: QPaintDevice) -> None:
    painter = QPainter(on)
    view.render(painter, QPoint(0, 0))
    painter.end()


def save_dialog(window: Window) -> None:
    """Ask where the view shall be saved."""
    lens = window.bench.lens if window.pages.currentIndex() == 0 else "survey"
    start = f"{window.session.design.name.lower().replace(' ', '-')}-{lens}.png"
    kinds = tr("Picture (*.png);;Drawing that scales (*.svg);;Page (*.pdf)")
    name, _ = QFileDialog.getSaveFileName(window, translate(tr("Save this view as a picture")), start, translate(kinds))
    if not name:
        return
    path = Path(name)
    if path.suffix not in (".png", ".svg", ".pdf"):
        window.notice.report(tr("Not saved. {name}: a view is saved as .png, .svg or .pdf.", name=path.name), bad=True)
        return
    try:
        save_view(view_of(window), path, tr("{name}, {lens}", name=window.session.design.name, lens=lens))
    except OSError as fault:
        window.notice.report(tr("Not saved. {path}: {value}.", path=path, value=fault.strerror or fault), bad=True)
        return
    window.notice.report(tr("Saved as {path}", path=path))


register_actions(
    tr("ways out"),
    Action("copy_view", tr("Copy this view as a picture"), "Ctrl+Shift+V", copy_view),
    Action("save_view", tr("Save this view as PNG, SVG or PDF …"), "", save_dialog, asks=True),
    place=1,
)
