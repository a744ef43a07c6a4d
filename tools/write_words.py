"""Lists every text that the program can show, and keeps the catalogues of its languages whole. Run: .venv/bin/python
tools/write_words.py

Texts are those marked with `tr` and the rows of the tables of messages, checks; then the vocabulary of `term`: choices,
names from the data files, help of the command line. New texts come into src/cooper/i18n/locale/*/LC_MESSAGES/cooper.po
with an empty translation, texts that are gone go; then the catalogue that the program reads (*.mo) is written. A new
language is a copy of a catalogue with its header altered.
"""

import ast
import json
import re
import sys
from collections.abc import Iterator
from datetime import UTC, datetime
from pathlib import Path

from babel.messages.catalog import Catalog
from babel.messages.extract import extract_from_dir
from babel.messages.mofile import write_mo
from babel.messages.pofile import read_po, write_po

from cooper.results.check_types import CHECKS
from cooper.results.messages import MESSAGES
from cooper.stock.files import SHOWN

root = Path(__file__).resolve().parent.parent
source = root / "src" / "cooper"
locales = source / "i18n" / "locale"
SPEAKING = ("cli.py", "cli_match.py", "cli_survey.py")
"""Files whose docstrings are shown: the help of a command, by paragraphs."""
OF_THE_COMMAND_LINE = (
    "Usage:",
    "Options",
    "Commands",
    "Show this message and exit.",
    "Show the version and exit.",
    "default: {default}",
    "Error: {message}",
    "Missing argument",
    "Missing option",
    "Missing command.",
    "No such option {name!r}.",
    "No such command {name!r}.",
    "Did you mean {possibility}?",
    "Got unexpected extra argument ({args})",
    "Invalid value: {message}",
    "Invalid value for {param_hint}: {message}",
    "{value!r} is not a valid {number_type}.",
    "{value!r} is not {choice}.",
    "{value} is not in the range {range}.",
    "Option {name!r} requires an argument.",
    "Option {name!r} does not take a value.",
    "{name} {filename!r} does not exist.",
    "{name} {filename!r} is a directory.",
    "{name} {filename!r} is a file.",
    "{name} {filename!r} is not readable.",
    "file",
    "directory",
    "path",
)
"""What the command line's library says, which reads the same catalogue."""


FIRST_WRITTEN = datetime(2026, 1, 1, tzinfo=UTC)
"""The date in the headers, always the same, so that a catalogue alters with its texts alone."""
UNITS_IN_WORDS = ("rpm",)
"""Units that are words."""
OWN_NAME = "English"
"""The text whose translation is what a language calls itself."""


def marked() -> dict[str, str]:
    """Every text that is marked, with the file that it stands in."""
    result = {}
    for file, _, text, _, _ in extract_from_dir(
        source, [("**.py", "python")], keywords={"tr": None, "ngettext": (1, 2)}
    ):
        if isinstance(text, str) and re.search("[A-Za-z]{2}", re.sub(r"\{[^}]*\}", "", text)):
            result.setdefault(text, file)
    return result


def of_tables() -> dict[str, str]:
    """The texts of the messages and checks."""
    notes = {m.template: "results/messages.py" for m in MESSAGES.values()}
    return notes | {t: "results/check_types.py" for c in CHECKS.values() for t in (c.label, c.means)}


def help_texts() -> Iterator[str]:
    """The help of the commands."""
    for file in SPEAKING:
        for node in ast.walk(ast.parse((source / file).read_text(encoding="utf-8"))):
            if isinstance(node, ast.FunctionDef) and node.decorator_list:
                for paragraph in (ast.get_docstring(node) or "").split("\n\n"):
                    yield " ".join(paragraph.split())
            if isinstance(node, ast.keyword) and node.arg == "help" and isinstance(node.value, ast.Constant):
                yield " ".join(str(node.value.value).split())


def names_in(data: object) -> Iterator[str]:
    """Names and words of a data file; what tells of its source is not shown."""
    if isinstance(data, dict):
        for key, value in data.items():
            if key not in ("source", "certainty", "remark", "why"):
                yield key
                yield from names_in(value)
    elif isinstance(data, list):
        for value in data:
            yield from names_in(value)
    elif isinstance(data, str):
        yield data


def stock_words(data: object, top: bool = True) -> Iterator[str]:
    """What of the data files is shown in words; the note at the head of a file is for who reads it."""
    if isinstance(data, dict):
        for key, value in data.items():
            if key in SHOWN and isinstance(value, str) and not top:
                yield value
            yield from stock_words(value, False)
    elif isinstance(data, list):
        for value in data:
            yield from stock_words(value, False)


def constants() -> set[str]:
    """Every text of the source and the data as it stands there: what a translated word of the vocabulary must be
    among."""
    result = {
        name
        for file in (source / "stock" / "data").glob("*.json")
        for name in names_in(json.loads(file.read_text(encoding="utf-8")))
    }
    for file in source.rglob("*.py"):
        for node in ast.walk(ast.parse(file.read_text(encoding="utf-8"))):
            if isinstance(node, ast.Constant) and isinstance(node.value, str):
                result.add(node.value)
    return result


def texts() -> dict[str, str]:
    """Every text that has to be in a catalogue, with its file."""
    help_ = dict.fromkeys(filter(None, help_texts()), "cli.py")
    stock = {
        word: file.name
        for file in sorted((source / "stock" / "data").glob("*.json"))
        for word in stock_words(json.loads(file.read_text(encoding="utf-8")))
        if re.search("[a-z]{3}", word)
    }
    return (
        stock
        | dict.fromkeys((OWN_NAME, *UNITS_IN_WORDS, *OF_THE_COMMAND_LINE), "click")
        | help_
        | of_tables()
        | marked()
    )


def brought_up(old: Catalog) -> Catalog:
    """A catalogue with every text that is shown, and with none that is gone; words of the vocabulary stay as long as
    the source has them."""
    new = Catalog(
        locale=old.locale,
        project="Cooper",
        version="0.2",
        header_comment="#",
        msgid_bugs_address="-",
        last_translator="-",
        language_team="-",
        creation_date=FIRST_WRITTEN,
        revision_date=FIRST_WRITTEN,
        fuzzy=False,
    )
    now, single = texts(), constants()
    for text in (*now, *(m.id for m in old if m.id and m.id not in now and m.id in single)):
        known = old.get(text)
        new.add(text, known.string if known is not None else "", flags=())
    return new


def read(file: Path) -> Catalog:
    with file.open("rb") as stream:
        return read_po(stream, locale=file.parent.parent.name)


if __name__ == "__main__":
    for file in sorted(locales.glob("*/LC_MESSAGES/*.po")):
        catalogue = brought_up(read(file))
        with file.open("wb") as stream:
            write_po(stream, catalogue, width=0, omit_header=False, no_location=True, sort_output=False)
        with file.with_suffix(".mo").open("wb") as stream:
            write_mo(stream, catalogue)
        empty = [m.id for m in catalogue if m.id and not m.string]
        sys.stdout.write(f"{file.parent.parent.name}: {len(catalogue)} texts, {len(empty)} without a translation\n")
