"""Colours, fonts and line weights of the desk: a light theme and a dark one of the same family."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache, partial
from importlib.resources import files
from string import Template
from typing import Any

from msgspec import Struct
from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QColor, QFont, QFontDatabase, QGuiApplication, QPalette
from PySide6.QtWidgets import QApplication, QMainWindow, QWidget
from shiboken6 import isValid

from cooper.desk.base.slices import Slices

FAMILY = "Lato"


class Theme(Struct, frozen=True):
    """One set of colours. ``driver`` and ``driven`` are line colours, ``*_fill`` the metal of the gears."""

    name: str
    paper: str
    band: str
    card: str
    line: str
    ink: str
    muted: str
    faint: str
    copper: str
    driver: str
    driver_fill: str
    driven: str
    driven_fill: str
    holds: str
    thin: str
    short: str

    @property
    def dark(self) -> bool:
        """Whether it is bright on dark."""
        return self.name.endswith("dark")

    def color(self, role: str, alpha: float = 1.0) -> QColor:
        """The colour of a role; the object is kept and must not be changed."""
        return _color(getattr(self, role), alpha)


@lru_cache(maxsize=256)
def _color(name: str, alpha: float) -> QColor:
    c = QColor(name)
    c.setAlphaF(alpha)
    return c


LIGHT = Theme(
    name="light",
    paper="#F6F1E7",
    band="#EDE6D8",
    card="#FFFDF8",
    line="#CFC5B2",
    ink="#22303A",
    muted="#6D7278",
    faint="#A29C90",
    copper="#B4551F",
    driver="#1F6F63",
    driver_fill="#D3E4DD",
    driven="#4C5C78",
    driven_fill="#DEE2EA",
    holds="#1E7B78",
    thin="#A8730F",
    short="#A3302B",
)

DARK = Theme(
    name="dark",
    paper="#1E2226",
    band="#262B30",
    card="#2C3238",
    line="#464D54",
    ink="#E9E3D6",
    muted="#A9AAA6",
    faint="#767B7F",
    copper="#E28A55",
    driver="#7CC4B4",
    driver_fill="#2B4641",
    driven="#A5B4D0",
    driven_fill="#343D4C",
    holds="#63C2BB",
    thin="#E3B04B",
    short="#F0827B",
)

CONTRAST = Theme(
    name="contrast light",
    paper="#FFFFFF",
    band="#F0F0F0",
    card="#FFFFFF",
    line="#5A5A5A",
    ink="#000000",
    muted="#303030",
    faint="#4A4A4A",
    copper="#8A2F00",
    driver="#004D40",
    driver_fill="#CFE6DF",
    driven="#1B2F5B",
    driven_fill="#D5DDEC",
    holds="#004F4C",
    thin="#6B4300",
    short="#8E0000",
)

CONTRAST_DARK = Theme(
    name="contrast dark",
    paper="#000000",
    band="#141414",
    card="#000000",
    line="#B0B0B0",
    ink="#FFFFFF",
    muted="#DDDDDD",
    faint="#BEBEBE",
    copper="#FFB07A",
    driver="#8CF0DC",
    driver_fill="#103B34",
    driven="#C3D3FF",
    driven_fill="#1C2740",
    holds="#7FF0E8",
    thin="#FFD166",
    short="#FF9C94",
)

THEMES = {t.name: t for t in (LIGHT, DARK, CONTRAST, CONTRAST_DARK)}


def other_theme(t: Theme, *, dark: bool | None = None, contrast: bool | None = None) -> Theme:
    """The theme that is dark or light, of strong contrast or not, where that is said; else as this one."""
    strong = t.name.startswith("contrast") if contrast is None else contrast
    night = t.dark if dark is None else dark
    return (CONTRAST_DARK if night else CONTRAST) if strong else (DARK if night else LIGHT)


def of_system() -> Theme:
    """The theme of who comes for the first time: light, of strong contrast where the system asks for it."""
    hints: Any = QGuiApplication.styleHints()
    asked = getattr(hints, "accessibility", lambda: None)()
    strong = asked is not None and "High" in str(asked.contrastPreference())
    return other_theme(LIGHT, contrast=strong)


HAIR, FINE, BOLD = 1.0, 1.3, 2.2
"""Line weights in pixels: construction lines, outlines, what is selected."""

TEXT, SMALL, TITLE = 10.0, 9.0, 13.0
"""Font sizes in points."""

SIZES = {TEXT: "text", SMALL: "small", TITLE: "title"}
"""Their names in the style sheet."""


def load_fonts() -> None:
    """Register the shipped fonts, so that every machine draws the same."""
    folder = files("cooper.stock") / "fonts"
    for name in ("Lato-Regular.ttf", "Lato-Italic.ttf", "Lato-Semibold.ttf"):
        QFontDatabase.addApplicationFont(str(folder / name))


@lru_cache(maxsize=64)
def font(size: float = TEXT, *, bold: bool = False, italic: bool = False) -> QFont:
    """The desk's font in points, with figures of equal width."""
    f = QFont(FAMILY)
    f.setPixelSize(round(size * 4 / 3))
    f.setWeight(QFont.Weight.DemiBold if bold else QFont.Weight.Normal)
    f.setItalic(italic)
    f.setFeature(QFont.Tag("tnum"), 1)
    f.setHintingPreference(QFont.HintingPreference.PreferNoHinting)
    return f


