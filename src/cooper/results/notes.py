"""What a reader must know about the numbers: assumptions, limits of the methods, consequences for the part."""

from __future__ import annotations

from collections.abc import Callable
from math import ceil

import numpy as np

from cooper.document.gear_data import Gear
from cooper.document.models import Train
from cooper.gears.cutter import ConicCut, FormCut, PinionCutter
from cooper.gears.internal import slips_on_radially
from cooper.gears.tip_path import tip_room
from cooper.gears.tolerances import RANGES
from cooper.gears.tooth import least_z
from cooper.rating.iso6336.nominal_load import LEAST_LINE_LOAD as K_V_FLOOR
from cooper.results.checks import gear_word
from cooper.results.form_notes import form_notes
from cooper.results.method_notes import duty_notes, loss_notes, method_notes
from cooper.results.result_tree import Note, StageResults, about, note
from cooper.stock.materials import groups, hardness_ranges
from cooper.stock.series import diametral_pitches, modules

K_V_REACH = 3.0
"""Speed parameter (m/s) up to which the factor K_3 of method C is stated."""


Say = Callable[[str, str], None]


def stage_notes(k: int, train: Train, s: StageResults) -> list[Note]:
    """Notes on one pair."""
    stage = train.stages[k]
    notes: list[Note] = []

    def say_all(level: str, text: str) -> None:
        notes.append(note(level, k, text))

    mesh = stage.meshes[0]
    members = (stage.members[mesh.driver], stage.members[mesh.driven])
    _mesh_notes(s, about(say_all, "more_mesh"))
    form_notes(mesh, members, s, about(say_all, "more_mesh"))
    method_notes(train, k, s, about(say_all, "more_mesh"))
    for i, (gear, g) in enumerate(zip(members, s.gears, strict=True), 1):
        word = gear_word(s, i)
        say = about(say_all, f"more_{i}")
        if g.undercut and gear.tool == "pinion cutter":
            say(
                f"warning@z_{i} x_{i}",
                f"z_{i} = {gear.z} cut with x_E = {g.x_E:.3f}: the pinion cutter undercuts the {word}; its involute ends at "
                f"{g.d_Ff:.3f} mm. A generating shift x_E of at least {g.x_min:.3f} avoids it.",
            )
        elif g.undercut:
            count = ceil(float(least_z(s.teeth[i - 1].x_E, s.teeth[i - 1].beta, s.teeth[i - 1].rack)))
            say(
                f"warning@z_{i} x_{i}",
                f"z_{i} = {gear.z} cut with x_E = {g.x_E:.3f}: the tool undercuts the {word}; its involute ends at "
                f"{g.d_Ff:.3f} mm, the root is weakened there. A generating shift x_E of at least {g.x_min:.3f}, or {count:.0f} teeth, avoids it.",
            )
        if mesh.m_n is not None and i == 1 and not _standard(mesh.m_n, modules()):
            say("assumed", f"m_n = {mesh.m_n:g} mm is in neither series of ISO 54: the cutter has to be made for it.")
        if mesh.P_nd is not None and i == 1 and not _standard(mesh.P_nd, diametral_pitches()):
            say("assumed", f"P_nd = {mesh.P_nd:g} 1/in is not a customary pitch: the cutter has to be made for it.")
        _material_notes(gear, i, word, say)
        thinning = -(gear.E_sns + gear.E_sni) / 2
        if thinning > 0.05 * s.mesh.m_n:
            say(
                "assumed",
                f"The teeth of the {word} are thinned by {thinning:.3f} mm, more than 0.05 m_n: its root is rated with "
                f"the generating shift x_E = {g.x_E:.3f} (ISO 6336-3, 6).",
            )
        if gear.Q < 3 and s.methods["K_V"] == "C":
            say("assumed", f"Method C of K_V begins at class 3: class {gear.Q} of the {word} counts as class 3 there.")
        if gear.Q > 11:
            say(
                "range",
                f"ISO 1328-1 ends with class 11: the deviations of class {gear.Q} of the {word} continue its rule.",
            )
        _tool_notes(gear, s, i, word, say)
        if not 1 <= g.q_s < 8:
            say("range", f"Notch parameter q_s = {g.q_s:.2f} of the {word} is outside 1 to 8, where Y_S holds.")
    return notes


