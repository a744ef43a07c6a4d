"""Forms of the flanks: their fields, and a relief given to both gears."""

from __future__ import annotations

from dataclasses import replace

from cooper.document.models import Design
from cooper.document.quantities import plain
from cooper.editing.edit import set_many
from cooper.editing.fields import Field, member_path, optional_field, path_field

TIPS = ("C_alphaa", "l_Ca", "C_alpha")
PROFILE = ("C_alphaa", "l_Ca", "C_alphaf", "l_Cf", "C_alpha", "C_Halpha")
FACE = ("C_betaI", "l_CI", "C_betaII", "l_CII")
FINE = {"l_Ca": 0.1, "l_Cf": 0.1, "l_CI": 0.5, "l_CII": 0.5}


def form_fields(design: Design, stage: int, symbols: tuple[str, ...] = TIPS) -> dict[str, Field]:
    """Fields of the forms of both gears' flanks, and of the helix of the pair."""
    fields: list[Field] = []
    for i in (1, 2):
        form = f"{member_path(design, stage, i)}.flanks"
        for s in symbols:
            key, path, fine = plain(s, i), f"{form}.{s}", FINE.get(s, 1.0)
            long = s in ("l_Ca", "l_Cf")
            fields.append(
                optional_field(key, s, i, path, fine, "long") if long else path_field(key, s, i, path, fine=fine)
            )
    mesh = f"train.stages.{stage}.meshes.0"
    fields += [path_field(s, s, None, f"{mesh}.{s}", fine=1.0) for s in ("C_beta", "C_Hbeta")]
    place = f"{design.train.stages[stage].id}."
    return {f.key: replace(f, place=place) for f in fields}


def give_relief(design: Design, stage: int, C_a: float, l_Ca: float | None) -> Design:
    """The design with a straight tip relief on both gears of a stage, the long one where no length is given, and no root relief.

    A gear in two meshes has it on both its flanks.
    """
    values: dict[str, object] = {}
    for i in (1, 2):
        path = f"{member_path(design, stage, i)}.flanks"
        values |= {
            f"{path}.C_alphaa": C_a,
            f"{path}.l_Ca": l_Ca,
            f"{path}.C_alphaf": 0.0,
            f"{path}.relief": "straight",
        }
    return set_many(design, values)
