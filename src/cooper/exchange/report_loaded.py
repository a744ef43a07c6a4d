"""What the report tells of the teeth under load: models beside the rating."""

from __future__ import annotations

from collections.abc import Iterator

from cooper.document.models import Train
from cooper.document.units import KINDS, number, screen_unit
from cooper.errors import OutOfRange
from cooper.field.stress_field import field_basis, refined
from cooper.field.tooth_grid import COARSE, USUAL
from cooper.i18n.text import join, tr
from cooper.results.loaded_curves import loaded_curves
from cooper.results.loaded_tooth import compared, cycle_of, loaded_ask
from cooper.results.result_tree import Results
from cooper.results.root_comparison import root_comparison


def loaded_rows(train: Train, results: Results, k: int, system: str) -> Iterator[tuple[str, str, str]]:
    """What it is, the value with its unit, and how it was found, for stage k under its nominal load; nothing where
    no load is on it."""
    try:
        ask = loaded_ask(train, results, k, "nominal")
    except OutOfRange:
        return

    def shown(value: float, kind: str, places: int | None = None) -> str:
        return tr(
            "{kind} {system}",
            kind=number(value, kind, system, places),
            system=screen_unit(KINDS[kind].display_unit(system)),
        ).strip()

    stage = results.stages[k]
    for i in (0, 1):
        basis = refined(field_basis(ask.bodies[i], COARSE), field_basis(ask.bodies[i], USUAL))
        text = root_comparison(stage, i, basis, ask)
        for n, row in enumerate(text.rows):
            how = (
                tr(
                    "within {error:.1f} %, largest where the tangent is at {tangent:.0f} degrees",
                    error=100 * text.error,
                    tangent=text.tangent,
                )
                if n == 0
                else ""
            )
            yield (
                tr("gear {i}: {words}", i=i + 1, words=row.words),
                shown(row.sigma, "stress"),
                how or tr("sigma b m_n / F_t = {factor:.2f}", factor=row.factor),
            )
    cycle = compared(cycle_of(ask, "coarse"), cycle_of(ask, tr("usual")))
    curves = loaded_curves(ask, cycle)
    off = tr("a coarser grid differs by {off}", off=shown(cycle.off[0], "roughness", 2))
    yield (
        tr("transmission error, peak to peak"),
        shown(curves.ptp, "roughness", 2),
        tr("{turn} positions over a pitch; {off}", turn=len(cycle.turn), off=off),
    )
    orders = join(", ", (number(float(v), "roughness", system, 3) for v in curves.orders[:3]))
    yield (
        tr("its first orders"),
        tr("{orders} {system}", orders=orders, system=screen_unit(KINDS["roughness"].display_unit(system))),
        "",
    )
    yield (
        tr("mean mesh stiffness"),
        shown(curves.c_mean, "stiffness"),
        tr(
            "for small changes of the load, ideal discs; c_gamma of ISO 6336-1, with C_M = 0.8 for real "
            "ones: {c_gamma}",
            c_gamma=shown(float(stage.mesh.c_gamma), "stiffness"),
        ),
    )
    yield (
        tr("largest pressure over the flank"),
        shown(float(curves.p.max()), "stress"),
        tr("Hertz, as the loaded teeth share it; a coarser grid differs by {off:.1f} %", off=100 * cycle.off[1]),
    )
    before, after = curves.lead
    yield (
        tr("tip edges would touch before A, after E"),
        tr("{before}, {after}", before=shown(before, "length"), after=shown(after, "length")),
        tr("not counted as bearing"),
    )
