"""The sheet of one gear: tool, thickness, blank, material with own values, load on the teeth."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import suppress
from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QBoxLayout, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from cooper.desk.base import shelf
from cooper.desk.base import theme as th
from cooper.desk.base.registry import SheetEntry, register_sheet
from cooper.desk.base.session import Session
from cooper.desk.sheets.blank_drawing import BlankDrawing
from cooper.desk.sheets.case_drawing import ON_CASE, CaseDrawing
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.sheets.tagged_drawing import TaggedDrawing
from cooper.desk.sheets.thickness_drawing import ON_TOOTH, ThicknessDrawing
from cooper.desk.sheets.tool_drawing import DRAWN, ToolDrawing
from cooper.desk.widgets.brief import Sentence, Topic, slot
from cooper.desk.widgets.card import ask_text
from cooper.desk.widgets.choices import Choice, Option, path_choice, setting
from cooper.desk.widgets.labels import Label
from cooper.document.gear_data import Gear
from cooper.document.models import Design
from cooper.document.plain import get_at
from cooper.document.quantities import plain
from cooper.document.units import number_with_unit
from cooper.editing.edit import give_kind, set_many
from cooper.editing.sheet_fields import gear_fields, member_path
from cooper.errors import OutOfRange
from cooper.i18n.text import term, tr
from cooper.i18n.translate import translate
from cooper.kinds.kind import Kind
from cooper.kinds.known import KINDS, kind_of
from cooper.stock.allowances import classes, series, thickness_allowances
from cooper.stock.materials import groups, is_standard
from cooper.stock.racks import RackProfile, rack_profiles


def material_words(group: str, grade: str) -> str:
    """A material of the stock in words; those outside ISO 6336-5 say so."""
    name = groups()[group]["name"]
    return (
        tr("{name}, {grade}", name=name, grade=term(grade))
        if is_standard(group)
        else tr("{name} (beyond ISO 6336-5)", name=name)
    )


def keep_material(session: Session, path: str, parent: QWidget, name: str = "") -> bool:
    """Keep the gear's material, with what is entered of its own, under a name on the user's shelf."""
    if not name:
        name = ask_text(parent, tr("Keep as own material"), tr("Name"), answer=tr("Keep")) or ""
        if not name.strip():
            return False
    named = get_at(session.design, path).material.replace_unchecked(name=name.strip()[:80])
    shelf.keep(named)
    label = tr("own material {name}", name=named.name)
    return bool(session.edit(lambda d, _r: set_many(d, {f"{path}.material.name": named.name}), label, tr("material")))


TREATED: dict[object, str] = {
    "none": tr("as made"),
    "phosphated": tr("phosphated"),
    "copper plated": tr("copper plated"),
    "little retained austenite": tr("retained austenite below 20 %"),
    "much retained austenite": tr("retained austenite above 30 %"),
}
CORES: dict[object, str] = {
    "25 HRC": tr("25 HRC or more"),
    "30 HRC": tr("30 HRC or more"),
    "lower hardenability": tr("25 HRC, lower hardenability"),
}
MADE_BY = {
    "rack": tr("rack or hob"),
    "pinion cutter": "pinion cutter",
    "form": tr("form, plain fillet"),
    "elliptic": tr("form, elliptic root"),
}
BENT: dict[object, str] = {"one way": tr("one way"), "both ways": tr("both ways, as idlers and planets")}


class GearSheet(Sheet):
    """All data of gear i (1, 2) that do not stand on the drawing."""

    def __init__(self, session: Session, theme: th.Theme, parent: QWidget, i: int) -> None:
        super().__init__(session, theme, parent)
        self.k, self.i = session.stage, i
        self.path = member_path(session.design, self.k, i)
        self.given = gear_fields(session.design, self.k, i)
        self.renew = lambda: gear_fields(session.design, self.k, i)
        name = self.now(session.design).name
        self.title.setText(translate(tr("{name!c}: tool, thickness, blank, material", name=name)))
        self.setAccessibleName(translate(tr("All data of {name}", name=name)))
        self._brief()
        self._drawings()
        self.finish()

    def now(self, design: Design) -> Gear:
        """The gear in a design."""
        result: Gear = get_at(design, self.path)
        return result

    def choice(self, name: str, meaning: str, path: str, words: dict[object, str]) -> Choice:
        """A choice at a path of the gear."""
        return path_choice(self.session, f"{name}_{self.i}", meaning, f"{self.path}.{path}", words)

    def _brief(self) -> None:
        """What is written, as one would tell it: all but what stands on the drawings."""
        written = [f for f in self.given.values() if f.symbol not in self._drawn()]
        self.add_brief(gear_topics(self.i), [*written, *self._choices()])
        column = self.inside.last_column()
        keep = QPushButton(translate(tr("Keep as own material …")))
        keep.setObjectName(f"keep_material_{self.i}")
        keep.setProperty("plain", True)
        keep.clicked.connect(lambda: keep_material(self.session, self.path, self))
        column.addWidget(keep, alignment=Qt.AlignmentFlag.AlignLeft)

    def _choices(self) -> Iterator[Choice]:
        """What is chosen of the gear."""
        session, i, gear = self.session, self.i, self.now(self.session.design)
        if i == 2:
            yield Choice(session, "shape", tr("shape"), lambda d: kind_of(self.now(d)).name, self._shapes)
        made_by: dict[object, str] = {tool: MADE_BY[tool] for tool in kind_of(gear).tools}
        if len(made_by) > 1:
            yield self.choice("tool", tr("root made by"), "tool", made_by)
        yield Choice(session, f"rack_{i}", tr("basic rack"), self._rack_now, self._racks)
        meaning = tr("allowance series and class")
        yield Choice(session, f"allowance_{i}", meaning, self._allowance_now, self._allowances)
        yield Choice(session, f"material_{i}", tr("material"), self._material_now, self._materials, own=True)
        if gear.material.group == "Eh":
            yield self.choice("core", tr("core (grade MQ)"), "material.core", CORES)
            peened: dict[object, str] = {False: tr("no"), True: tr("yes, under control")}
            yield self.choice("peened", tr("roots shot peened"), "material.peened", peened)
        yield self.choice("treatment", tr("flanks"), "treatment", TREATED)
        yield self.choice("bending", tr("teeth are bent"), "bending", BENT)

    def _drawn(self) -> tuple[str, ...]:
        """The symbols of what stands on the drawings."""
        gear = self.now(self.session.design)
        turning = (*BLANK, *ON_TOOTH) if kind_of(gear).turns else ()
        return (*DRAWN, *turning, *(ON_CASE if gear.material.group == "Eh" else ()))

    def _drawings(self) -> None:
        """Tooth and case under what is written; the tool's profile and the blank beside it, and the mass of it."""
        gear, given = self.now(self.session.design), list(self.given.values())
        own: tuple[Session, th.Theme, int, int] = (self.session, self.theme, self.k, self.i)
        beneath = QHBoxLayout()
        self.inside.last_column().addLayout(beneath)
        if kind_of(gear).turns:
            self._drawn_in(beneath, tr("Tooth thickness and class"), ThicknessDrawing(*own, given))
        if gear.material.group == "Eh":
            self._drawn_in(beneath, tr("Hardness over depth"), CaseDrawing(*own, given))
        column = self.add_column()
        self._drawn_in(column, tr("Profile of the tool"), ToolDrawing(*own, [f for f in given if f.symbol in DRAWN]))
        fields = [f for s in BLANK for f in given if f.symbol == s and s in self._drawn()]
        if fields:
            self._drawn_in(column, tr("Blank"), BlankDrawing(*own, fields))
        self.mass = Label()
        self.mass.setObjectName(f"mass_{self.i}")
        th.set_text_role(self.mass, "muted", th.SMALL)
        column.addWidget(self.mass)
        self.watch(self._weigh)
        self._weigh()

    def _drawn_in(self, room: QBoxLayout, title: str, drawing: TaggedDrawing) -> None:
        """A titled drawing with its tags, which follows the design."""
        column = QVBoxLayout()
        room.addLayout(column)
        self.add_drawing(column, title, drawing, {f.key: drawing.tags[f.symbol] for f in drawing.fields})
        self.watch(drawing.update)

    def _weigh(self) -> None:
        g = self.session.results.stages[self.k].gears[self.i - 1]
        mass = number_with_unit(g.mass, "mass", self.session.system)
        self.mass.setText(translate(tr("{mass}, relative cost {cost:.3g}", mass=mass, cost=g.cost)))

    def _shapes(self) -> list[Option]:
        return [(kind.name, partial(_of_kind, self.k, kind)) for kind in KINDS.values()]

    def _profile(self, r: RackProfile) -> tuple[float, float, float, float]:
        """What a basic rack sets: pressure angle, addendum, dedendum, rounding."""
        return r.alpha_n, r.h_aP, round(r.dedendum(self.session.results.stages[self.k].mesh.m_n), 4), r.rho_fP

    def _racks(self) -> list[Option]:
        paths = (
            f"{self.session.design.train.stages[self.k].path}.alpha_n",
            *(f"{self.path}.{s}" for s in ("h_aP", "h_fP", "rho_fP")),
        )
        rows: list[Option] = []
        for r in rack_profiles().values():
            values = self._profile(r)
            words = tr(
                "{name}: {h_aP:g} / {values:.4g} / {rho_fP:g}, {use}",
                name=r.name,
                h_aP=r.h_aP,
                values=values[2],
                rho_fP=r.rho_fP,
                use=r.use,
            )
            rows.append((words, setting(dict(zip(paths, values, strict=True)))))
        return rows

    def _rack_now(self, d: Design) -> str:
        g = self.now(d)
        now = (d.train.stages[self.k].mesh.alpha_n, g.h_aP, g.h_fP, g.rho_fP)
        return next((r.name for r in rack_profiles().values() if self._profile(r) == now), tr("own values"))

    def _classes(self) -> Iterator[tuple[str, float, float]]:
        """Allowance classes at the gear's reference diameter, of a rack at its pinion's."""
        gears = self.session.results.stages[self.k].gears
        d = gears[self.i - 1].get("d", gears[0].d)
        for letter in series():
            for number in classes():
                with suppress(OutOfRange):
                    upper, lower = thickness_allowances(d, letter, number)
                    yield f"{letter}{number}", upper, lower

    def _allowances(self) -> list[Option]:
        return [
            (
                tr("{name}: {upper:g} / {lower:g} mm", name=name, upper=upper, lower=lower),
                setting({f"{self.path}.E_sns": upper, f"{self.path}.E_sni": lower}),
            )
            for name, upper, lower in self._classes()
        ]

    def _allowance_now(self, d: Design) -> str:
        g = self.now(d)
        result = (name for name, upper, lower in self._classes() if (upper, lower) == (g.E_sns, g.E_sni))
        return next((tr("DIN 3967, {name}", name=name) for name in result), tr("own values"))

    def _materials(self) -> list[Option]:
        rows: list[Option] = [
            (tr("own: {name}", name=m.name), setting({f"{self.path}.material": m.plain()})) for m in shelf.materials()
        ]
        for group, data in groups().items():
            for grade in data["grades"]:
                rows.append((material_words(group, grade), partial(_of_stock, self.path, group, grade)))
        return rows

    def _material_now(self, d: Design) -> str:
        m = self.now(d).material
        return tr("own: {name}", name=m.name) if m.name else material_words(m.group, m.grade)


