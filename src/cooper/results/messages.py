"""Every note that the results can raise: identity, level, what it counts for in the verdict, the fields it is about,
and its text.

The code raises a note by its identity and values (`note`); screen, reports, JSON, handbook, catalogues and tests read
this table. A gap carries a quantity with its unit: ``{d_Ff:.3f mm}``.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import TYPE_CHECKING, Any, Literal

from msgspec import Struct
from msgspec.structs import replace

from cooper.i18n.text import tr, values_of

if TYPE_CHECKING:
    from cooper.results.result_tree import SetResults

AddNote = Callable[..., None]
"""Raises a note about one stage by its identity and values."""
Keyed = tuple[str, dict[str, Any]]
"""Identity and values of a note that is raised elsewhere."""
Level = Literal["assumed", "range", "warning"]
Counts = Literal["", "thin", "short"]


class MessageType(Struct, frozen=True):
    """One row of the table. ``counts`` is the verdict that the note alone brings about; ``fields`` are keys of
    fields, which may have gaps."""

    key: str
    level: Level
    template: str
    counts: Counts = ""
    fields: tuple[str, ...] = ()


class Note(Struct, frozen=True):
    """Something to know about a number: an assumption, a limit of the method, a consequence for the part.

    ``key`` is its identity in `MESSAGES`; ``counts`` is the verdict that it alone brings about: thin where the method
    holds no more or the part is unbalanced, short where it cannot be assembled, does not turn or is not rated; empty
    where it asks for a look only.
    """

    key: str
    level: Level
    stage: int | None
    text: str
    counts: Counts = ""
    fields: tuple[str, ...] = ()
    """Keys of the fields that it concerns, as they stand on the drawing: ``z_1``, ``n_planets``."""

    @property
    def prominent(self) -> bool:
        """Whether it is shown without being asked for."""
        return self.level != "assumed"

    @property
    def values(self) -> dict[str, Any]:
        """The values in its text, by name."""
        return values_of(self.text)


def note(key: str, stage: int | None, place: str = "", /, **values: Any) -> Note:
    """A note of the table; prominent ones that name no field are about ``place``. Raises KeyError for an unknown
    identity or a missing value.

    >>> note("backlash_gone", 0, j_wt_min=-0.01).fields, note("beta_above_30", 0, beta=40.0).counts
    (('a_w',), 'thin')
    """
    kind = MESSAGES[key]
    named = tuple(name.format_map(values) for name in kind.fields)
    return Note(
        key,
        kind.level,
        stage,
        tr(kind.template, **values),
        kind.counts,
        named or ((place,) if place and kind.level != "assumed" else ()),
    )


def once(notes: Iterable[Note], sets: tuple[SetResults, ...]) -> tuple[Note, ...]:
    """Each note once: what holds for several stages in the same words stands with their set, or with the train."""
    kept: dict[tuple[str, str], Note] = {}
    for n in notes:
        key = (n.level, n.text)
        old = kept.get(key)
        if old is None:
            kept[key] = n
        elif old.stage != n.stage and old.stage is not None:
            same = any(old.stage in s.stages and n.stage in s.stages for s in sets)
            kept[key] = old if same else replace(old, stage=None)
    return tuple(kept.values())


def at_field(add_note: AddNote, place: str) -> AddNote:
    """Raise notes as before; prominent ones that name no field are about ``place``."""
    return lambda key, own="", /, **values: add_note(key, own or place, **values)


MESSAGES: dict[str, MessageType] = {}
"""The notes by identity."""


def _message(key: str, level: Level, template: str, counts: Counts = "", fields: str = "") -> None:
    """Add a row; what lies outside the range of its method counts as thin."""
    MESSAGES[key] = MessageType(
        key, level, template, counts or ("thin" if level == "range" else ""), tuple(fields.split())
    )


_message(
    "undercut_by_pinion_cutter",
    "warning",
    "z_{i} = {z} cut with x_E = {x_E:.3f}: the pinion cutter undercuts the {word}; its involute ends at "
    "{d_Ff:.3f mm}. A generating shift x_E of at least {x_min:.3f} avoids it.",
    fields="z_{i} x_{i}",
)
_message(
    "undercut",
    "warning",
    "z_{i} = {z} cut with x_E = {x_E:.3f}: the tool undercuts the {word}; its involute ends at {d_Ff:.3f mm}, "
    "the root is weakened there. A generating shift x_E of at least {x_min:.3f}, or {count:.0f} teeth, avoids it.",
    fields="z_{i} x_{i}",
)
_message(
    "module_not_in_series",
    "assumed",
    "m_n = {m_n:g mm} is in neither series of ISO 54: the cutter has to be made for it.",
)
_message(
    "pitch_not_customary",
    "assumed",
    "P_nd = {P_nd:g 1/in} is not a customary pitch: the cutter has to be made for it.",
)
_message(
    "teeth_thinned",
    "assumed",
    "The teeth of the {word} are thinned by {thinning:.3f mm}, more than 0.05 m_n: its root is rated with the "
    "generating shift x_E = {x_E:.3f} (ISO 6336-3, 6).",
)
_message(
    "K_V_class_below_3",
    "assumed",
    "Method C of K_V begins at class 3: class {Q} of the {word} counts as class 3 there.",
)
_message(
    "class_above_11",
    "range",
    "ISO 1328-1 ends with class 11: the deviations of class {Q} of the {word} continue its rule.",
)
_message(
    "q_s_outside",
    "range",
    "Notch parameter q_s = {q_s:.2f} of the {word} is outside 1 to 8, where Y_S holds.",
)
_message(
    "pinion_cutter",
    "assumed",
    "The {word} is cut by a pinion cutter with z_0 = {z_0}, x_0 = {x_0:g}, addendum {h_fP:g} m_n and a tip "
    "radius of {rho:.3f mm} in the transverse section: another cutter leaves another root.",
)
_message(
    "root_ellipse",
    "assumed",
    "The root of the {word} is an arc of an ellipse from {d_Ff:.3f mm} to the middle of the space: a mould, "
    "print or wire can make it, a hob cannot. ISO 6336-3 and AGMA are applied to its own curve.",
)
_message(
    "root_formed_on_involute",
    "assumed",
    "The root of the {word} is formed with a radius of {rho:.3f mm}, which ends on the involute.",
)
_message(
    "root_formed_radial",
    "assumed",
    "The root of the {word} is formed with a radius of {rho:.3f mm}, which ends on a radial line, as the base "
    "circle lies above it.",
)
_message(
    "mate_tip_cuts_root",
    "warning",
    "The tips of the mate would cut {room:.3f mm} into the root of the {word}: a deeper root (h_fP), a greater "
    "weight of its corner or a lower tip gives room.",
    counts="short",
)
_message(
    "grinding_notch",
    "warning",
    "Grinding leaves a notch of {notch:g mm} in the fillet of the {word}: with a radius of {rho_g:g mm} it "
    "raises the root stress {Y_g:.2f} times (ISO 6336-3, 7.3). A tool with protuberance would spare it.",
)
_message(
    "grinding_notch_of_stock",
    "warning",
    "Grinding leaves a notch of {notch:g mm} in the fillet of the {word}, what the stock of {q_P:g mm} has more "
    "than the protuberance of {pr_P:g mm}: with a radius of {rho_g:g mm} it raises the root stress {Y_g:.2f} "
    "times (ISO 6336-3, 7.3). A tool with protuberance would spare it.",
)
_message(
    "protuberance",
    "assumed",
    "Protuberance {pr_P:g mm} less grinding stock {q_P:g mm} leaves the fillet of the {word} {under:.3f mm} "
    "under the ground flank; the involute ends at {d_Ff:.3f mm}.",
)
_message(
    "protuberance_of_rack",
    "assumed",
    "Protuberance {pr_P:g mm} less grinding stock {q_P:g mm} leaves the fillet of the {word} {under:.3f mm} "
    "under the ground flank.",
)
_message(
    "ring_flank_generated_below_base",
    "warning",
    "The ring's flank near its tip is generated by what the pinion cutter with z_0 = {z_0} has below its base "
    "circle, where there is no involute: take a cutter with more teeth or a larger tip circle of the ring.",
    counts="thin",
)
_message(
    "ring_assembled_axially",
    "warning",
    "Pinion and ring go together along the axis only: moved radially, the tips of their teeth would catch.",
)
_message(
    "eps_alpha_below_1",
    "warning",
    "Profile contact ratio {eps_alpha:.3f}, below 1: the load passes from tooth to tooth by the helix alone "
    "(total contact ratio {eps_gamma:.2f}). The geometry is valid; ISO 6336 does not rate such a pair, "
    "so that no safety is given.",
    counts="short",
    fields="d_a1 d_a2",
)
_message(
    "beta_above_30",
    "range",
    "beta = {beta:g deg} is above 30°, to which ISO 6336 is confirmed by tests and experience.",
    fields="beta",
)
_message(
    "near_resonance",
    "warning",
    "The pinion turns at N = {N_res:.2f} of the pair's resonance speed {n_E1:.0f 1/min}: K_V is highest here; "
    "another count, module or material moves the resonance.",
)
_message(
    "c_gamma_eps_alpha_below_1_2",
    "range",
    "eps_alpha = {eps_alpha:.3f} is below 1.2, where the mesh stiffness is not stated.",
)
_message(
    "x_sum_outside",
    "range",
    "x_1 + x_2 = {x_sum:.3f} is outside -0.5 to 2, for which the stiffness c' is stated.",
)
_message(
    "deviations_outside_table",
    "range",
    "{outside} mm: ISO 1328-1 states no deviations there; its formulas are continued for the load factors.",
)
_message(
    "K_Hbeta_planets",
    "assumed",
    "K_Hbeta among planets: the sun is twisted by all of them and does not bend, a pin tilts where the planet "
    "sits off its middle; the tilt of the carrier is not counted.",
)
_message(
    "K_Hbeta_method_C",
    "assumed",
    "K_Hbeta by ISO 6336-1, method C. Where the wheel's shaft counts, its slope is added to the pinion's, as if "
    "both sloped apart.",
)
_message(
    "K_Hbeta_from_f_sh",
    "assumed",
    "K_Hbeta by method C from the misalignment of the shafts f_sh = {f_sh:g um}, entered in place of their "
    "calculation.",
)
_message(
    "K_Hbeta_high",
    "warning",
    "K_Hbeta = {K_Hbeta:.2f}: with a misalignment of {F_betay:.1f um} a part of the width carries no load; a "
    "stiffer shaft, crowning or a finer class spread the load.",
)
_message(
    "load_factors_entered",
    "assumed",
    "K_Hbeta and K_Halpha: entered, not computed. K_Falpha is taken equal to K_Halpha.",
)
_message(
    "K_Hbeta_entered",
    "assumed",
    "K_Hbeta: entered, not computed.",
)
_message(
    "K_Halpha_entered",
    "assumed",
    "K_Halpha: entered, not computed. K_Falpha is taken equal to K_Halpha.",
)
_message(
    "K_V_method_C",
    "assumed",
    "K_V by method C, K_1 and K_2 as in the edition of 2006.",
)
_message(
    "K_V_method_B",
    "assumed",
    "K_V by method B with c' of the basic racks' mean; formulas written from knowledge.",
)
_message(
    "K_V_C_speed",
    "range",
    "v z_1/100 sqrt(u^2/(1+u^2)) = {vz:.1f m/s} is above 3 m/s, where method C of K_V ends: it is carried on "
    "with K_3 = 1. The mesh may run near its resonance; method B shows it.",
)
_message(
    "helix_factors",
    "assumed",
    "f_ZCa = {f_ZCa:g} is entered, not computed; Z_B, Z_D, Y_beta and f_eps of helical gears follow the 2019 "
    "edition as known, unchecked against print.",
)
_message(
    "line_load_low_K_V",
    "assumed",
    "Line load K_A F_t / b = {w_t:.1f N/mm} is below 100 N/mm: K_V is computed with 100 N/mm, as method C asks.",
)
_message(
    "eps_alpha_above_2",
    "range",
    "eps_alpha = {eps_alpha:.3f} is above 2: the points of single contact are stated for 1 to 2; the loss factor "
    "H_V is found with three and more pairs sharing the load.",
)
_message(
    "alpha_n_outside",
    "range",
    "alpha_n = {alpha_n:g deg} is outside 15 to 25°, for which ISO 6336 was validated.",
    fields="alpha_n",
)
_message(
    "backlash_in_service_gone",
    "warning",
    "Least backlash in service {j_op_min:.3f mm}: at the upper thickness allowances, the nearest centres and "
    "both run-outs towards each other; temperature and swelling take {j_heat:.3f mm} of it.",
)
_message(
    "backlash_in_service_gone_despite_heat",
    "warning",
    "Least backlash in service {j_op_min:.3f mm}: at the upper thickness allowances, the nearest centres and "
    "both run-outs towards each other; temperature and swelling give {j_heat:.3f mm} of it.",
)
_message(
    "backlash_gone",
    "warning",
    "Least backlash {j_wt_min:.3f mm}: with the thickest teeth and the nearest centres both flanks touch; the "
    "pair cannot be put together freely.",
    fields="a_w",
)
_message(
    "hardness_outside",
    "range",
    "Hardness {hardness:g} {hardness_scale} of the {word} is outside {low} to {high} for the {part} of {name} "
    "{grade}; the strength number of the nearer end is used.",
)
_message(
    "R_p02_estimated",
    "assumed",
    "Yield strength of the {word} is estimated from hardness as {R_p02:.0f MPa} (for Y_delta_relT); enter R_p0.2 "
    "if known.",
)
_message(
    "R_m_estimated",
    "assumed",
    "Tensile strength of the {word} is estimated from hardness as {R_m:.0f MPa} (for Y_delta_relT).",
)
_message(
    "root_strength_of_core",
    "assumed",
    "Root strength of the {word} for a core of {core}: {sigma} MPa.",
)
_message(
    "root_strength_of_core_peened",
    "assumed",
    "Root strength of the {word} for a core of {core}: {sigma} MPa, shot peened {more:+.0f}%.",
)
_message(
    "material_note",
    "assumed",
    "Gear {i}: {extra}",
)
_message(
    "relief_counts",
    "assumed",
    "Tip relief counts for K_V by method B and for scuffing alone.",
)
_message(
    "strength_numbers",
    "assumed",
    "Strength numbers of ISO 6336-5 are written from knowledge of the standard and await a check against print.",
)
_message(
    "scuffing_method",
    "assumed",
    "Scuffing by ISO/TS 6336-20 and -21 is written from knowledge of the methods.",
)
_message(
    "mass_of_disc",
    "assumed",
    "Mass is the toothed disc, or rim and web, less its bore: no hub or shaft. Relative cost is mass times a "
    "typical price index.",
)
_message(
    "stage_states_own",
    "assumed",
    "Of its own this stage states {own}; all else is the train's.",
)
_message(
    "hard_pinion_rough",
    "range",
    "Rz_H = {rough:g um} of the hard pinion is rougher than the {limit:g um} for which Z_W = {Z_W:.2f} of the "
    "{word} is confirmed: rough hard flanks wear the softer wheel.",
)
_message(
    "scuffing_pair_not_rated",
    "assumed",
    "Scuffing is not rated, as the pair is not: eps_alpha = {eps_alpha:.2f} transfers no load within the "
    "transverse section.",
)
_message(
    "scuffing_not_steel",
    "assumed",
    "Scuffing is not rated: ISO/TS 6336-20 and -21 are made for steel on steel.",
)
_message(
    "micropitting_no_stage",
    "assumed",
    "Micropitting is not rated: the oil's failure load stage in the micropitting test (S_GF) is not given.",
)
_message(
    "micropitting_not_steel",
    "assumed",
    "Micropitting is not rated: ISO/TS 6336-22 has material factors for steel alone.",
)
_message(
    "micropitting_method",
    "assumed",
    "Micropitting by ISO/TS 6336-22, method B, from knowledge of it: no tip relief counted; the test gear in "
    "stage {S_GF} at {theta_GF:g °C} has lambda_GFT = {lambda_GFT:.3f}, its factor 1.05 for K_V not sure; W_W "
    "the lower of both flanks.",
)
_message(
    "micropitting_eps_alpha",
    "range",
    "eps_alpha = {eps_alpha:.2f}: ISO/TS 6336-22 is made for contact ratios up to 2.5.",
)
_message(
    "flanks_new",
    "assumed",
    "Flanks are taken as new (phi_E = 0): running-in factor X_E = {X_E:.2f} of the integral temperature.",
)
_message(
    "flanks_run_in",
    "assumed",
    "Flanks are taken as run in (phi_E = {phi_E:g}) before they bear full load: new ones would have S_int = "
    "{S_int:.2f}.",
)
_message(
    "flanks_run_in_needed",
    "warning",
    "Flanks are taken as run in (phi_E = {phi_E:g}) before they bear full load: new ones would have S_int = "
    "{S_int:.2f}, below {S_intmin:g}: run the gears in under part load, or give them smoother flanks.",
)
_message(
    "root_load_place_entered",
    "assumed",
    "The root is rated with the load at the {place}, as entered.",
)
_message(
    "root_load_at_tip",
    "warning",
    "The root is rated with the load at the tip: in class {Q} the pitch deviation of {f_pbeff:.1f um} after "
    "running-in exceeds the {bent:.1f um} that the load bends a pair of teeth, so that no second pair helps. A "
    "finer class (below {coarse}) or more load per width brings the second pair in.",
)
_message(
    "root_load_at_single_contact",
    "assumed",
    "The root is rated with the load at the outer point of single contact (ISO 6336-3, method B): class {Q} lets "
    "two pairs share the load.",
)
_message(
    "plastic_root_load",
    "assumed",
    "Plastic teeth are rated with the load at the tip and Y_eps = 0.25 + 0.75/eps_alpha (VDI 2736-2).",
)
_message(
    "K_gamma_by_stiffness",
    "assumed",
    "K_gamma = {K_gamma:.3f}: from the stiffness of the planets and how far one may stand ahead, under the "
    "nominal load; no standard has it, springs that share a load do.",
)
_message(
    "K_gamma_entered",
    "assumed",
    "K_gamma = {K_gamma:g}: entered, not computed.",
)
_message(
    "K_gamma_one",
    "assumed",
    "K_gamma = 1, entered: a single mesh bears the whole load.",
)
_message(
    "own_material",
    "assumed",
    "{own} of the {word}: entered; all else, life curve included, is that of {name}.",
)
_message(
    "own_material_named",
    "assumed",
    "{own} of the own material {material!r} of the {word}: entered; all else, life curve included, is that of {name}.",
)
_message(
    "material_outside_standard",
    "warning",
    "{name} is outside ISO 6336-5: its strength numbers are typical ones, not sure to a third; lubricant, "
    "surface, notch and size factors are 1. A test or the supplier's numbers take precedence.",
)
_message(
    "plastic_outside_standard",
    "warning",
    "{name} is outside ISO 6336-5: strength by temperature and cycles after VDI 2736-2, not sure to a third; "
    "lubricant, surface, notch and size factors are 1. A test or the supplier's numbers take precedence.",
)
_message(
    "printed_along_layers",
    "warning",
    "The {word} is printed: its numbers are estimates for roots in tension along the layers, not sure to a half; "
    "across them the bond bears 30 to 60 % of that. Break a printed gear before you trust them.",
)
_message(
    "printed_across_layers",
    "warning",
    "The {word} is printed: its numbers are estimates for roots in tension across the layers, not sure to a "
    "half; across them the bond bears 30 to 60 % of that. Break a printed gear before you trust them.",
)
_message(
    "process_clearance_moulded",
    "warning",
    "A process clearance c_proc = {c_proc:g mm} is required, as of printed teeth, but the {word} has the numbers "
    "of moulded {name}: printed ones bear a third to two thirds of it. Take a printed material and its direction "
    "of layers.",
)
_message(
    "no_case_depth",
    "assumed",
    "Fracture of the {word} from below the case and flank fracture are not rated, as no case depth CHD is given.",
)
_message(
    "no_core_hardness",
    "assumed",
    "Flank fracture of the {word} is not rated, as no hardness of the core HV_core is given.",
)
_message(
    "flank_fracture_method",
    "assumed",
    "Flank fracture of the {word} after ISO/TS 6336-4, from knowledge of it: the field on the line under the "
    "middle of the contact with Lang's hardness and residual stresses in place of its closed approximations. "
    "Beside that line the exposure can be 10 to 60 % higher, which is not counted; the constants 0.4, 0.04 and "
    "0.8 are not sure; material factor 1.",
)
_message(
    "case_deep",
    "range",
    "A case of {CHD:g mm} on the {word} is deeper than {most:g} modules, where the tips harden through and break.",
)
_message(
    "bent_both_ways",
    "assumed",
    "The teeth of the {word} are bent both ways with R = {R_bend:g}: Y_M = {Y_M:.2f} (ISO 6336-3, Annex B).",
)
_message(
    "plastic_temperature_outside",
    "range",
    "The {word} of {name} at {theta:g °C}: its numbers hold from {low} to {high} °C.",
)
_message(
    "plastic_temperature_entered",
    "assumed",
    "Strength and stiffness of the {word} at the gears' temperature in service, {theta:g °C}; its own warming by "
    "friction is not computed: enter the temperature of the running teeth, or let it be found from their "
    "friction.",
)
_message(
    "plastic_temperature_found",
    "assumed",
    "Teeth of the {word} by VDI 2736-2, {running}, housing {housing}, {ED:g %} of the time under load: flanks "
    "{theta_Fla:.0f °C}, roots {theta_Fuss:.0f °C}; heat transfer numbers from knowledge of the guideline.",
)
_message(
    "plastic_root_warmer",
    "warning",
    "Backlash and growth of the {word} are computed at theta_gears = {theta_gears:g °C}, but its roots run at "
    "{theta_Fuss:.0f °C}: enter that as the gears' temperature in service.",
)
_message(
    "no_wear_coefficient",
    "assumed",
    "Wear of the {word} is not computed, as no wear coefficient k_W is given: dry plastics on smooth steel have "
    "some 0.5 to 5 mm3/MJ (typical, by tests alone).",
)
_message(
    "few_cycles",
    "range",
    "{N_L:.0f} load cycles of the {word} are below 1e4, where its strength is first stated.",
)
_message(
    "AGMA_not_possible",
    "warning",
    "This stage is rated by ISO 6336: {reason}.",
)
_message(
    "AGMA_internal_roots",
    "assumed",
    "Flanks of the internal pair by ANSI/AGMA 2101-D04; its roots by ISO 6336, as AGMA 908 gives no Y_J for "
    "internal teeth.",
)
_message(
    "AGMA_method",
    "assumed",
    "Formulas and tables of ANSI/AGMA 2101-D04 are written from knowledge; Y_theta = 1, surface condition 1.",
)
_message(
    "AGMA_method_grade_of_class",
    "assumed",
    "Formulas and tables of ANSI/AGMA 2101-D04 are written from knowledge; Y_theta = 1, surface condition 1. The "
    "flank class of ISO 1328 stands for the accuracy grade A_v, which grows apart from it for modules above some "
    "5 mm: enter it.",
)
_message(
    "AGMA_nitrided",
    "assumed",
    "AGMA's bending number of nitrided gears goes by the core hardness, taken as 300 HB.",
)
_message(
    "AGMA_speed",
    "range",
    "Pitch line speed {v_wt:.1f m/s} is above {fastest:.1f m/s}, where the curve of K_v ends.",
)
_message(
    "AGMA_spectrum",
    "assumed",
    "The load spectrum is rated by ISO 6336-6 alone; the AGMA checks take the steady load with K_A.",
)
_message(
    "plastic_friction",
    "assumed",
    "Friction coefficient of the plastic teeth, {running}: {mu_pl:g}, {how}; loss and warmth go with it.",
)
_message(
    "line_load_low_mu",
    "assumed",
    "Line load F_bt / b = {line:.1f N/mm} is below 150 N/mm: mu_mz is computed with 150 N/mm, the least the "
    "formula admits; the loss is rather over- than understated.",
)
_message(
    "mu_speed",
    "range",
    "v = {v:.1f m/s} is above 50 m/s: mu_mz is computed with 50 m/s.",
)
_message(
    "mu_load_outside",
    "range",
    "K = {value:.3g MPa} is outside {low:g} to {high:g MPa}: the friction coefficient of ISO/TR 14179-1 is "
    "computed with the nearer end.",
)
_message(
    "mu_speed_outside",
    "range",
    "v = {value:.3g m/s} is outside {low:g} to {high:g m/s}: the friction coefficient of ISO/TR 14179-1 is "
    "computed with the nearer end.",
)
_message(
    "mu_along_path",
    "assumed",
    "Friction along the path by the local coefficient of disc tests, kept within 0.005 to 0.15.",
)
_message(
    "Ra_from_Rz",
    "assumed",
    "Ra of mesh friction is taken as Rz/6.",
)
_message(
    "theta_max_not_checked",
    "warning",
    "The oil's temperature is not checked against theta_max: that needs the housing's area A_h, and all losses "
    "counted.",
    fields="theta_max",
)
_message(
    "efficiency_of_meshes",
    "assumed",
    "Efficiency counts mesh friction under load only: no bearings, seals or churning.",
)
_message(
    "bearing_losses_assumed",
    "assumed",
    "Two bearings ({bearing}) a shaft with the sum of its gears' forces, directions unknown; bores not given are "
    "estimated from the torque with {tau_sh:g MPa}; simple friction data by type.",
)
_message(
    "planet_losses",
    "assumed",
    "Planets and idlers turn on two bearings each, bore as their shaft or bore, else 0.3 of their reference "
    "diameter; centrifugal force and the churning of planets and rings are not counted.",
)
_message(
    "no_dip",
    "assumed",
    "No gear dips (h_e = 0): churning and windage are not counted.",
)
_message(
    "dip_factor",
    "assumed",
    "The dip factor f_g is the immersion over the tip diameter.",
)
_message(
    "oil_by_balance",
    "assumed",
    "The oil temperature is that of the heat balance, {theta_oil:.1f °C}, not the duty's.",
)
_message(
    "spectrum_method",
    "assumed",
    "Load spectrum by ISO 6336-6: K_A is 1 within it, load factors are those of each level; the damage sum is Miner's.",
)
_message(
    "spectrum_worst_level",
    "assumed",
    "Scuffing, micropitting and the deflection of plastic tips are those of the level that is worst for each, "
    "flank fracture that of the greatest torque; static strength is rated at the level with the greatest stress, "
    "or with K_AP where that is entered and greater.",
)
_message(
    "static_with_K_A",
    "assumed",
    "Static strength is rated with K_A = {K_A:g}, as no greatest load K_AP is given.",
)
_message(
    "relief_entered_and_made",
    "range",
    "K_V and scuffing count the entered tip relief C_a = {C_a:g um}; the flanks are made with {one:g} and {two:g um}.",
)
_message(
    "relief_lesser",
    "assumed",
    "K_V and scuffing count the lesser tip relief of both gears, {C_a:g um}.",
)
_message(
    "relief_lesser_of_either_flank",
    "assumed",
    "K_V and scuffing count the lesser tip relief of both gears and of either flank, {C_a:g um}.",
)
_message(
    "relief_long",
    "range",
    "The tip relief{side} of the {word} reaches over {l_Ca:g mm} of roll, beyond the {long:.3f mm} on which "
    "another pair bears too: at light load a pair parts before the next one has taken over.",
)
_message(
    "relief_small",
    "range",
    "A tip relief of {C_alphaa:g um}{side} on the {word} is less than half of the {give:.1f um} by which the "
    "teeth deflect under K_A: tip edges still meet their mates early.",
)
_message(
    "crowning_lifts",
    "warning",
    "A crowning of C_beta = {C_beta:g um} lifts the ends of the face at this load: about {share:.0f %} of it "
    "bears, up to {give:.1f um} all of it.",
)
_message(
    "set_flow",
    "assumed",
    "{name}: ratio {u:.5g}, efficiency {eta_set:.2f %} forward; of power at the {output} {eta_back:.1f %} comes "
    "back to the {input}. With 30 % more friction {eta_more:.1f %}, with 30 % less {eta_less:.1f %}.",
)
_message(
    "set_flow_locks",
    "assumed",
    "{name}: ratio {u:.5g}, efficiency {eta_set:.2f %} forward; of power at the {output} nothing comes "
    "back to the {input}: it locks. With 30 % more friction {eta_more:.1f %}, with 30 % less {eta_less:.1f %}.",
)
_message(
    "set_two_outputs",
    "assumed",
    "{name}: of the power that comes in {share:.1f %} goes out at the {output} and {share_2:.1f %} at the {third}, in "
    "all {eta_set:.2f %}. The torques follow from the counts, the shares from the speeds with them.",
)
_message(
    "power_circulates",
    "warning",
    "{name}: {circulation:.2f} times the input power goes through a mesh: power circulates, and the "
    "teeth are loaded for it.",
)
_message(
    "set_loses_half",
    "warning",
    "{name}: less than half of the power comes out; its efficiency depends on the friction of the teeth.",
)
_message(
    "idler",
    "assumed",
    "The idler of {name} does not change the ratio's size; its teeth are bent both ways.",
)
_message(
    "planets_uneven",
    "warning",
    "{planets} planets cannot stand evenly: the counts {counts} leave {places} places, which {planets} does not "
    "divide. They stand at {angles}°, up to {worst:.2f deg} off. Evenly can: {even}.",
    counts="thin",
    fields="n_planets z_1 z_2",
)
_message(
    "planets_in_step",
    "assumed",
    "All planets mesh with the sun in phase.",
)
_message(
    "planets_staggered",
    "assumed",
    "The planets mesh with the sun out of phase ({share:.0f %} of evenly).",
)
_message(
    "free_sun",
    "assumed",
    "The free sun of {name} bears the planets inwards and carries no torque: its teeth are checked for form and "
    "play and not rated. It turns at {sun:.4g} times the input's speed.",
)
_message(
    "sharing_K_gamma_entered",
    "warning",
    "{name}: its entered K_gamma takes precedence over the stiffness and the places of its planets, which "
    "do not count.",
    fields="k_pl e_pl",
)
_message(
    "sharing_one_planet",
    "warning",
    "{name}: one planet shares its load with no other, so that stiffness and place do not count.",
    fields="k_pl e_pl",
)
_message(
    "sharing_incomplete",
    "warning",
    "{name}: {given} alone does not tell how planets share: {needed} is needed, too.",
    fields="k_pl e_pl",
)
_message(
    "planets_room_K_gamma_entered",
    "assumed",
    "Up to {most} planets stand clear of each other; K_gamma = {K_gamma:.4g}, as entered. Lost motion counts one "
    "play for planets side by side.",
)
_message(
    "planets_room_K_gamma_by_stiffness",
    "assumed",
    "Up to {most} planets stand clear of each other; K_gamma = {K_gamma:.4g}, by their stiffness with one of "
    "them {e_pl:g um} ahead. Lost motion counts one play for planets side by side.",
)
_message(
    "planets_room_K_gamma_floating",
    "assumed",
    "Up to {most} planets stand clear of each other; K_gamma = {K_gamma:.4g}, a customary value for {planets} "
    "with a floating member, not from a standard; by application epicyclic practice takes 1.08 to 1.25 for four "
    "and 1.12 to 1.35 for five planets. Lost motion counts one play for planets side by side.",
)
_message(
    "planets_room_K_gamma_fixed",
    "assumed",
    "Up to {most} planets stand clear of each other; K_gamma = {K_gamma:.4g}, a customary value for {planets} "
    "with no floating member, not from a standard; by application epicyclic practice takes 1.08 to 1.25 for four "
    "and 1.12 to 1.35 for five planets. Lost motion counts one play for planets side by side.",
)
_message(
    "shafts_clash",
    "warning",
    "The gear with {z:.0f} teeth of stage {stage} reaches {reach:.1f mm} from its axis and runs into the shaft "
    "of stage {stages}, {distance:.1f mm} away, if the axes lie in one plane: turn the stages about each other, "
    "or take other counts.",
    counts="short",
)
_message(
    "does_not_turn",
    "warning",
    "Of {P_in:.4g W} of input power {P_V:.4g W} would be lost, {P_Vz:.4g W} of it in the meshes: the train does "
    "not turn. More power, thinner oil, fewer or smaller bearings and seals would let it.",
    counts="short",
)
_message(
    "housing_too_hot",
    "warning",
    "A housing of A_h = {A_h:g m2} cannot give off the losses: the oil would pass 250 °C.",
    counts="short",
)
_message(
    "goes_first_missing",
    "warning",
    "The part that shall fail first, {goes_first}, is not in this machine.",
)
_message(
    "no_machine",
    "warning",
    "The machine around the gears is not worked out, none of its checks is made: {fault}",
    counts="short",
)
_message(
    "parts_clash",
    "warning",
    "{one} and {two} run into each other by {by:.2f mm}.",
    counts="short",
)
_message(
    "machine_methods",
    "assumed",
    "Shafts by DIN 743:2012 under K_A and the greatest load, bending as it turns with them, both directions of "
    "rotation; bearings rigid and hinged, the thrust on one; those with a contact angle hold the shaft at their "
    "pressure points. Bearings by ISO 281:2007 and ISO 76:2006 from boundary dimensions and typical inner ones "
    "where no maker's ratings are typed.",
)
_message(
    "clearances",
    "assumed",
    "Around the gears {c:g mm} of clearance; walls of the housing {wall:g mm}, its mass that of bare walls of "
    "cast iron.",
)
_message(
    "pin_with_bearing",
    "assumed",
    "The pin of {name} of {d_pin:.4g mm} stands free between walls {span:.4g mm} apart, which are taken as of "
    "its steel; a needle bearing {d:g} x {D:g} x {B:g} inside it, under {F:.4g N} and an overturning moment of "
    "{M:.4g N m}, with K_gamma.",
)
_message(
    "pin_with_two_bearings",
    "assumed",
    "The pin of {name} of {d_pin:.4g mm} stands free between walls {span:.4g mm} apart, which are taken as of "
    "its steel; two needle bearings {d:g} x {D:g} x {B:g} inside it, under {F:.4g N} and an overturning moment "
    "of {M:.4g N m}, with K_gamma.",
)
_message(
    "pin_slides",
    "warning",
    "The pin of {name} of {d_pin:.4g mm} stands free between walls {span:.4g mm} apart, which are taken as of "
    "its steel; no needle bearing goes into it: it slides on its pin, which is not rated.",
)
_message(
    "torsion_uncoupled",
    "assumed",
    "In torsion gears and shafts alone vibrate at {n} 1/min; with the inertia of what is coupled, "
    "entered at the ends of shafts, the distance of all natural frequencies from the speeds becomes a check.",
)
_message(
    "integral_pinion",
    "assumed",
    "A pinion cut into its shaft counts as a piece of its root diameter with the notch of a splined shaft; the "
    "steel is that of the shaft.",
)
_message(
    "undercut_sizes",
    "assumed",
    "Undercuts have the sizes of DIN 509 and the form factor of DIN 743-2 as known, not compared with print.",
)
_message(
    "piece_no_length",
    "warning",
    "{shaft}: {piece} has no length left: its neighbours run into each other.",
    counts="short",
)
_message(
    "hole_wide",
    "range",
    "{shaft}: the hole of {hole:g mm} across {piece} is rated as {rated:.4g mm}; up to there, 0.4 of its "
    "diameter, factors are known.",
)
_message(
    "hole_through",
    "warning",
    "{shaft}: the hole of {hole:g mm} across {piece} is rated as {rated:.4g mm}; up to there, 0.4 of its "
    "diameter, factors are known.",
    counts="short",
)
_message(
    "undercut_wide",
    "warning",
    "{shaft}: the undercut {undercut} of {piece} is {f:g mm} wide on {length:.4g mm}; by a rule of thumb it "
    "takes half of that at most.",
    counts="short",
)
_message(
    "bore_leaves_thin",
    "warning",
    "{shaft}: the bore of {d_i:g mm} leaves {piece} too thin; up to {d_max:.4g mm} works.",
    counts="short",
)
_message(
    "pieces_overlap",
    "warning",
    "{shaft}: {one} and {two} overlap by {by:.2f mm}.",
    counts="short",
)
_message(
    "bearing_bore_differs",
    "warning",
    "{shaft}: {bearing} has a bore of {d:g mm} on a shaft of {d_shaft:g mm}.",
    counts="short",
)
_message(
    "shoulder_high",
    "warning",
    "{shaft}: {piece} of {d:g mm} is higher than the inner ring of {bearing}; {low:.4g} to {high:.4g mm} works.",
    counts="thin",
)
_message(
    "not_held",
    "warning",
    "{shaft}: nothing keeps {what} of {thing} on the {side}; a gap of {need:g mm} or more has room for a retaining "
    "ring.",
    counts="short",
)
_message(
    "cannot_slide_on",
    "warning",
    "{shaft}: {part} with a bore of {bore:.4g mm} comes to its place from neither side, {by} with {d:.4g mm} is in the "
    "way.",
    counts="short",
)
_message(
    "bearing_walled_in",
    "warning",
    "{bearing} stands in an inner wall, and the axes do not lie in one plane in which the housing could be split: lay "
    "them into one plane.",
    counts="thin",
)
_message(
    "no_seal_so_small",
    "assumed",
    "{shaft}: {end} of {d:g mm} is too thin for a radial shaft seal; the bearing beside it needs shields and grease.",
)
_message(
    "no_room_for_seal",
    "warning",
    "{shaft}: {end} of {d:g mm} has no seat for a radial shaft seal, as what is fixed keeps its bearing thin; "
    "a thinner end or a wider bore gives room.",
    counts="thin",
)
_message(
    "seal_not_made",
    "warning",
    "{shaft}: there is no radial shaft seal for {d:g mm}; {low:g} and {high:g mm} are made.",
    counts="thin",
)
_message(
    "hub_thin",
    "warning",
    "{shaft}: the seat of {gear} of {d:g mm} leaves less than a module under its roots at {d_f:.4g mm}; up to "
    "{d_max:.4g mm} works.",
    counts="short",
)
_message(
    "hub_shut_in",
    "warning",
    "{shaft}: {gear} on its seat of {d:g mm} has thicker pieces on both sides and slides on from neither.",
    counts="thin",
)
_message(
    "key_long",
    "warning",
    "{shaft}: a key of {length:g mm} is longer than the seat of {gear}, {seat:g mm}.",
    counts="short",
)
_message(
    "bearing_no_thrust",
    "warning",
    "{where}, a {type} bearing, takes no thrust, and {F_a:.4g N} act on it: a ball, tapered or spherical one "
    "holds the shaft there.",
    counts="short",
)
_message(
    "thrust_high",
    "warning",
    "{where} bears {F_a:.4g N} of thrust; a deep groove bearing customarily takes up to {most:.4g N}, a part of C_0: "
    "an angular contact or tapered pair takes more.",
    counts="short",
)
_message(
    "bearing_load_low",
    "range",
    "{where} has an equivalent load of {P:.3g N}; below some {least:.3g N} its {elements} may slide instead of roll.",
)
_message(
    "ratings_unnamed",
    "warning",
    "{where}: the ratings typed for it do not say of which bearing they are; here stands the {bearing}. Type "
    "them again for this one.",
    counts="thin",
)
_message(
    "ratings_of_another",
    "warning",
    "{where}: the ratings typed are those of the {rated}; here stands the {bearing}, which has its own.",
    counts="thin",
)
_message(
    "single_adjusted_bearing",
    "warning",
    "{shaft}: {bearing}, a single-row {type} bearing, takes thrust in one direction only, and its load "
    "pushes its rings apart: it needs another one to be adjusted against.",
    counts="short",
)
_message(
    "shaft_not_held",
    "warning",
    "{shaft}: {bearing}, a {type} bearing without ribs, is to hold it along its axis and cannot: a ball or "
    "spherical roller bearing does.",
    counts="short",
)
_message(
    "keyway_through_wall",
    "warning",
    "{shaft}: under the keyway of {piece} {wall:.2f mm} are left of the wall of the hollow shaft; by a rule of "
    "thumb as much as the keyway is deep, {t_1:g mm}, has to be. A smaller bore, a thicker shaft or another "
    "joint.",
    counts="short",
)
_message(
    "methods_apart",
    "assumed",
    "{what}: {cause}",
)
