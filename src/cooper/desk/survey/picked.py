"""The shelf: up to six picked designs at one scale, and all of them side by side with the numbers that differ."""

from __future__ import annotations

from pathlib import Path

from msgspec import Struct
from PySide6.QtCore import QBuffer, QMimeData, QPoint, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QContextMenuEvent,
    QGuiApplication,
    QKeyEvent,
    QMouseEvent,
    QPageLayout,
    QPageSize,
    QPainter,
    QPaintEvent,
    QPdfWriter,
    QPen,
)
from PySide6.QtWidgets import QMenu, QWidget

from cooper.atomic_write import atomic_write_bytes
from cooper.desk.base import theme as th
from cooper.desk.lenses.train_painter import HOUSING, Look, TrainPainter
from cooper.desk.widgets.in_memory import in_memory
from cooper.desk.widgets.typeset import draw, draw_right, draw_verdict, elided, label_runs, symbol_runs, words
from cooper.i18n.text import join, tr
from cooper.i18n.translate import translate
from cooper.results.heights import heights
from cooper.results.result_tree import Check, Results
from cooper.survey.criteria import CRITERIA

MOST = 6
LETTERS = "ABCDEF"
END_SHARE = 0.58
CHECKS = 5
ROW = 21
LABELS = 210
"""Width of the words in front of the columns."""
QUIET = Look(HOUSING, circles=False, paths=False)


class Pick(Struct):
    """A design on the shelf: its number among those found (-1 the present one), its words, its quantities, its
    results."""

    number: int
    words: str
    values: dict[str, float]
    results: Results


def worst_of(results: Results, symbol: str) -> Check | None:
    """The worst check of a symbol."""
    result = [c for c in results.checks if c.symbol == symbol]
    return min(result, key=lambda c: c.margin) if result else None


def common_scale(picks: list[Pick], theme: th.Theme, room: QRectF) -> float:
    """Pixels per mm at which the largest of the designs fits a room."""
    return min((TrainPainter(p.results, theme).scale(room) for p in picks), default=1.0)


def paint_end(p: QPainter, results: Results, theme: th.Theme, room: QRectF, scale: float) -> None:
    """The end view at a scale, in the middle of a room."""
    painter = TrainPainter(results, theme)
    low, high, up = painter.extent
    w, h = (high - low) * scale, 2 * up * scale
    painter.paint(p, QRectF(room.center().x() - w / 2, room.center().y() - h / 2, w, h), 0.3, QUIET)


def paint_side(p: QPainter, results: Results, theme: th.Theme, room: QRectF, scale: float) -> None:
    """The widths of all gears over their diameters, the axes one below the other, at a scale."""
    painter = TrainPainter(results, theme)
    at = heights(results)
    wide = max(z + max(g.b for g in s.gears) / 2 for z, s in zip(at, results.stages, strict=True))
    low, high, _ = painter.extent
    middle = (low + high) / 2
    p.save()
    p.setClipRect(room)
    left = room.center().x() - wide * scale / 2
    for g in painter.at_rest.gears:
        stage = results.stages[g.stage]
        values, kind = stage.gears[g.i], stage.kinds[g.i]
        radius, half = kind.outside(values) / 2 * scale, values.b / 2 * scale
        x, y = left + at[g.stage] * scale, room.center().y() + (g.x - middle) * scale
        role = "driver" if g.drives else "driven"
        p.setPen(QPen(theme.color(role), 1.0))
        p.setBrush(theme.color(f"{role}_fill", 0.55))
        if kind.inward:
            rim = max(radius - values.d_a / 2 * scale, 1.0)
            p.drawRect(QRectF(x - half, y - radius, 2 * half, rim))
            p.drawRect(QRectF(x - half, y + radius - rim, 2 * half, rim))
        elif g.planet in (None, 0):
            p.drawRect(QRectF(x - half, y - radius, 2 * half, 2 * radius))
    p.restore()


