"""The report as PDF: the page of the report set by Qt's own text engine, with the drawings as pictures."""

from __future__ import annotations

import re
from pathlib import Path

from PySide6.QtCore import QBuffer, QByteArray, QIODevice, QMarginsF, QSizeF, Qt, QUrl
from PySide6.QtGui import QImage, QPageLayout, QPageSize, QPainter, QPdfWriter, QTextDocument
from PySide6.QtSvg import QSvgRenderer

from cooper.document.models import Design
from cooper.exchange.report import report_html
from cooper.exchange.save import whole_or_not
from cooper.results.result_tree import Results

WIDTH, HEIGHT = 520, 260
"""Greatest width and height of a drawing on the page; points."""


def write_pdf(design: Design, results: Results, path: Path, system: str = "mm", length: str = "usual") -> None:
    """Write the report as A4 pages; raises OSError when the disk refuses. Needs a running Qt application."""
    page = report_html(design, results, system, length)
    document = QTextDocument()
    drawings: list[QImage] = []

    def pictured(match: re.Match[str]) -> str:
        image = _drawn(match[1])
        name = f"drawing{len(drawings)}"
        drawings.append(image)
        document.addResource(QTextDocument.ResourceType.ImageResource, QUrl(name), image)
        wide = min(WIDTH, HEIGHT * image.width() / image.height())
        return f'<p><img src="{name}" width="{wide:.0f}"></p>'

    page = re.sub(r"<figure>(.*?)</figure>", pictured, page, flags=re.S)
    # The text engine knows no max-width and sets pixels as points.
    page = page.replace("max-width:1000px;margin:2em auto;padding:0 1em", "").replace(
        "font:14px/1.4 Lato,sans-serif", "font-family:Lato;font-size:7pt"
    )
    page = page.replace("h1{font-size:24px", "h1{font-size:13pt").replace("h2{font-size:16px", "h2{font-size:8pt")
    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    writer = QPdfWriter(buffer)
    writer.setTitle(design.name)
    writer.setCreator("Cooper")
    writer.setResolution(72)
    writer.setPageLayout(
        QPageLayout(QPageSize(QPageSize.PageSizeId.A4), QPageLayout.Orientation.Portrait, QMarginsF(14, 14, 14, 14))
    )
    document.setHtml(page)
    document.setPageSize(QSizeF(writer.width(), writer.height()))
    document.print_(writer)
    del writer
    # Qt does not say when the disk is full; this does.
    whole = bytes(buffer.data().data())
    whole_or_not(path, lambda temporary: _write(temporary, whole))


def _write(path: Path, data: bytes) -> None:
    path.write_bytes(data)


def _drawn(svg: str) -> QImage:
    renderer = QSvgRenderer(QByteArray(svg.encode()))
    size = renderer.defaultSize()
    height = max(1, round(3 * WIDTH * size.height() / max(size.width(), 1)))
    image = QImage(3 * WIDTH, height, QImage.Format.Format_RGB32)
    image.fill(Qt.GlobalColor.white)
    painter = QPainter(image)
    renderer.render(painter)
    painter.end()
    return image
