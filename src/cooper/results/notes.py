"""What a reader must know about the numbers: assumptions, limits of the methods, consequences for the part."""

from __future__ import annotations

from math import ceil

import numpy as np

from cooper.document.gear_data import Gear
from cooper.document.models import Train
from cooper.gears.cutter import ConicCut, FormCut, PinionCutter
from cooper.gears.internal import slips_on_radially
from cooper.gears.tip_path import tip_room
from cooper.gears.tolerances import RANGES
from cooper.gears.tooth import least_z
from cooper.i18n.text import join, term, tr
from cooper.rating.iso6336.nominal_load import LEAST_LINE_LOAD as K_V_FLOOR
from cooper.results.checks import gear_word
from cooper.results.form_notes import form_notes
from cooper.results.messages import AddNote, at_field, note
from cooper.results.method_notes import duty_notes, loss_notes, method_notes
from cooper.results.result_tree import Note, StageResults
from cooper.stock.materials import groups, hardness_ranges
from cooper.stock.series import diametral_pitches, modules

K_V_REACH = 3.0
"""Speed parameter (m/s) up to which the factor K_3 of method C is stated."""


def stage_notes(k: int, train: Train, s: StageResults) -> list[Note]:
    """Notes on one pair."""
    stage = train.stages[k]
    notes: list[Note] = []

    def add_to_stage(key: str, field: str = "", **values: object) -> None:
        notes.append(note(key, k, field, **values))

    mesh = stage.mesh
    members = stage.gears
    _mesh_notes(s, at_field(add_to_stage, "more_mesh"))
    form_notes(mesh, members, s, at_field(add_to_stage, "more_mesh"))
    method_notes(train, k, s, at_field(add_to_stage, "more_mesh"))
    for i, (gear, g) in enumerate(zip(members, s.gears, strict=True), 1):
        word = gear_word(s, i)
        add_note = at_field(add_to_stage, f"more_{i}")
        if g.undercut and gear.tool == "pinion cutter":
            add_note("undercut_by_pinion_cutter", i=i, z=gear.z, x_E=g.x_E, word=word, d_Ff=g.d_Ff, x_min=g.x_min)
        elif g.undercut:
            count = ceil(float(least_z(s.teeth[i - 1].x_E, s.teeth[i - 1].beta, s.teeth[i - 1].rack)))
            add_note("undercut", i=i, z=gear.z, x_E=g.x_E, word=word, d_Ff=g.d_Ff, x_min=g.x_min, count=count)
        if mesh.m_n is not None and i == 1 and not _standard(mesh.m_n, modules()):
            add_note("module_not_in_series", m_n=mesh.m_n)
        if mesh.P_nd is not None and i == 1 and not _standard(mesh.P_nd, diametral_pitches()):
            add_note("pitch_not_customary", P_nd=mesh.P_nd)
        _material_notes(gear, i, word, add_note)
        thinning = -(gear.E_sns + gear.E_sni) / 2
        if thinning > 0.05 * s.mesh.m_n:
            add_note("teeth_thinned", word=word, thinning=thinning, x_E=g.x_E)
        if gear.Q < 3 and s.methods["K_V"] == "C":
            add_note("K_V_class_below_3", Q=gear.Q, word=word)
        if gear.Q > 11:
            add_note("class_above_11", Q=gear.Q, word=word)
        _tool_notes(gear, s, i, word, add_note)
        if not 1 <= g.q_s < 8:
            add_note("q_s_outside", q_s=g.q_s, word=word)
    return notes


def _tool_notes(gear: Gear, s: StageResults, i: int, word: str, add_note: AddNote) -> None:
    """What the tool means for the root and, with an internal gear, for its tip and for assembly."""
    tooth, form, g, m_n = s.teeth[i - 1], s.forms[i - 1], s.gears[i - 1], s.mesh.m_n
    if isinstance(tooth.tool, PinionCutter):
        add_note("pinion_cutter", word=word, z_0=gear.z_0, x_0=gear.x_0, h_fP=gear.h_fP, rho=gear.rho_fP * m_n)
    if isinstance(tooth.tool, ConicCut):
        add_note("root_ellipse", word=word, d_Ff=g.get("d_Ff", 0.0))
    elif isinstance(tooth.tool, FormCut):
        on_involute = float(form.d_Ff) ** 2 > float(tooth.d_b) ** 2 * (1 + 1e-12)
        add_note("root_formed_on_involute" if on_involute else "root_formed_radial", word=word, rho=gear.rho_fP * m_n)
    mate = s.teeth[2 - i]
    if isinstance(tooth.tool, FormCut) and all(k.turns for k in s.kinds):
        room = tip_room(tooth, form, mate, abs(float(s.mesh.a_w)), float(s.mesh.j_wt))
        if room < 0:
            add_note("mate_tip_cuts_root", room=-room, word=word)
    if gear.notch > 0:
        values = {"notch": gear.notch, "word": word, "rho_g": gear.rho_g, "Y_g": g.Y_g}
        if gear.t_g:
            add_note("grinding_notch", **values)
        else:
            add_note("grinding_notch_of_stock", **values, q_P=gear.q_P, pr_P=gear.pr_P)
    if gear.pr_P > gear.q_P and not g.undercut:
        values = {"word": word, "pr_P": gear.pr_P, "q_P": gear.q_P, "under": gear.pr_P - gear.q_P}
        # A rack has no circle at which its flank ends.
        if "d_Ff" in g:
            add_note("protuberance", **values, d_Ff=g.d_Ff)
        else:
            add_note("protuberance_of_rack", **values)
    if not s.kinds[i - 1].inward:
        return
    if isinstance(tooth.tool, PinionCutter):
        cut = tooth.cut
        reach = np.sqrt(float(tooth.d_a) ** 2 - float(tooth.d_b) ** 2) / 2 - abs(float(cut.a_0)) * np.sin(
            float(cut.alpha_w0)
        )
        if reach < 0:
            add_note("ring_flank_generated_below_base", z_0=gear.z_0)
    if not slips_on_radially(*s.teeth, s.wheel_x):
        add_note("ring_assembled_axially")


