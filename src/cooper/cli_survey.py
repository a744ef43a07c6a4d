"""The survey from the command line: from a duty alone, or with that of a design."""

from __future__ import annotations

import json
import sys
from pathlib import Path
from typing import TYPE_CHECKING, Any, get_origin

import click

from cooper.cli_words import TranslatedCommand, names_of, tell, unusable, written
from cooper.errors import message_of
from cooper.i18n.text import join, tr
from cooper.i18n.translate import translate

if TYPE_CHECKING:
    from cooper.document.models import Design
    from cooper.document.survey_spec import SurveySpec
    from cooper.survey.survey_result import SurveyResult

LISTED = ("u", "m_n", "a_w", "width", "S_F", "S_H", "worst", "eta", "mass")


@click.command(cls=TranslatedCommand, short_help=tr("Search for designs from a duty, alone or of FILE."))
@click.argument("file", required=False, type=click.Path(path_type=Path))
@click.option("--power", help=tr("Power at the input, with its unit: 11kW."))
@click.option("--torque", help=tr("Torque at the input, with its unit: 0.9Nm; in place of the power."))
@click.option("--speed", help=tr("Speed at the input, rpm."))
@click.option("--ratio", type=float, help=tr("Wanted ratio, input over output."))
@click.option("--tolerance", type=float, help=tr("Its tolerance, %."))
@click.option("--life", type=float, help=tr("Life, h."))
@click.option("--shocks", type=float, help=tr("Application factor K_A."))
@click.option("--process", help=tr("How the gears are made: cut, ground, sintered, moulded, printed, sheet."))
@click.option("--arrangement", "arrangements", multiple=True, help=tr("Arrangement that is searched; any number."))
@click.option(
    "--bound", "bounds", multiple=True, help=tr("A bound as NAME=VALUE, e.g. m_high=3 or planets=3,4; any number.")
)
@click.option("--bounds", "file_of_bounds", type=click.Path(path_type=Path), help=tr("JSON file with bounds by name."))
@click.option(
    "--around", type=click.IntRange(1), help=tr("Close in around this stage of FILE in place of searching wide.")
)
@click.option("--filter", "condition", default="", help="Conditions on what is listed: 'm_n<3 S_F>=1.5 helical'.")
@click.option("--sort", "by", default="mass", show_default=True, help=tr("Quantity that the list is sorted by."))
@click.option("--most", type=click.IntRange(0), default=12, show_default=True, help=tr("Length of the list."))
@click.option("--csv", "csv_out", type=click.Path(path_type=Path), help=tr("Write what is found as CSV."))
@click.option("--xlsx", "xlsx_out", type=click.Path(path_type=Path), help=tr("Write it as a spreadsheet."))
@click.option("--take", type=click.IntRange(1), help=tr("Take the design of this number of the list."))
@click.option(
    "--out",
    type=click.Path(path_type=Path),
    help=tr("Design file to write: with --take that design, the survey within."),
)
def survey(
    file: Path | None,
    power: str | None,
    torque: str | None,
    speed: str | None,
    ratio: float | None,
    tolerance: float | None,
    life: float | None,
    shocks: float | None,
    process: str | None,
    arrangements: tuple[str, ...],
    bounds: tuple[str, ...],
    file_of_bounds: Path | None,
    around: int | None,
    condition: str,
    by: str,
    most: int,
    csv_out: Path | None,
    xlsx_out: Path | None,
    take: int | None,
    out: Path | None,
) -> None:
    """Search for designs and list them. Ends with 0 when any is found, 1 when none is, 2 when it cannot be searched.

    The duty is that of FILE, or what the options say; bounds that are not given are those usual for the process.
    """
    from cooper.document.store import Unusable, save_design
    from cooper.errors import OutOfRange
    from cooper.exchange.survey_table import save_survey
    from cooper.results.solve_stage import solve_duty
    from cooper.survey.patterns import customary_words
    from cooper.survey.survey_result import survey_of
    from cooper.survey.task import at_once

    try:
        _known(process)
        duty_options = {"speed": speed, "ratio": ratio, "tolerance": tolerance, "life": life, "shocks": shocks}
        base = _base(file, power, torque, process, duty_options)
        question = _question(base, file, process, arrangements, bounds, file_of_bounds)
        result = at_once(question, base, None if around is None else around - 1)
        rows = _rows(result, condition, by)
        for path in (csv_out, xlsx_out):
            if path is not None:
                save_survey(result, path, rows=rows)
        _tell(result, rows, most)
        customary = customary_words(question.process, solve_duty(base.train.duty)[1], question.K_Hbeta)
        if customary and around is None:
            tell(customary)
        if out is not None:
            kept = survey_of(result, base, None if around is None else around - 1)
            base = base.replace_unchecked(survey=kept)
            if take is not None and not 1 <= take <= len(rows):
                raise OutOfRange("take", take, tr("the list has no such number"), low=1, high=len(rows))
            save_design(
                result.design(rows[take - 1], base, around=around is not None) if take is not None else base, out
            )
            written(out)
    except (OutOfRange, Unusable, OSError, ValueError, KeyError) as fault:
        unusable(message_of(fault))
    sys.exit(0 if len(rows) else 1)


