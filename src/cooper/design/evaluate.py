"""The one entrance to the numbers: `evaluate(design)`."""

from __future__ import annotations

from contextlib import suppress
from contextvars import ContextVar
from dataclasses import replace
from functools import lru_cache
from math import isfinite, radians
from typing import Any

import numpy as np

from cooper.arrays import frozen
from cooper.design.agma import add_agma, no_agma
from cooper.design.checks import MOST, stage_checks, train_checks
from cooper.design.document import (
    Defaults,
    Design,
    Duty,
    Gear,
    GearSet,
    Material,
    Mesh,
    Plastics,
    Stage,
    Train,
    at_stage,
)
from cooper.design.limits import LEAST_FLANK, LEAST_THICKNESS, range_near, tool_fits, vary_distance, vary_gear
from cooper.design.losses import Lost, heat_balance, train_losses
from cooper.design.micropitting import add_micropitting
from cooper.design.notes import stage_notes, train_notes
from cooper.design.pair_numbers import (
    BY_QUALITY,
    FRICTIONS,
    OUTER_SINGLE,
    TIP_LOAD,
    GearInput,
    PairInput,
    PairNumbers,
    add_lewis,
    make_tooth,
    pair_numbers,
)  # fmt: skip
from cooper.design.pose import clashes
from cooper.design.quantities import QUANTITIES, plain
from cooper.design.results import Results, SetResults, StageResults, note, once
from cooper.design.scuffing import add_scuffing, scuffs
from cooper.design.service import service_life
from cooper.design.set_results import lost_motion, set_checks, set_notes, set_results
from cooper.design.sets import ROLES, SetFlow, forward_efficiency, set_of, solve_set
from cooper.design.solve import Solved, count_of, module_of, solve_duty, solve_stage, tool_of
from cooper.design.units import from_core
from cooper.errors import OutOfRange
from cooper.gears.area import section_area
from cooper.gears.cutter import PinionCutter
from cooper.gears.pair import reference_centre_distance
from cooper.gears.rack_gear import rack_outline, transverse_pitch
from cooper.gears.tip import PLAIN, Tip, land_half_angle
from cooper.gears.tooth import Tooth, pointed_diameter
from cooper.rating.iso6336.case_depth import U_H
from cooper.rating.iso6336.load import K1_HELICAL, K1_SPUR
from cooper.rating.iso6336.sharing import ARRANGEMENTS, MODIFICATIONS
from cooper.stock.materials import MaterialNumbers, constant_law, groups, hardness_range, is_plastic, material_numbers
from cooper.stock.plastics import friction as plastic_friction
from cooper.stock.plastics import heat_numbers, housings

IDLE = 1e-6
"""Share of the set's torque with which the mesh of a free sun is computed."""
_TELL_RANGES: ContextVar[bool] = ContextVar("tell_ranges", default=True)


def works(design: Design) -> bool:
    """Whether a design can be evaluated; quicker than `evaluate` to say no, as no working ranges are looked for."""
    try:
        quick(design)
    except OutOfRange:
        return False
    return True


def quick(design: Design) -> Results:
    """The results without what stands beside the governing method, and without working ranges in a refusal: for searches."""
    token = _TELL_RANGES.set(False)
    try:
        return evaluate(design)
    finally:
        _TELL_RANGES.reset(token)