def _mesh_notes(s: StageResults, add: AddNote) -> None:
    m = s.mesh
    if m.eps_alpha < 1:
        add("eps_alpha_below_1", eps_alpha=m.eps_alpha, eps_gamma=m.eps_gamma)
    if m.beta > 30:
        add("beta_above_30", beta=m.beta)
    _load_notes(s, add)
    _play_notes(s, add)


def _load_notes(s: StageResults, add: AddNote) -> None:
    """What the load factors assume and where they end."""
    m = s.mesh
    by_b = s.methods["K_V"] == "B"
    if by_b and 0.85 < m.N_res < 1.15:
        add("near_resonance", N_res=m.N_res, n_E1=m.n_E1)
    if by_b and m.eps_alpha < 1.2:
        add("c_gamma_eps_alpha_below_1_2", eps_alpha=m.eps_alpha)
    if (by_b or "C" in s.methods.values()) and not -0.5 <= m.x_sum <= 2:
        add("x_sum_outside", x_sum=m.x_sum)
    outside = [
        tr("{0} = {1:g}", k, v)
        for k, v in (("m_n", m.m_n), *((f"d_{i}", g.d) for i, g in enumerate(s.gears, 1) if "d" in g))
        if not RANGES["m_n" if k == "m_n" else "d"][0] <= v <= RANGES["m_n" if k == "m_n" else "d"][1]
    ]
    if outside and (by_b or s.methods["K_Hbeta"] != "entered" or s.methods["K_Halpha"] == "B"):
        add("deviations_outside_table", outside=join(", ", outside))
    if s.methods["K_Hbeta"] == "C":
        if s.roles is not None:
            add("K_Hbeta_planets")
        else:
            add("K_Hbeta_method_C")
    elif s.methods["K_Hbeta"] == "f_sh":
        add("K_Hbeta_from_f_sh", f_sh=m.f_sh)
    if s.methods["K_Hbeta"] != "entered" and m.K_Hbeta > 2:
        add("K_Hbeta_high", K_Hbeta=m.K_Hbeta, F_betay=m.F_betay)
    if s.methods["K_Hbeta"] == "entered" or s.methods["K_Halpha"] == "entered":
        entered = tuple(k for k in ("K_Hbeta", "K_Halpha") if s.methods[k] == "entered")
        add({2: "load_factors_entered", 1: f"{entered[0]}_entered"}[len(entered)])
    if not by_b:
        add("K_V_method_C")
    else:
        add("K_V_method_B")
    if not by_b and m.vz > K_V_REACH:
        add("K_V_C_speed", vz=m.vz)


def _play_notes(s: StageResults, add: AddNote) -> None:
    """Helix, profile and play."""
    m = s.mesh
    if m.beta > 0:
        add("helix_factors", f_ZCa=m.f_ZCa)
    if s.methods["K_V"] != "B" and m.w_t < K_V_FLOOR:
        add("line_load_low_K_V", w_t=m.w_t)
    if m.eps_alpha > 2:
        add("eps_alpha_above_2", eps_alpha=m.eps_alpha)
    if not 15 <= m.alpha_n <= 25:
        add("alpha_n_outside", alpha_n=m.alpha_n)
    if m.get("j_op_min", 1.0) <= 0:
        add(
            "backlash_in_service_gone" if m.j_heat < 0 else "backlash_in_service_gone_despite_heat",
            j_op_min=m.j_op_min,
            j_heat=abs(m.j_heat),
        )
    if m.j_wt_min < 0:
        add("backlash_gone", j_wt_min=m.j_wt_min)


def _material_notes(gear: Gear, i: int, word: str, add: AddNote) -> None:
    material = gear.material
    data = groups()[material.group]
    for part, (low, high) in zip(("flank", "root"), hardness_ranges(material.group, material.grade), strict=True):
        if not low <= material.hardness <= high:
            add(
                "hardness_outside",
                hardness=material.hardness,
                hardness_scale=data["hardness_scale"],
                word=word,
                low=low,
                high=high,
                part=term(part),
                name=term(data["name"]),
                grade=material.grade,
            )
    if "R_p02_per_hardness" in data and material.R_p02 is None:
        add("R_p02_estimated", word=word, R_p02=data["R_p02_per_hardness"] * material.hardness)
    if "R_m_per_hardness" in data:
        add("R_m_estimated", word=word, R_m=data["R_m_per_hardness"] * material.hardness)
    if data.get("core", {}).get("grade") == material.grade:
        core = term(material.core) if "HRC" in material.core else tr("{0} (25 HRC)", term(material.core))
        values = {"word": word, "core": core, "sigma": data["core"][material.core]}
        if material.peened:
            add("root_strength_of_core_peened", **values, more=100 * (data["peened"][material.grade] - 1))
        else:
            add("root_strength_of_core", **values)
    extra = data["grades"][material.grade].get("note")
    if extra:
        add("material_note", i=i, extra=term(extra))


def train_notes(train: Train) -> list[Note]:
    """What is simplified for every design of this version, and what the duty and the losses assume."""
    result = [
        *duty_notes(train),
        *loss_notes(train),
        *((key, {}) for key in ("relief_counts", "strength_numbers", "scuffing_method", "mass_of_disc")),
    ]
    return [note(key, None, **values) for key, values in result]


def _standard(value: float, series: tuple[float, ...]) -> bool:
    return any(abs(value - s) <= 1e-9 * s for s in series)
