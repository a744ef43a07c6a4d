"""The one entrance to the numbers: `evaluate(design)`."""

from __future__ import annotations

from functools import lru_cache
from math import isfinite, radians

import numpy as np

from cooper.design.checks import stage_checks, train_checks
from cooper.design.document import Defaults, Design, Duty, Gear, Stage
from cooper.design.notes import stage_notes, train_notes
from cooper.design.pair_numbers import GearInput, PairInput, PairNumbers, make_tooth, pair_numbers
from cooper.design.quantities import QUANTITIES
from cooper.design.results import Results, StageResults
from cooper.design.solve import Solved, solve_duty, solve_stage
from cooper.design.units import from_core
from cooper.errors import OutOfRange
from cooper.gears.involute import inv
from cooper.gears.outline import one_tooth
from cooper.gears.tooth import Tooth, pointed_diameter
from cooper.rating.iso6336.load import K1_SPUR
from cooper.stock.materials import MaterialNumbers, groups, hardness_range, material_numbers

OUTLINE_TOLERANCE = 2e-4
"""Chord error of drawn and exported outlines, in modules."""


def evaluate(design: Design) -> Results:
    """All results of a design; raises `OutOfRange` where a value cannot work.

    Pure: the same design gives the same results. Values are in the document's units (`Results.as_tree` states them).
    """
    train = design.train
    P, T, omega = solve_duty(train.duty)
    values = {"P_in": P, "T_in": T, "n_in": from_core(omega, "speed")}
    stages, checks, notes = [], [], []
    ratio, eta = 1.0, 1.0
    for k, stage in enumerate(train.stages):
        solved = solve_stage(stage)
        pair = pair_input(stage, solved, train.duty, train.defaults, T, omega)
        _refuse_impossible(solved, pair)
        with np.errstate(all="ignore"):
            numbers = pair_numbers(pair)
        _refuse_unworkable(stage, numbers)
        result = _stage_results(stage, solved, numbers, T, omega)
        stages.append(result)
        checks += stage_checks(k, result, train.defaults)
        notes += stage_notes(k, stage, result)
        u = float(numbers.mesh["u"])
        mesh_eta = float(numbers.mesh["eta_z"])
        ratio, eta = ratio * u, eta * mesh_eta
        T, omega = T * u * mesh_eta, omega / u
    values |= {"u": ratio, "eta": eta, "P_out": P * eta, "T_out": T, "n_out": from_core(omega, "speed")}
    if train.duty.u_wanted is not None:
        values["du"] = 100 * (ratio / train.duty.u_wanted - 1)
    checks += train_checks(values, train.duty)
    return Results(design.name, values, tuple(stages), tuple(checks), (*notes, *train_notes()))


@lru_cache(maxsize=256)
def _material(group: str, grade: str, hardness: float, R_p02: float | None) -> MaterialNumbers:
    return material_numbers(group, grade, hardness, R_p02)


def _gear_input(gear: Gear, x: float, i: int) -> GearInput:
    material = gear.material
    low, high = hardness_range(material.group, material.grade)
    if not 0.5 * low <= material.hardness <= 1.5 * high:
        scale = groups()[material.group]["hardness_scale"]
        raise OutOfRange(
            f"hardness_{i}", material.hardness,
            f"{groups()[material.group]['name']}, grade {material.grade}, has strength numbers for another hardness",
            low=low, high=high, unit=scale,
        )  # fmt: skip
    # Strength numbers are stated for the grade's hardness range alone; outside it the nearer end holds (with a note).
    numbers = _material(material.group, material.grade, min(max(material.hardness, low), high), material.R_p02)
    return GearInput(
        gear.z, x, gear.b, np.nan if gear.d_a is None else gear.d_a, gear.h_aP, gear.h_fP, gear.rho_fP, gear.E_sns,
        gear.E_sni, gear.d_bore, gear.Rz_H, gear.Rz_F, K1_SPUR[gear.Q], numbers,
    )  # fmt: skip


