"""The quantities that stand on the drawing of a whole set, by the part they belong to."""

from __future__ import annotations

from msgspec import Struct
from msgspec.structs import replace

from cooper.document.gear_data import SIZES
from cooper.document.models import Design
from cooper.editing.edit import set_many
from cooper.editing.fields import Field, optional_field, path_field
from cooper.editing.sheet_fields import bench_fields
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.results.result_tree import Results


class Part(Struct, frozen=True):
    """A part of a set: its name, the gear it is (stage, 1 or 2; None for the set itself) and its fields."""

    name: str
    gear: tuple[int, int] | None
    fields: tuple[Field, ...]


def set_parts(design: Design, n: int) -> list[Part]:
    """The parts of set n with the fields that are edited on its drawing; first the set itself."""
    one = design.train.placed[n]
    fields = [bench_fields(design, k) for k in one.stages]
    size = "P_nd" if "P_nd" in fields[0] else "m_n"
    whole = [fields[0][size], fields[0]["beta"], fields[0]["a_w"]]
    if not one.arranged.around:
        whole.append(fields[1]["a_w"])
    else:
        whole += [
            path_field("n_planets", "n_planets", None, f"{one.path}.planets"),
            optional_field("K_gamma_set", "K_gamma", None, f"{one.path}.K_gamma", 0.05, tr("follows")),
        ]
    if not one.arranged.one_gear:
        whole.insert(1, fields[1]["P_nd" if "P_nd" in fields[1] else "m_n"])
    # Of what both meshes have the number of the mesh tells which.
    twice = {f.symbol for f in whole if sum(g.symbol == f.symbol for g in whole) > 1}
    whole = [replace(f, index=1 + (f.place != whole[0].place)) if f.symbol in twice else f for f in whole]
    parts = [Part(tr("the set"), None, (*whole, envelope_field(n)))]
    free = [(tr("sun") if one.sun_works else tr("free sun"), (2, 0))] if one.free_sun else []
    for name, (k, place) in [*one.arranged.parts, *free]:
        i = place + 1
        own = [fields[k][f"z_{i}"], fields[k][f"x_{i}"], fields[k][f"d_a{i}"], fields[k][f"b_{i}"]]
        doc = design.train.stages[one.first + k]
        if doc.gears[place].d_rim is not None:
            own.append(path_field(f"d_rim{i}", "d_rim", i, f"{doc.paths[place]}.d_rim", fine=1.0))
        parts.append(Part(name, (one.first + k, i), tuple(replace(f, index=None, owner=name) for f in own)))
    return parts


def envelope_field(n: int) -> Field:
    """Diameter around the whole set: it follows; given, the set is scaled to it."""

    def read(_d: Design, r: Results) -> float:
        return r.sets[n].values["envelope"]

    def give(d: Design, r: Results, value: float) -> Design:
        if not value > 0:
            raise OutOfRange("envelope", value, tr("a set needs room"), low=0.0, unit="mm")
        return scaled(d, n, value / read(d, r))

    return Field("envelope", "envelope", None, read, lambda _d, _r: True, give, fine=1.0)


ACROSS = ("d_a", "d_rim", "d_i", "d_bore", "d_s")
"""Diameters that grow with a set."""


def scaled(design: Design, n: int, factor: float) -> Design:
    """Set n with its modules, centre distances and diameters times a factor; widths and allowances stay."""
    changes: dict[str, float] = {}
    for k in design.train.placed[n].stages:
        doc = design.train.stages[k]
        for s in (*SIZES, "a_w"):
            if (value := getattr(doc.mesh, s)) is not None:
                changes[f"{doc.path}.{s}"] = _plain(value / factor if s == "P_nd" else value * factor)
        for path, gear in zip(doc.paths, doc.gears, strict=True):
            for s in ACROSS:
                if value := getattr(gear, s):
                    changes[f"{path}.{s}"] = _plain(value * factor)
    return set_many(design, changes)


def _plain(value: float) -> float:
    """Without the last digits that a product adds to a round number."""
    return float(tr("{value:.12g}", value=value))
