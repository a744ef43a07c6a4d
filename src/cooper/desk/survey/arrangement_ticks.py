"""The arrangements that a survey looks at, as small drawings to tick."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton, QWidget

from cooper.desk.base import theme as th
from cooper.desk.widgets.labels import plain_tip
from cooper.desk.widgets.typeset import elided, words
from cooper.i18n.text import term
from cooper.i18n.translate import translate

SIZE = QSize(112, 82)

Circle = tuple[str, float, float, float]
"""Role, place and radius."""

_PLANETS: tuple[Circle, ...] = tuple(("driven", x, y, 1.0) for x, y in ((0.0, -2.0), (1.732, 1.0), (-1.732, 1.0)))
_STEPPED: tuple[Circle, ...] = tuple(
    ("driven", x, y, r) for x, y in ((0.0, -1.9), (1.65, 0.95), (-1.65, 0.95)) for r in (0.95, 0.6)
)
SKETCHES: dict[str, tuple[Circle, ...]] = {
    "pair": (("driver", -2.0, 0, 1.0), ("driven", 1.0, 0, 2.0)),
    "double helix": (("driver", -2.0, 0, 1.0), ("driven", 1.0, 0, 2.0), ("driven", 1.0, 0, 1.75)),
    "internal": (("driven", 0, 0, 2.6), ("hole", 0, 0, 2.2), ("driver", -1.3, 0, 0.9)),
    "two stages": (
        ("driver", -3.2, 0, 0.7),
        ("driven", -1.0, 0, 1.5),
        ("driver", -1.0, 0, 0.8),
        ("driven", 1.8, 0, 2.0),
    ),
    "two stages, coaxial": (
        ("driven", 0, -1.0, 1.7),
        ("driver", 0, -1.0, 0.8),
        ("driven", 0, 1.5, 1.7),
        ("driver", 0, 1.5, 0.7),
    ),
    "three stages": (
        ("driver", -3.6, 0, 0.5),
        ("driven", -2.1, 0, 1.0),
        ("driver", -2.1, 0, 0.55),
        ("driven", -0.3, 0, 1.25),
        ("driver", -0.3, 0, 0.7),
        ("driven", 2.1, 0, 1.7),
    ),
    "idler": (("driver", -2.4, 0, 0.9), ("driven", -0.5, 0, 1.0), ("driven", 2.1, 0, 1.6)),
    "planet set": (("driven", 0, 0, 3.4), ("hole", 0, 0, 3.0), *_PLANETS, ("driver", 0, 0, 1.0)),
    "stepped planets": (("driven", 0, 0, 3.2), ("hole", 0, 0, 2.85), *_STEPPED, ("driver", 0, 0, 0.95)),
    "two rings": (("driven", 0, 0, 3.4), ("driven", 0, 0, 3.15), ("hole", 0, 0, 2.9), *_PLANETS),
    "two rings, sun": (
        ("driven", 0, 0, 3.4),
        ("driven", 0, 0, 3.15),
        ("hole", 0, 0, 2.9),
        *_PLANETS,
        ("driver", 0, 0, 1.0),
    ),
}
"""Each arrangement in end view: not to scale, as one would sketch it."""


class ArrangementTick(QAbstractButton):
    """An arrangement that is searched where it is ticked."""

    def __init__(self, key: str, name: str, theme: th.Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self.key, self.name, self.theme = key, term(name), theme
        self.setObjectName(f"arrangement_{key}")
        self.setAccessibleName(translate(self.name))
        self.setCheckable(True)
        self.setFixedSize(SIZE)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        plain_tip(self, self.name)

    def paintEvent(self, event: QPaintEvent) -> None:
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        t, on = self.theme, self.isChecked()
        hot = self.underMouse() or self.hasFocus()
        p.setPen(QPen(t.color("copper" if hot or on else "line"), 1.6 if on else 1.0))
        p.setBrush(t.color("card"))
        p.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 6, 6)
        circles = SKETCHES[self.key]
        room = QRectF(8, 6, self.width() - 16, self.height() - 28)
        left = min(x - r for _c, x, _y, r in circles)
        right = max(x + r for _c, x, _y, r in circles)
        tall = max(abs(y) + r for _c, _x, y, r in circles)
        scale = min(room.width() / (right - left), room.height() / (2 * tall))
        middle = QPointF(room.center().x() - scale * (left + right) / 2, room.center().y())
        p.setOpacity(1.0 if on else 0.5)
        for role, x, y, r in circles:
            p.setPen(QPen(t.color("driven" if role == "hole" else role), th.FINE))
            p.setBrush(t.color("card" if role == "hole" else f"{role}_fill"))
            p.drawEllipse(QPointF(middle.x() + scale * x, middle.y() + scale * y), scale * r, scale * r)
        p.setOpacity(1.0)
        small = th.font(th.SMALL)
        shown = elided(self.name, small, self.width() - 12)
        words(p, shown, small, t.color("ink" if on else "muted"), 7, self.height() - 8)
        if on:
            p.setPen(QPen(t.color("copper"), 2))
            p.drawPolyline(
                [QPointF(self.width() - 20, 12), QPointF(self.width() - 15, 17), QPointF(self.width() - 8, 7)]
            )
