"""Designs that raise what no demo and no odd design raises: for each identity of a note or a check the changes that
bring it about."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from cooper.demo import demo
from cooper.document.models import Design
from cooper.editing.edit import set_many
from cooper.editing.machine_edits import count_machine, in_machine
from makers import pair, planet_set
from pins.odd_designs import AGMA, DUTY, G1, G2, MESH, at, both, steel

POM = {"group": "POM", "grade": "typical", "hardness": 80}
PRINTED = {"group": "PLA printed", "grade": "across layers", "hardness": 80}
PAIR: dict[str, dict[str, Any]] = {
    "undercut": at(G1, z=10, x=0.0),
    "undercut_by_pinion_cutter": at(G1, z=10, x=-0.1, tool="pinion cutter", z_0=31, rho_fP=0.2),
    "module_not_in_series": at(MESH, m_n=2.35),
    "K_V_class_below_3": both(Q=2),
    "q_s_outside": at(G1, z=17, x=0.1, tool="form", rho_fP=0.1, h_fP=1.35),
    "root_formed_radial": at(G1, z=20, x=0.0, tool="form", rho_fP=0.3),
    "mate_tip_cuts_root": at(G2, tool="form", rho_fP=0.3, h_fP=1.0) | at(G1, h_aP=1.2),
    "grinding_notch_of_stock": at(G1, pr_P=0.05, q_P=0.2, rho_g=0.4),
    "eps_alpha_below_1": both(h_aP=0.5) | at(MESH, beta=20.0),
    "pitch_not_customary": at(MESH, P_nd=10.5, m_n=None),
    "beta_above_30": at(MESH, beta=35.0),
    "near_resonance": at(MESH, K_V_method="B") | at(DUTY, n=20000.0),
    "c_gamma_eps_alpha_below_1_2": at(MESH, K_V_method="B") | both(h_aP=0.75),
    "x_sum_outside": at(MESH, K_V_method="B") | both(x=-0.4, z=40),
    "deviations_outside_table": at(MESH, K_V_method="B", m_n=0.4),
    "K_Hbeta_entered": at(MESH, K_Hbeta_method="entered", K_Halpha_method="B"),
    "K_V_C_speed": at(DUTY, n=9000.0),
    "alpha_n_outside": at(MESH, alpha_n=14.5),
    "backlash_gone": both(E_sns=0.05, E_sni=0.02),
    "hardness_outside": at(G1, material=steel("Eh", 500)),
    "stage_states_own": {"train.meshes.stage1.own.S_Hmin": 1.2},
    "micropitting_eps_alpha": both(h_aP=1.5, h_fP=1.8, rho_fP=0.1, z=70, x=0.0) | at("defaults.", lubricant__S_GF=9),
    "flanks_new": at("defaults.", phi_E=0.0),
    "own_material": at(G1, material=steel("Eh", 700, sigma_Hlim=1400.0)),
    "own_material_named": at(G1, material=steel("Eh", 700, sigma_Hlim=1400.0, name="house steel 4711.25")),
    "printed_across_layers": both(material=PRINTED) | at(DUTY, P=20.0),
    "process_clearance_moulded": both(material=POM) | at("defaults.", c_proc=0.05) | at(DUTY, P=20.0),
    "no_core_hardness": at(G1, CHD=0.8),
    "plastic_temperature_outside": both(material=POM) | at("defaults.", theta_gears=-60.0) | at(DUTY, P=20.0),
    "plastic_temperature_entered": both(material=POM) | at("defaults.", plastics__heat="entered") | at(DUTY, P=20.0),
    "few_cycles": both(material=POM) | at(DUTY, P=20.0, n=1.0, L_h=10.0),
    "AGMA_not_possible": AGMA | at(G1, material=steel("Eh", 700, sigma_Hlim=1400.0)),
    "AGMA_speed": AGMA | at(MESH, A_v=12) | at(DUTY, n=12000.0),
    "mu_speed": at("losses.", friction="ISO/TR 14179-2") | at(DUTY, n=25000.0),
    "mu_load_outside": at("losses.", friction="ISO/TR 14179-1") | at(DUTY, P=10.0),
    "mu_speed_outside": at("losses.", friction="ISO/TR 14179-1") | at(DUTY, n=25000.0),
    "theta_max_not_checked": at("losses.", theta_max=80.0),
    "relief_lesser": both(flanks__C_alphaa=12.0),
    "relief_lesser_of_either_flank": both(flanks__C_alphaa=12.0) | at(G1, flanks_left={"C_alphaa": 8.0}),
    "relief_long": at(G1, flanks__C_alphaa=20.0, flanks__l_Ca=4.0),
    "relief_small": both(flanks__C_alphaa=0.5),
    "does_not_turn": at("losses.", counted="all", seal="NBR", h_e=20.0) | at(DUTY, P=1.0, n=2900.0),
    "housing_too_hot": at("losses.", counted="all", A_h=0.002),
    "oil_temperature": at("losses.", counted="all", A_h=0.3, theta_max=80.0, h_e=0.0),
}  # fmt: skip
"""Changes to a plain case-hardened pair."""
SET: dict[str, tuple[Design, dict[str, Any]]] = {
    "planets_uneven": (planet_set("planetary", (20, 31, 82), 4), {}),
    "free_sun": (demo("filter-wheel"), at("sets.set1.", input="carrier")),
    "sharing_K_gamma_entered": (planet_set(), at("sets.set1.", K_gamma=1.1, k_pl=40.0, e_pl=2.0)),
    "set_two_outputs": (
        planet_set(),
        at("sets.set1.", input="carrier", output="ring", held="sun", u_third=0.8),
    ),
    "sharing_one_planet": (planet_set(planets=1), at("sets.set1.", k_pl=40.0, e_pl=2.0)),
    "sharing_incomplete": (planet_set(), at("sets.set1.", k_pl=40.0)),
    "planets_room_K_gamma_fixed": (planet_set(planets=4), at("sets.set1.", floating=False)),
    "K_Hbeta_planets": (planet_set(), at(MESH, K_Hbeta_method="C")),
    "protuberance_of_rack": (demo("dome-rack"), at(G2, pr_P=0.3, q_P=0.1)),
}
WINCH: dict[str, tuple[tuple[tuple[str, ...], Any], ...]] = {
    "goes_first_missing": ((("goes_first",), "gear99 end"),),
    "goes_first": ((("goes_first",), "gear1"),),
    "parts_clash": ((("shafts", "gear2", "pieces", "gap 1", "d"), 200.0),),
    "undercut_sizes": ((("shafts", "gear2", "pieces", "seat gear2", "undercut"), "E"),),
    "undercut_wide": ((("shafts", "gear1", "pieces", "gap 2", "undercut"), "F, stronger"), (("shafts", "gear1", "pieces", "gap 2", "cuts"), (2.0,))),
    "piece_no_length": ((("shafts", "gear2", "pieces", "seat gear2", "cuts"), (12.0 - 1e-9,)),),
    "hole_wide": ((("shafts", "gear1", "pieces", "gap 2", "hole"), 6.0),),
    "hole_through": ((("shafts", "gear1", "pieces", "gap 2", "hole"), 60.0),),
    "bore_leaves_thin": ((("shafts", "gear1", "d_i"), 11.0),),
    "shoulder_high": ((("shafts", "gear2", "pieces", "gap 1", "d"), 200.0),),
    "hub_thin": ((("shafts", "gear2", "joints", "gear3", "kind"), "key"), (("shafts", "gear2", "pieces", "seat gear3", "d"), 33.0)),
    "hub_shut_in": ((("shafts", "gear2", "pieces", "gap 1", "d"), 60.0), (("shafts", "gear2", "pieces", "gap 2", "d"), 60.0)),
    "not_held": ((("shafts", "gear4", "retention", "bearing 1"), "nothing"),),
    "cannot_slide_on": ((("shafts", "gear4", "retention", "bearing 2"), "nut"),),
    "bearing_walled_in": ((("angles", "stage2"), 170.0),),
    "no_room_for_seal": ((("shafts", "gear1", "pieces", "bearing 1", "d"), 12.0),),
    "seal_not_made": ((("shafts", "gear4", "pieces", "seal right", "d"), 34.0),),
    "key_long": ((("shafts", "gear1", "joints", "gear1", "kind"), "key"), (("shafts", "gear1", "joints", "gear1", "length"), 30.0)),
    "pieces_overlap": ((("shafts", "gear2", "pieces", "seat gear2", "length"), 60.0),),
    "bearing_bore_differs": ((("shafts", "gear2", "pieces", "bearing 1", "d"), 16.0),),
    "ratings_unnamed": ((("shafts", "gear1", "bearings", "bearing 1", "C"), 9000.0),),
    "ratings_of_another": ((("shafts", "gear1", "bearings", "bearing 1", "C"), 9000.0), (("shafts", "gear1", "bearings", "bearing 1", "rated"), "house bearing 4711.25")),
    "single_adjusted_bearing": ((("shafts", "gear1", "bearings", "bearing 1", "type"), "tapered roller"),),
    "keyway_through_wall": ((("shafts", "gear2", "joints", "gear2", "kind"), "key"), (("shafts", "gear2", "d_i"), 20.0)),
    "torsional_resonance": ((("shafts", "gear1", "ends", "left", "J"), 0.01),),
    "housing_length": ((("L_max",), 60.0),),
    "housing_width": ((("W_max",), 60.0),),
    "housing_height": ((("H_max",), 60.0),),
}  # fmt: skip
"""What is fixed of the winch's machine."""