def evaluate(design: Design) -> Results:
    """All results of a design; raises `OutOfRange` where a value cannot work.

    Pure: the same design gives the same results. Values are in the document's units (`Results.as_tree` states them).
    """
    train = design.train
    P, T, omega = solve_duty(train.duty)
    values = {"P_in": P, "T_in": T, "n_in": from_core(omega, "speed")}
    stages, checks, notes = [], [], []
    ratio, eta = 1.0, 1.0
    friction = train.losses.friction
    lost: Lost = []
    if train.losses.oil_by_balance:
        train = _warmed(train)
    sets: list[SetResults] = []
    flow: SetFlow | None = None
    beside = _lost_beside(train)
    for k, stage in enumerate(train.stages):
        one = set_of(train, k)
        T_k, omega_k = T, omega
        if one is not None:
            members = tuple(train.stages[n] for n in one.stages)
            if k == one.first:
                flow = _set_flow(one, train, T, omega)
            assert flow is not None
            T_k, omega_k = flow.mesh_torque[k - one.first], flow.mesh_speed[k - one.first]
        idle = one is not None and k == one.first + 2 and not one.sun_works
        if idle:
            # So little that no number becomes infinite; what is rated for it is not shown.
            T_k = IDLE * T
        duty, defaults = at_stage(train, k)
        solved = _solve(stage, train, T_k, omega_k)
        pair = in_train(train, k, pair_input(stage, solved, duty, defaults, T_k, omega_k, friction), beside[k])
        _refuse_impossible(solved, pair)
        with np.errstate(all="ignore"):
            numbers = pair_numbers(pair)
        pair = numbers.pair
        _refuse_unworkable(stage, solved, pair, numbers)
        lost.append((pair, numbers))
        if _TELL_RANGES.get():
            add_lewis(pair, numbers)
        rated = not idle and _is_rated(numbers)
        if rated:
            if _TELL_RANGES.get() or defaults.method.startswith("ANSI"):
                _add_agma(pair, stage, defaults, numbers)
            a_drives = flow is None or one is None or bool(flow.found.through[k - one.first] >= 0)
            _add_scuffing(pair, stage, defaults, numbers, a_drives)
            with np.errstate(all="ignore"):
                add_micropitting(pair, numbers, members_of_mesh(stage), defaults.lubrication, defaults.lubricant)
            if train.duty.spectrum:
                _add_service(pair, duty, numbers)
        result = replace(_stage_results(stage, solved, numbers, T_k, omega_k, rated), rated=rated)
        if one is not None:
            result = replace(result, roles=ROLES[one.kind][k - one.first])
        result.power.update(T_mesh=0.0 if idle else T_k, n_mesh=from_core(omega_k, "speed"))
        stages.append(result)
        checks += stage_checks(k, result, defaults, members_of_mesh(stage))
        notes += [n for n in stage_notes(k, train, result) if not idle or n.level == "warning"]
        if one is not None:
            if k < one.stages[-1]:
                continue
            pairs = tuple(stages[one.first :])
            found, loaded = set_results(one, members, pairs, T, omega)
            sets.append(found)
            checks += set_checks(found, result.mesh["m_n"])
            notes += set_notes(one, members, pairs, found)
            power = {"T_in": T, "n_in": from_core(omega, "speed"), "P_in": T * omega}
            T, omega = abs(loaded.torque_of(one.output)), abs(loaded.speed_of(one.output))
            power |= {"T_out": T, "n_out": from_core(omega, "speed"), "P_out": T * omega}
            for s, gone in zip(pairs, loaded.found.lost, strict=True):
                s.power.update(power)
                # As friction leaves the power to the mesh, which circulation makes another than that without friction.
                s.mesh["P_VZ"] = max(float(gone), 0.0)
            ratio, eta = ratio * abs(loaded.ratio), eta * found.values["eta_set"]
            continue
        u = abs(float(numbers.mesh["u"]))
        mesh_eta = float(numbers.mesh["eta_z"])
        if result.rack:
            # The output is a force along a line: no ratio, no torque.
            values |= {f"{s}_out": result.power[f"{s}_out"] for s in ("F", "v", "P")}
            values |= {"travel": result.mesh["travel"] / ratio, "eta": eta * mesh_eta}
            break
        ratio, eta = ratio * u, eta * mesh_eta
        T, omega = T * u * mesh_eta, omega / u
    values |= lost_motion(train, stages)
    if "travel" not in values:
        values |= {"u": ratio, "eta": eta, "P_out": P * eta, "T_out": T, "n_out": from_core(omega, "speed")}
    if train.losses.counted == "all":
        values |= _all_losses(train, lost, values)
    if train.duty.u_wanted is not None and "u" in values:
        # Rounding of the solved speeds is no deviation.
        values["du"] = round(100 * (ratio / train.duty.u_wanted - 1), 9)
    checks += train_checks(values, train.duty)
    if values.get("eta_all", 1.0) <= 0:
        notes.append(note("warning:short", None, f"Of {P:.4g} W that come in {values['P_V']:.4g} W would be lost, {values['P_Vz']:.4g} W of it in the meshes: the "
                          "train does not turn. More power, thinner oil, fewer or smaller bearings and seals would let it."))  # fmt: skip
    if train.losses.counted == "all" and train.losses.A_h is not None and "theta_bal" not in values:
        notes.append(note("warning:short", None, f"A housing of A_h = {train.losses.A_h:g} m2 cannot give off what is lost: the oil would pass 250 degC."))
    told_once = once((*notes, *train_notes(train)), tuple(sets))
    results = Results(design.name, values, tuple(stages), tuple(checks), told_once, tuple(sets))
    if len(stages) < 2 or not _TELL_RANGES.get():
        return results
    told = tuple(note("warning:short", c.stage, c.words) for c in clashes(results))
    return replace(results, notes=(*told, *results.notes)) if told else results


def _all_losses(train: Train, lost: Lost, values: dict[str, float]) -> dict[str, float]:
    """The losses of the whole train and what they leave at the output."""
    found = train_losses(train, lost)
    P = values["P_in"]
    out = {k: float(v) for k, v in found.items()}
    # Where more is lost than comes in the train stands still; a note says so.
    left = max(out["eta_all"], 0.0)
    out |= {"eta": left, "P_out": P * left, "theta_oil": train.duty.theta_oil}
    for s in ("T_out", "F_out"):
        if s in values:
            out[s] = values[s] * left / values["eta"]
    if train.losses.A_h is not None:
        # That there is none is said in a note; it is refused only where the balance is to be taken.
        with suppress(OutOfRange):
            out["theta_bal"] = heat_balance(train, lost)
    return out


