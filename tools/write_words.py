"""Lists every text that the program can show, and keeps the catalogues of its languages whole. Run: .venv/bin/python tools/write_words.py

A text with something put in stands as a template with {0}, {1} …; what is put in is translated by itself. New texts come into src/cooper/language/*.po with an empty
translation, texts that are gone go; then the catalogue that the program reads (*.mo) is written.
"""

import ast
import json
import re
import sys
from collections.abc import Iterator
from pathlib import Path

import polib

root = Path(__file__).resolve().parent.parent
source = root / "src" / "cooper"
LEFT_OUT = ("api.py", "helper.py", "values.py", "__init__.py", "__main__.py")
"""What speaks to a programmer."""
SPEAKING = ("cli.py", "cli_survey.py")
"""Files whose docstrings are shown: the help of a command, by paragraphs."""
NO_WORDS = (
    "results/written.py", "results/pages.py", "results/why.py", "results/origin.py", "exchange/place_figure.py", "exchange/formula_setting.py", "exchange/report_pdf.py", "exchange/report_tables.py", "exchange/report_page.py", "exchange/paper.py",
    "exchange/report_figures.py", "desk/frame/theme.py", "handbook/noted.py", "machine/lay_out.py", "field/", "survey/block.py", "document/base.py",
)  # fmt: skip
"""Files whose texts are formulas, styles or code."""
CODE = re.compile(r"[<>]|[{}]{2}|\bpx\b|stroke|^[#.\w-]+$(?<! )|^\s*#|://|^[A-Z_]+$|\\")


def template(node: ast.expr) -> str | None:
    """A text of the source, with {0}, {1} … for what is put in."""
    if isinstance(node, ast.Constant) and isinstance(node.value, str):
        return node.value
    if isinstance(node, ast.JoinedStr):
        parts, n = [], 0
        for v in node.values:
            if isinstance(v, ast.Constant) and isinstance(v.value, str):
                parts.append(v.value)
            else:
                parts.append(f"{{{n}}}")
                n += 1
        return "".join(parts)
    return None


def told(text: str) -> bool:
    """Whether a text is made of words."""
    bare = re.sub(r"\{\d*[^}]*\}", "", text)
    if not re.search(r"[A-Za-z]{3}", bare) or CODE.search(re.sub(r"\{\d+\}", "", text)):
        return False
    return " " in bare.strip() or bool(re.search(r"[a-z]{2,} ?\{|\} ?[a-z]{3,}", text))


SINGLE_PLACES = ("desk", "results", "kinds", "editing", "exchange", "survey", "document")


def texts() -> dict[str, str]:
    """Every text with the file that it stands in."""
    found: dict[str, str] = {}
    for file in sorted(source.rglob("*.py")):
        if (file.name in LEFT_OUT and file.parent == source) or file.parent.name == "language":
            continue
        if str(file.relative_to(source)).startswith(NO_WORDS):
            continue
        tree = ast.parse(file.read_text(encoding="utf-8"))
        skipped = set()
        for node in ast.walk(tree):
            if isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant):
                skipped.add(id(node.value))
            if isinstance(node, ast.JoinedStr):
                skipped.update(id(v) for v in node.values)
            if isinstance(node, ast.FormattedValue) and node.format_spec is not None:
                skipped.update(id(v) for v in ast.walk(node.format_spec))
            if isinstance(node, ast.Call) and getattr(node.func, "attr", "") in (
                "setObjectName",
                "startswith",
                "endswith",
                "setProperty",
                "removeprefix",
                "removesuffix",
                "partition",
            ):
                skipped.update(id(a) for a in node.args)
        if file.name in SPEAKING:
            for node in ast.walk(tree):
                if isinstance(node, ast.FunctionDef) and node.decorator_list:
                    for paragraph in (ast.get_docstring(node) or "").split("\n\n"):
                        found.setdefault(" ".join(paragraph.split()), str(file.relative_to(root)))
        for node in ast.walk(tree):
            if id(node) in skipped or not isinstance(node, ast.Constant | ast.JoinedStr):
                continue
            text = template(node)
            if text is not None and told(text):
                found.setdefault(text, str(file.relative_to(root)))
    for file in sorted((source / "stock" / "data").glob("*.json")):
        for text in _names(json.loads(file.read_text(encoding="utf-8"))):
            found.setdefault(text, str(file.relative_to(root)))
    return dict.fromkeys(COMPOSED, "composed of parts") | found


COMPOSED = (
    "{0} of {1}, {2}", "{0} of {1}", "{0} of the {1}", "{0} to {1}", "{0} to {1} {2}", "{0} at {1}", "{0} MPa pressed", "{0} MPa pulled", "{0} left", "lost motion {0}",
    "mass {0}", "root ξ {0}", "tip ξ {0}", "worst {0}", "smoothest {0}", "run-out, {0}", "{0} elements", "{0} grid", "usual grid", "coarse grid", "rough grid", "(now)", "load at the tip",
    "K_Hβ entered", "Language: {0}", "More of the mesh", "for {0} h",
    "Usage", "Options", "Commands", "Show this message and exit.", "Show the version and exit.", "default: {0}", "Error: {0}", "Try {0} for help.", "Missing argument {0}.",
    "Missing option {0}.", "Missing command.", "No such option {0}.", "No such command {0}.", "Did you mean {0}?", "Got unexpected extra argument ({0})",
    "Invalid value for {0}: {1}", "{0} is not a valid {1}.", "{0} is not one of {1}.", "{0} is not in the range {1}.", "Option {0} requires an argument.",
)  # fmt: skip
"""Texts that come about where several are put together."""


def _names(data: object) -> Iterator[str]:
    """Names and words of a data file; what tells of its source is not shown."""
    if isinstance(data, dict):
        for key, value in data.items():
            if key not in ("source", "certainty", "note", "remark", "why"):
                yield from ([key] if re.search(r"[a-z]{3}.* |^[a-z]{4,}$", key) and "_" not in key else [])
                yield from _names(value)
    elif isinstance(data, list):
        for value in data:
            yield from _names(value)
    elif isinstance(data, str) and re.search(r"[a-z]{3}", data) and len(data) < 90:
        yield data


def constants() -> set[str]:
    """Every text of the source as it stands there, single words too."""
    return {
        node.value
        for file in source.rglob("*.py")
        for node in ast.walk(ast.parse(file.read_text(encoding="utf-8")))
        if isinstance(node, ast.Constant) and isinstance(node.value, str)
    }


def brought_up(po: polib.POFile) -> polib.POFile:
    """A catalogue with every text that is shown, and with none that is gone; single words stay as long as the source has them."""
    now, single = texts(), constants()
    for entry in [e for e in po if e.msgid not in now and e.msgid not in single]:
        po.remove(entry)
    known = {e.msgid for e in po}
    for text in now:
        if text not in known:
            po.append(polib.POEntry(msgid=text, msgstr=""))
    return po


if __name__ == "__main__":
    for file in sorted((source / "language").glob("*.po")):
        catalogue = brought_up(polib.pofile(str(file)))
        catalogue.save(str(file))
        catalogue.save_as_mofile(str(file.with_suffix(".mo")))
        empty = [e.msgid for e in catalogue if not e.msgstr]
        sys.stdout.write(f"{file.name}: {len(catalogue)} texts, {len(empty)} without a translation\n")
