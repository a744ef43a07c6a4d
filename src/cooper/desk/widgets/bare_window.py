"""A bare window of the toolkit, shown and painted once: what the start is measured against. Run as a file, it loads
nothing of the program."""

from __future__ import annotations

import os

from PySide6.QtWidgets import QApplication, QMainWindow


def show() -> None:
    """Show it, and end the process without clearing up."""
    app = QApplication([])
    window = QMainWindow()
    window.resize(1280, 800)
    window.show()
    app.processEvents()
    os._exit(0)


if __name__ == "__main__":
    show()