def stages_of(train: Train) -> Lost:
    """Inputs and numbers of every stage at the duty, for what is computed of them beside the results."""
    _, T, omega = solve_duty(train.duty)
    lost: Lost = []
    for k, stage in enumerate(train.stages):
        one = set_of(train, k)
        T_k, omega_k = T, omega
        if one is not None:
            members = tuple(train.stages[n] for n in one.stages)
            flow = _set_flow(one, train, T, omega)
            T_k, omega_k = flow.mesh_torque[k - one.first], flow.mesh_speed[k - one.first]
            T_k = IDLE * T if k == one.first + 2 and not one.sun_works else T_k
        pair = in_train(train, k, pair_input(stage, _solve(stage, train, T_k, omega_k), *at_stage(train, k), T_k, omega_k, train.losses.friction))
        with np.errstate(all="ignore"):
            numbers = pair_numbers(pair)
        lost.append((pair, numbers))
        if one is None:
            u = abs(float(numbers.mesh["u"]))
            T, omega = T * u * float(numbers.mesh["eta_z"]), omega / u
        elif k == one.stages[-1]:
            losses = tuple(1 - float(n.mesh["eta_z"]) for _, n in lost[one.first :])
            loaded = solve_set(one, members, T, omega, losses)
            T, omega = abs(loaded.torque_of(one.output)), abs(loaded.speed_of(one.output))
    return lost


def _set_flow(one: GearSet, train: Train, T: float, omega: float) -> SetFlow:
    """The torques for which the teeth of a set are rated: without friction, which takes little on the way. In two rings power
    circulates and friction takes much of it, so that there the torques are those with the losses of their meshes."""
    members = tuple(train.stages[n] for n in one.stages)
    flow = solve_set(one, members, T, omega)
    if one.kind != "two rings":
        return flow
    losses = []
    for n, stage in enumerate(members):
        T_n, omega_n = flow.mesh_torque[n] or IDLE * T, flow.mesh_speed[n]
        duty, defaults = at_stage(train, one.first + n)
        pair = pair_input(stage, _solve(stage, train, T_n, omega_n), duty, defaults, T_n, omega_n, train.losses.friction)
        with np.errstate(all="ignore"):
            losses.append(1 - float(pair_numbers(in_train(train, one.first + n, pair)).mesh["eta_z"]))
    if not np.all(np.isfinite(losses)) or max(losses) >= 1 or forward_efficiency(one, members, tuple(losses)) <= 0:
        # Teeth that cannot be, and a set that friction locks, are refused with their reasons later.
        return flow
    found = solve_set(one, members, T, omega, tuple(losses)).found
    # Of both sides of a mesh the greater load.
    torque = [max(abs(a), abs(b * s.members[0].z / s.members[1].z)) / one.planets
              for a, b, s in zip(found.mesh_a, found.mesh_b, members, strict=True)]  # fmt: skip
    return replace(flow, mesh_torque=tuple(float(t) for t in torque))


def among_planets(one: GearSet, mesh: int, pair: PairInput) -> PairInput:
    """A mesh of a set: as many of it as planets, sun and ring loaded by each planet once a turn."""
    if one.kind == "idler":
        middle = 1 - mesh
        gears = tuple(replace(g, meshes=2.0) if n == middle else g for n, g in enumerate(pair.gears))
    else:
        outer = 0 if (one.kind != "two rings" and mesh == 0) or mesh == 2 else 1
        planets = float(one.planets)
        # A planet between sun and ring is warmed by both meshes.
        own = 2.0 if one.kind == "planetary" or (one.sun_works and mesh != 1) else 1.0
        gears = tuple(
            replace(g, contacts=planets, meshes=planets) if n == outer else replace(g, meshes=own) for n, g in enumerate(pair.gears)
        )
    return replace(pair, gears=(gears[0], gears[1]), copies=float(one.planets))


def _warmed(train: Train) -> Train:
    """The train with the oil temperature of its heat balance."""
    theta = round(heat_balance(train, stages_of(train)), 2)
    return train.model_copy(update={"duty": train.duty.model_copy(update={"theta_oil": theta})})


def _add_agma(pair: PairInput, stage: Stage, defaults: Defaults, numbers: PairNumbers) -> None:
    mesh = stage.meshes[0]
    members = stage.members[mesh.driver], stage.members[mesh.driven]
    if not no_agma(*members):
        with np.errstate(all="ignore"):
            add_agma(pair, numbers, members, mesh, defaults)


def _add_scuffing(pair: PairInput, stage: Stage, defaults: Defaults, numbers: PairNumbers, first_drives: bool) -> None:
    if scuffs(pair):
        with np.errstate(all="ignore"):
            add_scuffing(pair, numbers, members_of_mesh(stage), defaults.lubrication, defaults.lubricant.S_FZG, defaults.phi_E, first_drives)


def _add_service(pair: PairInput, duty: Duty, numbers: PairNumbers) -> None:
    """The safeties and damage sums under the spectrum."""
    with np.errstate(all="ignore"):
        for g, service in zip(numbers.gears, service_life(pair, duty.spectrum), strict=True):
            values = {"S_Heq": service.S_Heq, "S_Feq": service.S_Feq, "D_H": np.sum(service.damage_H), "D_F": np.sum(service.damage_F)}
            # No load at all, and a level above static strength, have no finite number.
            g.update({k: np.asarray(min(v, MOST)) for k, v in values.items()})