def _tool_notes(gear: Gear, s: StageResults, i: int, word: str, say: Say) -> None:
    """What the tool means for the root and, with an internal gear, for its tip and for assembly."""
    tooth, form, g, m_n = s.teeth[i - 1], s.forms[i - 1], s.gears[i - 1], s.mesh.m_n
    if isinstance(tooth.tool, PinionCutter):
        say(
            "assumed",
            f"The {word} is cut by a pinion cutter with z_0 = {gear.z_0}, x_0 = {gear.x_0:g}, addendum {gear.h_fP:g} m_n and a "
            f"tip radius of {gear.rho_fP * m_n:.3f} mm in the transverse section: another cutter leaves another root.",
        )
    if isinstance(tooth.tool, ConicCut):
        say(
            "assumed",
            f"The root of the {word} is an arc of an ellipse from {g.get('d_Ff', 0.0):.3f} mm to the middle of the space: a mould, print or wire can make it, a hob cannot. "
            "ISO 6336-3 and AGMA are applied to its own curve.",
        )
    elif isinstance(tooth.tool, FormCut):
        words = (
            "ends on the involute"
            if float(form.d_Ff) ** 2 > float(tooth.d_b) ** 2 * (1 + 1e-12)
            else ("ends on a radial line, as the base circle lies above it")
        )
        say("assumed", f"The root of the {word} is formed with a radius of {gear.rho_fP * m_n:.3f} mm, which {words}.")
    mate = s.teeth[2 - i]
    if isinstance(tooth.tool, FormCut) and all(k.turns for k in s.kinds):
        room = tip_room(tooth, form, mate, abs(float(s.mesh.a_w)), float(s.mesh.j_wt))
        if room < 0:
            say(
                "warning:short",
                f"The tips of the mate would cut {-room:.3f} mm into the root of the {word}: a deeper root (h_fP), a greater weight of its corner or a lower tip gives room.",
            )
    if gear.notch > 0:
        whence = (
            ""
            if gear.t_g
            else f", what the stock of {gear.q_P:g} mm has more than the protuberance of {gear.pr_P:g} mm"
        )
        say(
            "warning",
            f"Grinding leaves a notch of {gear.notch:g} mm in the fillet of the {word}{whence}: with a radius of {gear.rho_g:g} mm it raises the root stress "
            f"{g.Y_g:.2f} times (ISO 6336-3, 7.3). A tool with protuberance would spare it.",
        )
    if gear.pr_P > gear.q_P and not g.undercut:
        # A rack has no circle at which its flank ends.
        where = f"; the involute ends at {g.d_Ff:.3f} mm" if "d_Ff" in g else ""
        say(
            "assumed",
            f"Protuberance {gear.pr_P:g} mm less grinding stock {gear.q_P:g} mm leaves the fillet of the {word} "
            f"{gear.pr_P - gear.q_P:.3f} mm under the ground flank{where}.",
        )
    if not s.kinds[i - 1].inward:
        return
    if isinstance(tooth.tool, PinionCutter):
        cut = tooth.cut
        reach = np.sqrt(float(tooth.d_a) ** 2 - float(tooth.d_b) ** 2) / 2 - abs(float(cut.a_0)) * np.sin(
            float(cut.alpha_w0)
        )
        if reach < 0:
            say(
                "warning:thin",
                f"The ring's flank near its tip is generated by what the pinion cutter with z_0 = {gear.z_0} has below its base "
                "circle, where there is no involute: take a cutter with more teeth or a larger tip circle of the ring.",
            )
    if not slips_on_radially(*s.teeth, s.wheel_x):
        say(
            "warning",
            "Pinion and ring go together along the axis only: moved radially, the tips of their teeth would catch.",
        )


