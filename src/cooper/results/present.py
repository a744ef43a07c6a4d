"""What was computed for a pair, as the results have it: in the document's units, lengths as they are measured."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from functools import cache
from math import isfinite, radians

import numpy as np

from cooper.arrays import Mixed as Array
from cooper.document.models import Stage
from cooper.document.quantities import QUANTITIES
from cooper.document.units import from_core, from_core_factors
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.kinds.kind import Kind
from cooper.results.pair_numbers import PairNumbers
from cooper.results.result_tree import StageResults
from cooper.results.solve_stage import Solved
from cooper.results.to_core import material_of
from cooper.values import GearValues, MeshValues, PowerValues


def array_values(
    numbers: PairNumbers, kinds: tuple[Kind, Kind]
) -> tuple[MeshValues[Array], tuple[GearValues[Array], GearValues[Array]], Array]:
    """Values of arrays of pairs in the document's units, lengths as they are measured, and for which of them all
    could be computed."""
    whole: Array = np.ones((), dtype=bool)

    def shown(values: Mapping[str, Array], has: Callable[[str], bool]) -> dict[str, Array]:
        nonlocal whole
        out = {}
        for symbol, value in values.items():
            if has(symbol):
                number = from_core(value, QUANTITIES[symbol].kind)
                whole = whole & np.isfinite(number)
                out[symbol] = np.abs(number) if symbol in POSITIVE else number
        return out

    mesh = MeshValues(**shown(numbers.mesh, kinds[1].has_in_mesh))
    one, two = (GearValues(**shown(g, kind.has)) for kind, g in zip(kinds, numbers.gears, strict=True))
    mesh.a_w = np.abs(numbers.mesh.a_w)
    return mesh, (one, two), whole


def stage_results(
    stage: Stage, solved: Solved, numbers: PairNumbers, T: float, omega: float, rated: bool
) -> StageResults:
    """The results of a stage whose driving gear has torque ``T`` (N m) and speed ``omega`` (rad/s)."""
    driver, driven = stage.gears
    two = solved.kinds[1]
    mesh = MeshValues(**in_document_units({k: v for k, v in numbers.mesh.items() if two.has_in_mesh(k)}, rated))
    gears = tuple(
        GearValues(**in_document_units({k: v for k, v in g.items() if kind.has(k)}, rated))
        for kind, g in zip(solved.kinds, numbers.gears, strict=True)
    )
    mesh.a_w = two.measured(float(numbers.mesh.a_w), solved.m_n, radians(stage.mesh.beta))
    mesh.P_nd = 25.4 / mesh.m_n
    two.present(mesh, (gears[0], gears[1]), numbers.teeth[1], driven)
    for kind, gear, values, tooth, form in zip(
        solved.kinds, (driver, driven), gears, numbers.teeth, numbers.forms, strict=True
    ):
        values.update(z=gear.z, mass=0.0)
        web = 0.0
        if gear.d_i is not None:
            b_s = gear.b if gear.b_s is None else gear.b_s
            web = np.pi / 4 * (gear.d_i**2 - gear.d_bore**2) * (1 - b_s / gear.b)
            values.update(d_i=gear.d_i, b_s=b_s)
        if gear.d_rim is not None:
            values.update(d_rim=gear.d_rim, d_bore=0.0)
        material = material_of(gear.material)
        # Density and price are those at 20 degrees C.
        values.density = float(material.density)
        values.mass = (kind.section(tooth, form, values).area() - web) * gear.b * values.density * 1e-9
        values.update(cost=values.mass * float(material.price_index), Q=float(gear.Q), hardness=gear.material.hardness)
    power = PowerValues(**two.behind(T, omega, mesh, (gears[0], gears[1])))
    power.update(T_in=T, n_in=from_core(omega, "speed"), P_in=T * omega, P_out=T * omega * mesh.eta_z)
    methods: dict[str, str] = {
        "K_V": stage.mesh.K_V_method,
        "K_Hbeta": stage.mesh.K_Hbeta_method,
        "K_Halpha": stage.mesh.K_Halpha_method,
    }
    return StageResults(
        stage.name,
        mesh.freeze(),
        (gears[0].freeze(), gears[1].freeze()),
        power,
        solved.names,
        numbers.teeth,
        numbers.forms,
        methods,
        rated=rated,
        kinds=solved.kinds,
    )


POSITIVE = {"a", "a_w", "a_0", "d_bore", "p_z", *(s for s in QUANTITIES if s == "d" or s.startswith("d_"))}
"""Lengths that are negative for internal gears in the core; in the results they stand as they are measured."""


def in_document_units(values: Mapping[str, Array], rated: bool = True, *, missing: bool = False) -> dict[str, float]:
    """Values as the document has them; of a pair that no method rates without safeties and without what cannot be
    computed, which ``missing`` leaves out of any."""
    out = {}
    for symbol, value in values.items():
        positive, safety, factor, offset = _shown_as(symbol)
        number = float(value) * factor + offset
        if not isfinite(number):
            if missing or not rated:
                continue
            raise OutOfRange(
                symbol, str(number), tr("the {meaning} cannot be computed here", meaning=QUANTITIES[symbol].meaning)
            )
        if rated or not safety:
            out[symbol] = abs(number) if positive else number
    return out


@cache
def _shown_as(symbol: str) -> tuple[bool, bool, float, float]:
    """Whether a length is shown as it is measured, whether it is a safety, and what takes it to the document's unit."""
    kind = QUANTITIES[symbol].kind
    return symbol in POSITIVE, kind == "safety", *from_core_factors(kind)