def set_style(widget: QWidget, name: str, value: str) -> bool:
    """Set a property that the style sheet selects by; returns whether it changed."""
    if (widget.property(name) or "") == value:
        return False
    widget.setProperty(name, value)
    if widget.testAttribute(Qt.WidgetAttribute.WA_WState_Polished):
        widget.style().polish(widget)
        widget.update()
    return True


def set_text_role(widget: QWidget, role: str, size: float = TEXT, *, bold: bool = False) -> bool:
    """Set the colour role, size and weight of the text of a label or button."""
    return set_style(widget, "word", " ".join((role, SIZES[size], *(["bold"] if bold else []))))


def set_does(button: QWidget, does: str) -> None:
    """Whether a word of a lens is "chosen" (the next one comes), "shown" or not, or is "done"."""
    set_style(button, "does", does)


ROLES = {
    "paper": (QPalette.ColorRole.Window, "window"),
    "card": (QPalette.ColorRole.Base, "base"),
    "band": (QPalette.ColorRole.AlternateBase, "alternate-base"),
    "line": (QPalette.ColorRole.Mid, "mid"),
    "ink": (QPalette.ColorRole.Text, "text"),
    "muted": (QPalette.ColorRole.Dark, "dark"),
    "faint": (QPalette.ColorRole.Shadow, "shadow"),
    "copper": (QPalette.ColorRole.Highlight, "highlight"),
    "holds": (QPalette.ColorRole.Midlight, "midlight"),
    "thin": (QPalette.ColorRole.BrightText, "bright-text"),
    "short": (QPalette.ColorRole.LinkVisited, "link-visited"),
}
"""The toolkit's colour that each of ours is in, and its name in style sheets."""