def _solve(stage: Stage, train: Train, T: float, omega: float) -> Solved:
    """Solve a stage; for a centre distance out of reach, tell the distances at which the whole pair works."""
    try:
        return solve_stage(stage)
    except OutOfRange as fault:
        if fault.quantity != "a_w" or not _TELL_RANGES.get():
            raise
        mesh = stage.meshes[0]
        one, two = stage.members[mesh.driver], stage.members[mesh.driven]
        m_n = module_of(mesh, one.z, two.z)
        z_2 = 0 if two.shape == "rack" else two.z
        a = abs(float(reference_centre_distance(one.z, z_2, m_n, radians(mesh.beta))))
        near = stage.model_copy(update={"meshes": (mesh.model_copy(update={"a_w": a}),)})
        solved = solve_stage(near)
        pair = pair_input(near, solved, train.duty, train.defaults, T, omega)
        found = _distances(pair, solved.names, float(fault.value), 0.9 * a, (1.5 if z_2 == 0 else 1.3) * a)
        low, high = found if found else (fault.low, fault.high)
        raise OutOfRange("a_w", fault.value, fault.reason, low=low, high=high, unit="mm") from fault


def _distances(
    pair: PairInput, names: frozenset[str], value: float, low: float, high: float
) -> tuple[float, float] | None:
    """Working centre distances near a value, as positive lengths."""
    vary = vary_distance(pair, names)
    if pair.gears[1].teeth_cut is not None:
        datum = float(pair.gears[1].z) * float(pair.m_n) / (2 * float(np.cos(pair.beta)))
        found = range_near(vary, value + datum, low + datum, high + datum)
        return (found[0] - datum, found[1] - datum) if found else None
    if float(pair.a_w) > 0:
        return range_near(vary, value, low, high)
    found = range_near(vary, -value, -high, -low)
    return (-found[1], -found[0]) if found else None


@lru_cache(maxsize=256)
def _material(material: Material) -> MaterialNumbers:
    """The numbers of a material; what it states of its own takes the place of the stock's."""
    numbers = material_numbers(material.group, material.grade, material.hardness, material.R_p02, 20.0, material.core, material.peened)
    own: dict[str, Any] = {k: np.asarray(v) for k in OWN if (v := getattr(material, k)) is not None}
    if numbers.law is not None:
        # A strength of one's own is one for all temperatures and cycles, a modulus one for all temperatures.
        law = {part: constant_law(float(own[s])) for part, s in (("flank", "sigma_Hlim"), ("root", "sigma_Flim")) if s in own}
        if "E" in own:
            law["E"] = np.array([[20.0], [float(own["E"])]])
        own["law"] = replace(numbers.law, **law)
    return frozen(replace(numbers, **own))


OWN = ("sigma_Hlim", "sigma_Flim", "E", "density", "price_index")
"""What a material may state of its own in place of the stock's value."""


def _gear_input(gear: Gear, x: float, d_a: float, i: int, k_theta: tuple[float, float]) -> GearInput:
    material = gear.material
    low, high = hardness_range(material.group, material.grade)
    if not 0.5 * low <= material.hardness <= 1.5 * high:
        scale = groups()[material.group]["hardness_scale"]
        raise OutOfRange(
            f"hardness_{i}", material.hardness,
            f"{groups()[material.group]['name']}, grade {material.grade}, has strength numbers for another hardness",
            low=low, high=high, unit=scale,
        )  # fmt: skip
    numbers = _material(material)
    return GearInput(
        count_of(gear), x, gear.b, np.nan if gear.d_a is None else d_a, gear.h_aP, gear.h_fP, gear.rho_fP, gear.E_sns,
        gear.E_sni, -gear.d_rim if gear.d_rim else gear.d_bore, gear.Rz_H, gear.Rz_F, K1_SPUR[max(gear.Q, 3)],
        K1_HELICAL[max(gear.Q, 3)], numbers, tool_of(gear), _tip(gear), gear.pr_P,
        # Stock beyond the protuberance ends in a notch; the fillet beside it is that of the finished rack.
        min(gear.q_P, gear.pr_P), radians(gear.alpha_prP), float(gear.z) if gear.shape == "rack" else None, float(gear.Q),
        gear.R_bend if gear.bending == "both ways" else 0.0, gear.swelling / 100, gear.notch, gear.rho_g,
        k_theta=k_theta, k_W=np.nan if gear.k_W is None else gear.k_W,
        d_i=np.nan if gear.d_i is None else gear.d_i, b_s=np.nan if gear.b_s is None else gear.b_s,
        CHD=gear.CHD if gear.CHD is not None and material.group == "Eh" else np.nan, U_H=U_H.get(material.grade, U_H["MQ"]),
    )  # fmt: skip


LOAD_AT = {"by quality": BY_QUALITY, "outer single contact": OUTER_SINGLE, "tip": TIP_LOAD}


