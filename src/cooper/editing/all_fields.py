"""Every entered value of a design with the sheet on which it stands, so that one is found by its name."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from msgspec import Struct

from cooper.document.models import Design
from cooper.document.quantities import plain
from cooper.editing.fields import Field
from cooper.editing.machine_fields import machine_fields
from cooper.editing.sheet_fields import (
    bench_fields,
    duty_fields,
    gear_fields,
    loss_fields,
    mesh_fields,
    plastic_fields,
)
from cooper.i18n.text import tr
from cooper.i18n.translate import translate
from cooper.stock.materials import is_plastic


class Place(Struct, frozen=True):
    """A value with its sheet ("" for the Bench), its stage (None for the whole train), and what it belongs to."""

    field: Field
    sheet: str
    stage: int | None
    of: str

    @property
    def key(self) -> str:
        return self.field.key

    @property
    def words(self) -> str:
        """What is looked for: the symbol, the meaning, what it belongs to; as they stand on the screen."""
        field = self.field
        return f"{plain(field.symbol, field.index)}  {translate(field.meaning)}  ({translate(self.of)})"


class ChosenPlace(Struct, frozen=True):
    """What is chosen in words on a sheet: the oil, a method, a material."""

    key: str
    meaning: str
    sheet: str
    stage: int | None
    of: str

    @property
    def words(self) -> str:
        """What is looked for, as of a value; it has no symbol."""
        return f"…  {translate(self.meaning)}  ({translate(self.of)})"


CHOSEN: dict[str, dict[str, str]] = {
    "duty": {
        "direction": tr("input turns, as drawn"),
        "strength_method": tr("governing strength method"),
        "reliability": tr("reliability (AGMA)"),
        "critical_service": tr("life curves (AGMA)"),
        "oil": tr("oil"),
        "oil_kind": tr("kind of oil"),
        "lubrication": tr("how the oil reaches the teeth"),
        "pitting": tr("some pitting allowed"),
    },
    "losses": {
        "counted": tr("losses in the efficiency"),
        "friction": tr("friction of the mesh"),
        "method": tr("churning and seals by"),
        "bearing": tr("bearings"),
        "seal": tr("seal material (TR 14179-1)"),
        "oil_by_balance": tr("oil temperature"),
    },
    "machine": {
        "machine_counted": tr("checks in Margins"),
        "machine_steel": tr("steel of the shafts"),
        "machine_swing": tr("the torque"),
        "machine_weight": tr("weight of shafts and gears"),
        "machine_reliability": tr("bearings that reach their life"),
        "machine_cleanliness": tr("cleanliness of the oil"),
    },
    "mesh": {
        "distance_class": tr("class of ISO 286"),
        "hand": tr("helix of the driving gear"),
        "double_helix": tr("helix"),
        "load_at": tr("root rated with the load at"),
        "K_V_method": tr("dynamic factor K_V"),
        "K_Hbeta_method": tr("face load factor"),
        "K_Halpha_method": tr("transverse load factors"),
        "mounting": tr("mounting"),
        "adjusted": tr("contact at assembly"),
        "own_method": tr("strength method"),
    },
    "gear_1": {},
    "gear_2": {"shape": tr("shape")},
}
"""What is chosen on each sheet, by the choice's key."""
CHOSEN_OF_GEAR = {
    "rack": tr("basic rack"),
    "tool": tr("root made by"),
    "allowance": tr("allowance series and class"),
    "material": tr("material"),
    "treatment": tr("flanks"),
    "bending": tr("teeth are bent"),
}
"""What is chosen of each gear; its number follows in the key."""
for _i in (1, 2):
    CHOSEN[f"gear_{_i}"] |= {f"{key}_{_i}": words for key, words in CHOSEN_OF_GEAR.items()}


def all_choices(design: Design) -> Iterator[ChosenPlace]:
    """Everything that is chosen in words, that of the whole train first."""
    names = {"duty": tr("duty"), "losses": tr("losses"), "machine": tr("machine")}
    for sheet, of in names.items():
        for key, meaning in CHOSEN[sheet].items():
            yield ChosenPlace(key, meaning, sheet, None, of)
    for k, stage in enumerate(design.train.stages):
        for key, meaning in CHOSEN["mesh"].items():
            yield ChosenPlace(key, meaning, "mesh", k, _named(stage.name, len(design.train.stages)))
        for i, gear in enumerate(stage.gears, 1):
            for key, meaning in CHOSEN[f"gear_{i}"].items():
                yield ChosenPlace(key, meaning, f"gear_{i}", k, gear.name)


def all_fields(design: Design) -> Iterator[Place]:
    """Every value that can be entered, those of the whole train first."""
    for group, fields in duty_fields().items():
        for field in fields.values():
            yield Place(field, "duty", None, tr("duty, {group}", group=translate(group).lower()))
    for fields in loss_fields().values():
        for field in fields.values():
            yield Place(field, "losses", None, tr("losses"))
    if any(is_plastic(m.material.group) for s in design.train.stages for m in s.gears):
        for field in plastic_fields().values():
            yield Place(field, "plastics", None, tr("plastic gears"))
    for fields in machine_fields().values():
        for field in fields.values():
            yield Place(field, "machine", None, tr("machine"))
    for k, stage in enumerate(design.train.stages):
        for field in bench_fields(design, k).values():
            yield Place(field, "", k, _named(stage.name, len(design.train.stages)))
        for field in mesh_fields(design, k).values():
            yield Place(field, "mesh", k, _named(stage.name, len(design.train.stages)))
        for i, gear in enumerate(stage.gears, 1):
            for field in gear_fields(design, k, i).values():
                yield Place(field, f"gear_{i}", k, gear.name)


def _named(stage: str, many: int) -> str:
    return stage if many > 1 else tr("mesh")


Found = Place | ChosenPlace


def matching(places: Sequence[Found], text: str) -> list[Found]:
    """Those that have all words of a text in symbol, meaning or what they belong to, best first: the symbol itself,
    symbols that begin so, words that begin so, then others."""
    wanted = text.casefold().split()
    if not wanted:
        return []
    found = []
    for n, place in enumerate(places):
        words = place.words.casefold()
        if all(w in words for w in wanted):
            symbol, rest = words.split("  ", 1)
            rank = (
                0
                if symbol == wanted[0] or rest.startswith(f"{' '.join(wanted)}  (")
                else 1
                if symbol.startswith(wanted[0])
                else 2
                if f" {wanted[0]}" in f" {rest}"
                else 3
            )
            found.append((rank, n, place))
    return [place for _rank, _n, place in sorted(found, key=lambda f: f[:2])]