_SHEET = """
QToolTip { background: $card; color: $ink; border: 1px solid $line; padding: 4px 6px; }
QGraphicsView { border: none; }
QTextBrowser { background: $paper; }
QLineEdit { background: $card; border: 1px solid $copper; border-radius: 4px; padding: 1px 5px;
             selection-background-color: $copper; selection-color: $card; }
QLineEdit[calm="true"] { border-color: $line; }
QLineEdit[calm="true"]:focus { border-color: $copper; }
QLineEdit[fault="true"], QLineEdit[fault="true"]:focus { border-color: $short; }
QPlainTextEdit { background: $card; border: 1px solid $line; border-radius: 4px; }
QPlainTextEdit:focus { border-color: $copper; }
QCheckBox { background: transparent; spacing: 6px; padding: 2px 0; }
QCheckBox:focus { color: $copper; }
QCheckBox::indicator { width: 11px; height: 11px; border: 1px solid $faint; border-radius: 3px; background: $card; }
QCheckBox::indicator:checked { background: $copper; border-color: $copper; }
QListWidget { background: $card; border: none; outline: none; }
QListWidget::item { padding: 5px 8px; }
QListWidget::item:selected { background: $band; color: $copper; }
QFrame#sheet { background: $card; border: 1px solid $line; border-radius: 8px; }
QFrame#band { background: $band; }
QFrame#divider { background: $line; }
#walk_card { background: $card; border: 1px solid $copper; border-radius: 8px; }
QPushButton { background: $card; border: 1px solid $line; border-radius: 5px; padding: 4px 10px; }
QPushButton:hover, QPushButton:focus { border-color: $copper; color: $copper; }
QPushButton:disabled { color: $faint; background: transparent; }
QPushButton[plain="true"] { border: none; background: transparent; color: $muted; padding: 3px 6px; }
QPushButton[plain="true"]:hover, QPushButton[plain="true"]:focus { color: $copper; }
QPushButton[chip="true"] { border: none; background: $paper; color: $muted; padding: 3px 6px; }
QPushButton[warned="short"], QPushButton[warned="thin"], QPushButton[warned="muted"] { border-left: 3px solid $muted; border-radius: 0; }
QPushButton[warned="thin"] { border-left-color: $thin; }
QPushButton[warned="short"] { border-left-color: $short; }
$words
QPushButton[word] { background: transparent; }
QPushButton[does="chosen"] { border: none; background: transparent; border-bottom: 1px solid $muted; border-radius: 0; padding: 2px 3px; margin: 0 3px; color: $ink; }
QPushButton[does="shown"] { border: none; background: transparent; padding: 3px 6px; }
QPushButton[does="done"] { border: 1px solid $line; border-radius: 4px; background: $card; color: $copper; padding: 2px 8px; }
QPushButton[does="done"]:disabled { color: $faint; background: transparent; }
QPushButton[does]:hover { color: $copper; }
QPushButton[does]:focus { color: $copper; border-color: $copper; text-decoration: underline; }
QPushButton[chip="true"]:hover { color: $copper; }
QPushButton[chip="true"]:focus { text-decoration: underline; }
QPushButton[form="name"] { border: none; background: transparent; padding: 0; text-align: left; font-size: 19px; font-weight: 600; }
QPushButton[form="line"] { border: none; background: transparent; padding: 0 6px; text-align: left; }
QPushButton[form="line"]:hover, QPushButton[form="line"]:focus { color: $copper; }
Label[form="hint"] { background: $card; padding: 2px 5px; }
QTableView[form="narrow"], QTableView[form="narrow"] QHeaderView::section { font-size: 12px; }
QTableView[form="narrow"] QHeaderView::section { padding: 3px 1px; }
QTableView { background: $card; border: none; gridline-color: $band; outline: none; }
QTableView::item:selected { background: $band; color: $copper; }
QHeaderView, QHeaderView::section, QTableCornerButton::section { background: $card; color: $muted; border: none;
    border-bottom: 1px solid $line; padding: 2px 6px; font-size: 12px; }
QComboBox { background: $card; border: 1px solid $line; border-radius: 4px; padding: 2px 8px; }
QComboBox::drop-down { border: none; width: 18px; }
QComboBox:hover, QComboBox:focus { border-color: $copper; }
QComboBox QAbstractItemView { background: $card; border: 1px solid $line; selection-background-color: $band;
    selection-color: $copper; }
QMenu { background: $card; border: 1px solid $line; padding: 4px; }
QMenu::item { padding: 5px 18px; border-radius: 4px; }
QMenu::item:selected { background: $band; color: $copper; }
QScrollBar:vertical { background: transparent; width: 8px; margin: 0; }
QScrollBar:horizontal { background: transparent; height: 8px; margin: 0; }
QScrollBar::handle { background: $line; border-radius: 4px; min-height: 24px; min-width: 24px; }
QScrollBar::add-line, QScrollBar::sub-line { width: 0; height: 0; }
QScrollBar::add-page, QScrollBar::sub-page { background: transparent; }
"""