def _tip(gear: Gear) -> Tip:
    return Tip(gear.h_K, radians(gear.delta_K), gear.rho_a) if gear.h_K or gear.rho_a else PLAIN


def pair_input(
    stage: Stage, solved: Solved, duty: Duty, defaults: Defaults, T: float, omega: float, friction: str = FRICTIONS[0]
) -> PairInput:
    """A stage and its duty in the core's units."""
    mesh = stage.meshes[0]
    one, two = stage.members[mesh.driver], stage.members[mesh.driven]
    oil = defaults.lubricant
    at = defaults.plastics
    groups_ = one.material.group, two.material.group
    heat = [heat_numbers(at.running, mate) for mate in reversed(groups_)]
    gears = (_gear_input(one, solved.x[0], solved.d_a[0], 1, heat[0]), _gear_input(two, solved.x[1], solved.d_a[1], 2, heat[1]))
    if two.shape == "rack":
        # What lies behind the root of a rack is its rim.
        back = count_of(two) * solved.m_n / float(np.cos(radians(mesh.beta))) - 2 * two.h_back
        gears = (gears[0], replace(gears[1], d_bore=back))
    return PairInput(
        gears,
        solved.m_n, radians(mesh.alpha_n), radians(mesh.beta), mesh.f_ZCa, solved.a_w, mesh.A_as, mesh.A_ai, T, omega, duty.L_h, duty.K_A,
        mesh.K_Hbeta, mesh.K_Halpha, duty.theta_oil, oil.nu_40, oil.nu_100, oil.rho_15, oil.X_L, defaults.NT_1e10,
        defaults.pitting_allowed, mesh.double_helix, mesh.K_V_method == "B", mesh.K_Hbeta_method != "entered",
        mesh.K_Halpha_method == "B", mesh.l_sh, mesh.s_sh, mesh.d_sh, ARRANGEMENTS[mesh.arrangement][:2],
        MODIFICATIONS[mesh.helix_modification][:2], mesh.C_a, defaults.theta_gears, defaults.theta_housing,
        1e-6 * defaults.alpha_housing, np.nan if duty.K_AP is None else duty.K_AP, mesh.K_gamma, LOAD_AT[mesh.load_at],
        float(FRICTIONS.index(friction)),
        wheel_bends=mesh.wheel_shaft == "counted", l_sh2=mesh.l_sh2, s_sh2=mesh.s_sh2, d_sh2=mesh.d_sh2,
        K_arranged2=ARRANGEMENTS[mesh.arrangement_2][:2], f_sh_given=mesh.f_sh if mesh.K_Hbeta_method == "f_sh" else np.nan, **_plastic_heat(at, mesh, groups_, duty.theta_oil),
    )  # fmt: skip


def _plastic_heat(at: Plastics, mesh: Mesh, materials: tuple[str, str], theta_oil: float) -> dict[str, Any]:
    """What warms a pair with a plastic gear; the air and the housing, which the train knows, come with `_in_housing`."""
    if at.heat == "entered" or not any(is_plastic(group) for group in materials):
        return {}
    mu = mesh.mu_pl if mesh.mu_pl is not None else plastic_friction(at.running, *materials)[0]
    return {"warms": True, "mu_plastic": mu, "ED": at.ED / 100, "theta_0": theta_oil}


def in_train(train: Train, k: int, pair: PairInput, P_beside: float = 0.0) -> PairInput:
    """The pair of stage k among its planets and, where plastics warm themselves, in the air of the housing, in which ``P_beside``
    (W) is lost by the other meshes; teeth in an oil bath have the oil's temperature."""
    one = set_of(train, k)
    if one is not None:
        pair = among_planets(one, k - one.first, pair)
    at = train.defaults.plastics
    if not pair.warms or at.running == "oil bath":
        return pair
    R = housings()[at.housing]["R"]
    return replace(pair, theta_0=train.losses.theta_air, R_by_A=R / train.losses.A_h if R else 0.0, P_beside=P_beside)


def _lost_beside(train: Train) -> list[float]:
    """What all other meshes of the housing lose beside that of each stage (W); 0 where it warms no teeth."""
    at = train.defaults.plastics
    if at.heat == "entered" or at.running == "oil bath" or at.housing == "open" or len(train.stages) < 2:
        return [0.0] * len(train.stages)
    lost = [float(n.mesh["P_VZ"]) for _, n in stages_of(train)]
    return [sum(lost) - own for own in lost]


def pair_now(design: Design, results: Results, k: int, stage: Stage | None = None) -> PairInput:
    """The pair of stage k as it works in its train; ``stage`` is another form of it under the same load."""
    stage = design.train.stages[k] if stage is None else stage
    power = results.stages[k].power
    pair = pair_input(stage, solve_stage(stage), *at_stage(design.train, k), power["T_mesh"], power["n_mesh"] * np.pi / 30, design.train.losses.friction)
    return in_train(design.train, k, pair, sum(s.mesh["P_VZ"] for n, s in enumerate(results.stages) if n != k))


