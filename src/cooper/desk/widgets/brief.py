"""A brief: topics written as sentences with values in them, as an engineer would brief a colleague."""

from __future__ import annotations

import re

from msgspec import Struct
from msgspec.structs import replace
from PySide6.QtCore import QEvent, QSize
from PySide6.QtGui import QFont, QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import QWidget

from cooper.desk.base import theme as th
from cooper.desk.widgets.tag import HEIGHT
from cooper.desk.widgets.typeset import advance, words
from cooper.i18n.translate import translate

HEAD, BETWEEN_LINES, BETWEEN_TOPICS, SPACE = 150, 6, 14, 5
"""Width of the topics' names, and room between lines, topics and words; px."""
NARROW = 520
"""Width from which the name of a topic stands above its sentences; px."""
_SLOT = re.compile("\ue000(.*?)\ue001")


def slot(name: str) -> str:
    """What stands in a sentence for the value of a name, wherever a language puts it.

    >>> _SLOT.findall(f"by {slot('method')}: at least {slot('S_Hmin')}.")
    ['method', 'S_Hmin']
    """
    return f"\ue000{name}\ue001"


class Sentence(Struct, frozen=True):
    """A sentence with slots; ``light`` where it holds what is as usual."""

    text: str
    light: bool = False


class Topic(Struct, frozen=True):
    """A name with the sentences about it."""

    name: str
    sentences: list[Sentence]


class _Item(Struct):
    """A word or a value in a line: ``glued`` to the one before where no blank is between."""

    word: str
    part: QWidget | None
    glued: bool
    light: bool
    x: float = 0.0
    y: float = 0.0


def slots_of(sentence: Sentence) -> list[str]:
    """The names that stand in a sentence."""
    return _SLOT.findall(sentence.text)


def items_of(sentence: Sentence, parts: dict[str, QWidget]) -> list[_Item]:
    """Words and values of a sentence in the order of the language."""
    text, end = translate(sentence.text), 0
    items: list[_Item] = []
    for found in [*_SLOT.finditer(text), None]:
        between = text[end : found.start() if found else len(text)]
        for n, word in enumerate(between.split()):
            items.append(_Item(word, None, n == 0 and bool(items) and not between[:1].isspace(), sentence.light))
        if found:
            glued = bool(items) and not (between[-1:].isspace() or not between)
            items.append(_Item("", parts[found[1]], glued, sentence.light))
            end = found.end()
    return items


def with_parts(topics: list[Topic], parts: set[str]) -> list[Topic]:
    """The topics without the sentences in which something stands that there is not."""
    kept = [replace(t, sentences=[s for s in t.sentences if parts >= set(slots_of(s))]) for t in topics]
    return [t for t in kept if t.sentences]


class Brief(QWidget):
    """Topics with their sentences, broken into lines where they have to be; the values are tags and choices."""

    def __init__(self, theme: th.Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self.theme = theme
        self.setObjectName("brief")
        self._topics: list[tuple[str, list[list[_Item]]]] = []
        self._heads: list[tuple[str, float, float]] = []
        self._height = 0
        self._only: set[QWidget] | None = None

    def show_topics(self, topics: list[Topic], parts: dict[str, QWidget]) -> list[QWidget]:
        """Write the topics; returns the values in the order in which they are read."""
        topics = with_parts(topics, set(parts))
        self._topics = [(t.name, [items_of(s, parts) for s in t.sentences]) for t in topics]
        told = [[translate(t.name) + ":", *(_SLOT.sub("…", translate(s.text)) for s in t.sentences)] for t in topics]
        self.setAccessibleName(" ".join(text for topic in told for text in topic))
        self._flow(self.width())
        return [i.part for _name, sentences in self._topics for s in sentences for i in s if i.part is not None]

    def show_only(self, parts: set[QWidget] | None) -> None:
        """Leave the sentences that hold one of these values alone; None shows all."""
        self._only = parts
        for _name, sentences in self._topics:
            for items in sentences:
                there = self._there(items)
                for part in (i.part for i in items if i.part is not None):
                    part.setVisible(there)
        self._arrange()

    def _there(self, items: list[_Item]) -> bool:
        return self._only is None or any(i.part in self._only for i in items if i.part is not None)

    def _font(self, light: bool) -> QFont:
        return th.font(th.SMALL if light else th.TEXT)

    def _wide(self, item: _Item) -> float:
        if item.part is None:
            return advance(item.word, self._font(item.light))
        return min(max(item.part.sizeHint().width(), item.part.minimumWidth()), item.part.maximumWidth())

    def _flow(self, width: int, place: bool = False) -> int:
        """Break into lines of a width; returns the height. ``place`` moves the values where they belong."""
        bold = th.font(th.TEXT, bold=True)
        above = width < NARROW or any(advance(translate(name), bold) > HEAD - SPACE for name, _s in self._shown())
        left, y = (0.0 if above else float(HEAD)), 2.0
        heads: list[tuple[str, float, float]] = []
        for name, sentences in self._shown():
            heads.append((name, 0.0, y + 17))
            if above:
                y += 24
            for items in sentences:
                x = left
                for n, item in enumerate(items):
                    gap = 0.0 if item.glued or x == left else SPACE
                    # What is glued to this one goes to the next line with it.
                    together, k = self._wide(item), n + 1
                    while k < len(items) and items[k].glued:
                        together += self._wide(items[k])
                        k += 1
                    if not item.glued and x + gap + together > width and x > left:
                        x, y, gap = left, y + HEIGHT + BETWEEN_LINES, 0.0
                    if place:
                        item.x, item.y = x + gap, y
                        if item.part is not None:
                            item.part.setGeometry(round(item.x), round(y), round(self._wide(item)), HEIGHT)
                    x += gap + self._wide(item)
                y += HEIGHT + BETWEEN_LINES
            y += BETWEEN_TOPICS
        if place:
            self._heads = heads
        return round(y)

    def _shown(self) -> list[tuple[str, list[list[_Item]]]]:
        if self._only is None:
            return self._topics
        kept = ((name, [s for s in sentences if self._there(s)]) for name, sentences in self._topics)
        return [(name, sentences) for name, sentences in kept if sentences]

    def _arrange(self) -> None:
        height = self._flow(self.width(), place=True)
        if height != self._height:
            self._height = height
            self.updateGeometry()
        self.update()

    def hasHeightForWidth(self) -> bool:
        return True

    def heightForWidth(self, width: int) -> int:
        return self._flow(width)

    def sizeHint(self) -> QSize:
        return QSize(760, self._flow(max(self.width(), 760)))

    def minimumSizeHint(self) -> QSize:
        widest = max((self._wide(i) for _n, ss in self._topics for s in ss for i in s), default=0.0)
        return QSize(round(widest) + 4, self._flow(max(self.width(), round(widest) + 4)))

    def event(self, event: QEvent) -> bool:
        if event.type() == QEvent.Type.LayoutRequest:
            # A value has become wider or narrower.
            self._arrange()
        return super().event(event)

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._arrange()

    def paintEvent(self, event: QPaintEvent) -> None:
        p = QPainter(self)
        bold = th.font(th.TEXT, bold=True)
        for name, x, y in self._heads:
            words(p, name, bold, self.theme.color("copper"), x, y)
        for _name, sentences in self._shown():
            for item in (i for s in sentences for i in s if i.part is None):
                role = "muted" if item.light else "ink"
                words(p, item.word, self._font(item.light), self.theme.color(role), item.x, item.y + 17)
