"""Notes on what the chosen methods assume and where they end: root load, materials, AGMA, scuffing, spectrum, losses."""

from __future__ import annotations

from collections.abc import Callable

from cooper.document.duty import Defaults
from cooper.document.gear_data import Gear
from cooper.document.models import GearSet, Stage, Train, at_stage, set_of
from cooper.rating.agma2101.factors import greatest_speed
from cooper.rating.iso6336.case_depth import DEEPEST
from cooper.rating.iso6336.rate_root import COARSE
from cooper.rating.scuffing.integral import running_in_factor
from cooper.results.checks import gear_word
from cooper.results.other_methods import factors_W, no_agma
from cooper.results.result_tree import StageResults, about
from cooper.running.friction import K_REACH, V_REACH, load_intensity
from cooper.running.mesh_loss import GREATEST_SPEED
from cooper.running.mesh_loss import LEAST_LINE_LOAD as MU_FLOOR
from cooper.stock.materials import groups, is_hard, is_plastic, is_printed, is_standard
from cooper.stock.plastic_service import friction
from cooper.values import GearValues

SMOOTH = 6.0
"""Roughness Rz (um) of a hard pinion up to which its work hardening of the wheel is confirmed. ISO 6336-2:2019, 13."""

Say = Callable[[str, str], None]


def method_notes(train: Train, k: int, s: StageResults, say: Say) -> None:
    """Say what holds for one stage by the methods chosen for the train, or for the stage where it states its own."""
    stage = train.stages[k]
    duty, defaults = at_stage(train, k)
    own = stage.own.stated
    if own:
        say("assumed", f"Of its own this stage states {', '.join(own)}; all else is the train's.")
    mesh = stage.meshes[0]
    members = (stage.members[mesh.driver], stage.members[mesh.driven])
    _root_load(stage, set_of(train, k), members, s, say)
    for i, (gear, g) in enumerate(zip(members, s.gears, strict=True), 1):
        _material(defaults, gear, g, gear_word(s, i), about(say, f"more_{i}"))
        rough = members[2 - i].Rz_H
        if abs(g.Z_W - 1) > 1e-9 and is_hard(members[2 - i].material.group) and rough > SMOOTH:
            say(
                "range",
                f"Rz_H = {rough:g} um of the hard pinion is rougher than the {SMOOTH:g} um for which Z_W = {g.Z_W:.2f} of the "
                f"{gear_word(s, i)} is confirmed: rough hard flanks wear the softer wheel.",
            )
    _micropitting(defaults, members, s, say)
    _agma(train, k, defaults, members, s, say)
    if "mu_pl" in s.mesh:
        _plastic_friction(defaults, stage, members, s, say)
    else:
        _friction(train, s, say)
    if "S_int" in s.mesh:
        _running_in(duty.theta_oil, defaults, s, say)
    elif not s.rated:
        say(
            "assumed",
            f"Scuffing is not rated, as the pair is not: eps_alpha = {s.mesh.eps_alpha:.2f} hands no load over within the transverse section.",
        )
    else:
        say("assumed", "Scuffing is not rated: ISO/TS 6336-20 and -21 are made for steel on steel.")


def _micropitting(defaults: Defaults, members: tuple[Gear, Gear], s: StageResults, say: Say) -> None:
    m = s.mesh
    if "S_lambda" not in m:
        steel = "S_int" in m and None not in factors_W(members)
        if not s.rated:
            return
        say(
            "assumed",
            "Micropitting is not rated: "
            + (
                "the oil's failure load stage in the micropitting test (S_GF) is not given."
                if steel
                else "ISO/TS 6336-22 has material factors for steel alone."
            ),
        )
        return
    say(
        "assumed",
        f"Micropitting by ISO/TS 6336-22, method B, from knowledge of it: no tip relief counted; the test gear in stage {defaults.lubricant.S_GF} at "
        f"{defaults.lubricant.theta_GF:g} °C has lambda_GFT = {m.lambda_GFT:.3f}, its factor 1.05 for K_V not sure; W_W the lower of both flanks.",
    )
    if not 0 < m.eps_alpha < 2.5:
        say("range", f"eps_alpha = {m.eps_alpha:.2f}: ISO/TS 6336-22 is made for contact ratios up to 2.5.")


