"""The bar under a shaft's drawing: all that the selected piece has beside diameter and length."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.widgets.choices import Choice, Option
from cooper.desk.widgets.labels import Label, plain_tip
from cooper.desk.widgets.shapes import drop
from cooper.desk.widgets.tag import Tag
from cooper.document.models import Design
from cooper.document.units import number_with_unit
from cooper.editing.fields import Field
from cooper.editing.machine_edits import in_machine
from cooper.editing.machine_fields import (
    end_field,
    fillet_field,
    hole_field,
    joint_field,
    pin_field,
    place_field,
    rating_field,
    screw_fields,
)
from cooper.i18n.text import join, tr
from cooper.i18n.translate import translate
from cooper.machine.shaft_model import SCREWS
from cooper.results.find_machine import cached_machine
from cooper.results.machine_result import ShaftResult
from cooper.results.machine_why import why_machine
from cooper.stock.fits import shaft_deviations
from cooper.stock.rolling import rolling_types, series_of
from cooper.stock.undercuts import UNDERCUTS

JOINTS = ("key", "two keys", "spline", "press fit", "pin", "set screw", "two set screws", "integral")


RETENTION = ("sleeve", "retaining ring", "nut", "nothing")
"""What can keep a hub or ring on its outer side."""
PAIRED = ("face to face", "back to back")
"""How the two bearings of a shaft with a contact angle stand to each other."""


class PieceBar(QWidget):
    """One row of tags and choices, made anew for another piece; ``list_wanted`` asks for all bearings that fit."""

    list_wanted = Signal()

    def __init__(self, session: Session, theme: th.Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self.setObjectName("piece_bar")
        self.session, self.theme = session, theme
        lines = QVBoxLayout(self)
        lines.setContentsMargins(0, 0, 0, 0)
        lines.setSpacing(1)
        self.row = QHBoxLayout()
        self.row.setSpacing(7)
        lines.addLayout(self.row)
        self.told = Label("")
        self.told.setObjectName("piece_words")
        lines.addWidget(self.told)
        lines.addStretch(1)
        self.shown: tuple[object, ...] = ()
        self.tags: list[Tag] = []
        self.choices: list[Choice] = []

    def show_piece(self, shaft: ShaftResult | None, name: str) -> None:
        """The data of a piece; an empty name tells what a click does."""
        kind = "" if shaft is None else self._kind(shaft, name)
        joint = "" if shaft is None else self._joint_kind(shaft, name)
        cut = "" if shaft is None else self._has_undercut(shaft, name)
        shown = (None if shaft is None else shaft.key, name, kind, joint, cut, self.theme.name)
        if shown != self.shown:
            self.shown = shown
            self._make(shaft, name, kind)
        for tag in self.tags:
            tag.refresh()
        for choice in self.choices:
            choice.refresh()
        self.told.setText(translate("" if shaft is None else self._words(shaft, name, kind)))
        plain_tip(self.told, "" if shaft is None else self._steps(shaft, name, kind))

    @staticmethod
    def _kind(shaft: ShaftResult, name: str) -> str:
        piece = next((p for p in shaft.made.pieces if p.name == name), None)
        return "" if piece is None else piece.kind

    def _make(self, shaft: ShaftResult | None, name: str, kind: str) -> None:
        while self.row.count():
            item = self.row.takeAt(0)
            widget = None if item is None else item.widget()
            if widget is not None:
                drop(widget)
        self.tags, self.choices = [], []
        head = Label(self._title(shaft, name) if kind and shaft is not None else "")
        th.set_text_role(head, "copper", bold=True)
        self.row.addWidget(head)
        if shaft is not None and kind:
            if kind == "bearing":
                if name not in ("bearing 1", "bearing 2"):
                    self._tag(place_field(shaft, name))
                self._choice(f"{name}_type", tr("type of the bearing"), *self._types(shaft, name))
                self._choice(f"{name}_series", tr("dimension series"), *self._series(shaft, name))
                if name in ("bearing 1", "bearing 2") and all(b.bearing.adjusted for b in shaft.made.bearings[:2]):
                    self._choice(
                        f"{name}_paired",
                        tr("how bearings with a contact angle stand to each other"),
                        *self._paired(shaft),
                    )
                more = QPushButton(translate(tr("list …")))
                more.setObjectName("bearing_list")
                more.setProperty("chip", True)
                more.clicked.connect(self.list_wanted.emit)
                self.row.addWidget(more)
                self._tag(rating_field(shaft, name, "C_r"))
                self._tag(rating_field(shaft, name, "C_0r"))
            if kind in ("seat", "end"):
                self._choice(f"{name}_joint", tr("joint of hub and shaft"), *self._joints(shaft, name))
                joint = self._joint_kind(shaft, name)
                on = self._on(shaft, name)
                if joint in SCREWS:
                    for field in screw_fields(shaft, on):
                        self._tag(field)
                elif joint != "integral":
                    self._tag((pin_field if joint == "pin" else joint_field)(shaft, on))
            if name in ("bearing 1", "bearing 2") or (
                kind == "seat" and self._joint_kind(shaft, name) not in ("", "integral")
            ):
                self._choice(f"{name}_retention", tr("what keeps it on its outer side"), *self._retention(shaft, name))
            if not self._has_undercut(shaft, name):
                self._tag(fillet_field(shaft, name))
            if kind in ("bearing", "seat", "gap", "end") and self._joint_kind(shaft, name) != "integral":
                self._choice(f"{name}_undercut", tr("undercut of DIN 509 at its foot"), *self._undercuts(shaft, name))
            if kind in ("gap", "collar", "end"):
                self._tag(hole_field(shaft, name))
            if kind == "end":
                self._tag(end_field(shaft, name, "F"))
                self._tag(end_field(shaft, name, "phi"))
                self._tag(end_field(shaft, name, "J"))
        th.set_text_role(self.told, "muted", th.SMALL)
        self.row.addStretch(1)

    def _title(self, shaft: ShaftResult, name: str) -> str:
        seat = next((s for s in shaft.made.wish.seats if name == f"seat {s.gear}"), None)
        return tr("seat of {name}", name=seat.name) if seat is not None else name

    def _tag(self, field: Field) -> None:
        tag = Tag(self.session, field, self.theme, self)
        tag.setObjectName(f"tag_{field.key.replace(' ', '_')}")
        self.tags.append(tag)
        self.row.addWidget(tag)

    def _choice(self, key: str, meaning: str, now: object, options: object) -> None:
        choice = Choice(self.session, key.replace(" ", "_"), meaning, now, options)  # type: ignore[arg-type]
        self.choices.append(choice)
        self.row.addWidget(choice)

    # -- choices

    def _now(self) -> ShaftResult | None:
        result = cached_machine(self.session.design.train, self.session.results)
        return None if result is None else result.shaft(str(self.shown[0]))

    def _types(self, shaft: ShaftResult, name: str) -> tuple[object, object]:
        def now(_d: Design) -> str:
            s = self._now() or shaft
            return next((b.bearing.type for b in s.made.bearings if b.name == name), "")

        def options() -> list[Option]:
            base = ("shafts", shaft.key, "bearings", name)
            one = [(tr("as proposed"), lambda d: in_machine(d, ((*base, "type"), None), ((*base, "series"), None)))]
            return one + [(kind, partial(_typed, base=base, kind=kind)) for kind in rolling_types()]

        return now, options

    def _series(self, shaft: ShaftResult, name: str) -> tuple[object, object]:
        def bearing() -> tuple[str, str]:
            s = self._now() or shaft
            b = next((b.bearing for b in s.made.bearings if b.name == name), None)
            return (b.type, b.series) if b is not None else ("", "")

        def now(_d: Design) -> str:
            return tr("series {bearing}", bearing=bearing()[1])

        def options() -> list[Option]:
            base = ("shafts", shaft.key, "bearings", name)
            kind = bearing()[0]
            one: list[Option] = [(tr("as proposed"), lambda d: in_machine(d, ((*base, "series"), None)))]
            return one + [
                (tr("series {s}", s=s), partial(_series_given, base=base, kind=kind, series=s)) for s in series_of(kind)
            ]

        return now, options

    def _paired(self, shaft: ShaftResult) -> tuple[object, object]:
        def now(d: Design) -> str:
            given = d.train.machine.shafts.get(shaft.key) if d.train.machine is not None else None
            return PAIRED[0] if given is None else given.paired

        def options() -> list[Option]:
            path = ("shafts", shaft.key, "paired")
            return [(way, partial(_given, path=path, value=way)) for way in PAIRED]

        return now, options

    def _on(self, shaft: ShaftResult, name: str) -> str:
        return name.removeprefix("seat ") if name.startswith("seat ") else name

    def _has_undercut(self, shaft: ShaftResult, name: str) -> str:
        return next((p.undercut for p in shaft.made.pieces if p.name == name), "")

    def _undercuts(self, shaft: ShaftResult, name: str) -> tuple[object, object]:
        def now(_d: Design) -> str:
            form = self._has_undercut(self._now() or shaft, name)
            return tr("undercut {form}", form=form) if form else "fillet"

        def options() -> list[Option]:
            path = ("shafts", shaft.key, "pieces", name, "undercut")
            made = [("fillet", lambda d: in_machine(d, (path, None)))]
            return made + [
                (tr("undercut {form}", form=form), partial(_given, path=path, value=form)) for form in UNDERCUTS
            ]

        return now, options

    def _joint_kind(self, shaft: ShaftResult, name: str) -> str:
        return next((j.kind for j in shaft.made.joints if j.piece == name), "")

    def _joints(self, shaft: ShaftResult, name: str) -> tuple[object, object]:
        def now(_d: Design) -> str:
            return self._joint_kind(self._now() or shaft, name)

        def options() -> list[Option]:
            path = ("shafts", shaft.key, "joints", self._on(shaft, name), "kind")
            kinds = JOINTS if name.startswith("seat ") else JOINTS[:-1]
            one: list[Option] = [(tr("as proposed"), lambda d: in_machine(d, (path, None)))]
            return one + [(kind, partial(_given, path=path, value=kind)) for kind in kinds]

        return now, options

    def _retention(self, shaft: ShaftResult, name: str) -> tuple[object, object]:
        def now(_d: Design) -> str:
            return (self._now() or shaft).made.retained_by(name)

        def options() -> list[Option]:
            path = ("shafts", shaft.key, "retention", name)
            one: list[Option] = [(tr("as proposed"), lambda d: in_machine(d, (path, None)))]
            return one + [(kind, partial(_given, path=path, value=kind)) for kind in RETENTION]

        return now, options

    # -- what it comes to

    def _steps(self, shaft: ShaftResult, name: str, kind: str) -> str:
        """The steps behind what is told, for the tooltip."""
        result = cached_machine(self.session.design.train, self.session.results)
        if result is None:
            return ""
        symbols = {
            "bearing": ("L_nmh", "S_0"),
            "seat": ("S_J", "S_ax"),
            "end": ("S_J",),
            "groove": ("S_ax",),
            "thread": ("S_ax",),
        }.get(kind, ())
        rows = [r for s in symbols for r in why_machine(result, tr("{key} {name}", key=shaft.key, name=name), s)]
        return join(
            "\n",
            (
                f"{label} = {number_with_unit(value, unit, self.session.system)}   [{source}]"
                for label, value, unit, source in rows
            ),
        )

    def _held_words(self, shaft: ShaftResult, name: str) -> str:
        """What the piece's ring, nut or sleeve is ordered by or made to, and what it keeps."""
        piece = shaft.made.piece(name)
        own = next((r.designation for p, r in shaft.made.rings if p.name == name), "")
        nut = next((n for p, n in shaft.made.nuts if p.name == name), None)
        if nut is not None:
            own = tr("DIN 981, KM {n}", n=nut.number)
        if piece.sleeve:
            own = tr("sleeve {D:g} x {d:g} x {length:g}", D=piece.sleeve, d=piece.d, length=round(piece.length, 2))
        return tr("{what}, keeps {thing}", what=own, thing=self._title(shaft, piece.holds)) if own else ""

    def _words(self, shaft: ShaftResult, name: str, kind: str) -> str:
        system = self.session.system
        if not kind:
            return tr(
                "Click a piece for its bearing, joint and fillet; drag it for its diameter, a face for its "
                "length; S cuts it. R turns the machine the other way."
            )
        if kind == "bearing":
            k = next(k for k, b in enumerate(shaft.made.bearings) if b.name == name)
            b, f = shaft.made.bearings[k], shaft.checked.bearings[k]
            size = tr("{d:g} × {D:g} × {B:g}", d=b.bearing.d, D=b.bearing.D, B=b.bearing.B)
            place = tr("bears the thrust") if b.fixed else "floats"
            seat = shaft_deviations(b.bearing.d, "k", 6)
            if seat is not None:
                # As is customary where the load turns against the inner ring.
                place += tr(", seat k6 {seat:+.0f} {seat_2:+.0f} µm", seat=1000 * seat[1], seat_2=1000 * seat[0])
            life = (
                tr("unloaded")
                if f.L_nmh >= 1e9
                else tr("{L_nmh}, S₀ {S_0:.2f}", L_nmh=number_with_unit(f.L_nmh, "time", system), S_0=f.S_0)
            )
            return tr("{size}, {place}: {life}", size=size, place=place, life=life)
        held = self._held_words(shaft, name)
        if held:
            return held
        joint = next((k for k, j in enumerate(shaft.made.joints) if j.piece == name), None)
        if joint is None:
            return ""
        j, g = shaft.made.joints[joint], shaft.checked.joints[joint]
        if j.kind == "integral":
            return tr("cut into the shaft")
        if j.kind in ("key", "two keys"):
            return tr(
                "{b:g} × {h:g} × {length:g}, {system}: S {S:.2f}",
                b=j.b,
                h=j.h,
                length=j.length,
                system=number_with_unit(g.p, "stress", system),
                S=g.S,
            )
        if j.kind == "spline":
            return tr(
                "{d:g} × {m:g} × {z}, {system}: S {S:.2f}",
                d=j.d,
                m=j.m,
                z=j.z,
                system=number_with_unit(g.p, "stress", system),
                S=g.S,
            )
        if j.kind == "pin":
            return tr(
                "pin {d_pin:g} across, {system}: S {S:.2f}",
                d_pin=j.d_pin,
                system=number_with_unit(g.p, "stress", system),
                S=g.S,
            )
        if j.screws:
            what = tr("{kind} M{d_screw:g}", kind=j.kind, d_screw=j.d_screw)
            return tr(
                "{what}, tightened with {M_A}: S {S:.2f} against slipping",
                what=what,
                M_A=number_with_unit(j.M_A, "torque", system),
                S=g.S,
            )
        fit = tr("{fit}, ", fit=j.fit) if j.fit else ""
        return tr(
            "{fit}interference {U:.0f} to {U_max:.0f} µm, {system}: S {S:.2f}",
            fit=fit,
            U=1000 * j.U,
            U_max=1000 * j.U_max,
            system=number_with_unit(g.p, "stress", system),
            S=g.S,
        )


def _typed(d: Design, base: tuple[str, ...], kind: str) -> Design:
    return in_machine(d, ((*base, "type"), kind), ((*base, "series"), None))


def _series_given(d: Design, base: tuple[str, ...], kind: str, series: str) -> Design:
    return in_machine(d, ((*base, "type"), kind), ((*base, "series"), series))


def _given(d: Design, path: tuple[str, ...], value: str) -> Design:
    return in_machine(d, (path, value))
