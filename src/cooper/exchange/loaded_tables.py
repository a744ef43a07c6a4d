"""The loaded tooth as tables: curves along the path of contact and over a pitch, pressure and topography over the
flanks, the map of the transmission error."""

from __future__ import annotations

import csv
import io
from collections.abc import Callable

import numpy as np
from msgspec import Struct

from cooper.arrays import Array
from cooper.document.models import Train
from cooper.exchange.formats import LOADED_TABLES
from cooper.i18n.text import tr
from cooper.results.loaded_curves import LoadedCurves, curves_of
from cooper.results.loaded_tooth import LoadedAsk, loaded_ask
from cooper.results.relief import ErrorMap, each_error_map
from cooper.results.result_tree import Results
from cooper.results.topography import topography

TABLES = LOADED_TABLES
MOST_RELIEF = 2.0
"""Greatest amount of tip relief of the map, over what the unmodified teeth give way by."""


class Table(Struct, frozen=True):
    """Columns of equal length under their heads, and what they are."""

    name: str
    about: str
    heads: tuple[str, ...]
    columns: tuple[Array, ...]


def _over(name: str, about: str, corner: str, down: Array, heads: list[str], values: Array) -> Table:
    """A field over two quantities: the first down, the other along the heads."""
    return Table(name, about, (corner, *heads), (down, *np.asarray(values).T))


def _curves(c: LoadedCurves) -> Table:
    heads = (
        "g [mm]",
        "share",
        "p [MPa]",
        "sigma_1 [MPa]",
        "sigma_2 [MPa]",
        "v_g [m/s]",
        "mu",
        "theta_fl [K]",
    )
    columns = (c.g, c.share, c.p, c.sigma[0], c.sigma[1], c.v_g, c.mu, c.flash)
    return Table("curves", tr("along the path of contact, from A to E"), heads, columns)


def _cycle(c: LoadedCurves) -> Table:
    heads = (tr("turn [pitches]"), tr("transmission error [um]"), tr("mesh stiffness [N/(mm um)]"))
    return Table("cycle", tr("over one pitch of the driving gear"), heads, (c.turn, c.te, c.c))


def _pressure(c: LoadedCurves) -> Table:
    heads = [tr("p at y = {y:.3f} mm [MPa]", y=y) for y in c.y]
    return _over(
        "pressure", tr("over the flank: along the path down, along the face across"), "g [mm]", c.g, heads, c.flank
    )


def error_map(ask: LoadedAsk, curves: LoadedCurves) -> ErrorMap:
    """Peak-to-peak transmission error over load and tip relief, up to twice what the teeth give way by."""
    most = MOST_RELIEF * max(float(curves.te.max()), 1e-3)
    *_, last = each_error_map(ask, most)
    return last


def loaded_tables(
    train: Train, results: Results, k: int, wanted: tuple[str, ...] = TABLES, counted: str = "nominal"
) -> list[Table]:
    """The tables of stage k under its load; raises `OutOfRange` where no load is on it, ValueError for one that is
    not known."""
    unknown = [name for name in wanted if name not in TABLES]
    if unknown:
        raise ValueError(
            tr("table {unknown!r} is not known; known are {tables}", unknown=unknown[0], tables=", ".join(TABLES))
        )
    ask = loaded_ask(train, results, k, counted)
    curves = curves_of(ask)
    makers: dict[str, Callable[[], list[Table]]] = {
        "curves": lambda: [_curves(curves)],
        "cycle": lambda: [_cycle(curves)],
        "pressure": lambda: [_pressure(curves)],
        "topography": lambda: [_topography(train, results, k, i) for i in (0, 1)],
        "map": lambda: [_map(error_map(ask, curves))],
    }
    return [table for name in wanted for table in makers[name]()]


def _topography(train: Train, results: Results, k: int, i: int) -> Table:
    t = topography(train, results, k, i)
    heads = [tr("C at y = {y:.3f} mm [um]", y=y) for y in t.y]
    about = tr("gear {i}: what is taken off the flank, from root to tip down, along the face across", i=i + 1)
    return _over(tr("topography of gear {i}", i=i + 1), about, tr("length of roll [mm]"), t.L, heads, t.C)


def _map(m: ErrorMap) -> Table:
    heads = [tr("C_a = {C:.3f} um", C=C) for C in m.amounts]
    about = tr(
        "transmission error from peak to peak (um) over load and tip relief of {l_Ca:.3f} mm of roll", l_Ca=m.l_Ca
    )
    return _over("map", about, tr("load over that asked"), m.loads, heads, m.ptp)


def tables_csv(tables: list[Table], head: str) -> str:
    """CSV text of tables, one below the other; lines that begin with # say what each is."""
    out = io.StringIO()
    out.write(f"# {head}\n")
    for table in tables:
        out.write(f"# {table.name}: {table.about}\n")
        rows = csv.writer(out, lineterminator="\n")
        rows.writerow(table.heads)
        for row in zip(*(c.tolist() for c in table.columns), strict=True):
            rows.writerow([tr("{v:.8g}", v=v) if np.isfinite(v) else "" for v in row])
    return out.getvalue()
