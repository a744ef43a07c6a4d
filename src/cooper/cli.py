"""The command line."""

from __future__ import annotations

import json
import os
import sys
import time
from contextlib import suppress
from math import radians
from pathlib import Path
from typing import TYPE_CHECKING, NoReturn

import click

from cooper.cli_demo import whole_example
from cooper.cli_match import match
from cooper.cli_survey import survey
from cooper.cli_words import (
    BROKEN,
    SHORT,
    UNUSABLE,
    TranslatedCommand,
    TranslatedContext,
    choose_language,
    names_of,
    tell,
    tell_fault,
    unusable,
    written,
)
from cooper.errors import message_of
from cooper.faults import LEVELS, LOG, LOG_LEVEL, log_file, record, start_log
from cooper.i18n.text import term, tr
from cooper.version import __version__

if TYPE_CHECKING:
    from cooper.document.models import Design
    from cooper.results.result_tree import Results


class OpensFiles(click.Group):
    """A group in which a first word that is no command names a design to open."""

    context_class = TranslatedContext
    command_class = TranslatedCommand

    def resolve_command(
        self, ctx: click.Context, args: list[str]
    ) -> tuple[str | None, click.Command | None, list[str]]:
        if args and args[0] not in self.commands and not args[0].startswith("-"):
            return "open", self.commands["open"], args
        return super().resolve_command(ctx, args)

    def format_usage(self, ctx: click.Context, formatter: click.HelpFormatter) -> None:
        formatter.write_usage("cooper", tr("[FILE] | COMMAND …"))


@click.group(cls=OpensFiles, invoke_without_command=True, context_settings={"help_option_names": ["-h", "--help"]})
@click.version_option(__version__, prog_name="Cooper")
@click.option(
    "--log-level",
    type=click.Choice(LEVELS),
    default="warning",
    show_default=True,
    help=tr("What is written to the log."),
)
@click.pass_context
def main(ctx: click.Context, log_level: str) -> None:
    """Design and check gear trains on a drawing.

    Without a command, opens FILE in the window, or the start page when no FILE is named.
    """
    os.environ[LOG_LEVEL] = log_level
    start_log("cooper", log_level)
    if ctx.invoked_subcommand is None:
        _window(None, start=True)


@main.command("open", hidden=True)
@click.argument("file", type=click.Path(path_type=Path))
def open_(file: Path) -> None:
    """Open FILE in the window."""
    _window(file)


@main.command(short_help=tr("Open the demo, or run it whole without a display."))
@click.option("--out", type=click.Path(path_type=Path), help=tr("Folder for the results when there is no display."))
def demo(out: Path | None) -> None:
    """Open the demo; without a display, run it whole and say where the results are."""
    from cooper.desk.shell.app import has_display

    if has_display() and out is None:
        _window(None)
        return
    import tempfile

    folder = out or Path(tempfile.mkdtemp(prefix="cooper-demo-"))
    try:
        folder.mkdir(parents=True, exist_ok=True)
        whole_example(folder)
    except OSError as fault:
        unusable(
            tr(
                "{value}: {value_2}; --out takes a folder",
                value=fault.filename or folder,
                value_2=fault.strerror or fault,
            )
        )


@main.command()
@click.argument("file", type=click.Path(path_type=Path))
@click.option("--json", "as_json", is_flag=True, help=tr("Print the whole result tree as JSON (see docs/results.md)."))
@click.option(
    "-v",
    "--verbose",
    is_flag=True,
    help=tr("Print the notes too, and to standard error what is done and how long it takes."),
)
def check(file: Path, as_json: bool, verbose: bool) -> None:
    """Print the verdicts on FILE, of standard input where it is -.

    Ends with 0 when all holds, 1 when something is short, 2 when it is unusable.
    """
    if verbose:
        start_log("cooper", "info", to_screen=True)
    results = _evaluated(file)[1]
    if as_json:
        click.echo(json.dumps(results.as_tree(), indent=2, allow_nan=False, ensure_ascii=False))
    else:
        from cooper.exchange.report import checks_text

        tell(checks_text(results))
        if verbose:
            from cooper.results.comparison_notes import all_notes

            for note in all_notes(results):
                where = "" if note.stage is None else tr(" {name}:", name=results.stages[note.stage].name)
                tell(tr("{level}:{where} {text}", level=term(note.level), where=where, text=note.text))
    sys.exit(SHORT if results.verdict == "short" else 0)