_IN_SHEET = {name: f"palette({known})" for name, (_role, known) in ROLES.items()}

_WORDS = {
    **{name: f"color: {color}" for name, color in _IN_SHEET.items()},
    **{name: f"font-size: {round(size * 4 / 3)}px" for size, name in SIZES.items()},
    "bold": "font-weight: 600",
}

STYLE_SHEET = Template(_SHEET).substitute(
    _IN_SHEET,
    words="\n".join(f'Label[word~="{one}"], QPushButton[word~="{one}"] {{ {rule}; }}' for one, rule in _WORDS.items()),
)
"""Style of the plain widgets; everything else paints itself, or has its ground of the palette. No rule reaches down
to every widget: it would be asked for each of them, whenever one is shown."""


def palette_of(t: Theme) -> QPalette:
    """Our colours by those of the toolkit: paper lies under windows, cards under what is read and typed."""
    result, role = QPalette(), QPalette.ColorRole
    for name, (one, _word) in ROLES.items():
        result.setColor(one, QColor(getattr(t, name)))
    for one, color in (
        (role.Button, t.card),
        (role.WindowText, t.ink),
        (role.ButtonText, t.ink),
        (role.HighlightedText, t.card),
        (role.PlaceholderText, t.muted),
        (role.ToolTipBase, t.card),
        (role.ToolTipText, t.ink),
        (role.Link, t.copper),
    ):
        result.setColor(one, QColor(color))
    return result


AFTER_MS = 50
"""When what is out of sight puts on a theme."""


def apply_theme(window: QWidget, theme: Theme) -> None:
    """Put a theme on a window and all within: one style sheet for good, whose colours are those of the palette.

    Another sheet would have the toolkit work through every widget once for each of its parents; asked anew for its
    colours, each is worked through once.
    """
    app = QApplication.instance()
    assert isinstance(app, QApplication)
    app.setPalette(palette_of(theme))
    if not window.styleSheet():
        window.setStyleSheet(STYLE_SHEET)
        return
    window.style().polish(window)
    # What lies over the window when it is wanted, as a notice does, is small and may come at once.
    over = window.findChildren(QWidget, options=Qt.FindChildOption.FindDirectChildrenOnly)
    ready = {part for one in over if one.isHidden() for part in (one, *one.findChildren(QWidget))}
    unseen = []
    for one in window.findChildren(QWidget):
        if one.isVisible() or one in ready:
            one.style().polish(one)
        else:
            unseen.append(one)
    # What is out of sight comes once the window is painted.
    later = Slices(window)
    later.start(_polished(unseen), lambda _last: later.deleteLater(), AFTER_MS)


def paint_next(whole: QWidget) -> None:
    """Paint a window, or a part of it, in the next turn of the event loop and not before, all of it, once."""
    whole.setUpdatesEnabled(False)
    QTimer.singleShot(1, whole, partial(_paint_once, whole))


def _paint_once(whole: QWidget) -> None:
    """Let a widget whose updates were held back paint again.

    The toolkit's own way asks each widget within to be painted, and the whole: it paints the whole with all that shines
    through, and then each of those again.
    """
    has = Qt.WidgetAttribute
    parts = [one for one in whole.findChildren(QWidget) if not one.isWindow()]
    whole.setAttribute(has.WA_ForceUpdatesDisabled, False)
    for one in (whole, *parts):
        if not one.testAttribute(has.WA_ForceUpdatesDisabled):
            one.setAttribute(has.WA_UpdatesDisabled, False)
    # Only opaque widgets need update(); transparent ones are repainted with their parent.
    ground = whole.centralWidget() if isinstance(whole, QMainWindow) else whole
    for one in (whole, *parts):
        if one is ground or (
            one.isVisible() and (one.autoFillBackground() or one.testAttribute(has.WA_OpaquePaintEvent))
        ):
            one.update()


def _polished(widgets: list[QWidget]) -> Iterator[None]:
    """Work through widgets one by one."""
    for one in widgets:
        if isValid(one):
            one.style().polish(one)
            if one.isVisible():
                one.update()
        yield