def paint_bar(p: QPainter, theme: th.Theme, check: Check, room: QRectF) -> None:
    """A margin as a bar from the limit in the middle, up to 100 % either way."""
    p.fillRect(room, theme.color("line", 0.6))
    middle = room.center().x()
    reach = min(max(check.margin, -1.0), 1.0) * room.width() / 2
    p.fillRect(
        QRectF(min(middle, middle + reach), room.top() - 1, abs(reach), room.height() + 2), theme.color(check.verdict)
    )
    p.setPen(QPen(theme.color("ink"), 1.0))
    p.drawLine(QPointF(middle, room.top() - 3), QPointF(middle, room.bottom() + 3))


class Shelf(QWidget):
    """The picked designs below each other. Delete takes one off, Enter or a double click makes it the present
    design."""

    chosen = Signal(int)
    removed = Signal(int)
    taken = Signal(int)

    def __init__(self, theme: th.Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.theme = theme
        self.picks: list[Pick] = []
        self.at = -1
        self.setObjectName("shelf")
        self.setAccessibleName(translate(tr("Shelf of picked designs")))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def sizeHint(self) -> QSize:
        return QSize(262, 400)

    def show_picks(self, picks: list[Pick]) -> None:
        """Show these."""
        self.picks = picks
        self.at = min(self.at, len(picks) - 1)
        text = join(
            "; ",
            (tr("{letter}: {words}", letter=letter, words=p.words) for letter, p in zip(LETTERS, picks, strict=False)),
        )
        self.setAccessibleDescription(translate(text or tr("empty")))
        self.update()

    def _cell(self, k: int) -> QRectF:
        tall = min(self.height() / max(len(self.picks), 3), 190.0)
        return QRectF(0, k * tall, self.width(), tall)

    def paintEvent(self, event: QPaintEvent) -> None:
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        t, small, bold = self.theme, th.font(th.SMALL), th.font(th.TEXT, bold=True)
        if not self.picks:
            for k, line in enumerate(
                (
                    tr("A double click on a point, or Enter,"),
                    tr("puts a design here: up to six,"),
                    tr("drawn at one scale."),
                )
            ):
                words(p, line, small, t.color("muted"), 4, 22 + 17 * k)
            return
        cell = self._cell(0)
        end = QRectF(0, 0, cell.width() * END_SHARE - 8, cell.height() - 44)
        scale = common_scale(self.picks, t, end)
        for k, pick in enumerate(self.picks):
            box = self._cell(k)
            if k == self.at:
                p.setPen(QPen(t.color("copper", 0.8 if self.hasFocus() else 0.4), 1.2))
                p.setBrush(t.color("card"))
                p.drawRoundedRect(box.adjusted(1, 1, -1, -2), 6, 6)
            name = tr("{letters}  {value}", letters=LETTERS[k], value=tr("present") if pick.number < 0 else "").strip()
            words(p, name, bold, t.color("ink"), box.left() + 8, box.top() + 17)
            mass = CRITERIA["mass"]
            if "mass" in pick.values:
                words(
                    p,
                    tr("{mass} kg", mass=mass.text(pick.values["mass"])),
                    small,
                    t.color("muted"),
                    box.right() - 8,
                    box.top() + 17,
                    right=True,
                )
            words(
                p, elided(pick.words, small, box.width() - 16), small, t.color("muted"), box.left() + 8, box.top() + 32
            )
            room = QRectF(box.left() + 6, box.top() + 36, end.width(), end.height())
            paint_end(p, pick.results, t, room, scale)
            self._margins(
                p,
                pick,
                QRectF(
                    box.left() + box.width() * END_SHARE + 4,
                    box.top() + 42,
                    box.width() * (1 - END_SHARE) - 12,
                    box.height() - 44,
                ),
            )

    def _margins(self, p: QPainter, pick: Pick, room: QRectF) -> None:
        t = self.theme
        checks = sorted(pick.results.checks, key=lambda c: c.margin)
        step = 17.0
        # With several stages a symbol alone would not say whose it is.
        several = len(pick.results.stages) > 1
        wide = 68.0 if several else 38.0
        for n, check in enumerate(checks[: max(int((room.height() - 14) / step), 1)][:CHECKS]):
            y = room.top() + n * step
            draw(p, symbol_runs(check.symbol, check.index, t.color("muted"), th.SMALL), room.left(), y + 9)
            if several and check.stage is not None:
                at, small = room.left() + wide - 6, th.font(th.SMALL)
                words(p, tr("st. {value}", value=check.stage + 1), small, t.color("faint"), at, y + 9, right=True)
            paint_bar(p, t, check, QRectF(room.left() + wide, y + 3, max(room.width() - wide, 10), 5))
        worst = checks[0]
        sense = {"holds": "holds", "thin": "thin", "short": "short"}[pick.results.verdict]
        words(
            p,
            tr("{sense}, {margin:.0f} %", sense=sense, margin=100 * worst.margin),
            th.font(th.SMALL),
            t.color(pick.results.verdict),
            room.right(),
            room.bottom() - 2,
            right=True,
        )

    def _under(self, y: float) -> int:
        return next((k for k in range(len(self.picks)) if self._cell(k).top() <= y < self._cell(k).bottom()), -1)

    def choose(self, k: int) -> None:
        """Make one of them the one that is marked."""
        self.at = k
        if 0 <= k < len(self.picks):
            self.chosen.emit(self.picks[k].number)
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus(Qt.FocusReason.MouseFocusReason)
        self.choose(self._under(event.position().y()))

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        k = self._under(event.position().y())
        if k >= 0:
            self.taken.emit(self.picks[k].number)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = event.key()
        if key in (Qt.Key.Key_Up, Qt.Key.Key_Down) and self.picks:
            self.choose((self.at + (1 if key == Qt.Key.Key_Down else -1)) % len(self.picks))
        elif key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace) and self.at >= 0:
            self.removed.emit(self.picks[self.at].number)
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space) and self.at >= 0:
            self.taken.emit(self.picks[self.at].number)
        else:
            event.ignore()

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        k = self._under(event.pos().y())
        if k < 0:
            return
        menu = QMenu(self)
        number = self.picks[k].number
        if number >= 0:
            menu.addAction(translate(tr("Take it\tEnter")), lambda: self.taken.emit(number))
        menu.addAction(translate(tr("Take it off the shelf\tDel")), lambda: self.removed.emit(number))
        menu.exec(event.globalPos())


