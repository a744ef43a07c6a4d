"""The sheet of the duty and what holds for all stages."""

from __future__ import annotations

from PySide6.QtWidgets import (
    QWidget,
)

from cooper.desk.base import theme as th
from cooper.desk.base.registry import SheetEntry, register_sheet
from cooper.desk.base.session import Session
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.widgets.choices import Choice, Option, path_choice, setting
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
    left, middle, right = sheet.add_column(), sheet.add_column(), sheet.add_column()
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
    sheet.add_group(left, tr("What comes in"), [*fields["What comes in"].values(), direction])
    sheet.add_group(left, tr("What is wanted"), list(fields["What is wanted"].values()))
    sheet.add_group(left, tr("Method"), [method, reliability, service])
    sheet.add_group(middle, tr("Oil"), [oil, film, *fields["Oil"].values(), lubrication])
    sheet.add_group(middle, tr("Temperatures in service"), list(fields["Temperatures in service"].values()))
    sheet.add_group(right, tr("Required of every stage"), [*fields["Required of every stage"].values(), pitting])
    sheet.finish()
    return sheet


register_sheet(
    SheetEntry("duty", tr("Edit the duty"), "Ctrl+D", lambda w: duty_sheet(w.session, w.theme, w.bench), (910, 590), 0)
)
