"""Designs that have what no demo has: every choice that a rating parts by is taken somewhere here, so that a number
that moves is seen."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from cooper.demo import demo
from cooper.document.models import Design
from cooper.editing.edit import set_many
from cooper.results.evaluate import evaluate
from makers import pair, planet_set
from pins.tree_lines import tree_lines

G1, G2, MESH, DUTY = "gears.gear1.", "gears.gear2.", "meshes.stage1.", "duty."


def at(of: str, **values: Any) -> dict[str, Any]:
    """Values of one part of a train by their paths."""
    return {f"train.{of}{k.replace('__', '.')}": v for k, v in values.items()}


def both(**values: Any) -> dict[str, Any]:
    """The same for both gears of a pair."""
    return at(G1, **values) | at(G2, **values)


def steel(group: str, hardness: float, **more: Any) -> dict[str, Any]:
    return {"group": group, "hardness": hardness, **more}


def spectrum(*levels: tuple[float, float, float]) -> list[dict[str, float]]:
    return [{"T_rel": t, "n_rel": n, "q_t": q} for t, n, q in levels]


GROUND = dict(pr_P=0.25, q_P=0.18, CHD=0.9, HV_core=340, Rz_H=3.0)
AGMA = at("defaults.", method="ANSI/AGMA 2101-D04")
BALANCE = at("losses.", counted="all", oil_by_balance=True, A_h=0.6, h_e=8.0)
LIFE = spectrum((1.3, 0.8, 5), (1.0, 1.0, 60), (0.4, 1.2, 35))
OIL = dict(name="odd", nu_40=320.0, nu_100=38.0, rho_15=870.0, X_L=0.8, S_FZG=13, kind="polyalphaolefin")

PAIRS: dict[str, dict[str, Any]] = {
    "ground helical": both(**GROUND, Q=5, treatment="phosphated")
    | at(MESH, beta=15.0, K_V_method="B", K_Halpha_method="B", K_Hbeta_method="C", helix_modification="crowned", C_beta=8.0)
    | at("defaults.", lubricant=OIL | {"S_GF": 9}, lubrication="spray"),
    "nitrided, low hardness and a wheel of its own": at(G1, material=steel("NT", 650), Q=6, t_g=0.2, rho_g=0.6)
    | at(G2, material=steel("V", 240, grade="ME"), Q=8, R_bend=-0.5, bending="both ways")
    | at(MESH, K_Hbeta_method="C", arrangement="c", s_sh=12.0, wheel_shaft="counted", arrangement_2="d", s_sh2=9.0),
    "double helical": both(b=60.0, Q=6)
    | at(MESH, beta=28.0, double_helix=True, b_gap=8.0, hand="left", K_Hbeta_method="C", helix_modification="end relief")
    | at("defaults.", lubrication="submerged"),
    "castings": at(G1, material=steel("GGG", 260), d_bore=12.0, d_i=26.0, b_s=8.0)
    | at(G2, material=steel("GG", 200), d_i=80.0, b_s=6.0, d_bore=30.0)
    | at(MESH, K_V_method="B", K_Hbeta_method="f_sh", f_sh=14.0, C_Hbeta=3.0, helix_modification="corrected")
    | at(DUTY, P=900.0, K_AP=2.2),
    "flame hardened under a spectrum": at(G1, material=steel("IF", 560)) | at(G2, material=steel("IF", 520))
    | at(DUTY, spectrum=LIFE, L_h=900.0)
    | at("defaults.", pitting_allowed=True, NT_1e10=1.0, phi_E=0.5),
    "core hardness and peened roots": at(G1, material=steel("Eh", 720, core="30 HRC", peened=True), CHD=1.1, HV_core=360)
    | at(G2, material=steel("Eh", 690, core="lower hardenability"), CHD=0.8, HV_core=310, treatment="much retained austenite")
    | at(DUTY, n=60.0, spectrum=LIFE),
    "coarse and cast": both(Q=12, Rz_H=25.0, Rz_F=60.0, material=steel("St cast", 170, grade="ML")) | at(DUTY, P=300.0, n=90.0),
    "tip forms and reliefs": at(G1, h_K=0.2, delta_K=40.0, flanks__C_alphaa=12.0, flanks__C_alphaf=6.0, flanks__relief="curved")
    | at(G2, rho_a=0.25, flanks__C_alphaa=10.0, flanks__l_Ca=1.6, flanks__relief="circular", flanks__C_alpha=4.0, flanks__C_Halpha=-3.0)
    | at(MESH, C_a=12.0, helix_modification="corrected and crowned", K_Hbeta_method="f_sh", C_beta=5.0),
    "shaped with a cutter": both(tool="pinion cutter", z_0=31, x_0=0.1, rho_fP=0.2) | at(MESH, load_at="tip"),
    "elliptic root and a form": at(G1, tool="elliptic", h_Ff=0.9, w_F=0.7) | at(G2, tool="form", rho_fP=0.3)
    | at(MESH, load_at="outer single contact"),
    "AGMA, helical and adjusted": AGMA | at(MESH, beta=18.0, mounting="extra precision", adjusted=True, K_s=1.1, A_v=8)
    | at("defaults.", reliability="0.999", critical_service=True) | at(G1, flanks__C_betaI=4.0, flanks__l_CI=6.0),
    "AGMA, low overlap, nitrided and through-hardened": AGMA | at(MESH, beta=6.0, mounting="open")
    | at(G1, material=steel("NV", 620), d_bore=14.0) | at(G2, material=steel("V", 280), d_i=88.0, d_bore=40.0)
    | at("defaults.", reliability="0.9999") | at(DUTY, spectrum=LIFE, L_h=40.0),
    "steel on polyamide": at(G1, material=steel("V", 260)) | at(G2, material={"group": "PA 66", "grade": "typical", "hardness": 80})
    | at("defaults.", plastics__heat="by friction", plastics__running="greased at assembly", plastics__housing="partly open", plastics__ED=40.0)
    | at(DUTY, P=120.0, n=700.0) | at(G2, swelling=0.4, k_W=1.2) | at("losses.", A_h=0.05),
    "polyoxymethylene in an oil bath": both(material={"group": "POM", "grade": "typical", "hardness": 80})
    | at("defaults.", plastics__heat="by friction", plastics__running="oil bath", plastics__housing="closed")
    | at(DUTY, P=60.0, n=300.0) | at(MESH, mu_pl=0.11),
    "all losses with the older report": BALANCE | at("losses.", method="ISO/TR 14179-1", friction="ISO/TR 14179-1", bearing="tapered roller", seal="NBR")
    | at(DUTY, n=2900.0, P=9000.0),
    "all losses along the path": BALANCE | at("losses.", friction="along the path", seals=1, l_hyd=320.0, A_h=0.9)
    | at("defaults.", lubricant=OIL | {"kind": "polyglycol"}) | at(DUTY, n=2200.0, P=7000.0),
    "warm gears in a cold housing": at("defaults.", theta_gears=70.0, theta_housing=35.0, alpha_housing=23.0, j_min=0.05, c_proc=0.01)
    | at(MESH, A_as=0.05, A_ai=-0.01) | at(DUTY, direction="clockwise"),
    "one wheel much wider": at(G1, b=44.0, S_Hmin=1.1) | at(G2, b=26.0, S_Fmin=1.8) | at("defaults.", S_Hstmin=1.1, S_Fstmin=1.6)
    | at(DUTY, spectrum=spectrum((1.0, 1.0, 3), (0.0, 0.7, 50), (0.9, 1.1, 2))),
    "high contact ratio": both(h_aP=1.3, h_fP=1.6, rho_fP=0.25, z=44, x=0.0) | at(MESH, alpha_n=17.5, K_V_method="B"),
}  # fmt: skip
"""Changes to a plain case-hardened pair."""


def odd_designs() -> dict[str, Design]:
    """Each with what it has."""
    result = {name: set_many(pair(), changes) for name, changes in PAIRS.items()}
    result["a ring, helical"] = set_many(demo("dome-ring"), at(MESH, beta=10.0) | at(G1, Q=6) | AGMA)
    result["a rack, helical"] = set_many(demo("dome-rack"), at(MESH, beta=12.0, K_V_method="B") | BALANCE)
    result["a set held at its sun"] = set_many(
        planet_set("planetary"),
        at("sets.set1.", held="sun", input="ring", output="carrier", floating=False, k_pl=40.0, e_pl=2.0),
    )
    result["a set held at its carrier"] = set_many(
        planet_set("planetary", planets=4, z=(24, 30, 84)),
        at("sets.set1.", held="carrier", output="ring", K_gamma=1.25) | BALANCE,
    )
    result["stepped planets"] = set_many(
        planet_set("stepped", (20, 40, 18, 78)), at("sets.set1.", K_gamma=1.1) | at("losses.", counted="all")
    )
    result["two rings"] = set_many(planet_set("two rings", (24, 84, 21, 81)), at(DUTY, spectrum=LIFE))
    result["an idler, AGMA"] = set_many(planet_set("idler", (24, 30, 84), 1), AGMA | at(DUTY, spectrum=LIFE))
    return result


def odd_lines() -> Iterator[str]:
    """What of each is otherwise than in the plain pair: the numbers of its tree that differ."""
    plain = set(tree_lines(evaluate(pair()).as_tree()))
    for name, design in odd_designs().items():
        yield f"# {name}"
        # Checks say the same again, notes are words.
        tree = {k: v for k, v in evaluate(design).as_tree().items() if k not in ("checks", "notes")}
        yield from (line for line in tree_lines(tree) if line not in plain)
