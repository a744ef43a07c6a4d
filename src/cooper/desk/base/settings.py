"""What is remembered between starts: window, theme, unit system, recent designs."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QByteArray, QSettings

from cooper.folders import state_folder

MOST_RECENT = 8


class Settings:
    """A small wrapper over one ini file in the state folder."""

    def __init__(self) -> None:
        self.store = QSettings(str(state_folder() / "settings.ini"), QSettings.Format.IniFormat)

    def text(self, key: str, default: str) -> str:
        return str(self.store.value(key, default))

    def set_text(self, key: str, value: str) -> None:
        self.store.setValue(key, value)

    @property
    def geometry(self) -> QByteArray:
        value = self.store.value("geometry")
        return value if isinstance(value, QByteArray) else QByteArray()

    def set_geometry(self, value: QByteArray) -> None:
        self.store.setValue("geometry", value)

    def recent(self) -> list[Path]:
        value = self.store.value("recent") or []
        paths = [value] if isinstance(value, str) else list(value)
        return [Path(p) for p in paths if _is_there(Path(p))]

    def remember(self, path: Path) -> None:
        paths = [path.resolve(), *(p for p in self.recent() if p != path.resolve())]
        self.store.setValue("recent", [str(p) for p in paths[:MOST_RECENT]])


def _is_there(path: Path) -> bool:
    """Whether a file is there and its folder may be entered."""
    try:
        return path.exists()
    except OSError:
        return False