def _mesh_notes(s: StageResults, add: Say) -> None:
    m = s.mesh
    if m.eps_alpha < 1:
        add(
            "warning:short@d_a1 d_a2",
            f"Profile contact ratio {m.eps_alpha:.3f}, below 1: the teeth hand over by their helix alone (total contact ratio "
            f"{m.eps_gamma:.2f}). The geometry stands; ISO 6336 rates such a pair no more, so that no safety is given.",
        )
    elif not s.rated and all("Z_BD" not in g for g in s.gears):
        add(
            "warning:short",
            "The inner or outer point of single contact lies where no flank is: Z_B or Z_D cannot be found and the pair is not rated.",
        )
    if m.beta > 30:
        add(
            "range@beta",
            f"beta = {m.beta:g} deg is above 30 deg, to which ISO 6336 is confirmed by tests and experience.",
        )
    _load_notes(s, add)
    _play_notes(s, add)


def _load_notes(s: StageResults, add: Say) -> None:
    """What the load factors assume and where they end."""
    m = s.mesh
    by_b = s.methods["K_V"] == "B"
    if by_b and 0.85 < m.N_res < 1.15:
        add(
            "warning",
            f"The pinion turns at N = {m.N_res:.2f} of the pair's resonance speed {m.n_E1:.0f} 1/min: K_V is highest here; "
            "another count, module or material moves the resonance.",
        )
    if by_b and m.eps_alpha < 1.2:
        add("range", f"eps_alpha = {m.eps_alpha:.3f} is below 1.2, where the mesh stiffness is not stated.")
    if (by_b or "C" in s.methods.values()) and not -0.5 <= m.x_sum <= 2:
        add("range", f"x_1 + x_2 = {m.x_sum:.3f} is outside -0.5 to 2, for which the stiffness c' is stated.")
    outside = [
        f"{k} = {v:g}"
        for k, v in (("m_n", m.m_n), *((f"d_{i}", g.d) for i, g in enumerate(s.gears, 1) if "d" in g))
        if not RANGES["m_n" if k == "m_n" else "d"][0] <= v <= RANGES["m_n" if k == "m_n" else "d"][1]
    ]
    if outside and (by_b or s.methods["K_Hbeta"] != "entered" or s.methods["K_Halpha"] == "B"):
        add(
            "range",
            f"{', '.join(outside)} mm: ISO 1328-1 states no deviations there; its formulas are continued for the load factors.",
        )
    if s.methods["K_Hbeta"] == "C":
        if s.roles is not None:
            add(
                "assumed",
                "K_Hbeta among planets: the sun is twisted by all of them and does not bend, a pin leans where the planet sits off its middle; "
                "the lean of the carrier is not counted.",
            )
        else:
            add(
                "assumed",
                "K_Hbeta by ISO 6336-1, method C. Where the wheel's shaft counts, its lean is added to the pinion's, as if both leaned apart.",
            )
    elif s.methods["K_Hbeta"] == "f_sh":
        add(
            "assumed",
            f"K_Hbeta by method C from the misalignment of the shafts f_sh = {m.f_sh:g} um, entered in place of their calculation.",
        )
    if s.methods["K_Hbeta"] != "entered" and m.K_Hbeta > 2:
        add(
            "warning",
            f"K_Hbeta = {m.K_Hbeta:.2f}: with a misalignment of {m.F_betay:.1f} um a part of the width bears nothing; a stiffer "
            "shaft, crowning or a finer class spread the load.",
        )
    if s.methods["K_Hbeta"] == "entered" or s.methods["K_Halpha"] == "entered":
        names = " and ".join(k for k in ("K_Hbeta", "K_Halpha") if s.methods[k] == "entered")
        add(
            "assumed",
            f"{names}: entered, not computed." + (" K_Falpha is taken equal to K_Halpha." if "alpha" in names else ""),
        )
    if not by_b:
        add("assumed", "K_V by method C, K_1 and K_2 as in the edition of 2006.")
    else:
        add("assumed", "K_V by method B with c' of the basic racks' mean; formulas written from knowledge.")
    if not by_b and m.vz > K_V_REACH:
        add(
            "range",
            f"v z_1/100 sqrt(u^2/(1+u^2)) = {m.vz:.1f} m/s is above 3 m/s, where method C of K_V ends: it is "
            "carried on with K_3 = 1. The mesh may run near its resonance; method B tells.",
        )