def _refuse_impossible(solved: Solved, pair: PairInput) -> None:
    """Refuse teeth that cannot be made, before anything is computed from them."""
    for i, gear in enumerate(pair.gears, 1):
        tooth = make_tooth(gear, pair.m_n, pair.alpha_n, pair.beta)
        fault = _fault_of(tooth)
        if fault is not None:
            quantity, reason = fault
            blame = _tip_or(i, "x", solved) if quantity == "tip" else plain(quantity, i)
            _refuse_nearest(reason, blame, solved, pair)
        if gear.teeth_cut is not None and gear.d_bore >= float(tooth.d_f):
            _refuse_back(pair, "the back of the rack would lie above its root")
        if np.isfinite(gear.d_i) and gear.d_i >= float(tooth.d_f):
            raise OutOfRange(f"d_i{i}", float(gear.d_i), f"the rim would be cut through at the root circle of {float(tooth.d_f):.3f} mm",
                             high=round(float(tooth.d_f), 3), unit="mm")  # fmt: skip
        if gear.d_bore >= float(tooth.d_f):
            word = "bore" if tooth.sign > 0 else "outside diameter"
            reason = f"the {word} would cut into the root circle of {abs(float(tooth.d_f)):.3f} mm"
            _refuse_nearest(reason, f"d_bore{i}", solved, pair)


def _fault_of(tooth: Tooth) -> tuple[str, str] | None:
    """What makes a tooth impossible: the quantity concerned ("tip" or "x") and the reason."""
    d_f, d_b, d_a = float(tooth.d_f), float(tooth.d_b), float(tooth.d_a)
    if not isfinite(d_f) or not bool(tool_fits(tooth)):
        if tooth.tool is not None and isinstance(tooth.tool, PinionCutter):
            return "x", "the pinion cutter cannot generate this root: its rounding would reach its pitch circle"
        return "rho_fP", "two fillets of this radius do not fit into one tooth space"
    if float(tooth.s_t()) <= LEAST_THICKNESS * float(tooth.m_n):
        return "x", "the tooth would have no thickness left at the reference circle"
    if d_f * float(tooth.sign) <= 0:
        return "x", "the tool would cut past the centre of the gear"
    widest = float(pointed_diameter(tooth))
    if tooth.sign < 0:
        if abs(d_a) <= abs(d_b):
            return "tip", f"the tip circle would lie inside the base circle of {abs(d_b):.3f} mm, where there is no involute"
        if abs(d_a) >= abs(d_f):
            return "tip", f"nothing of the tooth would be left above its root circle of {abs(d_f):.3f} mm"
    elif d_a <= max(d_b, d_f):
        return "tip", f"nothing of the involute would be left above {max(d_b, d_f):.3f} mm"
    if float(land_half_angle(tooth)) <= 0 and d_a < widest:
        return ("h_K" if float(tooth.tip.h_K) > 0 else "rho_a"), "chamfer or rounding would take the whole tip land away"
    if d_a >= widest:
        widest = abs(widest)
        return "tip", f"both flanks of the tooth would meet at {widest:.3f} mm, inside its tip circle (pointed tooth)"
    return None


def _refuse_unworkable(stage: Stage, solved: Solved, pair: PairInput, numbers: PairNumbers) -> None:
    """Refuse pairs whose strength numbers would be meaningless."""
    for i, (tooth, form) in enumerate(zip(numbers.teeth, numbers.forms, strict=True), 1):
        gear = numbers.gears[i - 1]
        if float(form.d_Ff) >= float(tooth.d_a) - LEAST_FLANK * solved.m_n:
            reason = f"no flank would be left between root form circle {abs(float(form.d_Ff)):.3f} mm and tip circle"
            _refuse_nearest(reason, _tip_or(i, "z", solved), solved, pair)
        if not isfinite(float(gear["Y_B"])):
            if pair.gears[i - 1].teeth_cut is not None:
                _refuse_back(pair, "what lies behind the root would be thinner than half the tooth depth")
            least = "half the tooth depth" if tooth.sign > 0 else "1.75 modules"
            reason = f"the rim would be thinner than {least}, where the root cannot be rated"
            if np.isfinite(pair.gears[i - 1].d_i):
                thickest = float(tooth.d_f) - float(gear["h"])
                raise OutOfRange(f"d_i{i}", float(pair.gears[i - 1].d_i), reason, high=round(thickest, 3), unit="mm")
            _refuse_nearest(reason, f"d_bore{i}", solved, pair)
    if not float(numbers.mesh["eta_z"]) > 0:
        mu = float(numbers.mesh["mu_mz"])
        raise OutOfRange(
            "mu_mz", round(mu, 4), "the mesh would lose all that it is given: speed, load or oil lie far outside what the friction "
            "formula is made for", low=0.0, high=round(0.99 / float(numbers.mesh["H_V"]), 3),
        )  # fmt: skip
    # Helical teeth hand over along their width too.
    eps, whole = float(numbers.mesh["eps_alpha"]), float(numbers.mesh["eps_gamma"])
    if not (eps >= 1.0 or (eps > 0 and whole >= 1.0)):
        shown = f"{eps:.2f}" if eps > 0 else "0"
        total = f" and total contact ratio {whole:.2f}" if eps > 0 and float(numbers.mesh["eps_beta"]) > 0 else ""
        reason = f"a pair of teeth would part before the next one meets (profile contact ratio {shown}{total}, below 1)"
        given_tips = [i for i in (1, 2) if f"d_a{i}" not in solved.names]
        if given_tips:
            blame = f"d_a{given_tips[-1]}"
        else:
            blame = "a_w" if stage.meshes[0].a_w is not None else "x_2"
        _refuse_nearest(reason, blame, solved, pair)