class SideBySide(QWidget):
    """All picked designs in columns: end view and side view at one scale, the numbers that differ, the margins as
    bars."""

    printing = Signal()

    def __init__(self, theme: th.Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.theme, self.system = theme, "mm"
        self.picks: list[Pick] = []
        self.setObjectName("side_by_side")
        self.setAccessibleName(translate(tr("Picked designs side by side")))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def show_picks(self, picks: list[Pick]) -> None:
        """Show these."""
        self.picks = picks
        self.setMinimumHeight(300 + ROW * (len(self.rows()) + len(self.symbols())) if picks else 0)
        self.setAccessibleDescription(translate(self.as_text()))
        self.update()

    def rows(self) -> list[str]:
        """The quantities that differ."""
        return [
            key
            for key in CRITERIA
            if any(key in p.values for p in self.picks)
            and len({CRITERIA[key].text(p.values.get(key, float("nan")), self.system) for p in self.picks}) > 1
        ]

    def symbols(self) -> list[str]:
        """The checks that any of them has, those first that are worst somewhere."""
        least: dict[str, float] = {}
        for pick in self.picks:
            for c in pick.results.checks:
                least[c.symbol] = min(least.get(c.symbol, 1e9), c.margin)
        return sorted(least, key=lambda s: least[s])

    def as_text(self) -> str:
        """The same as text with tabs."""
        lines = [
            "\t".join(
                [
                    "",
                    *(
                        tr("{letter} {words}", letter=letter, words=p.words)
                        for letter, p in zip(LETTERS, self.picks, strict=False)
                    ),
                ]
            )
        ]
        for key in self.rows():
            known = CRITERIA[key]
            cells = [known.text(p.values.get(key, float("nan")), self.system) for p in self.picks]
            lines.append(
                "\t".join([tr("{words} {system}", words=known.words, system=known.unit(self.system)).strip(), *cells])
            )
        for symbol in self.symbols():
            result = [worst_of(p.results, symbol) for p in self.picks]
            lines.append(
                "\t".join(
                    [
                        tr("margin of {symbol}", symbol=symbol),
                        *("–" if c is None else tr("{margin:.1f} %", margin=100 * c.margin) for c in result),
                    ]
                )
            )
        return join("\n", lines)

    def copy(self) -> None:
        """To the clipboard, as a table and as a picture."""
        data = QMimeData()
        data.setText(translate(self.as_text()))
        data.setImageData(self.grab().toImage())
        QGuiApplication.clipboard().setMimeData(data)

    def print_to(self, path: Path) -> None:
        """Write the page as PDF, whole or not at all."""

        def write(out: QBuffer) -> None:
            writer = QPdfWriter(out)
            writer.setPageSize(QPageSize(QPageSize.PageSizeId.A4))
            writer.setPageOrientation(QPageLayout.Orientation.Landscape)
            writer.setTitle(translate(tr("Designs side by side")))
            painter = QPainter(writer)
            scale = min(writer.width() / self.width(), writer.height() / max(self.height(), 1))
            painter.scale(scale, scale)
            self.render(painter, QPoint(0, 0))
            painter.end()

        atomic_write_bytes(path, in_memory(write))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_C and event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.copy()
        else:
            event.ignore()

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        menu = QMenu(self)
        menu.addAction(translate(tr("Copy as table and picture\tCtrl+C")), self.copy)
        menu.addAction(translate(tr("Save as PDF …")), self.printing.emit)
        menu.exec(event.globalPos())

    def paintEvent(self, event: QPaintEvent) -> None:
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        t, small, bold = self.theme, th.font(th.SMALL), th.font(th.TEXT, bold=True)
        if not self.picks:
            words(p, tr("Nothing stands on the shelf yet."), small, t.color("muted"), 12, 24)
            return
        w = (self.width() - LABELS - 8) / len(self.picks)
        end, side = QRectF(0, 0, w - 12, 132), QRectF(0, 0, w - 12, 92)
        scale = common_scale(self.picks, t, end)
        tall = max((TrainPainter(q.results, t).extent[1] - TrainPainter(q.results, t).extent[0]) for q in self.picks)
        # Both views at one scale.
        scale = min(scale, side.height() / tall)
        words(p, tr("end view"), small, t.color("muted"), 8, 110)
        words(p, tr("side view"), small, t.color("muted"), 8, 232)
        for k, pick in enumerate(self.picks):
            x = LABELS + k * w
            words(
                p,
                tr("{letters}{value}", letters=LETTERS[k], value=tr("  present") if pick.number < 0 else ""),
                bold,
                t.color("ink"),
                x,
                18,
            )
            words(p, elided(pick.words, small, w - 10), small, t.color("muted"), x, 34)
            paint_end(p, pick.results, t, end.translated(x, 42), scale)
            paint_side(p, pick.results, t, side.translated(x, 184), scale)
        y = 296.0
        for key in self.rows():
            known = CRITERIA[key]
            draw(p, [*symbol_runs(known.symbol, None, t.color("ink"))], 8, y)
            words(p, elided(known.words, small, LABELS - 70), small, t.color("muted"), 62, y)
            held = [q.values.get(key, float("nan")) for q in self.picks]
            best = max(held, key=lambda v: known.better * v) if known.better else None
            for k, value in enumerate(held):
                text = tr(
                    "{system} {system_2}", system=known.text(value, self.system), system_2=known.unit(self.system)
                ).strip()
                f = bold if value == best else th.font()
                words(p, text, f, t.color("ink"), LABELS + k * w, y)
            y += ROW
        y += 6
        for symbol in self.symbols():
            draw(p, label_runs(symbol, t.color("ink")), 8, y)
            words(p, tr("margin"), small, t.color("muted"), 62, y)
            for k, pick in enumerate(self.picks):
                check = worst_of(pick.results, symbol)
                if check is None:
                    continue
                x = LABELS + k * w
                draw_verdict(p, t, check.verdict, QRectF(x, y - 10, 11, 11))
                paint_bar(p, t, check, QRectF(x + 18, y - 7, max(w - 90, 20), 5))
                runs = label_runs(tr("{margin:.0f} %", margin=100 * check.margin), t.color(check.verdict), th.SMALL)
                draw_right(p, runs, x + w - 16, y)
            y += ROW