def _of_kind(k: int, kind: Kind, design: Design) -> Design:
    return give_kind(design, k, kind)


def _of_stock(path: str, group: str, grade: str, design: Design) -> Design:
    """The gear at a path of another material of the stock, with the hardness that is usual for it."""
    now, data = get_at(design, path).material, groups()[group]
    hardness = now.hardness if group == now.group else float(data["hardness_default"])
    values = {"group": group, "grade": grade, "hardness": hardness}
    return set_many(design, {f"{path}.material": values, f"{path}.swelling": data.get("swelling", 0.0)})


def gear_topics(i: int) -> list[Topic]:
    """Gear i (1, 2) as one would tell it; what a gear does not have is left out by its sheet."""
    at = {name: slot(plain(name, i)) for name in GEAR_SLOTS} | {
        "shape": slot("shape"),
        "hardness": slot(f"hardness_{i}"),
    }
    at |= {name: slot(f"{name}_{i}") for name in CHOSEN}
    return [
        Topic(tr("Shape"), [Sentence(tr("The driven gear is: {shape}.", **at))]),
        Topic(
            tr("Cutting tool"),
            [
                Sentence(tr("Basic rack {rack}.", **at)),
                Sentence(tr("The root is made by {tool}.", **at)),
                Sentence(tr("The pinion cutter has {z_0} teeth with a profile shift of {x_0}.", **at)),
                Sentence(tr("Usual: no grinding notch; else {t_g} deep with a radius of {rho_g}.", **at), light=True),
            ],
        ),
        Topic(
            tr("Tooth thickness"),
            [
                Sentence(tr("By {allowance}.", **at)),
                Sentence(tr("Allowances {E_sns} and {E_sni}.", **at)),
            ],
        ),
        Topic(
            tr("Quality"),
            [
                Sentence(tr("Flank class {Q} of ISO 1328.", **at)),
                Sentence(tr("Roughness {Rz_H} on the flanks, {Rz_F} in the roots.", **at)),
            ],
        ),
        Topic(
            tr("Tip edges"),
            [Sentence(tr("Usual: sharp; else a chamfer {h_K} at {delta_K}, rounded by {rho_a}.", **at), light=True)],
        ),
        Topic(
            tr("Material"),
            [
                Sentence(tr("{material}; the flanks are {treatment}.", **at)),
                Sentence(tr("Hardness {hardness}.", **at)),
                Sentence(tr("Yield strength {R_p02}.", **at)),
                Sentence(tr("Core {core}; roots shot peened: {peened}.", **at)),
                Sentence(tr("Wear factor {k_W}.", **at)),
                Sentence(
                    tr(
                        "Usual: stress numbers of the stock, flank {sigma_Hlim}, root {sigma_Flim}; modulus {E}, "
                        "density {density}, price index {price_index}; it swells by {swelling}.",
                        **at,
                    ),
                    light=True,
                ),
            ],
        ),
        Topic(
            tr("Load on the teeth"),
            [
                Sentence(tr("The teeth are bent {bending}.", **at)),
                Sentence(tr("Stress ratio in the root {R_bend}.", **at)),
                Sentence(tr("Usual: least safeties of the train, roots {S_Fmin}, flanks {S_Hmin}.", **at), light=True),
            ],
        ),
        Topic(tr("Shaft"), [Sentence(tr("Usual: the diameter of the shaft is estimated, {d_s}.", **at), light=True)]),
    ]