def _base(
    file: Path | None, power: str | None, torque: str | None, process: str | None, text: dict[str, Any]
) -> Design:
    """The design whose duty is searched for: that of the file with what is told, or one from the duty alone."""
    from cooper.document.duty import Duty
    from cooper.document.store import open_design
    from cooper.document.units import parse
    from cooper.errors import OutOfRange
    from cooper.survey.patterns import from_duty

    changes: dict[str, Any] = {}
    for name, key in (("ratio", "u_wanted"), ("tolerance", "u_tol"), ("life", "L_h"), ("shocks", "K_A")):
        if text[name] is not None:
            changes[key] = text[name]
    if text["speed"] is not None:
        changes["n"] = parse(text["speed"], "speed", "mm", "speed")
    if power is not None and torque is not None:
        raise OutOfRange("torque", torque, tr("give power or torque, not both: the speed gives the other"))
    if power is not None:
        changes |= {"P": parse(power, "power", "mm", "power"), "T": None}
    if torque is not None:
        changes |= {"T": parse(torque, "torque", "mm", "torque"), "P": None}
    if file is not None:
        design = open_design(file)
        now = design.train.duty.plain()
        if (
            changes.get("n") is not None
            and changes.keys().isdisjoint(("P", "T"))
            and now["P"] is not None
            and now["T"] is not None
        ):
            changes["T"] = None
        duty = Duty.from_data({**now, **changes}, whole=tr("the survey"))
        return design.replace_unchecked(train=design.train.replace_unchecked(duty=duty))
    missing = [w for w, k in (("--speed", "n"), ("--ratio", "u_wanted")) if k not in changes]
    if power is None and torque is None:
        missing.insert(0, tr("--power or --torque"))
    if missing:
        raise OutOfRange(
            "duty", "nothing", tr("without a FILE these are needed: {missing}", missing=join(", ", missing))
        )
    return from_duty(Duty(**changes), process or "ground")


