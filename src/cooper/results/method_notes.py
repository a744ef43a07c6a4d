"""Notes on what the chosen methods assume and where they end: root load, materials, AGMA, scuffing, spectrum,
losses."""

from __future__ import annotations

from cooper.document.duty import Defaults
from cooper.document.gear_data import Gear
from cooper.document.models import GearSet, Stage, Train, at_stage
from cooper.i18n.text import capital, join, term, tr
from cooper.rating.agma2101.factors import greatest_speed
from cooper.rating.iso6336.case_depth import DEEPEST
from cooper.rating.iso6336.rate_root import COARSE
from cooper.rating.scuffing.integral import running_in_factor
from cooper.results.checks import gear_word
from cooper.results.messages import AddNote, Keyed, at_field
from cooper.results.other_methods import factors_W, no_agma
from cooper.results.result_tree import StageResults
from cooper.running.friction import K_REACH, V_REACH, load_intensity
from cooper.running.mesh_loss import GREATEST_SPEED
from cooper.running.mesh_loss import LEAST_LINE_LOAD as MU_FLOOR
from cooper.stock.materials import groups, is_hard, is_plastic, is_printed, is_standard
from cooper.stock.plastic_service import friction
from cooper.values import GearValues

SMOOTH = 6.0
"""Roughness Rz (um) of a hard pinion up to which its work hardening of the wheel is confirmed. ISO 6336-2:2019, 13."""


def method_notes(train: Train, k: int, s: StageResults, add_note: AddNote) -> None:
    """Say what holds for one stage by the methods chosen for the train, or for the stage where it states its own."""
    stage = train.stages[k]
    duty, defaults = at_stage(train, k)
    own = stage.own.stated
    if own:
        add_note("stage_states_own", own=join(", ", own))
    members = stage.gears
    _root_load(stage, train.stages[k].within, members, s, add_note)
    for i, (gear, g) in enumerate(zip(members, s.gears, strict=True), 1):
        _material(defaults, gear, g, gear_word(s, i), at_field(add_note, f"more_{i}"))
        rough = members[2 - i].Rz_H
        if abs(g.Z_W - 1) > 1e-9 and is_hard(members[2 - i].material.group) and rough > SMOOTH:
            add_note("hard_pinion_rough", rough=rough, limit=SMOOTH, Z_W=g.Z_W, word=gear_word(s, i))
    _micropitting(defaults, members, s, add_note)
    _agma(train, k, defaults, members, s, add_note)
    if "mu_pl" in s.mesh:
        _plastic_friction(defaults, stage, members, s, add_note)
    else:
        _friction(train, s, add_note)
    if "S_int" in s.mesh:
        _running_in(duty.theta_oil, defaults, s, add_note)
    elif not s.rated:
        add_note("scuffing_pair_not_rated", eps_alpha=s.mesh.eps_alpha)
    else:
        add_note("scuffing_not_steel")


def _micropitting(defaults: Defaults, members: tuple[Gear, Gear], s: StageResults, add_note: AddNote) -> None:
    m = s.mesh
    if "S_lambda" not in m:
        steel = "S_int" in m and None not in factors_W(members)
        if not s.rated:
            return
        add_note("micropitting_no_stage" if steel else "micropitting_not_steel")
        return
    add_note(
        "micropitting_method",
        S_GF=defaults.lubricant.S_GF,
        theta_GF=defaults.lubricant.theta_GF,
        lambda_GFT=m.lambda_GFT,
    )
    if not 0 < m.eps_alpha < 2.5:
        add_note("micropitting_eps_alpha", eps_alpha=m.eps_alpha)


def _running_in(theta_oil: float, defaults: Defaults, s: StageResults, add_note: AddNote) -> None:
    """How far the flanks are run in, and what new ones would come to."""
    m = s.mesh
    if defaults.phi_E == 0:
        add_note("flanks_new", X_E=m.X_E)
        return
    Ra = sum(g.Rz_H for g in s.gears) / 2 / 6
    new = theta_oil + (m.theta_int - theta_oil) * float(running_in_factor(0.0, Ra, m.rho_red)) / m.X_E
    S_new = m.theta_Sint / new
    short = S_new < defaults.S_intmin <= m.S_int
    if short:
        add_note("flanks_run_in_needed", phi_E=defaults.phi_E, S_int=S_new, S_intmin=defaults.S_intmin)
    else:
        add_note("flanks_run_in", phi_E=defaults.phi_E, S_int=S_new)