BLANK = ("d_rim", "d_i", "b_s", "d_bore")
"""What stands on the drawing of the blank."""
CHOSEN = ("tool", "rack", "allowance", "material", "core", "peened", "treatment", "bending")
GEAR_SLOTS = (
    *("z_0", "x_0", "t_g", "rho_g", "E_sns", "E_sni", "Q", "Rz_H", "Rz_F", "h_K", "delta_K", "rho_a", "R_p02"),
    *("k_W", "sigma_Hlim", "sigma_Flim", "E", "density", "price_index", "swelling", "R_bend", "S_Fmin"),
    *("S_Hmin", "d_s"),
)
"""The values of a gear that stand in its sentences, each once, where it has them."""


def gear_sheet(session: Session, theme: th.Theme, parent: QWidget, i: int) -> Sheet:
    """The sheet of gear i (1, 2)."""
    return GearSheet(session, theme, parent, i)


for _i, _words in ((1, tr("driving")), (2, tr("driven"))):
    register_sheet(
        SheetEntry(
            f"gear_{_i}",
            tr("All data of the {words} gear", words=_words),
            f"Ctrl+{_i}",
            lambda w, i=_i: gear_sheet(w.session, w.theme, w.bench, i),  # type: ignore[misc]
            (930, 560),
            _i,
        )
    )