def _play_notes(s: StageResults, add: Say) -> None:
    """Helix, profile and play."""
    m = s.mesh
    if m.beta > 0:
        add(
            "assumed",
            f"f_ZCa = {m.f_ZCa:g} is entered, not computed; Z_B, Z_D, Y_beta and f_eps of helical gears follow the 2019 "
            "edition as known, unchecked against print.",
        )
    if s.methods["K_V"] != "B" and m.w_t < K_V_FLOOR:
        add(
            "assumed",
            f"Line load K_A F_t / b = {m.w_t:.1f} N/mm is below 100 N/mm: K_V is computed with 100 N/mm, as method C asks.",
        )
    if m.eps_alpha > 2:
        add(
            "range",
            f"eps_alpha = {m.eps_alpha:.3f} is above 2: the points of single contact are stated for 1 to 2; the loss factor H_V is "
            "found with three and more pairs sharing the load.",
        )
    if not 15 <= m.alpha_n <= 25:
        add(
            "range@alpha_n",
            f"alpha_n = {m.alpha_n:g} deg is outside 15 to 25 deg, for which ISO 6336 was validated.",
        )
    if m.get("j_op_min", 1.0) <= 0:
        add(
            "warning",
            f"Least backlash in service {m.j_op_min:.3f} mm: at the upper thickness allowances, the nearest centres and both "
            f"run-outs towards each other; temperature and swelling {'take' if m.j_heat < 0 else 'give'} {abs(m.j_heat):.3f} mm of it.",
        )
    if m.j_wt_min < 0:
        add(
            "warning@a_w",
            f"Least backlash {m.j_wt_min:.3f} mm: with the thickest teeth and the nearest centres both flanks touch; "
            "the pair cannot be put together freely.",
        )


def _material_notes(gear: Gear, i: int, word: str, add: Say) -> None:
    material = gear.material
    data = groups()[material.group]
    for part, (low, high) in zip(("flank", "root"), hardness_ranges(material.group, material.grade), strict=True):
        if not low <= material.hardness <= high:
            add(
                "range",
                f"Hardness {material.hardness:g} {data['hardness_scale']} of the {word} is outside {low} to {high} for the {part} of "
                f"{data['name']} {material.grade}; the strength number of the nearer end is used.",
            )
    if "R_p02_per_hardness" in data and material.R_p02 is None:
        add(
            "assumed",
            f"Yield strength of the {word} is estimated from hardness as "
            f"{data['R_p02_per_hardness'] * material.hardness:.0f} MPa (for Y_delta_relT); enter R_p0.2 if known.",
        )
    if "R_m_per_hardness" in data:
        add(
            "assumed",
            f"Tensile strength of the {word} is estimated from hardness as "
            f"{data['R_m_per_hardness'] * material.hardness:.0f} MPa (for Y_delta_relT).",
        )
    if data.get("core", {}).get("grade") == material.grade:
        add(
            "assumed",
            f"Root strength of the {word} for a core of {material.core}"
            + (" (25 HRC)" if "HRC" not in material.core else "")
            + f": {data['core'][material.core]} MPa"
            + (f", shot peened {data['peened'][material.grade] - 1:+.0%}." if material.peened else "."),
        )
    extra = data["grades"][material.grade].get("note")
    if extra:
        add("assumed", f"Gear {i}: {extra}")


def train_notes(train: Train) -> list[Note]:
    """What is simplified for every design of this version, and what the duty and the losses assume."""
    texts = [
        "Tip relief counts for K_V by method B and for scuffing alone.",
        "Strength numbers of ISO 6336-5 are written from knowledge of the standard and await a check against print.",
        "Scuffing by ISO/TS 6336-20 and -21 is written from knowledge of the methods.",
        "Mass is the toothed disc, or rim and web, less its bore: no hub or shaft. Relative cost is mass times a typical price index.",
    ]
    found = [*duty_notes(train), *loss_notes(train), *(("assumed", text) for text in texts)]
    return [note(level, None, text) for level, text in found]


def _standard(value: float, series: tuple[float, ...]) -> bool:
    return any(abs(value - s) <= 1e-9 * s for s in series)
