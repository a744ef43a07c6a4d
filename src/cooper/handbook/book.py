"""Pages of the handbook from its tasks, the quantities and what the program can do; to be read in the program and as
one page of HTML."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from functools import cached_property, lru_cache
from html import escape
from importlib.resources import files

from msgspec import Struct

from cooper.document.quantities import QUANTITIES, Quantity, parts
from cooper.document.units import KINDS, screen_unit
from cooper.exchange.formula_setting import Inline, NoScope, Setting
from cooper.i18n.text import join, tr, values_of, with_ellipses
from cooper.i18n.translate import language_in_force, translate
from cooper.results.check_types import CHECKS
from cooper.results.messages import MESSAGES, MessageType
from cooper.results.printed_formulas import PRINTED_FORMULAS

KINDS_OF_PAGES = {
    "task": tr("Tasks"),
    "lens": tr("Lenses"),
    "sheet": tr("Sheets"),
    "command": tr("Commands"),
    "quantity": tr("Quantities and checks"),
    "note": tr("Notes and warnings"),
}
"""Kinds of pages in their order, in words."""
DO_IT, KEYS, USED_BY, WITH = tr("Do it now"), tr("Keys while it has the focus"), tr("Tasks that use it"), tr("with")
"""Words on the pages; what marks a text does not stand in a formatted one, where extraction does not look."""
DIRECTIVE = re.compile(r"\{(do|see|lens):([^}]+)\}")
SHOWN = re.compile(r'<img src="picture:([^"]+)" alt="([^"]*)"\s*/?>')


class Verb(Struct, frozen=True):
    """Something that the program can do: its key, its words, its keys as they are shown, whether it is a command, a
    sheet or a lens, and what can be done there by single keys (words, key)."""

    key: str
    words: str
    shortcut: str
    kind: str
    keys: tuple[tuple[str, str], ...] = ()


class Page(Struct, frozen=True):
    """One page: its key such as ``task/match``, its title as plain words, its body as HTML, and the words that it is
    found by."""

    key: str
    title: str
    body: str
    words: str

    @property
    def kind(self) -> str:
        return self.key.partition("/")[0]


class Book(Struct, frozen=True, dict=True):
    """All pages in their order; ``at`` by key."""

    pages: tuple[Page, ...]

    @cached_property
    def at(self) -> dict[str, Page]:
        return {p.key: p for p in self.pages}

    def search(self, text: str, most: int = 60) -> list[Page]:
        """Pages that hold every word of a text, best first: in the title before in the body, tasks before what is
        looked up, notes of results last."""
        words = text.lower().split()
        result = []
        for n, page in enumerate(self.pages):
            title = page.title.lower()
            if all(w in page.words for w in words):
                marks = sum((title == w) * 8 + title.startswith(w) * 4 + (w in title) * 3 for w in words)
                result.append((page.kind == "note", -marks, n, page))
        return [page for *_, page in sorted(result, key=lambda f: f[:3])[:most]]


def book(verbs: Sequence[Verb]) -> Book:
    """The whole handbook of a program that can do these things, in the language in force."""
    return Book(tuple(_pages(tuple(verbs))))


def _said(text: str) -> str:
    """A text of the program in the language in force, as HTML."""
    return escape(translate(text))


def _pages(verbs: tuple[Verb, ...]) -> Iterator[Page]:
    by_key = {(v.kind, v.key): v for v in verbs}
    for key, text in tasks().items():
        yield _task(key, text, by_key)
    message = {v: [k for k, text in tasks().items() if f":{v.key}}}" in text] for v in verbs}
    for kind in ("lens", "sheet", "command"):
        for v in verbs:
            if v.kind == kind:
                yield _of_verb(v, message[v])
    for q in QUANTITIES.values():
        yield _of_quantity(q)
    order = ("warning", "range", "assumed")
    for one in sorted(MESSAGES.values(), key=lambda m: order.index(m.level)):
        yield _of_note(one)


def tasks() -> dict[str, str]:
    """The tasks' texts by key, in the order of the work and in the language in force, in English where there is none
    in it."""
    return _tasks(language_in_force()[0])


@lru_cache(maxsize=4)
def _tasks(language: str) -> dict[str, str]:
    folder = files("cooper.handbook") / ("tasks" if language == "en" else f"tasks_{language}")
    if not folder.is_dir():
        return _tasks("en")
    names = sorted(f.name for f in folder.iterdir() if f.name.endswith(".md"))
    return {n.split("-", 1)[1].removesuffix(".md"): (folder / n).read_text(encoding="utf-8") for n in names}


def typeset(symbol: str, index: int | None = None) -> str:
    """A symbol as HTML.

    >>> typeset("d_a", 1)
    '<i>d</i><sub>a1</sub>'
    """
    main, sub = parts(symbol, index)
    return f"<i>{escape(main)}</i>" + (f"<sub>{escape(sub)}</sub>" if sub else "")


def _task(key: str, text: str, verbs: dict[tuple[str, str], Verb]) -> Page:
    from markdown_it import MarkdownIt

    def put(result: re.Match[str]) -> str:
        what, name = result[1], result[2]
        if what == "see":
            return f'<a href="page:quantity/{name}">{typeset(name)}</a>'
        kinds = ("lens",) if what == "lens" else ("command", "sheet")
        verb = next((verbs[(k, name)] for k in kinds if (k, name) in verbs), None)
        if verb is None:
            raise KeyError(f"{key}: nothing is called {name}")
        keys = f" ({verb.shortcut})" if verb.shortcut and what != "lens" else ""
        return f'<a href="page:{verb.kind}/{verb.key}"><b>{escape(_title(verb))}</b></a>{keys}'

    # Spaces in a place of a picture, which the markup does not take.
    text = re.sub(r"\]\(picture:([^)]+)\)", lambda m: f"](picture:{m[1].replace(' ', '%20')})", text)
    body = MarkdownIt("commonmark", {"html": True}).render(DIRECTIVE.sub(put, text))
    title = text.partition("\n")[0].removeprefix("# ")
    return Page(f"task/{key}", title, body, _plain(body))


def _bare(words: str) -> str:
    return translate(words).removesuffix(" …").removesuffix("…")


def _title(verb: Verb) -> str:
    """The words of something that can be done; of a lens without saying that it is one."""
    return _bare(values_of(verb.words).get("words", verb.words) if verb.kind == "lens" else verb.words)


def _plain(body: str) -> str:
    return re.sub(r"\s+", " ", re.sub(r"<[^>]+>", " ", body)).lower()


def _of_verb(v: Verb, text: list[str]) -> Page:
    how = {
        "lens": tr("A way to look at the stage on the Bench. Chosen at the foot of the Bench, or by"),
        "sheet": tr("Opens over the Bench; Escape closes it. Opened by"),
        "command": tr("Found by any of its words in the list of commands (Ctrl+K)"),
    }[v.kind]
    if v.kind == "command" and v.shortcut:
        how = tr("{how}, or by", how=how)
    keys = v.shortcut or ("" if v.kind == "command" else tr("the list of commands (Ctrl+K)"))
    rows = "".join(f"<tr><td><b>{_said(key)}</b>&nbsp;&nbsp;</td><td>{_said(words)}</td></tr>" for words, key in v.keys)
    table = f"<h2>{_said(KEYS)}</h2><table>{rows}</table>" if rows else ""
    links = "".join(
        f'<li><a href="page:task/{k}">{escape(tasks()[k].partition(chr(10))[0].removeprefix("# "))}</a></li>'
        for k in text
    )
    tasks_ = f"<h2>{_said(USED_BY)}</h2><ul>{links}</ul>" if links else ""
    do = f'<p><a href="do:{v.kind}/{v.key}">{_said(DO_IT)}</a></p>'
    body = f"<h1>{escape(_bare(v.words))}</h1><p>{_said(how)} {_said(keys)}</p>{do}{table}{tasks_}"
    body = re.sub(r" ?</p>", ".</p>", body, count=1)
    return Page(f"{v.kind}/{v.key}", _bare(v.words), body, _plain(body))


def _of_quantity(q: Quantity) -> Page:
    kind = KINDS[q.kind]
    units = dict.fromkeys(screen_unit(kind.display_unit(s)) for s in ("mm", "inch"))
    rows = [(_said(tr("in formulas and files")), f"<code>{escape(q.symbol)}</code>")]
    if any(units):
        rows.append((_said(tr("unit")), _said(join(tr(" or "), filter(None, units)))))
    rows.append((_said(tr("source")), _said(q.source)))
    written = PRINTED_FORMULAS.get(q.symbol, ())
    setting = Setting(NoScope(), Inline())
    for case in written:
        where = join("; ", (f"{setting.symbol(n)} = {setting.formula(t)}" for n, t in case.where.items()))
        more = f", {_said(WITH)} {where}" if where else ""
        rows.append((_said(tr("formula")), f"{typeset(q.symbol)} = {setting.formula(case.text)}{more}"))
    if q.formula and not written:
        rows.append((_said(tr("formula")), _said(q.formula)))
    needs = dict.fromkeys(s.split(":")[-1] for s in q.inputs)
    if needs:
        rows.append((_said(tr("depends on")), join(", ", map(_link, needs))))
    used = [o.symbol for o in QUANTITIES.values() if q.symbol in {s.split(":")[-1] for s in o.inputs}]
    if used:
        rows.append((_said(tr("goes into")), join(", ", map(_link, used))))
    message = [k for k, text in tasks().items() if f"{{see:{q.symbol}}}" in text]
    if message:
        links = (
            f'<a href="page:task/{k}">{escape(tasks()[k].partition(chr(10))[0].removeprefix("# "))}</a>'
            for k in message
        )
        rows.append((_said(tr("tasks")), join(", ", links)))
    for one in CHECKS.values():
        if q.symbol in one.symbols:
            label, means = with_ellipses(one.label), with_ellipses(one.means)
            limit = tr("must be at least its limit") if one.sense == "at least" else tr("must be at most its limit")
            rows.append((_said(tr("checked: {0}", label)), _said(tr("{0}. If it is short: {1}.", limit, means))))
            rows.append((_said(tr("identity of the check")), one.key))
    table = "".join(f"<tr><td>{a}&nbsp;&nbsp;</td><td>{b}</td></tr>" for a, b in rows)
    meaning = translate(q.meaning)
    body = f"<h1>{typeset(q.symbol)}&nbsp; {escape(meaning)}</h1><table>{table}</table>"
    main, sub = parts(q.symbol)
    title = f"{main}{'_' if sub else ''}{sub}  {meaning}"
    return Page(f"quantity/{q.symbol}", title, body, f"{_plain(body)} {q.symbol.lower()}")


def _link(symbol: str) -> str:
    """A link to a quantity's page."""
    return f'<a href="page:quantity/{symbol}">{typeset(symbol)}</a> {_said(QUANTITIES[symbol].meaning)}'


