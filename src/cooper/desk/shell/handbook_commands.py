"""The handbook beside the window: pages, search, pictures that are drawn when they are looked at."""

from __future__ import annotations

import sys
import tempfile
from importlib.resources import files
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QProcess, QSize, Qt, QUrl
from PySide6.QtGui import QImage, QKeyEvent, QKeySequence, QPainter, QPixmap, QResizeEvent, QTextDocument
from PySide6.QtWidgets import (
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QTextBrowser,
    QVBoxLayout,
    QWidget,
)
from shiboken6 import isValid

from cooper.demo import DEMOS, demo
from cooper.desk.base import theme as th
from cooper.desk.base.child import surroundings
from cooper.desk.base.lens_entries import LENSES
from cooper.desk.base.registry import Action, groups, register_actions, sheets
from cooper.desk.base.workers import submit
from cooper.desk.widgets.symbol_titles import Titles
from cooper.handbook.book import KINDS_OF_PAGES, Book, Page, Verb, picture_places
from cooper.i18n.text import tr
from cooper.i18n.translate import translate

if TYPE_CHECKING:
    from cooper.desk.shell.window import Window

FIRST = "task/window"
OF_LENS = {
    "teeth": "task/pair",
    "side": "lens/side",
    "contact": "task/quiet",
    "shifts": "task/pair",
    "tooth": "lens/tooth",
    "train": "lens/train",
    "set": "task/planets",
    "shafts": "task/machine",
    "stress": "task/break",
}
"""The page that a lens is told of best."""
PICTURE = QSize(1280, 800)
WIDE = 620


def verbs() -> list[Verb]:
    """All that the program can do: lenses with their keys, sheets, commands."""

    def keys(shortcut: str) -> str:
        return QKeySequence(shortcut).toString() if shortcut else ""

    result = []
    for n, entry in enumerate(LENSES.values(), 1):
        rows = next((v.VERBS for v in vars(entry.module).values() if isinstance(v, type) and hasattr(v, "VERBS")), ())
        result.append(
            Verb(
                entry.key, tr("Lens {words}", words=entry.words), f"Alt+{n}", "lens", tuple((w, k) for w, k, _ in rows)
            )
        )
    result += [Verb(s.key, s.words, keys(s.shortcut), "sheet") for s in sheets().values()]
    result += [Verb(a.key, a.words, keys(a.shortcut), "command") for group in groups().values() for a in group]
    return result


class Pictures:
    """The handbook's pictures, drawn by the program itself in a process beside it, one after the other, each once."""

    def __init__(self, came: Any) -> None:
        self.came = came
        self.folder = tempfile.TemporaryDirectory(prefix="cooper-handbook-")
        self.done: dict[str, QPixmap] = {}
        self.waiting: list[str] = []
        self.drawn = ""
        self.process: QProcess | None = None

    def want(self, name: str) -> QPixmap | None:
        """A picture if it is there; else it is drawn, and ``came`` is called."""
        if name not in self.done and name != self.drawn:
            # What is looked at last is drawn first.
            self.waiting = [name, *(n for n in self.waiting if n != name)]
            self._next()
        return self.done.get(name)

    def _next(self) -> None:
        if self.process is not None or not self.waiting:
            return
        name = self.drawn = self.waiting.pop(0)
        out = Path(self.folder.name) / f"{name.replace('/', '-').replace(' ', '-')}.png"
        design, _, lens = name.partition("/")
        if design not in DEMOS:
            # The page of a report is taken from one.
            self._page(out)
            self._take(name, out)
            return
        words = [
            "-m",
            "cooper",
            "shot",
            str(files("cooper.demo") / f"{design}.json"),
            "--lens",
            lens,
            "--out",
            str(out),
        ]
        process = QProcess()
        self.process = process
        process.setProcessEnvironment(surroundings())

        def finished() -> None:
            self.process = None
            if not isValid(process):
                # The program ends.
                return
            process.deleteLater()
            self._take(name, out)

        process.finished.connect(finished)
        process.start(sys.executable, [*words, "--size", f"{PICTURE.width()}x{PICTURE.height()}"])

    def _page(self, out: Path) -> None:
        from cooper.exchange.report_pdf import page_png
        from cooper.results.evaluate import evaluate

        design = demo()
        out.write_bytes(page_png(design, evaluate(design), 2))

    def _take(self, name: str, out: Path) -> None:
        self.drawn = ""
        picture = QPixmap(str(out))
        if not picture.isNull():
            self.done[name] = picture.scaledToWidth(WIDE * 2, Qt.TransformationMode.SmoothTransformation)
        self.came()
        self._next()

    def close(self) -> None:
        """Stop drawing."""
        self.waiting.clear()
        if self.process is not None:
            self.process.finished.disconnect()
            self.process.kill()
            self.process.waitForFinished(2000)
            self.process = None
        self.folder.cleanup()


