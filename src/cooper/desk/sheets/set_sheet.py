"""The sheet of a set and of tooth counts: shafts and planets, speeds and torques, counts searched for a ratio."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QVBoxLayout,
    QWidget,
)
from shiboken6 import isValid

from cooper.desk.base import theme as th
from cooper.desk.base.registry import SheetEntry, register_sheet
from cooper.desk.base.session import Session
from cooper.desk.sheets.set_drawing import SetDrawing
from cooper.desk.sheets.set_search import Search, _counts_row, _small
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.widgets.brief import Sentence, Topic, slot
from cooper.desk.widgets.choices import Choice, Option, path_choice
from cooper.desk.widgets.labels import Label
from cooper.desk.widgets.typeset import html
from cooper.document.models import Design, GearSet
from cooper.document.units import number_with_unit
from cooper.editing.count_search import subject
from cooper.editing.fields import Field, optional_field, path_field
from cooper.editing.make_sets import (
    roles,
    set_number,
    with_free_sun,
    with_roles,
)
from cooper.editing.sheet_fields import duty_fields
from cooper.i18n.text import term, tr
from cooper.i18n.translate import translate
from cooper.results.set_flow import places_of


def _with_sun(n: int, wanted: bool, design: Design) -> Design:
    return with_free_sun(design, n, wanted)


def set_sheet(session: Session, theme: th.Theme, parent: QWidget) -> Sheet:
    """The set of the selected stage, or the stages in line, with the search for counts."""
    sheet = Sheet(session, theme, parent)
    k = session.stage
    n = set_number(session.design, k)
    sheet.setAccessibleName(translate(tr("Arrangement and tooth counts")))
    sheet.title.setText(
        translate(session.design.train.placed[n].name if n is not None else tr("Tooth counts for a ratio"))
    )
    if n is not None:
        _the_set(session, theme, sheet, k, n)
        shown = dict(sheet.fields)
        kind = session.design.train.placed[n].kind

        def renewed() -> dict[str, Field]:
            """The fields while the set stands as it is; none of them once it has gone or become another."""
            now = set_number(session.design, session.stage)
            same = now == n and session.design.train.placed[n].kind == kind
            return (
                {key: tag.field for key, tag in shown.items()}
                if same
                else {"gone": next(iter(duty_fields()["What is wanted"].values()))}
            )

        sheet.renew = renewed
    if subject(session.design, k):
        Search(session, theme, sheet, k)
    elif n is None:
        column = sheet.add_column()
        column.addWidget(
            _small(tr("Counts are searched for up to three external pairs in line, for planet sets and for two rings."))
        )
    sheet.finish()
    return sheet


def _the_set(session: Session, theme: th.Theme, sheet: Sheet, k: int, n: int) -> None:
    one = session.design.train.placed[n]
    base = one.path

    def role_words(a: str, b: str, c: str | None) -> str:
        return tr("{a} → {b}", a=a, b=b) + (tr(", {c} held", c=c) if c else "")

    def _now() -> GearSet:
        sets = session.design.train.placed
        return sets[n] if n < len(sets) else one

    def role_options() -> list[Option]:
        return [(role_words(*r), lambda d, r=r: with_roles(d, n, r)) for r in roles(_now())]  # type: ignore[misc]

    def role_now(d: object) -> str:
        if n >= len(session.design.train.placed):
            return ""
        now = session.design.train.placed[n]
        return role_words(now.input, now.output, now.held)

    shafts = Choice(session, "set_roles", tr("power goes"), role_now, role_options)
    # Where planets run about an axis the shafts are chosen on the drawing.
    rows: list[Field | Choice] = [] if one.arranged.around else [shafts]
    if one.arranged.around:
        rows += [
            path_field("n_planets", "n_planets", None, f"{base}.planets"),
            *(
                []
                if one.arranged.fixed
                else [optional_field("u_third", "u_third", None, f"{base}.u_third", 0.05, tr("held"))]
            ),
            path_choice(
                session,
                "floating",
                tr("load sharing"),
                f"{base}.floating",
                {True: tr("a member floats"), False: tr("no member floats")},
            ),
            optional_field(
                "K_gamma_set",
                "K_gamma",
                None,
                f"{base}.K_gamma",
                0.05,
                tr("follows"),
            ),
            optional_field("k_pl", "k_pl", None, f"{base}.k_pl", 1.0, tr("not given")),
            optional_field("e_pl", "e_pl", None, f"{base}.e_pl", 1.0, tr("not given")),
        ]
    if one.arranged.sun_between:
        words = {False: tr("no sun"), True: tr("a sun, free unless power goes through it")}
        rows.append(
            Choice(
                session,
                "free_sun",
                tr("between the planets"),
                lambda d: words[n < len(d.train.placed) and d.train.placed[n].free_sun],
                lambda: [(w, partial(_with_sun, n, v)) for v, w in words.items()],
            )
        )
    if not one.arranged.one_gear:
        rows.append(
            path_choice(
                session,
                "agree",
                tr("centre distances agree by"),
                f"{base}.agree",
                {
                    "shift": tr("the last ring's shift"),
                    "module": tr("module of the second mesh"),
                    "helix": tr("helix of the second mesh"),
                },
            )
        )
    sheet.add_brief(set_topics(one.arranged.words), rows)
    left = sheet.inside.last_column()
    if one.arranged.around:
        drawing = SetDrawing(session, theme, n)
        left.addWidget(drawing)
        sheet.choices += drawing.choices.values()
        sheet._places += drawing.choices.values()
        sheet.watch(drawing.refresh)
    _set_numbers(session, theme, sheet, n, left)
    if one.arranged.plain_planets:
        _counts_row(session, sheet, k, n, left)


def set_topics(arrangement: str) -> list[Topic]:
    """A set as one would tell it; what it does not have is left out by its sheet."""
    at = {name: slot(name) for name in SET_SLOTS}
    return [
        Topic(
            arrangement,
            [
                Sentence(tr("Power goes {set_roles}.", **at)),
                Sentence(tr("{n_planets} planets; {floating}.", **at)),
                Sentence(tr("The third shaft over the output: {u_third}.", **at), light=True),
                Sentence(tr("Between the planets: {free_sun}.", **at)),
                Sentence(tr("The centre distances agree by {agree}.", **at)),
                Sentence(
                    tr(
                        "Usual: load sharing {K_gamma_set}; else it follows from the stiffness {k_pl} and the "
                        "deviation {e_pl}.",
                        **at,
                    ),
                    light=True,
                ),
            ],
        )
    ]


SET_SLOTS = ("set_roles", "n_planets", "u_third", "floating", "free_sun", "agree", "K_gamma_set", "k_pl", "e_pl")
"""The values of a set: each stands in one sentence, where the set has it."""


def _set_numbers(session: Session, theme: th.Theme, sheet: Sheet, n: int, left: QVBoxLayout) -> None:
    """What the set comes to, as words that follow the design."""
    text = Label()
    text.setObjectName("set_numbers")
    text.setTextFormat(Qt.TextFormat.RichText)
    left.addWidget(text)

    def fill() -> None:
        if not isValid(text) or n >= len(session.results.sets):
            return
        s = session.results.sets[n]
        lines = [
            f"<tr><td style='color:{theme.muted}'>{html(term(name))} &nbsp;</td><td "
            f"align=right>{html(number_with_unit(v['n'], 'speed', session.system))} &nbsp;</td>"
            f"<td align=right>{html(number_with_unit(v['T'], 'torque', session.system))}</td></tr>"
            for name, v in s.shafts.items()
        ]
        v = s.values
        back = (
            tr("not looked at, as two shafts would drive it")
            if s.second
            else tr("{eta_back:.1f} %", eta_back=100 * v.eta_back)
            if v.eta_back > 0
            else tr("nothing: self-locking")
        )
        stages = tuple(session.design.train.stages[k] for k in s.stages)
        places = places_of(session.design.train.placed[n], stages)
        turn = s.shafts[s.input]["n"]
        free = (
            [tr("sun {turn}", turn=number_with_unit(turn * s.speeds["sun"], "speed", session.system))]
            if len(s.stages) == 3 and "sun" not in s.shafts
            else []
        )
        facts = [
            tr("ratio <b>{u:.6g}</b>, efficiency <b>{eta:.2f} %</b>", u=v.u, eta=100 * v.eta_set),
            tr(
                "backward {back}; friction ±30 %: {friction:.1f} to {friction_2:.1f} %",
                back=back,
                friction=100 * s.friction[1],
                friction_2=100 * s.friction[0],
            ),
            tr("through a mesh {circulation:.2f} of the input power", circulation=v.circulation),
            tr("envelope {envelope}", envelope=number_with_unit(v.envelope, "length", session.system)),
            *free,
        ]
        if places:
            facts.append(
                tr(
                    "{places} places for planets; {planets} stand {even}",
                    places=places,
                    planets=s.planets,
                    even=tr("evenly") if s.even else tr("at the nearest places, not evenly"),
                )
            )
        text.setText(
            f"<table cellspacing=1>{''.join(lines)}</table>"
            + "".join(f"<div style='margin-top:4px'>{translate(f)}</div>" for f in facts)
        )

    sheet.watch(fill)
    fill()


register_sheet(
    SheetEntry(
        "set",
        tr("Arrangement and tooth counts: planet set, two rings, ratio"),
        "Ctrl+R",
        lambda w: set_sheet(w.session, w.theme, w.bench),
        (936, 590),
        10,
    )
)