def _tip_or(i: int, other: str, solved: Solved) -> str:
    """The tip diameter where it is given, else another quantity of the gear."""
    return f"{other}_{i}" if f"d_a{i}" in solved.names else f"d_a{i}"


def _refuse_back(pair: PairInput, reason: str) -> None:
    """Refuse the back of a rack with the least height that leaves half a tooth depth behind the root."""
    tooth = make_tooth(pair.gears[1], pair.m_n, pair.alpha_n, pair.beta)
    h_f, h = float(tooth.d - tooth.d_f) / 2, float(tooth.d_a - tooth.d_f_nominal) / 2
    value = (float(tooth.d) - float(pair.gears[1].d_bore)) / 2
    raise OutOfRange("h_back2", round(value, 9), reason, low=round(h_f + 0.501 * h, 3), unit="mm")


_SPANS = {"z": (4.0, 300.0), "x": (-2.0, 2.0), "h_K": (0.0, 0.0), "rho_a": (0.0, 0.0), "rho_fP": (0.0, 0.8)}


def _refuse_nearest(reason: str, blame: str, solved: Solved, pair: PairInput) -> None:
    """Refuse with the working range nearest to the blamed quantity's value, in lengths as a person reads them."""
    if not _TELL_RANGES.get():
        raise OutOfRange(blame, "", reason)
    if blame == "a_w":
        value = abs(float(pair.a_w))
        if pair.gears[1].teeth_cut is not None:
            value -= float(pair.gears[1].z) * float(pair.m_n) / (2 * float(np.cos(pair.beta)))
        found = _distances(pair, solved.names, value, 0.8 * value, 1.25 * value)
    else:
        name, i = blame.rstrip("12").rstrip("_"), int(blame[-1]) - 1
        gear = pair.gears[i]
        edges = {"h_K": float(gear.tip.h_K), "rho_a": float(gear.tip.rho_a)}
        value = {"z": float(gear.z), "x": solved.x[i], "d_a": solved.d_a[i], "d_bore": float(gear.d_bore),
                 "rho_fP": float(gear.rho_fP), **edges}[name]  # fmt: skip
        low, high = _SPANS.get(name, (0.0, value) if name == "d_bore" else (0.5 * value, 2 * value))
        if name in edges:
            low, high = 0.0, value
        if value < 0 and name in ("z", "d_bore", "d_a"):
            low, high = {"z": (-300.0, -4.0), "d_bore": (3 * solved.d_a[i], value)}.get(name, (2 * value, 0.5 * value))
            if name == "d_bore":
                low, high = 3 * solved.d_a[i], solved.d_a[i]
        found = range_near(vary_gear(pair, i, name, solved.names), value, low, high, whole=name == "z")
        if value < 0 and name in ("d_bore", "d_a"):
            found = (-found[1], -found[0]) if found else None
            value, blame = -value, blame.replace("d_bore", "d_rim")
    low_, high_ = found if found else (None, None)
    unit = "mm" if blame[0] in "ad" or blame.startswith(("h_K", "rho_a")) else ""
    raise OutOfRange(blame, int(value) if blame[0] == "z" else value, reason, low=low_, high=high_, unit=unit)


def members_of_mesh(stage: Stage) -> tuple[Gear, Gear]:
    """The driving and the driven gear of a stage."""
    mesh = stage.meshes[0]
    return stage.members[mesh.driver], stage.members[mesh.driven]


def _is_rated(n: PairNumbers) -> bool:
    """Whether ISO 6336 rates the pair: its teeth hand over within the transverse section, and touch at B and D."""
    return bool(n.mesh["eps_alpha"] >= 1) and all(bool(np.isfinite(g["Z_BD"])) for g in n.gears)