def pair_input(stage: Stage, solved: Solved, duty: Duty, defaults: Defaults, T: float, omega: float) -> PairInput:
    """A stage and its duty in the core's units."""
    mesh = stage.meshes[0]
    one, two = stage.members[mesh.driver], stage.members[mesh.driven]
    oil = defaults.lubricant
    return PairInput(
        (_gear_input(one, solved.x[0], 1), _gear_input(two, solved.x[1], 2)),
        solved.m_n, radians(mesh.alpha_n), solved.a_w, mesh.A_as, mesh.A_ai, T, omega, duty.L_h, duty.K_A,
        mesh.K_Hbeta, mesh.K_Halpha, duty.theta_oil, oil.nu_40, oil.nu_100, oil.rho_15, oil.X_L, defaults.NT_1e10,
        defaults.pitting_allowed,
    )  # fmt: skip


def _refuse_impossible(solved: Solved, pair: PairInput) -> None:
    """Refuse teeth that cannot be made, before anything is computed from them."""
    for i, gear_input in enumerate(pair.gears, 1):
        tooth = make_tooth(gear_input, pair.m_n, pair.alpha_n)
        _refuse_tooth(tooth, i, given=f"d_a{i}" not in solved.names)
        if gear_input.d_bore >= float(tooth.d_f):
            raise OutOfRange(
                f"d_bore{i}", gear_input.d_bore, f"the bore would cut into the root circle of {float(tooth.d_f):.3f} mm",
                low=0.0, high=float(tooth.d_f) - float(tooth.d_a - tooth.d_f) * 0.5, unit="mm",
            )  # fmt: skip


def _refuse_tooth(tooth: Tooth, i: int, *, given: bool) -> None:
    m, d_f, d_b, d_a = float(tooth.m_n), float(tooth.d_f), float(tooth.d_b), float(tooth.d_a)
    x = float(tooth.x)
    thickness = float(tooth.s_t())
    if thickness <= 0.05 * m:
        least = x + (0.1 * m - thickness) / (2 * m * np.tan(float(tooth.rack.alpha_n)))
        raise OutOfRange(f"x_{i}", x, "the tooth would have no thickness left at the reference circle", low=least)
    if d_f <= 0:
        raise OutOfRange(
            f"x_{i}", x, "the tool would cut past the centre of the gear",
            low=float(tooth.rack.h_fP) - float(tooth.z) / 2 + x - float(tooth.x_E) + 0.01,
        )  # fmt: skip
    widest = float(pointed_diameter(tooth))
    if d_a >= widest:
        reason = f"both flanks of the tooth would meet at {widest:.3f} mm, inside this tip circle (pointed tooth)"
        if given:
            raise OutOfRange(f"d_a{i}", d_a, reason, low=d_b, high=widest, unit="mm")
        raise OutOfRange(f"x_{i}", x, reason, high=_greatest_x(tooth))
    if d_a <= max(d_b, d_f) * (1 + 1e-9):
        floor = max(d_b, d_f) + 0.2 * m
        reason = f"nothing of the involute would be left above {max(d_b, d_f):.3f} mm"
        if given:
            raise OutOfRange(f"d_a{i}", d_a, reason, low=floor, high=widest, unit="mm")
        raise OutOfRange(f"x_{i}", x, reason, low=x + (floor - d_a) / (2 * m))


def _greatest_x(tooth: Tooth) -> float:
    """Greatest shift with a tip land above zero, by bisection over the shift with the rack's addendum kept."""
    low, high = float(tooth.x) - 4.0, float(tooth.x)
    offset = float(tooth.x_E - tooth.x)
    m, rack = float(tooth.m_n), tooth.rack
    for _ in range(40):
        mid = (low + high) / 2
        x_E, d_a = mid + offset, float(tooth.d) + 2 * m * (mid + float(rack.h_aP))
        d_b = float(tooth.d_b)
        half = (np.pi / 2 + 2 * x_E * np.tan(rack.alpha_n)) / float(tooth.z) + inv(rack.alpha_n)
        land = half - inv(np.arccos(min(1.0, d_b / d_a)))
        low, high = (mid, high) if land > 0 else (low, mid)
    return float(np.floor(low * 1e3) / 1e3)