class Reader(QTextBrowser):
    """A page; its pictures come from `Pictures`."""

    def __init__(self, pictures: Pictures) -> None:
        super().__init__()
        self.pictures = pictures
        self.setOpenLinks(False)
        self.setObjectName("handbook_page")

    def loadResource(self, kind: int, name: QUrl | str) -> Any:
        if kind == int(QTextDocument.ResourceType.ImageResource.value):
            result = self.pictures.want(QUrl(name).toString().removeprefix("picture:").replace("%20", " "))
            if result is not None:
                return result
            blank = QImage(PICTURE, QImage.Format.Format_RGB32)
            blank.fill(self.palette().base().color())
            p = QPainter(blank)
            p.setPen(self.palette().placeholderText().color())
            p.setFont(th.font(28))
            p.drawText(blank.rect(), Qt.AlignmentFlag.AlignCenter, translate(tr("The program draws this picture …")))
            p.end()
            return blank
        return None


class Handbook(QWidget):
    """The handbook in a window of its own: what is searched and listed at the left, a page at the right."""

    def __init__(self, window: Window) -> None:
        super().__init__(window, Qt.WindowType.Window)
        self.window_ = window
        self.setWindowTitle(translate(tr("Cooper: handbook")))
        self.setObjectName("handbook")
        self.book = Book(())
        self.page = Page(FIRST, "", "<p>" + translate(tr("Opening …")) + "</p>", "")
        self.wanted = FIRST
        self.seen: list[str] = []
        self.pictures = Pictures(self._picture_came)
        row = QHBoxLayout(self)
        left = QVBoxLayout()
        self.line = QLineEdit()
        self.line.setObjectName("handbook_search")
        self.line.setAccessibleName(translate(tr("Search the handbook")))
        self.line.setPlaceholderText(translate(tr("Search: a task, a symbol, a note …")))
        self.line.textChanged.connect(self.list_pages)
        self.list = QListWidget()
        self.list.setObjectName("handbook_list")
        self.list.setAccessibleName(translate(tr("Pages of the handbook")))
        self.list.setItemDelegate(Titles(self.list))
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.setTextElideMode(Qt.TextElideMode.ElideRight)
        self.list.itemActivated.connect(self._chosen)
        self.list.itemClicked.connect(self._chosen)
        left.addWidget(self.line)
        left.addWidget(self.list, 1)
        right = QVBoxLayout()
        above = QHBoxLayout()
        self.back = QPushButton(translate(tr("Back  Alt+Left")))
        self.back.setObjectName("handbook_back")
        self.back.setProperty("plain", True)
        self.back.clicked.connect(self.go_back)
        above.addWidget(self.back)
        above.addStretch(1)
        self.reader = Reader(self.pictures)
        self.reader.setAccessibleName(translate(tr("Page of the handbook")))
        self.reader.document().setDocumentMargin(14)
        self.reader.anchorClicked.connect(self._follow)
        right.addLayout(above)
        right.addWidget(self.reader, 1)
        row.addLayout(left)
        row.addLayout(right, 1)
        self.list.setFixedWidth(300)
        self.line.setFixedWidth(300)
        room = window.screen().availableGeometry()
        self.resize(min(1060, room.width() - 40), min(780, room.height() - 60))
        self.apply_theme(window.theme)
        # All pages are put together beside the window.
        submit("cooper.handbook.book:book", verbs(), take=self._take, done=self._opened)

    def _take(self, whole: Book) -> None:
        if isValid(self):
            self.book = whole
            self.list_pages()
            self.show_page(self.wanted, keep=False)

    def _opened(self, fault: Exception | None) -> None:
        if fault is not None and isValid(self):
            self.reader.setPlainText(tr("The handbook could not be opened: {fault}", fault=fault))

    def apply_theme(self, theme: th.Theme) -> None:
        """Put on a theme."""
        self.theme = theme
        ink, copper, muted, line = (theme.color(r).name() for r in ("ink", "copper", "muted", "line"))
        self.reader.document().setDefaultStyleSheet(
            f"body{{color:{ink}}} h1{{font-size:19px;color:{ink}}} h2{{font-size:15px;color:{copper}}} "
            f"a{{color:{copper};text-decoration:none}}td{{padding:2px 6px 2px 0;color:{ink}}} "
            f"p,li{{line-height:140%}} code{{color:{muted}}} hr{{color:{line}}}"
        )
        self.show_page(self.wanted, keep=False)

    def list_pages(self) -> None:
        """List what is searched, or the tasks and then all else."""
        text = self.line.text().strip()
        pages = self.book.search(text) if text else list(self.book.pages)
        self.list.clear()
        kind = ""
        for page in pages:
            if not text and page.kind != kind:
                head = QListWidgetItem(translate(KINDS_OF_PAGES[page.kind]))
                head.setFlags(Qt.ItemFlag.NoItemFlags)
                head.setForeground(self.theme.color("copper"))
                self.list.addItem(translate(head))
                kind = page.kind
            item = QListWidgetItem(translate(page.title))
            item.setData(Qt.ItemDataRole.UserRole, page.key)
            item.setToolTip(translate(page.title))
            self.list.addItem(item)
        if text and not pages:
            none = QListWidgetItem(translate(tr("No page has all these words.")))
            none.setFlags(Qt.ItemFlag.NoItemFlags)
            self.list.addItem(translate(none))

    def show_page(self, key: str, keep: bool = True) -> None:
        """Show a page; the one before can be gone back to."""
        self.wanted = key
        if not self.book.pages:
            return
        if key not in self.book.at:
            key = FIRST
        if keep and self.page.key != key:
            self.seen.append(self.page.key)
        self.page = self.book.at[key]
        body = self.page.body
        wide = max(200, min(WIDE, self.reader.viewport().width() - 28))
        for name, _ in picture_places(self.page):
            place = name.replace(" ", "%20")
            result = self.pictures.want(name)
            size = PICTURE if result is None else result.size()
            high = round(wide * size.height() / size.width())
            body = body.replace(
                f'src="picture:{place}"',
                f'src="picture:{place}" width="{wide}" height="{high}"',
            )
        self.reader.setHtml(f"<body>{body}</body>")
        self.back.setEnabled(bool(self.seen))

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        if picture_places(self.page):
            self.show_page(self.page.key, keep=False)

    def go_back(self) -> None:
        """The page before."""
        if self.seen:
            self.show_page(self.seen.pop(), keep=False)

    def _chosen(self, item: QListWidgetItem) -> None:
        key = item.data(Qt.ItemDataRole.UserRole)
        if key:
            self.show_page(key)

    def _follow(self, url: QUrl) -> None:
        kind, _, name = url.toString().partition(":")
        if kind == "page":
            self.show_page(name)
        elif kind == "demo":
            self.window_.run(f"demo_{name}")
            self.window_.activateWindow()
        elif kind == "do":
            what, _, key = name.partition("/")
            self.window_.activateWindow()
            if what == "lens":
                self.window_.leave_survey()
                self.window_.bench.set_lens(key)
            else:
                command = next((c for c in self.window_.commands if c.key == key), None)
                reason = command.why_not() if command is not None else ""
                if command is None or reason:
                    self.window_.notice.report(
                        tr("Not now: {value}", value=reason or tr("this design has nothing for it"))
                    )
                else:
                    command.run()

    def _picture_came(self) -> None:
        if isValid(self):
            at = self.reader.verticalScrollBar().value()
            self.show_page(self.page.key, keep=False)
            self.reader.verticalScrollBar().setValue(at)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        alt = event.modifiers() == Qt.KeyboardModifier.AltModifier
        if event.key() == Qt.Key.Key_Escape:
            if self.line.text():
                self.line.clear()
            else:
                self.close()
        elif event.key() == Qt.Key.Key_Left and alt:
            self.go_back()
        elif event.matches(QKeySequence.StandardKey.Find):
            self.line.setFocus()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.line.hasFocus() and self.list.count():
            self._chosen(self.list.item(0))
        elif event.key() == Qt.Key.Key_Down and self.line.hasFocus():
            self.list.setFocus()
            self.list.setCurrentRow(0)
        else:
            super().keyPressEvent(event)

    def end(self) -> None:
        """Close for good."""
        self.pictures.close()
        self.close()
        self.deleteLater()


def page_of_window(window: Window) -> str:
    """The page that tells of what is looked at."""
    if window.pages.currentIndex():
        return "task/duty"
    if window.sheet is not None and window.sheet_key:
        return f"sheet/{window.sheet_key}"
    return OF_LENS.get(window.bench.lens, FIRST)


def open_handbook(window: Window, key: str = "") -> None:
    """Open the handbook at a page, or at what is looked at."""
    if window.handbook is None or not isValid(window.handbook):
        window.handbook = Handbook(window)
    reader = window.handbook
    if reader.theme is not window.theme:
        reader.apply_theme(window.theme)
    reader.show_page(key or page_of_window(window))
    reader.show()
    reader.raise_()
    reader.activateWindow()
    reader.line.setFocus()


register_actions(
    "views",
    Action("handbook", tr("Handbook: tasks, and what everything is"), "Shift+F1", open_handbook),
    place=2,
)
