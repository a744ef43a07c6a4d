"""The sheet of one mesh: allowances, helix, load factors, shafts."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import suppress

from PySide6.QtWidgets import QWidget

from cooper.desk.base import theme as th
from cooper.desk.base.registry import SheetEntry, register_sheet
from cooper.desk.base.session import Session
from cooper.desk.sheets.mesh_drawing import MeshDrawing
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.widgets.brief import Sentence, Topic, slot
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
        self.base = self.session.design.train.stages[self.k].path
        self.hidden = _unused(session.design, self.k)
        self.given = mesh_fields(session.design, self.k)
        # Another method has other entries: the sheet is made anew with those that count.
        self.renew = self._counting
        self.title.setText(translate(tr("The mesh")))
        self.setAccessibleName(translate(tr("All data of the mesh")))
        counting = [f for key, f in self.given.items() if key not in self.hidden]
        drawing = MeshDrawing(session, theme, self.k, counting)
        drawn = {f.key for f in drawing.fields}
        self.add_brief(mesh_topics(), [*(f for f in counting if f.key not in drawn), *self._choices()])
        tags = {f.key: drawing.tags[f.symbol] for f in drawing.fields}
        self.add_drawing(self.add_column(), tr("In section"), drawing, tags)
        self.watch(drawing.update)
        self.finish()

    def _counting(self) -> dict[str, Field]:
        """The fields that something is computed from."""
        unused = _unused(self.session.design, self.k)
        return {key: f for key, f in mesh_fields(self.session.design, self.k).items() if key not in unused}

    def choice(self, name: str, meaning: str, words: dict[object, str]) -> Choice:
        """A choice at a place of the mesh."""
        return path_choice(self.session, name, meaning, f"{self.base}.{name}", words)

    def _choices(self) -> Iterator[Choice]:
        """What is chosen of the mesh, as far as it counts."""
        by_c: dict[object, str] = {"C": tr("method C, simplified"), "B": tr("method B, resonance")}
        by_b: dict[object, str] = {"entered": tr("entered"), "B": tr("method B, from the pitch")}
        mounted: dict[object, str] = {name: row["words"] for name, row in table("mounting").items()}
        places: dict[object, str] = {name: tr("{name}: {v}", name=name, v=v[2]) for name, v in ARRANGEMENTS.items()}
        helices: dict[object, str] = {name: v[2] for name, v in MODIFICATIONS.items()}
        hands: dict[object, str] = {"right": tr("right hand"), "left": tr("left hand")}
        halves: dict[object, str] = {False: tr("single"), True: tr("double, halves of opposite hand")}
        bends: dict[object, str] = {"stiff": tr("taken as stiff"), "counted": tr("bends too")}
        yield Choice(self.session, "distance_class", tr("class of ISO 286"), self._class_now, self._classes)
        yield self.choice("hand", tr("helix of the driving gear"), hands)
        yield self.choice("double_helix", tr("helix"), halves)
        yield self.choice("load_at", tr("root rated with the load at"), ROOT_LOAD)
        yield self.choice("K_V_method", tr("dynamic factor K_V"), by_c)
        yield self.choice("K_Hbeta_method", tr("face load factor"), SHAFTS)
        yield self.choice("K_Halpha_method", tr("transverse load factors"), by_b)
        yield self.choice("mounting", tr("mounting"), mounted)
        yield self.choice("adjusted", tr("contact at assembly"), {False: tr("as made"), True: tr("adjusted or lapped")})
        if "l_sh" not in self.hidden:
            yield self.choice("arrangement", tr("place of the pinion"), places)
            yield self.choice("wheel_shaft", tr("the shaft"), bends)
        if "l_sh2" not in self.hidden:
            yield self.choice("arrangement_2", tr("place of the wheel"), places)
        if "F_beta" not in self.hidden:
            yield self.choice("helix_modification", tr("helix modification"), helices)
        yield path_choice(self.session, "own_method", tr("strength method"), f"{self.base}.own.method", METHODS)

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
        now = design.train.stages[self.k].mesh
        result = (words for words, upper, lower in self._class_rows() if (upper, lower) == (now.A_as, now.A_ai))
        return next(result, tr("as entered"))


def mesh_topics() -> list[Topic]:
    """The mesh as one would tell it; what does not count, or stands on the drawing, is left out by its sheet."""
    at = {name: slot(name) for name in MESH_SLOTS}
    own = tr(
        "Of its own: strength {own_method}, flanks {own_S_Hmin}, roots {own_S_Fmin}, scuffing {own_S_Bmin} and "
        "{own_S_intmin}, contact ratio {own_eps_alpha_min}, backlash {own_j_min}, life {own_L_h}, oil at "
        "{own_theta_oil}, gears at {own_theta_gears}.",
        **at,
    )
    agma = tr("Mounting: {mounting}, {adjusted} at assembly; size factor {K_s}, accuracy grade {A_v}.", **at)
    return [
        Topic(tr("Centre distance"), [Sentence(tr("Allowances: {distance_class}.", **at))]),
        Topic(
            tr("Helix"),
            [
                Sentence(tr("The driving gear is {hand}, {double_helix}.", **at)),
                Sentence(tr("Factor of helical gears without relief {f_ZCa}.", **at), light=True),
            ],
        ),
        Topic(
            tr("Load"),
            [
                Sentence(tr("Load sharing {K_gamma}; dynamic factor by {K_V_method}.", **at)),
                Sentence(tr("Face load factor {K_Hbeta_method}; transverse ones {K_Halpha_method}.", **at)),
                Sentence(tr("Entered along the face {K_Hbeta}.", **at)),
                Sentence(tr("Misalignment of the shafts {f_sh}.", **at)),
                Sentence(tr("Entered across the profile {K_Halpha}.", **at)),
                Sentence(tr("The root is rated with the load at the place: {load_at}.", **at)),
                Sentence(tr("Friction of the plastic teeth {mu_pl}.", **at)),
                Sentence(tr("Helix modification: {helix_modification}.", **at)),
                Sentence(tr("Tip relief that counts {C_a}.", **at)),
                Sentence(tr("Of the power of its shaft {P_share} goes through it.", **at)),
                Sentence(tr("Behind it {P_taken} of the power is taken off.", **at)),
            ],
        ),
        Topic(
            tr("Shafts"),
            [
                Sentence(tr("Pinion: {arrangement}.", **at)),
                Sentence(tr("The wheel's shaft is {wheel_shaft}.", **at)),
                Sentence(tr("{arrangement_2}; span {l_sh2}, {s_sh2} off its middle, diameter {d_sh2}.", **at)),
            ],
        ),
        Topic(tr("AGMA 2101"), [Sentence(agma, light=True)]),
        Topic(tr("Own requirements"), [Sentence(own, light=True)]),
    ]


MESH_SLOTS = (
    *("distance_class", "hand", "double_helix", "f_ZCa", "K_gamma", "K_V_method", "load_at", "K_Hbeta_method"),
    *("K_Halpha_method", "K_Hbeta", "f_sh", "K_Halpha", "mu_pl", "helix_modification", "C_a", "arrangement"),
    *("wheel_shaft", "arrangement_2", "l_sh2", "s_sh2", "d_sh2", "mounting", "adjusted", "K_s", "A_v", "own_method"),
    *("own_S_Hmin", "own_S_Fmin", "own_S_Bmin", "own_S_intmin", "own_eps_alpha_min", "own_j_min", "own_L_h"),
    *("own_theta_oil", "own_theta_gears", "P_share", "P_taken"),
)
"""The values of a mesh: each stands in its sentences once, where it counts."""


def mesh_sheet(session: Session, theme: th.Theme, parent: QWidget) -> Sheet:
    """The sheet of the mesh of the selected stage."""
    return MeshSheet(session, theme, parent)


def _unused(design: Design, stage: int) -> set[str]:
    """Entries of a mesh that nothing is computed from, by the methods chosen and the helix."""
    mesh = design.train.stages[stage].mesh
    return {
        *([] if mesh.K_Hbeta_method == "entered" else ["K_Hbeta"]),
        *([] if mesh.K_Hbeta_method == "f_sh" else ["f_sh"]),
        *([] if mesh.K_Hbeta_method == "C" else ["l_sh", "s_sh", "d_sh"]),
        *(["F_beta"] if mesh.K_Hbeta_method == "entered" else []),
        *([] if mesh.K_Hbeta_method == "C" and mesh.wheel_shaft == "counted" else ["l_sh2", "s_sh2", "d_sh2"]),
        *(["K_Halpha"] if mesh.K_Halpha_method != "entered" else []),
        *(["C_a"] if mesh.K_V_method != "B" else []),
        *([] if any(is_plastic(g.material.group) for g in design.train.stages[stage].gears) else ["mu_pl"]),
        *([] if mesh.double_helix else ["b_gap"]),
        *([] if mesh.beta > 0 else ["f_ZCa"]),
    }


register_sheet(
    SheetEntry(
        "mesh", tr("All data of the mesh"), "Ctrl+3", lambda w: mesh_sheet(w.session, w.theme, w.bench), (930, 590), 5
    )
)