COUNTS = {
    "short": tr("It counts as short."),
    "thin": tr("It counts as thin."),
    "": tr("It asks for a look."),
}
LEVELS = {
    "warning": tr("A warning: what it means for making, assembling or running the part."),
    "range": tr("The design lies outside the range that a method is stated for; what is found there is thin at best."),
    "assumed": tr(
        "An assumption that the numbers rest on. It stays quiet, and stands with the notes (Ctrl+I) "
        "and in every report."
    ),
}


def _of_note(one: MessageType) -> Page:
    symbols = [re.sub(r"_?\{\w+\}$", "", name) for name in one.fields]
    marks = _said(tr("It marks"))
    about = "".join(f'<p>{marks} <a href="page:quantity/{s}">{typeset(s)}</a>.</p>' for s in symbols if s in QUANTITIES)
    counts = f" {_said(COUNTS[one.counts])}" if one.level == "warning" else ""
    text = translate(with_ellipses(one.template))
    identity = _said(tr("Identity: {0}", one.key))
    told = f"<p>{_typeset_in(text)}</p><p>{_said(LEVELS[one.level])}{counts}</p>"
    body = f"<h1>{_typeset_in(_short(text))}</h1>{told}{about}<p>{identity}</p>"
    return Page(f"note/{one.key}", _short(text), body, f"{_plain(body)} {one.key}")