@main.command(short_help=tr("Write FILE as DXF, SVG, STEP, STL, 3MF, CSV, spreadsheet or report."))
@click.argument("file", type=click.Path(path_type=Path))
@click.argument("out", type=click.Path(path_type=Path))
@click.option("--units", type=click.Choice(["mm", "inch"]), default="mm", help=tr("Unit system of the report."))
@click.option(
    "--stage", type=click.IntRange(0), default=1, show_default=True, help=tr("Stage of the train; 0 the whole train.")
)
@click.option("--tolerance", type=float, help=tr("Chord error of outlines and meshes, mm."))
@click.option(
    "--compensation", type=float, default=0.0, help=tr("Growth of the outline along its normal (half a kerf), mm.")
)
@click.option(
    "--curves", type=click.Choice(["splines", "polylines"]), default="splines", help=tr("How a DXF draws flanks.")
)
@click.option("--gear", type=click.IntRange(0, 2), default=0, help=tr("1 or 2 for one gear alone; 0 both."))
@click.option(
    "--view",
    type=click.Choice(["end", "solid"]),
    default="end",
    help=tr("A moving picture in end view or of shaded solids."),
)
@click.option("--yaw", type=float, default=34.0, help=tr("Turn of the view of solids about the upright; degrees."))
@click.option("--pitch", type=float, default=26.0, help=tr("Tilt of the view of solids; degrees."))
@click.option(
    "--length", type=click.Choice(["summary", "usual", "all"]), default="usual", help=tr("How much a report holds.")
)
@click.option("--state", default="", help=tr("Words in a report for the state of the design."))
@click.option(
    "--loaded",
    "loaded",
    multiple=True,
    metavar="TABLE",
    help=tr("A table of the loaded tooth for .csv and .xlsx: curves, cycle, pressure, topography, map; any number."),
)
@click.option(
    "--still", default="housing", help=tr("What stands still in a moving picture: housing, or 'Set name: member'.")
)
def export(
    file: Path,
    out: Path,
    units: str,
    stage: int,
    tolerance: float | None,
    compensation: float,
    curves: str,
    gear: int,
    still: str,
    view: str,
    yaw: float,
    pitch: float,
    length: str,
    state: str,
    loaded: tuple[str, ...],
) -> None:
    """Export FILE to OUT; its suffix says what.

    .dxf or .svg both gears in mesh, .step solids, .stl or .3mf meshes, .csv flank points, .xlsx the design as a
    spreadsheet, .txt, .html or .pdf the report, .gif, .mp4 or .webm the whole train moving. With --stage 0 the whole
    train leaves as .dxf with layers by stage or as .step.
    """
    from cooper.errors import OutOfRange
    from cooper.exchange.formats import Options
    from cooper.exchange.save import export as save

    design, results = _evaluated(file)
    if stage > len(results.stages):
        unusable(tr("stage {stage} cannot be: the train has {stages}", stage=stage, stages=len(results.stages)))
    try:
        if out.suffix.lower() in (".gif", ".mp4", ".webm"):
            _refuse_view(results, still, yaw, pitch)
            from cooper.desk.base.theme import LIGHT
            from cooper.desk.lenses.train_painter import Look
            from cooper.desk.shell.app import application
            from cooper.desk.shell.moving_picture import write_film
            from cooper.exchange.camera import Camera

            application()
            write_film(
                design,
                results,
                out,
                LIGHT,
                Look(still),
                Camera(radians(yaw), radians(pitch)) if view == "solid" else None,
            )
        else:
            save(
                design,
                results,
                out,
                units,
                stage - 1,
                Options(tolerance, compensation, curves, gear, length, state, loaded=loaded),
            )
    except (ValueError, OSError, OutOfRange) as fault:
        unusable(message_of(fault))
    written(out)


def _refuse_view(results: Results, still: str, yaw: float, pitch: float) -> None:
    """Refuse a view that there is not; raises `OutOfRange`."""
    from cooper.desk.lenses.train_painter import frames_of
    from cooper.errors import OutOfRange

    there = frames_of(results)
    if still not in there:
        raise OutOfRange(
            "still",
            still[:60],
            tr("nothing is called so that can stand still; there are {there}", there=names_of(there)),
        )
    for name, angle in (("yaw", yaw), ("pitch", pitch)):
        if not -360 <= angle <= 360:
            raise OutOfRange(name, str(angle), tr("an angle within a turn either way"), low=-360, high=360, unit="deg")


@main.command(short_help=tr("The drawing sheet of a gear."))
@click.argument("file", type=click.Path(path_type=Path))
@click.argument("out", type=click.Path(path_type=Path))
@click.option("--units", type=click.Choice(["mm", "inch"]), default="mm", show_default=True)
@click.option("--stage", type=click.IntRange(1), default=1, show_default=True, help=tr("Stage of the train."))
@click.option("--gear", type=click.IntRange(1, 2), default=1, show_default=True, help=tr("1 drives, 2 is driven."))
@click.option("--shaft", default="", help=tr("Shaft of the machine, by its first gear, in place of a gear."))
@click.option(
    "--machine", is_flag=True, help=tr("The whole machine in section with its parts list, in place of a gear.")
)
def drawing(file: Path, out: Path, units: str, stage: int, gear: int, shaft: str, machine: bool) -> None:
    """Write the drawing sheet of a gear, a shaft or the machine of FILE to OUT: .pdf, .dxf or .svg.

    Section and end view with limits, run-outs and surfaces, the table of the toothing by ISO 1340, a title block. What
    it says beside the design stands with the gear. A shaft has its view with diameters, limits, places from one end,
    what is worked into each piece, and the toothing that is cut into it.
    """
    from cooper.atomic_write import atomic_write
    from cooper.errors import OutOfRange
    from cooper.exchange.assembly_sheet import machine_drawing
    from cooper.exchange.gear_drawing import gear_drawing
    from cooper.exchange.shaft_sheet import machine_counted, shaft_drawing

    design, results = _evaluated(file)
    if stage > len(results.stages):
        unusable(tr("stage {stage} cannot be: the train has {stages}", stage=stage, stages=len(results.stages)))
    try:
        if machine:
            page = machine_drawing(*machine_counted(design), units)
        elif shaft:
            design, results = machine_counted(design)
            page = shaft_drawing(design, results, shaft, units)
        else:
            page = gear_drawing(design, results, stage - 1, gear, units)
        atomic_write(out, page.write)
    except (ValueError, OSError, OutOfRange) as fault:
        unusable(message_of(fault))
    written(out)