def _root_load(
    stage: Stage, one: GearSet | None, members: tuple[Gear, Gear], s: StageResults, add_note: AddNote
) -> None:
    chosen = stage.mesh.load_at
    m = s.mesh
    tips = [gear_word(s, i) for i, g in enumerate(s.gears, 1) if g.at_tip]
    plastic = [g for g in members if is_plastic(g.material.group)]
    if chosen != "by quality":
        add_note("root_load_place_entered", place=term(chosen))
    elif tips and len(plastic) < len(tips):
        add_note("root_load_at_tip", Q=max(g.Q for g in members), f_pbeff=m.f_pbeff, bent=m.w_t / m.c_s, coarse=COARSE)
    elif not tips:
        add_note("root_load_at_single_contact", Q=max(g.Q for g in members))
    if plastic:
        add_note("plastic_root_load")
    if one is not None and one.shares_by_stiffness:
        add_note("K_gamma_by_stiffness", K_gamma=m.K_gamma)
    elif m.K_gamma != 1:
        add_note("K_gamma_entered", K_gamma=m.K_gamma)
    else:
        add_note("K_gamma_one")


def _material(defaults: Defaults, gear: Gear, g: GearValues[float], word: str, add_note: AddNote) -> None:
    material = gear.material
    data = groups()[material.group]
    own = [k for k in ("sigma_Hlim", "sigma_Flim", "E", "density", "price_index") if getattr(material, k) is not None]
    if own:
        values = {"own": join(", ", own), "word": word, "name": term(data["name"])}
        if material.name:
            add_note("own_material_named", **values, material=material.name)
        else:
            add_note("own_material", **values)
    if not is_standard(material.group):
        add_note(
            "plastic_outside_standard" if is_plastic(material.group) else "material_outside_standard",
            name=capital(term(data["name"])),
        )
    if is_printed(material.group):
        add_note("printed_along_layers" if material.grade == "along layers" else "printed_across_layers", word=word)
    elif is_plastic(material.group) and defaults.c_proc > 0:
        add_note("process_clearance_moulded", c_proc=defaults.c_proc, word=word, name=term(data["name"]))
    if is_plastic(material.group):
        _plastic_material(defaults, gear, g, word, add_note)
    if material.group == "Eh":
        if gear.CHD is None:
            add_note("no_case_depth", word=word)
        elif gear.HV_core is None:
            add_note("no_core_hardness", word=word)
        elif "S_FF" in g:
            add_note("flank_fracture_method", word=word)
        if gear.CHD is not None and "d" in g and DEEPEST * g.d / gear.z < gear.CHD:
            add_note("case_deep", CHD=gear.CHD, word=word, most=DEEPEST)
    if gear.bending == "both ways":
        add_note("bent_both_ways", word=word, R_bend=gear.R_bend, Y_M=g.Y_M)


def _plastic_material(defaults: Defaults, gear: Gear, g: GearValues[float], word: str, add_note: AddNote) -> None:
    """How the numbers of a plastic gear were found."""
    data = groups()[gear.material.group]
    low, high = data["theta_range"]
    theta, at = g.theta_Fla, defaults.plastics
    if theta < low:
        add_note("plastic_temperature_outside", word=word, name=term(data["name"]), theta=theta, low=low, high=high)
    if at.heat == "entered":
        add_note("plastic_temperature_entered", word=word, theta=theta)
    else:
        add_note(
            "plastic_temperature_found",
            word=word,
            running=term(at.running),
            housing=term(at.housing),
            ED=at.ED,
            theta_Fla=g.theta_Fla,
            theta_Fuss=g.theta_Fuss,
        )
        if g.theta_Fuss > defaults.theta_gears + 5:
            add_note("plastic_root_warmer", word=word, theta_gears=defaults.theta_gears, theta_Fuss=g.theta_Fuss)
    if gear.k_W is None:
        add_note("no_wear_coefficient", word=word)
    if g.N_L < 1e4:
        add_note("few_cycles", N_L=g.N_L, word=word)


