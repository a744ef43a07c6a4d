"""Every entered value of a design with the sheet on which it stands, so that one is found by its name."""

from __future__ import annotations

from collections.abc import Iterator

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
    def words(self) -> str:
        """What is looked for: the symbol, the meaning, what it belongs to; as they stand on the screen."""
        field = self.field
        return f"{plain(field.symbol, field.index)}  {translate(field.meaning)}  ({translate(self.of)})"


def all_fields(design: Design) -> Iterator[Place]:
    """Every value that can be entered, those of the whole train first."""
    for group, fields in duty_fields().items():
        for field in fields.values():
            yield Place(field, "duty", None, tr("duty, {group}", group=translate(group).lower()))
    for fields in loss_fields().values():
        for field in fields.values():
            yield Place(field, "losses", None, tr("losses"))
    if any(is_plastic(m.material.group) for s in design.train.stages for m in s.members):
        for field in plastic_fields().values():
            yield Place(field, "plastics", None, tr("plastic gears"))
    for fields in machine_fields().values():
        for field in fields.values():
            yield Place(field, "machine", None, tr("machine"))
    for k, stage in enumerate(design.train.stages):
        mesh = stage.meshes[0]
        for field in bench_fields(design, k).values():
            yield Place(field, "", k, _named(stage.name, len(design.train.stages)))
        for field in mesh_fields(design, k).values():
            yield Place(field, "mesh", k, _named(stage.name, len(design.train.stages)))
        for i, n in enumerate((mesh.driver, mesh.driven), 1):
            for field in gear_fields(design, k, i).values():
                yield Place(field, f"gear_{i}", k, stage.members[n].name)


def _named(stage: str, many: int) -> str:
    return stage if many > 1 else tr("mesh")


def matching(places: list[Place], text: str) -> list[Place]:
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
                if symbol == wanted[0]
                else 1
                if symbol.startswith(wanted[0])
                else 2
                if f" {wanted[0]}" in f" {rest}"
                else 3
            )
            found.append((rank, n, place))
    return [place for _rank, _n, place in sorted(found, key=lambda f: f[:2])]
