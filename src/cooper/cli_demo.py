"""The whole example without a display: every file and picture of the demo."""

from __future__ import annotations

import json
from pathlib import Path
from typing import TYPE_CHECKING

import click

from cooper.cli_words import tell
from cooper.i18n.text import term, tr

if TYPE_CHECKING:
    pass


def whole_example(folder: Path) -> None:
    """Everything that the program does with the demo, without a screen."""
    from cooper.demo import demo as demo_design
    from cooper.desk.shell.pictures import LENSES, picture
    from cooper.document.store import save_design
    from cooper.exchange.formats import KINDS
    from cooper.exchange.report import checks_text
    from cooper.exchange.save import export as save
    from cooper.results.evaluate import evaluate

    design = demo_design()
    results = evaluate(design)
    tell(tr("{name}: {verdict}\n", name=design.name, verdict=term(results.verdict)))
    tell(checks_text(results))
    save_design(design, folder / "mirror-cover.cooper.json")
    (folder / "mirror-cover-results.json").write_text(json.dumps(results.as_tree(), indent=2), encoding="utf-8")
    for kind in KINDS:
        save(design, results, folder / f"mirror-cover{kind}")
    for lens in LENSES:
        picture(design, lens, folder / f"mirror-cover-{lens}.png")
    picture(design, "teeth", folder / "mirror-cover-dark.png", theme="dark")
    tell(tr("\nResults are in this folder:"))
    click.echo(tr("  {folder}", folder=folder))
    for file in sorted(folder.iterdir()):
        click.echo(tr("  {name}", name=file.name))
