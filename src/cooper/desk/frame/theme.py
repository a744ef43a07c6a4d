"""Colours, fonts and line weights of the desk: a light theme and a dark one of the same family."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from importlib.resources import files
from typing import Any

from PySide6.QtGui import QColor, QFont, QFontDatabase, QGuiApplication, QPalette
from PySide6.QtWidgets import QWidget

FAMILY = "Lato"


@dataclass(frozen=True)
class Theme:
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


def load_fonts() -> None:
    """Register the shipped fonts, so that every machine draws the same."""
    folder = files("cooper.stock") / "fonts"
    for name in ("Lato-Regular.ttf", "Lato-Italic.ttf", "Lato-Semibold.ttf"):
        QFontDatabase.addApplicationFontFromData((folder / name).read_bytes())


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


def put_on(widget: QWidget, sheet: str) -> None:
    """Dress a widget, unless it wears that already: Qt works through all of it even where nothing changes."""
    if widget.styleSheet() != sheet:
        widget.setStyleSheet(sheet)


def label_style(t: Theme, role: str, size: float = TEXT, *, bold: bool = False) -> str:
    """Style of one label; the general style sheet would override a font set on it."""
    weight = "font-weight: 600; " if bold else ""
    return f"color: {getattr(t, role)}; font-size: {round(size * 4 / 3)}px; {weight}background: transparent;"


def palette_of(t: Theme) -> QPalette:
    """What lies behind the widgets: paper under windows, cards under what is read and typed. Rules of the style sheet that reach down to every widget would be
    asked for each of them, whenever one is shown."""
    found, role = QPalette(), QPalette.ColorRole
    rows = {
        role.Window: t.paper, role.Base: t.card, role.AlternateBase: t.band, role.Button: t.card, role.WindowText: t.ink, role.Text: t.ink,
        role.ButtonText: t.ink, role.PlaceholderText: t.faint, role.Highlight: t.copper, role.HighlightedText: t.card, role.ToolTipBase: t.card,
        role.ToolTipText: t.ink, role.Link: t.copper,
    }  # fmt: skip
    for one, color in rows.items():
        found.setColor(one, QColor(color))
    return found


def style_sheet(t: Theme) -> str:
    """Style of the plain widgets; everything else paints itself, or has its ground of the palette."""
    return f"""
    QWidget {{ color: {t.ink}; font-family: {FAMILY}; font-size: 13px; }}
    QToolTip {{ background: {t.card}; color: {t.ink}; border: 1px solid {t.line}; padding: 4px 6px; }}
    Label[role="head"] {{ color: {t.copper}; font-weight: 600; }}
    Label[role="told"] {{ color: {t.muted}; font-size: {round(SMALL * 4 / 3)}px; }}
    QScrollArea, QGraphicsView {{ border: none; }}
    QTextBrowser {{ background: {t.paper}; }}
    QLineEdit {{ background: {t.card}; border: 1px solid {t.copper}; border-radius: 4px; padding: 1px 5px;
                 selection-background-color: {t.copper}; selection-color: {t.card}; }}
    QLineEdit[calm="true"] {{ border-color: {t.line}; }}
    QLineEdit[calm="true"]:focus {{ border-color: {t.copper}; }}
    QPlainTextEdit {{ background: {t.card}; border: 1px solid {t.line}; border-radius: 4px; }}
    QPlainTextEdit:focus {{ border-color: {t.copper}; }}
    QCheckBox {{ background: transparent; spacing: 6px; padding: 2px 0; }}
    QCheckBox:focus {{ color: {t.copper}; }}
    QCheckBox::indicator {{ width: 11px; height: 11px; border: 1px solid {t.faint}; border-radius: 3px; background: {t.card}; }}
    QCheckBox::indicator:checked {{ background: {t.copper}; border-color: {t.copper}; }}
    QListWidget {{ background: {t.card}; border: none; outline: none; }}
    QListWidget::item {{ padding: 5px 8px; }}
    QListWidget::item:selected {{ background: {t.band}; color: {t.copper}; }}
    QFrame#sheet {{ background: {t.card}; border: 1px solid {t.line}; border-radius: 8px; }}
    QFrame#band {{ background: {t.band}; }}
    QPushButton {{ background: {t.card}; border: 1px solid {t.line}; border-radius: 5px; padding: 4px 10px; }}
    QPushButton:hover, QPushButton:focus {{ border-color: {t.copper}; color: {t.copper}; }}
    QPushButton:disabled {{ color: {t.faint}; background: transparent; }}
    QPushButton[plain="true"] {{ border: none; background: transparent; color: {t.muted}; padding: 3px 6px; }}
    QPushButton[plain="true"]:hover, QPushButton[plain="true"]:focus {{ color: {t.copper}; }}
    QPushButton[chip="true"] {{ border: none; background: {t.paper}; color: {t.muted}; padding: 3px 6px; }}
    QPushButton[warned="short"], QPushButton[warned="thin"], QPushButton[warned="muted"] {{ border-left: 3px solid {t.muted}; border-radius: 0; }}
    QPushButton[warned="thin"] {{ border-left-color: {t.thin}; }}
    QPushButton[warned="short"] {{ border-left-color: {t.short}; }}
    QPushButton[chip="true"]:hover, QPushButton[chip="true"]:focus {{ color: {t.copper}; }}
    QTableView {{ background: {t.card}; border: none; gridline-color: {t.band}; outline: none; }}
    QTableView::item:selected {{ background: {t.band}; color: {t.copper}; }}
    QHeaderView, QHeaderView::section, QTableCornerButton::section {{ background: {t.card}; color: {t.muted}; border: none;
        border-bottom: 1px solid {t.line}; padding: 2px 6px; font-size: 12px; }}
    QComboBox {{ background: {t.card}; border: 1px solid {t.line}; border-radius: 4px; padding: 2px 8px; }}
    QComboBox::drop-down {{ border: none; width: 18px; }}
    QComboBox:hover, QComboBox:focus {{ border-color: {t.copper}; }}
    QComboBox QAbstractItemView {{ background: {t.card}; border: 1px solid {t.line}; selection-background-color: {t.band};
        selection-color: {t.copper}; }}
    QMenu {{ background: {t.card}; border: 1px solid {t.line}; padding: 4px; }}
    QMenu::item {{ padding: 5px 18px; border-radius: 4px; }}
    QMenu::item:selected {{ background: {t.band}; color: {t.copper}; }}
    QScrollBar:vertical {{ background: transparent; width: 8px; margin: 0; }}
    QScrollBar:horizontal {{ background: transparent; height: 8px; margin: 0; }}
    QScrollBar::handle {{ background: {t.line}; border-radius: 4px; min-height: 24px; min-width: 24px; }}
    QScrollBar::add-line, QScrollBar::sub-line {{ width: 0; height: 0; }}
    QScrollBar::add-page, QScrollBar::sub-page {{ background: transparent; }}
    """
