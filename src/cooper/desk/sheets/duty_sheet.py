"""The sheet of the duty and what holds for all stages."""

from __future__ import annotations

from PySide6.QtWidgets import (
    QWidget,
)

from cooper.desk.base import theme as th
from cooper.desk.base.registry import SheetEntry, register_sheet
from cooper.desk.base.session import Session
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.widgets.brief import Sentence, Topic, slot
from cooper.desk.widgets.choices import Choice, Option, path_choice, setting
from cooper.editing.fields import Field
from cooper.editing.sheet_fields import duty_fields
from cooper.i18n.text import tr
from cooper.i18n.translate import translate
from cooper.stock.agma_tables import table
from cooper.stock.lubricants import oil_word, oils


def duty_sheet(session: Session, theme: th.Theme, parent: QWidget) -> Sheet:
    """The duty of the train and what holds for all its stages."""
    sheet = Sheet(session, theme, parent)
    sheet.title.setText(translate(tr("Duty")))
    sheet.setAccessibleName(translate(tr("Duty")))
    fields = duty_fields()

    def oil_options() -> list[Option]:
        base = "train.defaults.lubricant"
        return [
            (
                oil_word(name),
                setting(
                    {
                        f"{base}.name": o.name,
                        f"{base}.nu_40": float(o.nu_40),
                        f"{base}.nu_100": float(o.nu_100),
                        f"{base}.rho_15": float(o.rho_15),
                        f"{base}.X_L": o.X_L,
                        f"{base}.kind": o.kind,
                    }
                ),
            )
            for name, o in oils().items()
        ]

    film = path_choice(
        session,
        "oil_kind",
        tr("kind of oil"),
        "train.defaults.lubricant.kind",
        {"mineral": tr("mineral"), "polyalphaolefin": tr("polyalphaolefin"), "polyglycol": tr("polyglycol")},
    )
    direction = path_choice(
        session,
        "direction",
        tr("input turns, as drawn"),
        "train.duty.direction",
        {"counter-clockwise": tr("counter-clockwise"), "clockwise": tr("clockwise")},
    )
    oil = Choice(session, "oil", tr("oil"), lambda d: oil_word(d.train.defaults.lubricant.name), oil_options, own=True)
    pitting = path_choice(
        session,
        "pitting",
        tr("some pitting allowed"),
        "train.defaults.pitting_allowed",
        {False: tr("no"), True: tr("a limited amount")},
    )
    method = path_choice(
        session,
        "strength_method",
        tr("governing strength method"),
        "train.defaults.method",
        {"ISO 6336:2019": tr("ISO 6336:2019"), "ANSI/AGMA 2101-D04": tr("ANSI/AGMA 2101-D04")},
    )
    reliability = path_choice(
        session,
        "reliability",
        tr("reliability (AGMA)"),
        "train.defaults.reliability",
        {r: tr("{r} (Y_Z = {y:g})", r=r, y=y) for r, y in table("reliability").items()},
    )
    service = path_choice(
        session,
        "critical_service",
        tr("life curves (AGMA)"),
        "train.defaults.critical_service",
        {False: tr("general applications"), True: tr("critical service")},
    )
    lubrication = path_choice(
        session,
        "lubrication",
        tr("how the oil reaches the teeth"),
        "train.defaults.lubrication",
        {"dip": tr("gears dip into it"), "spray": tr("sprayed on"), "submerged": tr("gears submerged")},
    )
    rows: list[Field | Choice] = [f for group in fields.values() for f in group.values()]
    rows += [direction, method, reliability, service, oil, film, lubrication, pitting]
    sheet.add_brief(duty_topics(), rows)
    sheet.finish()
    return sheet


def duty_topics() -> list[Topic]:
    """The duty as one would tell it to a colleague; what is as usual stands in a light line of its own."""
    at = {name: slot(name) for name in SLOTS}
    return [
        Topic(
            tr("What comes in"),
            [
                Sentence(tr("{P} at {n}, that is {T}; seen as drawn, the input turns {direction}.", **at)),
                Sentence(tr("Shocks: application factor {K_A}, greatest torque over the nominal one {K_AP}.", **at)),
            ],
        ),
        Topic(tr("What is wanted"), [Sentence(tr("A ratio of {u_wanted} within {u_tol}, for {L_h}.", **at))]),
        Topic(
            tr("How it is rated"),
            [
                Sentence(
                    tr(
                        "By {strength_method}: flanks at least {S_Hmin}, roots {S_Fmin}, scuffing {S_Bmin} and "
                        "{S_intmin}, flank fracture {S_FFmin}, micropitting {S_lambda_min}.",
                        **at,
                    )
                ),
                Sentence(
                    tr(
                        "Usual: contact ratio {eps_alpha_min}, tip land {s_an_min}, tip clearance {c_min}, backlash "
                        "{j_min}, room for the process {c_proc}; under the greatest load flanks {S_Hstmin}, roots "
                        "{S_Fstmin}; life factors {NT_1e10} at 1e10 cycles, pitting allowed: {pitting}.",
                        **at,
                    ),
                    light=True,
                ),
                Sentence(tr("By AGMA: reliability {reliability}, life curves {critical_service}.", **at), light=True),
            ],
        ),
        Topic(
            tr("Oil"),
            [
                Sentence(tr("{oil}, {lubrication}, at {theta_oil}.", **at)),
                Sentence(
                    tr(
                        "It passed stage {S_FZG} of the scuffing test and {S_GF} of the micropitting test at "
                        "{theta_GF}; flanks run in to {phi_E}.",
                        **at,
                    )
                ),
                Sentence(
                    tr("Of its kind: {oil_kind}, {nu_40} and {nu_100}, {rho_15}, lubricant factor {X_L}.", **at),
                    light=True,
                ),
            ],
        ),
        Topic(
            tr("Temperatures"),
            [
                Sentence(
                    tr(
                        "Usual: gears at {theta_gears} and housing at {theta_housing} in service, "
                        "the housing expanding by {alpha_housing}.",
                        **at,
                    ),
                    light=True,
                )
            ],
        ),
    ]


SLOTS = (
    *("P", "T", "n", "K_A", "K_AP", "direction", "u_wanted", "u_tol", "L_h", "strength_method", "reliability"),
    *("critical_service", "S_Hmin", "S_Fmin", "S_Bmin", "S_intmin", "S_FFmin", "S_lambda_min", "eps_alpha_min"),
    *("s_an_min", "c_min", "j_min", "c_proc", "NT_1e10", "S_Hstmin", "S_Fstmin", "pitting", "oil", "oil_kind", "nu_40"),
    *("nu_100", "rho_15", "X_L", "S_FZG", "phi_E", "theta_oil", "S_GF", "theta_GF", "lubrication", "theta_gears"),
    *("theta_housing", "alpha_housing"),
)
"""The values of the duty: each stands in its sentences once."""


register_sheet(
    SheetEntry("duty", tr("Edit the duty"), "Ctrl+D", lambda w: duty_sheet(w.session, w.theme, w.bench), (910, 590), 0)
)