def _agma(
    train: Train, k: int, defaults: Defaults, members: tuple[Gear, Gear], s: StageResults, add_note: AddNote
) -> None:
    if not defaults.method.startswith("ANSI"):
        return
    reason = no_agma(*members)
    if reason:
        add_note("AGMA_not_possible", reason=reason)
        return
    if "S_HA" not in s.gears[0]:
        return
    if s.kind.inward:
        add_note("AGMA_internal_roots")
    add_note("AGMA_method" if train.stages[k].mesh.A_v is not None else "AGMA_method_grade_of_class")
    if any(g.material.group in ("NT", "NV") for g in members):
        add_note("AGMA_nitrided")
    fastest = float(greatest_speed(s.mesh.A_v))
    if s.mesh.v_wt > fastest:
        add_note("AGMA_speed", v_wt=s.mesh.v_wt, fastest=fastest)
    if train.duty.spectrum:
        add_note("AGMA_spectrum")


def _plastic_friction(
    defaults: Defaults, stage: Stage, members: tuple[Gear, Gear], s: StageResults, add_note: AddNote
) -> None:
    running = defaults.plastics.running
    if stage.mesh.mu_pl is not None:
        how = tr("entered")
    else:
        certainty = friction(running, *(g.material.group for g in members))[1]
        how = (
            tr("remembered from VDI 2736-2") if certainty == "remembered" else tr("a typical value, not of VDI 2736-2")
        )
    add_note("plastic_friction", running=term(running), mu_pl=s.mesh.mu_pl, how=how)


def _friction(train: Train, s: StageResults, add_note: AddNote) -> None:
    m, law = s.mesh, train.losses.friction
    line = m.F_bt / m.b_H
    if law == "ISO/TR 14179-2":
        if line < MU_FLOOR:
            add_note("line_load_low_mu", line=line)
        if m.v > GREATEST_SPEED:
            add_note("mu_speed", v=m.v)
    elif law == "ISO/TR 14179-1" and s.kind.turns:
        u = s.ratio
        K = float(load_intensity(s.power.T_mesh, m.b_H, s.gears[0].d_w / 2, u))
        for key, value, (low, high) in (("mu_load_outside", K, K_REACH), ("mu_speed_outside", m.v, V_REACH)):
            if not low <= value <= high:
                add_note(key, value=value, low=low, high=high)
    elif law == "along the path":
        add_note("mu_along_path")


def loss_notes(train: Train) -> list[Keyed]:
    """What the train's losses leave out or assume."""
    at = train.losses
    notes: list[Keyed] = [("Ra_from_Rz", {})]
    if at.theta_max is not None and (at.A_h is None or at.counted != "all"):
        notes.append(("theta_max_not_checked", {}))
    if at.counted == "mesh":
        notes.append(("efficiency_of_meshes", {}))
        return notes
    notes.append(("bearing_losses_assumed", {"bearing": term(at.bearing), "tau_sh": at.tau_sh}))
    if train.placed:
        notes.append(("planet_losses", {}))
    if at.h_e == 0:
        notes.append(("no_dip", {}))
    elif at.method == "ISO/TR 14179-1":
        notes.append(("dip_factor", {}))
    if at.oil_by_balance:
        notes.append(("oil_by_balance", {"theta_oil": train.duty.theta_oil}))
    return notes


def duty_notes(train: Train) -> list[Keyed]:
    """What the duty's load means for the rating."""
    duty = train.duty
    notes: list[Keyed] = []
    if duty.spectrum:
        notes.append(("spectrum_method", {}))
        notes.append(("spectrum_worst_level", {}))
    elif duty.K_AP is None:
        notes.append(("static_with_K_A", {"K_A": duty.K_A}))
    return notes
