"""The sheet of one mesh: allowances, helix, load factors, shafts."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import suppress

from PySide6.QtWidgets import (
    QVBoxLayout,
    QWidget,
)

from cooper.desk.base import theme as th
from cooper.desk.base.registry import SheetEntry, register_sheet
from cooper.desk.base.session import Session
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.widgets.choices import Choice, Option, path_choice, setting
from cooper.document.models import Design
from cooper.document.units import number_with_unit
from cooper.editing.fields import Field
from cooper.editing.sheet_fields import mesh_fields
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.i18n.translate import translate
from cooper.rating.iso6336.uneven_load import ARRANGEMENTS, MODIFICATIONS
from cooper.stock.agma_tables import table
from cooper.stock.fits import grades, symmetric
from cooper.stock.materials import is_plastic

SHAFTS: dict[object, str] = {
    "entered": tr("entered"),
    "C": tr("method C, from the shafts"),
    "f_sh": tr("from their misalignment, entered"),
    "shafts": tr("from the shafts of the machine"),
}
ROOT_LOAD: dict[object, str] = {
    "by quality": tr("as the quality allows"),
    "outer single contact": tr("outer point of single contact"),
    "tip": tr("tip"),
}
METHODS: dict[object, str] = {
    None: tr("of the train"),
    "ISO 6336:2019": tr("ISO 6336:2019"),
    "ANSI/AGMA 2101-D04": tr("ANSI/AGMA 2101-D04"),
}


class MeshSheet(Sheet):
    """The data of the mesh that do not stand on the drawing."""

    def __init__(self, session: Session, theme: th.Theme, parent: QWidget) -> None:
        super().__init__(session, theme, parent)
        self.k = session.stage
        self.base = f"train.stages.{self.k}.meshes.0"
        self.hidden = _unused(session.design, self.k)
        self.given = mesh_fields(session.design, self.k)
        # Another method has other entries: the sheet is made anew with those that count.
        self.renew = self._counting
        self.title.setText(translate(tr("The mesh")))
        self.setAccessibleName(translate(tr("All data of the mesh")))
        left, right, third = self.add_column(), self.add_column(), self.add_column()
        self._teeth(left)
        self._factors(left)
        self._agma(right)
        self._shafts(right)
        own = path_choice(session, "own_method", tr("strength method"), f"train.stages.{self.k}.own.method", METHODS)
        rest = (f for key, f in self.given.items() if key.startswith("own_"))
        self.add_group(third, tr("In place of the train's defaults"), [own, *rest])
        self.finish()

    def _counting(self) -> dict[str, Field]:
        """The fields that something is computed from."""
        unused = _unused(self.session.design, self.k)
        return {key: f for key, f in mesh_fields(self.session.design, self.k).items() if key not in unused}

    def choice(self, name: str, meaning: str, words: dict[object, str]) -> Choice:
        """A choice at a place of the mesh."""
        return path_choice(self.session, name, meaning, f"{self.base}.{name}", words)

    def used(self, *names: str) -> list[Field | Choice]:
        """Of these fields those that count."""
        return [self.given[n] for n in names if n not in self.hidden]

    def _teeth(self, column: QVBoxLayout) -> None:
        """Distance, helix, load on the root."""
        classes = Choice(self.session, "distance_class", tr("class of ISO 286"), self._class_now, self._classes)
        self.add_group(column, tr("Centre distance allowances"), [classes, *self.used("A_as", "A_ai")])
        hand = self.choice(
            "hand", tr("helix of the driving gear"), {"right": tr("right hand"), "left": tr("left hand")}
        )
        halves = self.choice(
            "double_helix", tr("helix"), {False: tr("single"), True: tr("double, halves of opposite hand")}
        )
        self.add_group(column, tr("Helix"), [hand, halves, *self.used("b_gap", "f_ZCa")])
        self.add_group(column, tr("Root"), [self.choice("load_at", tr("root rated with the load at"), ROOT_LOAD)])

    def _factors(self, column: QVBoxLayout) -> None:
        """Load factors, entered or by a method."""
        by_c: dict[object, str] = {"C": tr("method C, simplified"), "B": tr("method B, resonance")}
        by_b: dict[object, str] = {"entered": tr("entered"), "B": tr("method B, from the pitch")}
        rows = [
            *self.used("K_gamma"),
            self.choice("K_V_method", tr("dynamic factor K_V"), by_c),
            self.choice("K_Hbeta_method", tr("face load factor"), SHAFTS),
            *self.used("K_Hbeta", "f_sh"),
            self.choice("K_Halpha_method", tr("transverse load factors"), by_b),
            *self.used("K_Halpha"),
        ]
        self.add_group(column, tr("Load factors"), rows)
        if "mu_pl" not in self.hidden:
            self.add_group(column, tr("Plastic gears"), self.used("mu_pl"))

    def _agma(self, column: QVBoxLayout) -> None:
        """What AGMA 2101 asks for."""
        mounted: dict[object, str] = {name: row["words"] for name, row in table("mounting").items()}
        adjusted = self.choice(
            "adjusted", tr("contact at assembly"), {False: tr("as made"), True: tr("adjusted or lapped")}
        )
        rows = [self.choice("mounting", tr("mounting"), mounted), adjusted, *self.used("K_s", "A_v")]
        self.add_group(column, tr("AGMA 2101"), rows)

    def _shafts(self, column: QVBoxLayout) -> None:
        """Both shafts, and what modifies the flanks."""
        places: dict[object, str] = {name: tr("{name}: {v}", name=name, v=v[2]) for name, v in ARRANGEMENTS.items()}
        if "l_sh" not in self.hidden:
            pinion = self.choice("arrangement", tr("place of the pinion"), places)
            self.add_group(column, tr("Pinion's shaft"), [pinion, *self.used("l_sh", "s_sh", "d_sh")])
            rows: list[Field | Choice] = [
                self.choice("wheel_shaft", tr("the shaft"), {"stiff": tr("taken as stiff"), "counted": tr("bends too")})
            ]
            if "l_sh2" not in self.hidden:
                rows.append(self.choice("arrangement_2", tr("place of the wheel"), places))
            self.add_group(column, tr("Wheel's shaft"), [*rows, *self.used("l_sh2", "s_sh2", "d_sh2")])
        if "F_beta" not in self.hidden:
            helices: dict[object, str] = {name: v[2] for name, v in MODIFICATIONS.items()}
            along = self.choice("helix_modification", tr("helix modification"), helices)
            self.add_group(column, tr("Along the width"), [along])
        if "C_a" not in self.hidden:
            self.add_group(column, tr("Profile"), self.used("C_a"))

    def _class_rows(self) -> Iterator[tuple[str, float, float]]:
        """Classes js at the centre distance, in words."""
        a_w = self.session.results.stages[self.k].mesh.a_w
        for grade in grades():
            with suppress(OutOfRange):
                upper, lower = symmetric(a_w, grade)
                yield (
                    tr(
                        "js{grade}  ±{upper}",
                        grade=grade,
                        upper=number_with_unit(upper, "allowance", self.session.system),
                    ),
                    upper,
                    lower,
                )

    def _classes(self) -> list[Option]:
        paths = f"{self.base}.A_as", f"{self.base}.A_ai"
        return [(words, setting({paths[0]: upper, paths[1]: lower})) for words, upper, lower in self._class_rows()]

    def _class_now(self, design: Design) -> str:
        now = design.train.stages[self.k].meshes[0]
        result = (words for words, upper, lower in self._class_rows() if (upper, lower) == (now.A_as, now.A_ai))
        return next(result, tr("as entered"))


def mesh_sheet(session: Session, theme: th.Theme, parent: QWidget) -> Sheet:
    """The sheet of the mesh of the selected stage."""
    return MeshSheet(session, theme, parent)


def _unused(design: Design, stage: int) -> set[str]:
    """Entries of a mesh that nothing is computed from, by the methods chosen and the helix."""
    mesh = design.train.stages[stage].meshes[0]
    return {
        *([] if mesh.K_Hbeta_method == "entered" else ["K_Hbeta"]),
        *([] if mesh.K_Hbeta_method == "f_sh" else ["f_sh"]),
        *([] if mesh.K_Hbeta_method == "C" else ["l_sh", "s_sh", "d_sh"]),
        *(["F_beta"] if mesh.K_Hbeta_method == "entered" else []),
        *([] if mesh.K_Hbeta_method == "C" and mesh.wheel_shaft == "counted" else ["l_sh2", "s_sh2", "d_sh2"]),
        *(["K_Halpha"] if mesh.K_Halpha_method != "entered" else []),
        *(["C_a"] if mesh.K_V_method != "B" else []),
        *([] if any(is_plastic(g.material.group) for g in design.train.stages[stage].members) else ["mu_pl"]),
        *([] if mesh.double_helix else ["b_gap"]),
        *([] if mesh.beta > 0 else ["f_ZCa"]),
    }


register_sheet(
    SheetEntry(
        "mesh", tr("All data of the mesh"), "Ctrl+3", lambda w: mesh_sheet(w.session, w.theme, w.bench), (930, 590), 5
    )
)
