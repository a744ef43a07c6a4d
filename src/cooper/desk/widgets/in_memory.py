"""What the toolkit's writers write, kept in memory: they are silent where the disk is full, so that the bytes are
written by what is not."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QBuffer, QIODevice


def in_memory(write: Callable[[QBuffer], object]) -> bytes:
    """The bytes that a writer of the toolkit puts onto a device."""
    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    write(buffer)
    return bytes(buffer.data().data())