def _stage_results(stage: Stage, solved: Solved, numbers: PairNumbers, T: float, omega: float, rated: bool) -> StageResults:
    driver, driven = (stage.members[i] for i in (stage.meshes[0].driver, stage.meshes[0].driven))
    if driven.shape == "rack":
        return _rack_results(stage, solved, numbers, T, omega, rated)
    mesh = _document_units(numbers.mesh, rated)
    gears = tuple(_document_units(g, rated) for g in numbers.gears)
    mesh["P_nd"] = 25.4 / mesh["m_n"]
    u, eta = abs(mesh["u"]), mesh["eta_z"]
    for gear, values, tooth, form in zip((driver, driven), gears, numbers.teeth, numbers.forms, strict=True):
        density = float(_numbers_of(gear).density)
        area = float(section_area(tooth, form))
        area = np.pi / 4 * gear.d_rim**2 - area if gear.d_rim else area - np.pi / 4 * gear.d_bore**2
        if gear.d_i is not None:
            b_s = gear.b if gear.b_s is None else gear.b_s
            area -= np.pi / 4 * (gear.d_i**2 - gear.d_bore**2) * (1 - b_s / gear.b)
            values |= {"d_i": gear.d_i, "b_s": b_s}
        values |= {"mass": area * gear.b * density * 1e-9, "Q": float(gear.Q), "hardness": gear.material.hardness}
        values |= {"density": density, "cost": values["mass"] * float(_numbers_of(gear).price_index)}
        values["z"] = gear.z
        if gear.d_rim is not None:
            values |= {"d_rim": gear.d_rim, "d_bore": 0.0}
    power = {
        "T_in": T, "n_in": from_core(omega, "speed"), "P_in": T * omega,
        "T_out": T * u * eta, "n_out": from_core(omega / u, "speed"), "P_out": T * omega * eta,
    }  # fmt: skip
    return StageResults(stage.name, mesh, (gears[0], gears[1]), power, solved.names, numbers.teeth, numbers.forms, _methods(stage))


def _methods(stage: Stage) -> dict[str, str]:
    mesh = stage.meshes[0]
    return {"K_V": mesh.K_V_method, "K_Hbeta": mesh.K_Hbeta_method, "K_Halpha": mesh.K_Halpha_method}


def _numbers_of(gear: Gear) -> MaterialNumbers:
    """A gear's material at 20 degrees C, for density and price."""
    return _material(gear.material)


NOT_OF_A_RACK = ("x_min", "z_n", "d_bore", "d_w", "j_phi_min", "j_phi_max")
"""Values, besides all diameters, that a rack does not have or that would be those of the great wheel that stands for it."""


def _rack_results(stage: Stage, solved: Solved, numbers: PairNumbers, T: float, omega: float, rated: bool) -> StageResults:
    """The results of a pinion and a rack: heights instead of diameters, a force and a speed instead of torque and speed."""
    driver, driven = (stage.members[i] for i in (stage.meshes[0].driver, stage.meshes[0].driven))
    tooth = numbers.teeth[1]
    half = float(tooth.d) / 2
    mesh = _document_units({k: v for k, v in numbers.mesh.items() if k not in ("u", "a", "a_w")}, rated)
    one = _document_units(numbers.gears[0], rated)
    kept = {k: v for k, v in numbers.gears[1].items() if k not in NOT_OF_A_RACK and k not in POSITIVE}
    two = _document_units({k: v for k, v in kept.items() if k != "z"}, rated)
    r_1 = one["d"] / 2
    a_w = float(numbers.mesh["a_w"]) - half
    p_t = transverse_pitch(tooth)
    mesh |= {"a_w": a_w, "a": r_1, "P_nd": 25.4 / mesh["m_n"], "p_t": p_t, "travel": 2 * np.pi * r_1}
    two |= {
        "z": float(driven.z), "h_a": float(tooth.d_a) / 2 - half, "h_f": half - float(tooth.d_f_nominal) / 2, "L_z": driven.z * p_t,
        "h_back": driven.h_back, "Q": float(driven.Q), "hardness": driven.material.hardness,
    }  # fmt: skip
    two["z"] = driven.z
    one |= {"Q": float(driver.Q), "hardness": driver.material.hardness, "z": driver.z}
    area = float(section_area(numbers.teeth[0], numbers.forms[0])) - np.pi / 4 * driver.d_bore**2
    one["mass"] = area * driver.b * float(_numbers_of(driver).density) * 1e-9
    outline = rack_outline(tooth, driven.z, driven.h_back, 1e-3, numbers.forms[1])
    x, y = outline.T
    two["mass"] = 0.5 * float(np.sum(x * np.roll(y, -1) - y * np.roll(x, -1))) * driven.b * float(_numbers_of(driven).density) * 1e-9
    for gear, values in ((driver, one), (driven, two)):
        values |= {"density": float(_numbers_of(gear).density), "cost": values["mass"] * float(_numbers_of(gear).price_index)}
    eta = mesh["eta_z"]
    power = {
        "T_in": T, "n_in": from_core(omega, "speed"), "P_in": T * omega, "F_out": 1000 * T / r_1 * eta,
        "v_out": omega * r_1 / 1000, "P_out": T * omega * eta,
    }  # fmt: skip
    return StageResults(stage.name, mesh, (one, two), power, solved.names, numbers.teeth, numbers.forms, _methods(stage))


POSITIVE = {"a", "a_w", "a_0", "d_bore", "p_z", *(s for s in QUANTITIES if s == "d" or s.startswith("d_"))}
"""Lengths that are negative for internal gears in the core; in the results they stand as they are measured."""


def _document_units(values: dict[str, np.ndarray], rated: bool = True) -> dict[str, float]:
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
