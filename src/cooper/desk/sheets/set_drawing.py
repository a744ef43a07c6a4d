"""A set in end view: where power comes in, goes out and what is held is chosen on the members themselves."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.widgets.choices import Choice, Option
from cooper.desk.widgets.shapes import role_of
from cooper.desk.widgets.tag import HEIGHT
from cooper.desk.widgets.typeset import words
from cooper.document.models import Design
from cooper.editing.make_sets import roles, with_roles
from cooper.i18n.text import term, tr
from cooper.i18n.translate import translate
from cooper.results.pose import pose

ROLE_WORDS = (tr("power comes in"), tr("power goes out"), tr("held"))
"""What a member does, in the order in which a set states it."""


class SetDrawing(QWidget):
    """The gears of set n; a click on a member, or on its words beside, opens what it can be."""

    def __init__(self, session: Session, theme: th.Theme, n: int) -> None:
        super().__init__()
        self.session, self.theme, self.n = session, theme, n
        self.setObjectName("set_drawing")
        self.setAccessibleName(translate(tr("Which shafts are driven and held")))
        self.shafts = session.design.train.placed[n].arranged.shafts_of(session.design.train.placed[n].free_sun)
        self.choices = {member: self._choice(member) for member in self.shafts}
        self.setMinimumSize(300, max(150, (HEIGHT + 10) * len(self.shafts) + 20))

    def _choice(self, member: str) -> Choice:
        choice = Choice(
            self.session,
            f"role_{member.replace(' ', '_')}",
            tr("what the {member} does", member=term(member)),
            partial(self._now, member),
            partial(self._options, member),
        )
        choice.setParent(self)
        return choice

    def _roles(self, design: Design) -> tuple[str | None, ...]:
        if self.n >= len(design.train.placed):
            return ()
        one = design.train.placed[self.n]
        return one.input, one.output, one.held

    def _held(self, design: Design) -> bool:
        """Whether the third shaft is held; it may give power off too."""
        return self.n < len(design.train.placed) and design.train.placed[self.n].second is None

    def _now(self, member: str, design: Design) -> str:
        now = self._roles(design)
        if member in now[2:] and not self._held(design):
            return tr("{member}: {what}", member=term(member), what=tr("gives power off too"))
        return tr("{member}: {what}", member=term(member), what=ROLE_WORDS[now.index(member)] if member in now else "–")

    def _options(self, member: str) -> list[Option]:
        """What the member can do: it changes places with the one that does it now."""
        design = self.session.design
        now = list(self._roles(design))
        rows: list[Option] = []
        for k, what in enumerate(ROLE_WORDS):
            swapped: list[str | None] = list(now)
            if member in now:
                swapped[now.index(member)] = now[k]
            swapped[k] = member
            wanted = (str(swapped[0]), str(swapped[1]), swapped[2])
            if wanted in roles(design.train.placed[self.n]):
                rows.append((what, partial(_take, self.n, wanted)))
        return rows

    def refresh(self) -> None:
        """Follow the design."""
        for choice in self.choices.values():
            choice.refresh()
        self._arrange()
        self.update()

    def _arrange(self) -> None:
        for choice in self.choices.values():
            choice.adjustSize()
        # From top to bottom as the members are pointed at, so that no leader crosses another.
        ways, _circles = self.places()
        y = 10
        for choice in sorted(self.choices.values(), key=lambda c: self._height(c, ways)):
            choice.move(self.width() - choice.width() - 4, y)
            y += HEIGHT + 10

    def _height(self, choice: Choice, ways: dict[str, QPointF]) -> float:
        member = next(m for m, c in self.choices.items() if c is choice)
        return ways[member].y() if member in ways else 0.0

    def resizeEvent(self, event: object) -> None:
        self._arrange()

    def places(self) -> tuple[dict[str, QPointF], list[tuple[str, QPointF, float]]]:
        """Where each member is pointed at, and the circles that are drawn (px)."""
        results = self.session.results
        if self.n >= len(results.sets):
            return {}, []
        one = results.sets[self.n]
        placed = [g for g in pose(results, 0.0).gears if g.stage in one.stages]
        rows = []
        for g in placed:
            section = results.stages[g.stage].sections[g.i]
            rows.append((role_of(g), g.x, g.y, max(section.reach, section.edge / 2), g.member, g.planet))
        left, right = min(x - r for _c, x, _y, r, *_ in rows), max(x + r for _c, x, _y, r, *_ in rows)
        low, high = min(y - r for _c, _x, y, r, *_ in rows), max(y + r for _c, _x, y, r, *_ in rows)
        beside = max(c.width() for c in self.choices.values()) + 24
        room = QRectF(8, 8, self.width() - beside - 8, self.height() - 16)
        scale = min(room.width() / (right - left), room.height() / (high - low))

        def at(x: float, y: float) -> QPointF:
            middle = room.center()
            return QPointF(middle.x() + scale * (x - (left + right) / 2), middle.y() - scale * (y - (low + high) / 2))

        circles = [(role, at(x, y), scale * r) for role, x, y, r, *_ in sorted(rows, key=lambda c: -c[3])]
        ways: dict[str, QPointF] = {}
        carrier = one.arranged.carrier
        for _role, x, y, r, member, planet in rows:
            name = carrier if planet is not None and carrier in self.shafts else member
            if name in self.shafts and name not in ways:
                rim = 0.0 if name == carrier else 0.97 * r * (1 if "ring" in name else 0.7)
                ways[name] = at(x + 0.75 * rim, y + 0.66 * rim)
        return ways, circles

    def paintEvent(self, event: QPaintEvent) -> None:
        ways, circles = self.places()
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        t = self.theme
        for role, middle, r in circles:
            p.setPen(QPen(t.color(role), th.FINE))
            p.setBrush(t.color(f"{role}_fill"))
            p.drawEllipse(middle, r, r)
        held = self._roles(self.session.design)[2:3] if self._held(self.session.design) else ()
        p.setBrush(Qt.BrushStyle.NoBrush)
        for member, place in ways.items():
            choice = self.choices[member]
            p.setPen(QPen(t.color("copper" if choice.hasFocus() else "muted"), th.HAIR))
            p.drawLine(QPointF(choice.x() - 2, choice.y() + choice.height() / 2), place)
            p.drawEllipse(place, 2.5, 2.5)
            if member in held:
                words(p, tr("held"), th.font(th.SMALL), t.color("muted"), place.x() + 5, place.y() - 5)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """The member that is pointed at nearest by opens what it can be."""
        ways, _circles = self.places()
        if ways and event.button() == Qt.MouseButton.LeftButton:
            here = event.position()
            nearest = min(ways, key=lambda m: (ways[m] - here).manhattanLength())
            self.choices[nearest].setFocus()
            self.choices[nearest].click()


def _take(n: int, wanted: tuple[str, str, str | None], design: Design) -> Design:
    return with_roles(design, n, wanted)