def _question(
    base: Design,
    file: Path | None,
    process: str | None,
    arrangements: tuple[str, ...],
    bounds: tuple[str, ...],
    file_of_bounds: Path | None,
) -> SurveySpec:
    """What is asked: that of the file's survey or of the process, with the bounds told."""
    from cooper.document.base import fields_of
    from cooper.document.survey_spec import SurveySpec, asked
    from cooper.errors import OutOfRange

    text: dict[str, Any] = {}
    if file_of_bounds is not None:
        read = json.loads(file_of_bounds.read_text(encoding="utf-8"))
        if not isinstance(read, dict):
            raise OutOfRange(
                "bounds", file_of_bounds.name, tr("a file of bounds holds one object: names with their values")
            )
        text |= read
    for bound in bounds:
        name, sign, value = bound.partition("=")
        if not sign:
            raise OutOfRange("bound", bound, tr("a bound is written NAME=VALUE"))
        text[name.strip()] = _value(name.strip(), value.strip())
    known = fields_of(SurveySpec)
    unknown = [n for n in text if n not in known]
    if unknown:
        raise OutOfRange("bound", unknown[0], tr("no bound is called so; there are {known}", known=names_of(known)))
    if arrangements:
        text["arrangements"] = arrangements
    kept = base.survey.question if base.survey is not None and file is not None else None
    way = process or text.get("process") or (kept.process if kept is not None else "ground")
    _known(way)
    start = kept if kept is not None and way == kept.process else asked(process=way, shown=("factor",))
    return SurveySpec.from_data({**start.plain(), **text, "process": way}, whole=tr("the survey"))


def _known(process: str | None) -> None:
    from cooper.errors import OutOfRange
    from cooper.stock.processes import processes

    if process is not None and process not in processes():
        raise OutOfRange(
            "process", process, tr("no way of making gears is called so; there are {ways}", ways=names_of(processes()))
        )


def _value(name: str, text: str) -> Any:
    """A value of a bound: a number, words, or several with commas between them where the bound holds several."""
    from cooper.document.base import bare, types_of
    from cooper.document.survey_spec import SurveySpec

    field = types_of(SurveySpec).get(name)
    several = field is not None and get_origin(bare(field)[0]) is tuple
    parts = [p.strip() for p in text.split(",")] if several else [text]
    result: list[Any] = []
    for part in parts:
        try:
            number = float(part)
            result.append(int(number) if number == int(number) else number)
        except ValueError:
            result.append(None if part in ("", "none") else part)
    return [f for f in result if f is not None] if several else result[0]


def _rows(result: SurveyResult, condition: str, by: str) -> list[int]:
    """The designs that are listed, in order."""
    import numpy as np

    from cooper.errors import OutOfRange
    from cooper.survey.criteria import BETTER_MORE, CRITERIA
    from cooper.survey.filters import chosen

    if by not in CRITERIA:
        raise OutOfRange(
            "sort",
            by,
            tr("no quantity of the survey is called so; there are {yardsticks}", yardsticks=names_of(CRITERIA)),
        )
    if not len(result):
        return []
    rows = np.flatnonzero(chosen(result, condition))
    sign = -1.0 if CRITERIA[by].better == BETTER_MORE else 1.0
    values = result.values.get(by, np.zeros(len(result)))
    return [int(n) for n in rows[np.argsort(sign * values[rows], kind="stable")]]


def _tell(result: SurveyResult, rows: list[int], most: int) -> None:
    """What became of the candidates, and the first designs of the list."""
    from cooper.survey.criteria import CRITERIA
    from cooper.survey.rules import rule_words

    whole = "" if result.whole else tr(", not searched to the end")
    tell(
        tr(
            "{possible:.4g} candidates, {looked} looked at one by one, {found} found{whole}",
            possible=result.possible,
            looked=result.looked,
            found=len(result),
            whole=whole,
        )
    )
    for rule, many in sorted(result.gone.items(), key=lambda kv: -kv[1]):
        if many:
            tell(tr("  {many:14.0f} went by {rule}", many=many, rule=rule_words(rule)))
    if not rows:
        return
    heads = [tr("{k} {unit}", k=k, unit=CRITERIA[k].unit()).strip() for k in LISTED]
    click.echo(f"{'':6}" + "".join(f"{h:>12}" for h in heads))
    for place, n in enumerate(rows[:most], 1):
        cells = [CRITERIA[k].text(float(result.values[k][n])) if k in result.values else "–" for k in LISTED]
        click.echo(
            tr("{place:5d} ", place=place)
            + "".join(f"{translate(c):>12}" for c in cells)
            + tr("  {n}", n=translate(result.label(n)))
        )
