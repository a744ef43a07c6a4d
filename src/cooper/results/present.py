"""What was computed for a pair, as the results have it: in the document's units, lengths as they are measured."""

from __future__ import annotations

from collections.abc import Mapping
from math import isfinite

import numpy as np

from cooper.arrays import Array
from cooper.document.models import Gear, Stage
from cooper.document.quantities import QUANTITIES
from cooper.document.units import from_core
from cooper.errors import OutOfRange
from cooper.gears.area import section_area
from cooper.gears.rack_gear import rack_outline, transverse_pitch
from cooper.results.pair_numbers import PairNumbers
from cooper.results.result_tree import StageResults
from cooper.results.solve_stage import Solved
from cooper.results.to_core import material_of
from cooper.values import GearValues, MeshValues, PowerValues


def members_of_mesh(stage: Stage) -> tuple[Gear, Gear]:
    """The driving and the driven gear of a stage."""
    mesh = stage.meshes[0]
    return stage.members[mesh.driver], stage.members[mesh.driven]


def stage_results(
    stage: Stage, solved: Solved, numbers: PairNumbers, T: float, omega: float, rated: bool
) -> StageResults:
    """The results of a stage whose driving gear has torque ``T`` (N m) and speed ``omega`` (rad/s)."""
    driver, driven = members_of_mesh(stage)
    present = _rack if driven.shape == "rack" else _wheels
    mesh, gears, power = present(driver, driven, numbers, T, omega, rated)
    mesh.P_nd = 25.4 / mesh.m_n
    for gear, values in zip((driver, driven), gears, strict=True):
        material = material_of(gear.material)
        # Density and price are those at 20 degrees C.
        values.density = float(material.density)
        values.mass *= gear.b * values.density * 1e-9
        values.update(
            cost=values.mass * float(material.price_index), Q=float(gear.Q), hardness=gear.material.hardness, z=gear.z
        )
    power.update(T_in=T, n_in=from_core(omega, "speed"), P_in=T * omega, P_out=T * omega * mesh.eta_z)
    methods: dict[str, str] = {
        "K_V": stage.meshes[0].K_V_method,
        "K_Hbeta": stage.meshes[0].K_Hbeta_method,
        "K_Halpha": stage.meshes[0].K_Halpha_method,
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
    )


Shown = tuple[MeshValues[float], tuple[GearValues[float], GearValues[float]], PowerValues]
"""Values of mesh, gears and power; ``mass`` of the gears is the area of their section (mm2), which width and density make the mass."""


def _wheels(driver: Gear, driven: Gear, numbers: PairNumbers, T: float, omega: float, rated: bool) -> Shown:
    """Of two wheels, external or internal."""
    mesh = MeshValues(**_document_units(numbers.mesh, rated))
    one, two = (GearValues(**_document_units(g, rated)) for g in numbers.gears)
    for gear, values, tooth, form in zip((driver, driven), (one, two), numbers.teeth, numbers.forms, strict=True):
        area = float(section_area(tooth, form))
        values.mass = np.pi / 4 * gear.d_rim**2 - area if gear.d_rim else area - np.pi / 4 * gear.d_bore**2
        if gear.d_i is not None:
            b_s = gear.b if gear.b_s is None else gear.b_s
            values.mass -= np.pi / 4 * (gear.d_i**2 - gear.d_bore**2) * (1 - b_s / gear.b)
            values.update(d_i=gear.d_i, b_s=b_s)
        if gear.d_rim is not None:
            values.update(d_rim=gear.d_rim, d_bore=0.0)
    u = abs(mesh.u)
    return mesh, (one, two), PowerValues(T_out=T * u * mesh.eta_z, n_out=from_core(omega / u, "speed"))


NOT_OF_A_RACK = ("x_min", "z_n", "d_bore", "d_w", "j_phi_min", "j_phi_max", "z")
"""Values, besides all diameters, that a rack does not have or that would be those of the great wheel that stands for it."""


def _rack(driver: Gear, driven: Gear, numbers: PairNumbers, T: float, omega: float, rated: bool) -> Shown:
    """Of a pinion and a rack: heights instead of diameters, a force and a speed instead of torque and speed."""
    tooth = numbers.teeth[1]
    half = float(tooth.d) / 2
    mesh = MeshValues(**_document_units({k: v for k, v in numbers.mesh.items() if k not in ("u", "a", "a_w")}, rated))
    one = GearValues(**_document_units(numbers.gears[0], rated))
    kept = {k: v for k, v in numbers.gears[1].items() if k not in NOT_OF_A_RACK and k not in POSITIVE}
    two = GearValues(**_document_units(kept, rated))
    r_1, p_t = one.d / 2, transverse_pitch(tooth)
    mesh.update(a_w=float(numbers.mesh.a_w) - half, a=r_1, p_t=p_t, travel=2 * np.pi * r_1)
    two.update(
        h_a=float(tooth.d_a) / 2 - half,
        h_f=half - float(tooth.d_f_nominal) / 2,
        L_z=driven.z * p_t,
        h_back=driven.h_back,
    )
    one.mass = float(section_area(numbers.teeth[0], numbers.forms[0])) - np.pi / 4 * driver.d_bore**2
    x, y = rack_outline(tooth, driven.z, driven.h_back, 1e-3, numbers.forms[1]).T
    two.mass = 0.5 * float(np.sum(x * np.roll(y, -1) - y * np.roll(x, -1)))
    return mesh, (one, two), PowerValues(F_out=1000 * T / r_1 * mesh.eta_z, v_out=omega * r_1 / 1000)


POSITIVE = {"a", "a_w", "a_0", "d_bore", "p_z", *(s for s in QUANTITIES if s == "d" or s.startswith("d_"))}
"""Lengths that are negative for internal gears in the core; in the results they stand as they are measured."""


def _document_units(values: Mapping[str, Array], rated: bool) -> dict[str, float]:
    """Values as the document has them; of a pair that no method rates without safeties and without what cannot be computed."""
    out = {}
    for symbol, value in values.items():
        if not rated and (QUANTITIES[symbol].kind == "safety" or not isfinite(float(value))):
            continue
        number = from_core(float(value), QUANTITIES[symbol].kind)
        if not isfinite(number):
            raise OutOfRange(symbol, str(number), f"the {QUANTITIES[symbol].meaning} cannot be computed here")
        out[symbol] = abs(number) if symbol in POSITIVE else number
    return out