def _running_in(theta_oil: float, defaults: Defaults, s: StageResults, say: Say) -> None:
    """How far the flanks are run in, and what new ones would come to."""
    m = s.mesh
    if defaults.phi_E == 0:
        say(
            "assumed",
            f"Flanks are taken as new (phi_E = 0): running-in factor X_E = {m.X_E:.2f} of the integral temperature.",
        )
        return
    Ra = sum(g.Rz_H for g in s.gears) / 2 / 6
    new = theta_oil + (m.theta_int - theta_oil) * float(running_in_factor(0.0, Ra, m.rho_red)) / m.X_E
    S_new = m.theta_Sint / new
    short = S_new < defaults.S_intmin <= m.S_int
    say(
        "warning" if short else "assumed",
        f"Flanks are taken as run in (phi_E = {defaults.phi_E:g}) before they bear full load: new ones would have S_int = {S_new:.2f}"
        + (
            f", below {defaults.S_intmin:g}: run the gears in under part load, or give them smoother flanks."
            if short
            else "."
        ),
    )


def _root_load(stage: Stage, one: GearSet | None, members: tuple[Gear, Gear], s: StageResults, say: Say) -> None:
    chosen = stage.meshes[0].load_at
    m = s.mesh
    tips = [gear_word(s, i) for i, g in enumerate(s.gears, 1) if g.at_tip]
    plastic = [g for g in members if is_plastic(g.material.group)]
    if chosen != "by quality":
        say("assumed", f"The root is rated with the load at the {chosen}, as entered.")
    elif tips and len(plastic) < len(tips):
        say(
            "warning",
            f"The root is rated with the load at the tip: in class {max(g.Q for g in members)} the pitch deviation of "
            f"{m.f_pbeff:.1f} um after running-in exceeds the {m.w_t / m.c_s:.1f} um that the load bends a pair of teeth, so "
            f"that no second pair helps. A finer class (below {COARSE}) or more load per width brings the second pair in.",
        )
    elif not tips:
        say(
            "assumed",
            f"The root is rated with the load at the outer point of single contact (ISO 6336-3, method B): class "
            f"{max(g.Q for g in members)} lets two pairs share the load.",
        )
    if plastic:
        say(
            "assumed",
            "Plastic teeth are rated with the load at the tip and Y_eps = 0.25 + 0.75/eps_alpha (VDI 2736-2).",
        )
    if one is not None and one.shares_by_stiffness:
        say(
            "assumed",
            f"K_gamma = {m.K_gamma:.3f}: from the stiffness of the planets and how far one may stand ahead, under the nominal load; no standard "
            "has it, springs that share a load do.",
        )
    elif m.K_gamma != 1:
        say("assumed", f"K_gamma = {m.K_gamma:g}: entered, not computed.")
    else:
        say("assumed", "K_gamma = 1, entered: a single mesh bears the whole load.")


def _material(defaults: Defaults, gear: Gear, g: GearValues[float], word: str, say: Say) -> None:
    material = gear.material
    data = groups()[material.group]
    own = [k for k in ("sigma_Hlim", "sigma_Flim", "E", "density", "price_index") if getattr(material, k) is not None]
    if own:
        named = f" of the own material {material.name!r}" if material.name else ""
        say(
            "assumed",
            f"{', '.join(own)}{named} of the {word}: entered; all else, life curve included, is that of {data['name']}.",
        )
    if not is_standard(material.group):
        say(
            "warning",
            f"{data['name'][:1].upper()}{data['name'][1:]} is outside ISO 6336-5: "
            + (
                "strength by temperature and cycles after VDI 2736-2"
                if is_plastic(material.group)
                else "its strength numbers are typical ones"
            )
            + ", not sure to a third; lubricant, surface, notch and size factors are 1. A test or the supplier's numbers take precedence.",
        )
    if is_printed(material.group):
        how = "along the layers" if material.grade == "along layers" else "across the layers"
        say(
            "warning",
            f"The {word} is printed: its numbers are estimates for roots in tension {how}, not sure to a half; across them the bond bears 30 to 60 % of that. "
            "Break a printed gear before you trust them.",
        )
    elif is_plastic(material.group) and defaults.c_proc > 0:
        say(
            "warning",
            f"A process clearance c_proc = {defaults.c_proc:g} mm is required, as of printed teeth, but the {word} has the numbers of moulded {data['name']}: "
            "printed ones bear a third to two thirds of it. Take a printed material and its direction of layers.",
        )
    if is_plastic(material.group):
        _plastic_material(defaults, gear, g, word, say)
    if material.group == "Eh":
        if gear.CHD is None:
            say(
                "assumed",
                f"Fracture of the {word} from below the case and flank fracture are not rated, as no case depth CHD is given.",
            )
        elif gear.HV_core is None:
            say(
                "assumed",
                f"Flank fracture of the {word} is not rated, as no hardness of the core HV_core is given.",
            )
        elif "S_FF" in g:
            say(
                "assumed",
                f"Flank fracture of the {word} after ISO/TS 6336-4, from knowledge of it: the field on the line under the middle of the contact with Lang's hardness and residual "
                "stresses in place of its closed approximations. Beside that line the exposure can be 10 to 60 % higher, which is not counted; the constants 0.4, 0.04 and "
                "0.8 are not sure; material factor 1.",
            )
        if gear.CHD is not None and "d" in g and DEEPEST * g.d / gear.z < gear.CHD:
            say(
                "range",
                f"A case of {gear.CHD:g} mm on the {word} is deeper than {DEEPEST:g} modules, where the tips harden through and break.",
            )
    if gear.bending == "both ways":
        say(
            "assumed",
            f"The teeth of the {word} are bent both ways with R = {gear.R_bend:g}: Y_M = {g.Y_M:.2f} (ISO 6336-3, Annex B).",
        )