BEARINGS: dict[str, tuple[str, str | None]] = {
    "bearing_no_thrust": ("cylindrical roller", None),
    "shaft_not_held": ("needle roller", None),
    "thrust_high": ("deep groove ball", "18"),
}
"""Both bearings of the first shaft of a helical pair."""


def raised_designs() -> Iterator[tuple[str, Design]]:
    """Each identity with a design that raises it."""
    for key, changes in PAIR.items():
        yield key, set_many(pair(), changes)
    for key, (base, changes) in SET.items():
        yield key, set_many(base, changes)
    for key, design in (
        ("bearing_load_low", pair(P=5.0)),
        ("bearing_speed", pair(n=18000.0)),
        ("seal_speed", set_many(pair(n=18000.0), {"train.losses.seal": "NBR"})),
        ("no_seal_so_small", pair(P=0.5)),
        ("pin_with_bearing", planet_set()),
        ("pin_slides", planet_set("planetary", (30, 12, 54), m=1.0, P=10.0)),
        (
            "pin_with_two_bearings",
            set_many(planet_set("two rings", (24, 84, 21, 81), m=3.0), at(G1, b=40.0) | at("gears.gear3.", b=40.0)),
        ),
        ("pin_bearing_speed", planet_set(P=20.0, n=20000.0)),
        ("no_machine", set_many(demo("winch"), {"train.machine": None, "train.duty.n": 5.0})),
    ):
        yield key, count_machine(design)
    helical = count_machine(set_many(pair(20, 60, 0.0, 0.0, P=90000.0), at(MESH, beta=35.0)))
    for key, (kind, series) in BEARINGS.items():
        of = [(("shafts", "gear1", "bearings", f"bearing {n}"), {"type": kind, "series": series}) for n in (1, 2)]
        yield key, in_machine(helical, *of)
    yield (
        "shafts_clash",
        set_many(demo("winch"), {"train.machine": None, "train.gears.gear2.z": 150, "train.gears.gear2.x": 0.0}),
    )
    winch = count_machine(set_many(demo("winch"), {"train.machine": None}))
    for key, fixed in WINCH.items():
        yield key, in_machine(winch, *fixed)