def _typeset_in(text: str) -> str:
    """Words as HTML, the symbols of quantities among them typeset."""
    return re.sub(r"\b[A-Za-z]+_\w+", lambda m: typeset(m[0]) if m[0] in QUANTITIES else m[0], escape(text))


def _short(text: str) -> str:
    first = re.split(r"(?<=[a-z0-9…])[.:;] ", text)[0]
    return first if len(first) <= 90 else first[:88].rsplit(" ", 1)[0] + " …"


def picture_places(page: Page) -> list[tuple[str, str]]:
    """Names of the pictures of a page, as demo and view, with their captions."""
    return [(m[1].replace("%20", " "), m[2]) for m in SHOWN.finditer(page.body)]


STYLE = (
    "body{font:15px/1.5 Lato,sans-serif;color:#22303a;background:#fff;max-width:860px;margin:2em "
    "auto;padding:0 1em}h1{font-size:22px;margin:2.2em 0 .4em}h2{font-size:16px;color:#a85420;margin:1.4em 0 "
    ".3em}a{color:#a85420}table{border-collapse:collapse}td{padding:2px 8px 2px "
    "0;vertical-align:top}img{max-width:100%;border:1px solid #ddd3c2}nav{columns:2}nav "
    "a{display:block}sub{font-size:75%}section{border-top:1px solid #eee5d6}section.small "
    "h1{font-size:16px;margin:1em 0 .2em}"
)


def as_html(whole: Book, pictures: dict[str, str]) -> str:
    """The handbook as one page; ``pictures`` tells the file of each picture by name, those without one are left out."""

    def placed(found: re.Match[str]) -> str:
        file = pictures.get(found[1].replace("%20", " "))
        return f'<img src="{file}" alt="{found[2]}">' if file else ""

    def linked(body: str) -> str:
        body = SHOWN.sub(placed, body)
        body = re.sub(r'href="page:([^"]+)"', lambda m: f'href="#{m[1]}"', body)
        body = re.sub(r'<p><a href="do:[^"]+">[^<]*</a></p>', "", body)
        return re.sub(r'<a href="demo:[^"]+">([^<]*)</a>', r"\1", body)

    out = []
    for kind, words in KINDS_OF_PAGES.items():
        pages = [p for p in whole.pages if p.kind == kind]
        links = "".join(f'<a href="#{p.key}">{escape(p.title)}</a>' for p in pages)
        out.append(f"<h2>{_said(words)}</h2><nav>{links}</nav>")
        small = "" if kind == "task" else " class=small"
        out += [f'<section id="{p.key}"{small}>{linked(p.body)}</section>' for p in pages]
    return (
        f"<!doctype html><html lang={language_in_force()[0]}><head><meta charset=utf-8><title>Cooper: "
        f"handbook</title><style>{STYLE}</style></head>"
        f"<body><h1>Cooper: handbook</h1>{''.join(out)}</body></html>\n"
    )