def _plastic_material(defaults: Defaults, gear: Gear, g: GearValues[float], word: str, say: Say) -> None:
    """How the numbers of a plastic gear were found."""
    data = groups()[gear.material.group]
    low, high = data["theta_range"]
    theta, at = g.theta_Fla, defaults.plastics
    if theta < low:
        say("range", f"The {word} of {data['name']} at {theta:g} °C: its numbers hold from {low} to {high} °C.")
    if at.heat == "entered":
        say(
            "assumed",
            f"Strength and stiffness of the {word} at the gears' temperature in service, {theta:g} °C; its own warming by friction "
            "is not computed: enter the temperature of the running teeth, or let it be found from their friction.",
        )
    else:
        say(
            "assumed",
            f"Teeth of the {word} by VDI 2736-2, {at.running}, housing {at.housing}, {at.ED:g} % of the time under load: flanks "
            f"{g.theta_Fla:.0f} °C, roots {g.theta_Fuss:.0f} °C; heat transfer numbers from knowledge of the guideline.",
        )
        if g.theta_Fuss > defaults.theta_gears + 5:
            say(
                "warning",
                f"Backlash and growth of the {word} are computed at theta_gears = {defaults.theta_gears:g} °C, but its roots "
                f"run at {g.theta_Fuss:.0f} °C: enter that as the gears' temperature in service.",
            )
    if gear.k_W is None:
        say(
            "assumed",
            f"Wear of the {word} is not computed, as no wear coefficient k_W is given: dry plastics on smooth steel have some "
            "0.5 to 5 mm3/MJ (typical, by tests alone).",
        )
    if g.N_L < 1e4:
        say("range", f"{g.N_L:.0f} load cycles of the {word} are below 1e4, where its strength is first stated.")


def _agma(train: Train, k: int, defaults: Defaults, members: tuple[Gear, Gear], s: StageResults, say: Say) -> None:
    if not defaults.method.startswith("ANSI"):
        return
    reason = no_agma(*members)
    if reason:
        say("warning", f"This stage is rated by ISO 6336: {reason}.")
        return
    if "S_HA" not in s.gears[0]:
        return
    if s.kind.inward:
        say(
            "assumed",
            "Flanks of the internal pair by ANSI/AGMA 2101-D04; its roots by ISO 6336, as AGMA 908 gives no Y_J for internal teeth.",
        )
    say(
        "assumed",
        "Formulas and tables of ANSI/AGMA 2101-D04 are written from knowledge; Y_theta = 1, surface condition 1."
        + (
            " The flank class of ISO 1328 stands for the accuracy grade A_v, which grows apart from it for modules above some 5 mm: enter it."
            if train.stages[k].meshes[0].A_v is None
            else ""
        ),
    )
    if any(g.material.group in ("NT", "NV") for g in members):
        say("assumed", "AGMA's bending number of nitrided gears goes by the core hardness, taken as 300 HB.")
    fastest = float(greatest_speed(s.mesh.A_v))
    if s.mesh.v_wt > fastest:
        say(
            "range",
            f"Pitch line speed {s.mesh.v_wt:.1f} m/s is above {fastest:.1f} m/s, where the curve of K_v ends.",
        )
    if train.duty.spectrum:
        say(
            "assumed",
            "The load spectrum is rated by ISO 6336-6 alone; the AGMA checks take the steady load with K_A.",
        )