def _refuse_unworkable(stage: Stage, numbers: PairNumbers) -> None:
    """Refuse pairs whose strength numbers would be meaningless."""
    mesh, m_n = numbers.mesh, float(numbers.mesh["m_n"])
    for i, (tooth, form) in enumerate(zip(numbers.teeth, numbers.forms, strict=True), 1):
        if float(form.d_Ff) >= float(tooth.d_a) - 0.02 * m_n:
            raise OutOfRange(
                f"z_{i}", int(tooth.z), "undercut would take the whole flank away; more teeth or more shift keep it",
                low=float(np.ceil(tooth.z * 1.0)) + 1,
            )  # fmt: skip
        gear = numbers.gears[i - 1]
        if not isfinite(float(gear["Y_B"])):
            most = float(tooth.d_f) - 1.0 * float(gear["h"])
            raise OutOfRange(
                f"d_bore{i}", float(gear["d_bore"]),
                "the rim would be thinner than half the tooth depth, where the root cannot be rated",
                low=0.0, high=float(np.floor(most * 1e3) / 1e3) - 0.001, unit="mm",
            )  # fmt: skip
    eps = float(mesh["eps_alpha"])
    if not eps >= 1.0:
        given = stage.meshes[0].a_w is not None
        name, value = ("a_w", float(mesh["a_w"])) if given else ("x_2", float(numbers.gears[1]["x"]))
        shown = f"{eps:.2f}" if isfinite(eps) else "none"
        raise OutOfRange(
            name, value, f"a pair of teeth would part before the next one meets (profile contact ratio {shown}, below 1)",
            unit="mm" if given else "",
        )  # fmt: skip


def _stage_results(stage: Stage, solved: Solved, numbers: PairNumbers, T: float, omega: float) -> StageResults:
    mesh = _document_units(numbers.mesh)
    gears = tuple(_document_units(g) for g in numbers.gears)
    mesh["P_nd"] = 25.4 / mesh["m_n"]
    u, eta = mesh["u"], mesh["eta_z"]
    driver, driven = (stage.members[i] for i in (stage.meshes[0].driver, stage.meshes[0].driven))
    outlines = []
    for gear, values, tooth in zip((driver, driven), gears, numbers.teeth, strict=True):
        density = float(_material(gear.material.group, gear.material.grade, gear.material.hardness, None).density)
        outline = one_tooth(tooth, OUTLINE_TOLERANCE * solved.m_n)
        outlines.append(outline)
        area = _area(outline) * gear.z - np.pi / 4 * gear.d_bore**2
        values |= {"mass": area * gear.b * density * 1e-9, "Q": float(gear.Q), "hardness": gear.material.hardness}
        values["z"] = gear.z
    power = {
        "T_in": T, "n_in": from_core(omega, "speed"), "P_in": T * omega,
        "T_out": T * u * eta, "n_out": from_core(omega / u, "speed"), "P_out": T * omega * eta,
    }  # fmt: skip
    return StageResults(
        stage.name, mesh, (gears[0], gears[1]), power, solved.names, numbers.teeth, numbers.forms,
        (outlines[0], outlines[1]),
    )


def _area(tooth: np.ndarray) -> float:
    """Area between the centre and one tooth's outline."""
    x, y = tooth.T
    return float(np.sum(x[:-1] * y[1:] - x[1:] * y[:-1]) / 2)


def _document_units(values: dict[str, np.ndarray]) -> dict[str, float]:
    out = {}
    for symbol, value in values.items():
        number = from_core(float(value), QUANTITIES[symbol].kind)
        if not isfinite(number):
            raise OutOfRange(symbol, str(number), f"the {QUANTITIES[symbol].meaning} cannot be computed here")
        out[symbol] = number
    return out