@main.command()
@click.argument("file", type=click.Path(path_type=Path))
@click.option(
    "--lens",
    default="teeth",
    show_default=True,
    help=tr("View: teeth, mesh (close up), side, contact, shifts, why, duty, gear, dimensions, notes."),
)
@click.option("--out", type=click.Path(path_type=Path), required=True, help=tr("PNG to write."))
@click.option("--size", default="1280x800", show_default=True, help=tr("Width and height of the window in pixels."))
@click.option(
    "--theme",
    type=click.Choice(["light", "dark", tr("contrast light"), tr("contrast dark")]),
    default="light",
    show_default=True,
)
def shot(file: Path, lens: str, out: Path, size: str, theme: str) -> None:
    """Draw the real window on FILE offscreen and write it as a picture."""
    from cooper.desk.shell.pictures import LENSES, picture

    design, _ = _evaluated(file)
    if lens not in LENSES:
        unusable(tr("lens {lens!r} is not known; known are {lenses}", lens=lens, lenses=names_of(LENSES)))
    width, _, height = size.partition("x")
    plain = size.isascii() and width.isdigit() and height.isdigit() and len(size) < 12
    if not (plain and 960 <= int(width) <= 8000 and 600 <= int(height) <= 8000):
        unusable(tr("size {size!r} cannot be: give WIDTHxHEIGHT from 960x600 to 8000x8000", size=size))
    try:
        picture(design, lens, out, (int(width), int(height)), theme)
    except (OSError, ValueError) as fault:
        unusable(message_of(fault))
    written(out)


main.add_command(match)
main.add_command(survey)


def _evaluated(file: Path) -> tuple[Design, Results]:
    from cooper.document.store import Unusable, open_design, read_design
    from cooper.editing.formulas import settled
    from cooper.errors import OutOfRange

    begun = time.monotonic()
    try:
        # A design that another program hands over.
        design = read_design(sys.stdin.read(), tr("standard input")) if str(file) == "-" else open_design(file)
        LOG.info("opened in %.2f s: stages %d", time.monotonic() - begun, len(design.train.stages))
        result = settled(design)
        LOG.info(
            "worked out in %.2f s: checks %d, notes %d",
            time.monotonic() - begun,
            len(result[1].checks),
            len(result[1].notes),
        )
        return result
    except Unusable as fault:
        unusable(message_of(fault))
    except OutOfRange as fault:
        unusable(tr("{file}: {fault}", file=file, fault=fault))


def _window(file: Path | None, *, start: bool = False) -> None:
    # Before the document: NumPy takes 20 to 40 ms more where the models are loaded first.
    from cooper.desk.shell.app import has_display, run

    if file is not None:
        design = _evaluated(file)[0]
    else:
        from cooper.demo import demo as demo_design

        design = demo_design()
    if not has_display():
        unusable(
            tr(
                "There is no display to open a window on. Try: cooper demo, cooper check FILE, cooper shot "
                "FILE --out PNG"
            )
        )
    sys.exit(run(design, file, start=start))


def run() -> NoReturn:
    """Run a command; every way to end has a code of its own."""
    import signal

    # Asked to end, a command clears away what it has half written.
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(128 + signal.SIGTERM))
    choose_language()
    code: object = 0
    try:
        code = main(prog_name="cooper", standalone_mode=False)
        sys.stdout.flush()
    except click.exceptions.Exit as end:
        code = end.exit_code
    except click.ClickException as fault:
        tell_fault(fault)
        code = UNUSABLE
    except (click.Abort, KeyboardInterrupt):
        code = 128 + signal.SIGINT
    except BrokenPipeError:
        # Whoever read has read enough.
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        code = 128 + signal.SIGPIPE
    except OSError as fault:
        # A full disk behind standard output, for one.
        with suppress(OSError):
            os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        tell(
            tr(
                "Not written. {value}: {value_2}",
                value=fault.filename or tr("standard output"),
                value_2=fault.strerror or fault,
            ),
            err=True,
        )
        code = UNUSABLE
    except Exception as fault:
        record(fault, tr("command line"))
        tell(
            tr(
                "This should not happen: it is a fault of Cooper, not of the design ({name}). What went "
                "wrong is in {log_file}.",
                name=type(fault).__name__,
                log_file=log_file(),
            ),
            err=True,
        )
        code = BROKEN
    sys.exit(code if isinstance(code, int) else 0)


if __name__ == "__main__":
    run()