def _plastic_friction(defaults: Defaults, stage: Stage, members: tuple[Gear, Gear], s: StageResults, say: Say) -> None:
    running = defaults.plastics.running
    if stage.meshes[0].mu_pl is not None:
        told = "entered"
    else:
        certainty = friction(running, *(g.material.group for g in members))[1]
        told = "remembered from VDI 2736-2" if certainty == "remembered" else "a typical value, not of VDI 2736-2"
    say(
        "assumed",
        f"Friction coefficient of the plastic teeth, {running}: {s.mesh.mu_pl:g}, {told}; loss and warmth go with it.",
    )


def _friction(train: Train, s: StageResults, say: Say) -> None:
    m, law = s.mesh, train.losses.friction
    line = m.F_bt / m.b_H
    if law == "ISO/TR 14179-2":
        if line < MU_FLOOR:
            say(
                "assumed",
                f"Line load F_bt / b = {line:.1f} N/mm is below 150 N/mm: mu_mz is computed with 150 N/mm, the least the formula "
                "admits; the loss is rather over- than understated.",
            )
        if m.v > GREATEST_SPEED:
            say("range", f"v = {m.v:.1f} m/s is above 50 m/s: mu_mz is computed with 50 m/s.")
    elif law == "ISO/TR 14179-1" and s.kind.turns:
        u = s.ratio
        K = float(load_intensity(s.power.T_mesh, m.b_H, s.gears[0].d_w / 2, u))
        for name, value, (low, high), unit in (("K", K, K_REACH, "MPa"), ("v", m.v, V_REACH, "m/s")):
            if not low <= value <= high:
                say(
                    "range",
                    f"{name} = {value:.3g} {unit} is outside {low:g} to {high:g} {unit}: the friction coefficient of ISO/TR 14179-1 is "
                    "computed with the nearer end.",
                )
    elif law == "along the path":
        say("assumed", "Friction along the path by the local coefficient of disc tests, kept within 0.005 to 0.15.")


def loss_notes(train: Train) -> list[tuple[str, str]]:
    """What the train's losses leave out or assume."""
    at = train.losses
    notes = [("assumed", "Ra of mesh friction is taken as Rz/6.")]
    if at.theta_max is not None and (at.A_h is None or at.counted != "all"):
        told = "The oil's temperature is not checked against theta_max: that needs the housing's area A_h, and all losses counted."
        notes.append(("warning@theta_max", told))
    if at.counted == "mesh":
        notes.append(("assumed", "Efficiency counts mesh friction under load only: no bearings, seals or churning."))
        return notes
    notes.append(
        (
            "assumed",
            f"Two bearings ({at.bearing}) a shaft with the sum of its gears' forces, directions unknown; bores not given are estimated "
            f"from the torque with {at.tau_sh:g} MPa; simple friction data by type.",
        )
    )
    if train.sets:
        notes.append(
            (
                "assumed",
                "Planets and idlers turn on two bearings each, bore as their shaft or bore, else 0.3 of their reference diameter; "
                "centrifugal force and the churning of planets and rings are not counted.",
            )
        )
    if at.h_e == 0:
        notes.append(("assumed", "No gear dips (h_e = 0): churning and windage are not counted."))
    elif at.method == "ISO/TR 14179-1":
        notes.append(("assumed", "The dip factor f_g is the immersion over the tip diameter."))
    if at.oil_by_balance:
        notes.append(
            (
                "assumed",
                f"The oil temperature is that of the heat balance, {train.duty.theta_oil:.1f} °C, not the duty's.",
            )
        )
    return notes


def duty_notes(train: Train) -> list[tuple[str, str]]:
    """What the duty's load means for the rating."""
    duty = train.duty
    notes = []
    if duty.spectrum:
        notes.append(
            (
                "assumed",
                "Load spectrum by ISO 6336-6: K_A is 1 within it, load factors are those of each level; the damage "
                "sum is Miner's.",
            )
        )
        notes.append(
            (
                "assumed",
                "Scuffing, micropitting and the deflection of plastic tips are those of the level that is worst for each, flank fracture that of the greatest torque; static "
                "strength is rated at the level with the greatest stress, or with K_AP where that is entered and greater.",
            )
        )
    elif duty.K_AP is None:
        notes.append(
            ("assumed", f"Static strength is rated with K_A = {duty.K_A:g}, as no greatest load K_AP is given.")
        )
    return notes
