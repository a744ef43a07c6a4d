"""The document in the core's units: materials, gears and pairs as their ratings take them."""

from __future__ import annotations

from math import radians
from typing import Any

import numpy as np
from msgspec.structs import replace

from cooper.arrays import as_float, frozen
from cooper.document.duty import Defaults, Duty, Plastics
from cooper.document.gear_data import Gear, Material, Mesh
from cooper.document.models import GearSet, Stage, Train
from cooper.errors import OutOfRange
from cooper.gears.inputs import BY_QUALITY, FRICTIONS, OUTER_SINGLE, TIP_LOAD, GearInput, PairInput
from cooper.gears.tip import PLAIN, Tip
from cooper.i18n.text import tr
from cooper.kept import keeps
from cooper.rating.iso6336.case_depth import U_H
from cooper.rating.iso6336.nominal_load import K1_HELICAL, K1_SPUR
from cooper.rating.iso6336.uneven_load import ARRANGEMENTS, MODIFICATIONS
from cooper.results.solve_stage import Solved, tool_of
from cooper.stock.materials import MaterialNumbers, constant_law, groups, hardness_range, is_plastic, material_numbers
from cooper.stock.plastic_service import friction as plastic_friction
from cooper.stock.plastic_service import heat_numbers, housings
from cooper.values import GearValues


@keeps(256)
def material_of(material: Material) -> MaterialNumbers:
    """The numbers of a material; what it states of its own takes the place of the stock's."""
    numbers = material_numbers(
        material.group, material.grade, material.hardness, material.R_p02, 20.0, material.core, material.peened
    )
    own: dict[str, Any] = {k: as_float(v) for k in OWN if (v := getattr(material, k)) is not None}
    if numbers.law is not None:
        # A strength of one's own is one for all temperatures and cycles, a modulus one for all temperatures.
        law = {
            part: constant_law(float(own[s]))
            for part, s in (("flank", "sigma_Hlim"), ("root", "sigma_Flim"))
            if s in own
        }
        if "E" in own:
            law["E"] = np.array([[20.0], [float(own["E"])]])
        own["law"] = replace(numbers.law, **law)
    return frozen(replace(numbers, **own))


def stiffness_of(gear: Gear, g: GearValues[float], at: str = "theta_Fuss") -> tuple[float, float]:
    """E (MPa) and nu of a gear's teeth, those of plastics at the temperature of the root, or of the flank
    (``theta_Fla``)."""
    m = material_of(gear.material)
    E = float(m.E)
    if m.law is not None:
        E = float(np.interp(g.get(at, 20.0), *m.law.E))
    return E, float(m.nu)


OWN = ("sigma_Hlim", "sigma_Flim", "E", "density", "price_index")
"""What a material may state of its own in place of the stock's value."""


def _given(value: float | None) -> float:
    """A value, NaN where none is given."""
    return np.nan if value is None else value


def _gear_input(gear: Gear, solved: Solved, beta: float, i: int, k_theta: tuple[float, float]) -> GearInput:
    material, kind = gear.material, solved.kinds[i - 1]
    low, high = hardness_range(material.group, material.grade)
    if not 0.5 * low <= material.hardness <= 1.5 * high:
        scale = groups()[material.group]["hardness_scale"]
        raise OutOfRange(
            f"hardness_{i}",
            material.hardness,
            tr(
                "{name}, grade {grade}, has strength numbers for another hardness",
                name=groups()[material.group]["name"],
                grade=material.grade,
            ),
            low=low,
            high=high,
            unit=scale,
        )
    return GearInput(
        z=kind.count(gear.z),
        x=solved.x[i - 1],
        b=gear.b,
        d_a=np.nan if gear.d_a is None else solved.d_a[i - 1],
        h_aP=gear.h_aP,
        h_fP=gear.h_fP,
        rho_fP=gear.rho_fP,
        E_sns=gear.E_sns,
        E_sni=gear.E_sni,
        d_bore=kind.core_edge(gear, solved.m_n, beta),
        Rz_H=gear.Rz_H,
        Rz_F=gear.Rz_F,
        K_1=K1_SPUR[max(gear.Q, 3)],
        K_1_helical=K1_HELICAL[max(gear.Q, 3)],
        material=material_of(material),
        tool=tool_of(gear),
        tip=_tip(gear),
        pr_P=gear.pr_P,
        # Stock beyond the protuberance ends in a notch; the fillet beside it is that of the finished rack.
        q_P=min(gear.q_P, gear.pr_P),
        alpha_prP=radians(gear.alpha_prP),
        teeth_cut=kind.cut(gear.z),
        Q=float(gear.Q),
        R_bend=gear.R_bend if gear.bending == "both ways" else 0.0,
        swelling=gear.swelling / 100,
        t_g=gear.notch,
        rho_g=gear.rho_g,
        k_theta=k_theta,
        k_W=_given(gear.k_W),
        d_i=_given(gear.d_i),
        b_s=_given(gear.b_s),
        CHD=_given(gear.CHD) if material.group == "Eh" else np.nan,
        HV_s=material.hardness if material.group == "Eh" else np.nan,
        HV_core=_given(gear.HV_core) if material.group == "Eh" else np.nan,
        U_H=U_H.get(material.grade, U_H["MQ"]),
    )


LOAD_AT = {"by quality": BY_QUALITY, "outer single contact": OUTER_SINGLE, "tip": TIP_LOAD}


def _tip(gear: Gear) -> Tip:
    return Tip(gear.h_K, radians(gear.delta_K), gear.rho_a) if gear.h_K or gear.rho_a else PLAIN


def pair_input(
    stage: Stage, solved: Solved, duty: Duty, defaults: Defaults, T: float, omega: float, friction: str = FRICTIONS[0]
) -> PairInput:
    """A stage and its duty in the core's units."""
    mesh = stage.mesh
    one, two = stage.gears
    oil, at = defaults.lubricant, defaults.plastics
    materials = one.material.group, two.material.group
    heat = [heat_numbers(at.running, mate) for mate in reversed(materials)]
    gears = (
        _gear_input(one, solved, radians(mesh.beta), 1, heat[0]),
        _gear_input(two, solved, radians(mesh.beta), 2, heat[1]),
    )
    return PairInput(
        gears=gears,
        m_n=solved.m_n,
        alpha_n=radians(mesh.alpha_n),
        beta=radians(mesh.beta),
        f_ZCa=mesh.f_ZCa,
        a_w=solved.a_w,
        A_as=mesh.A_as,
        A_ai=mesh.A_ai,
        T_1=T,
        omega_1=omega,
        L_h=duty.L_h,
        K_A=duty.K_A,
        K_AP=_given(duty.K_AP),
        K_gamma=mesh.K_gamma,
        K_Hbeta=mesh.K_Hbeta,
        K_Halpha=mesh.K_Halpha,
        K_V_by_B=mesh.K_V_method == "B",
        K_Hbeta_by_C=mesh.K_Hbeta_method not in ("entered", "shafts"),
        K_Halpha_by_B=mesh.K_Halpha_method == "B",
        l_sh=mesh.l_sh,
        s_sh=mesh.s_sh,
        d_sh=mesh.d_sh,
        K_arranged=ARRANGEMENTS[mesh.arrangement][:2],
        wheel_bends=mesh.wheel_shaft == "counted",
        l_sh2=mesh.l_sh2,
        s_sh2=mesh.s_sh2,
        d_sh2=mesh.d_sh2,
        K_arranged2=ARRANGEMENTS[mesh.arrangement_2][:2],
        f_sh_given=mesh.f_sh if mesh.K_Hbeta_method == "f_sh" else np.nan,
        B_modified=MODIFICATIONS[mesh.helix_modification][:2],
        # Where the mesh states no relief of its own, the least relieved tip counts.
        C_a=mesh.C_a or min(f.C_alphaa for g in (one, two) for f in g.each_flanks),
        double_helix=mesh.double_helix,
        load_at=LOAD_AT[mesh.load_at],
        theta_oil=duty.theta_oil,
        nu_40=oil.nu_40,
        nu_100=oil.nu_100,
        rho_15=oil.rho_15,
        X_L=oil.X_L,
        NT_1e10=defaults.NT_1e10,
        pitting_allowed=defaults.pitting_allowed,
        theta_gears=defaults.theta_gears,
        theta_housing=defaults.theta_housing,
        alpha_housing=1e-6 * defaults.alpha_housing,
        friction=float(FRICTIONS.index(friction)),
        **_plastic_heat(at, mesh, materials, duty.theta_oil),
    )


def _plastic_heat(at: Plastics, mesh: Mesh, materials: tuple[str, str], theta_oil: float) -> dict[str, Any]:
    """What warms a pair with a plastic gear; the air and the housing, which the train knows, come with `in_train`."""
    if at.heat == "entered" or not any(is_plastic(group) for group in materials):
        return {}
    mu = mesh.mu_pl if mesh.mu_pl is not None else plastic_friction(at.running, *materials)[0]
    return {"warms": True, "mu_plastic": mu, "ED": at.ED / 100, "theta_0": theta_oil}


def meshes_of_planet(one: GearSet, mesh: int) -> int:
    """In how many loaded meshes the very gear of the planet stands that is in this one."""
    loaded = range(3 if one.sun_works else 2)
    of = one.arranged.stands_in(mesh)
    return sum(one.arranged.stands_in(n) == of for n in loaded) if mesh in loaded else 1


def among_planets(one: GearSet, mesh: int, pair: PairInput) -> PairInput:
    """A mesh of a set: as many of it as planets, sun and ring loaded by each planet once a turn."""
    if not one.arranged.around:
        middle = 1 - mesh
        gears = tuple(replace(g, meshes=2.0) if n == middle else g for n, g in enumerate(pair.gears))
    else:
        outer = 1 - one.arranged.at(mesh)
        planets = float(one.planets)
        # A planet between sun and ring is warmed by both meshes.
        own = float(meshes_of_planet(one, mesh))
        gears = tuple(
            replace(g, contacts=planets, meshes=planets) if n == outer else replace(g, meshes=own)
            for n, g in enumerate(pair.gears)
        )
    return replace(pair, gears=(gears[0], gears[1]), copies=float(one.planets))


def in_train(train: Train, k: int, pair: PairInput, P_beside: float = 0.0) -> PairInput:
    """The pair of stage k among its planets and, where plastics warm themselves, in the air of the housing, in which
    ``P_beside`` (W) is lost by the other meshes; teeth in an oil bath have the oil's temperature."""
    one = train.stages[k].within
    if one is not None:
        pair = among_planets(one, k - one.first, pair)
    elif max(many := train.stages[k].drives) > 1:
        # The teeth of a gear that drives more than one other are loaded by each once a turn.
        gears = tuple(replace(g, contacts=float(n), meshes=float(n)) for g, n in zip(pair.gears, many, strict=True))
        pair = replace(pair, gears=(gears[0], gears[1]))
    at = train.defaults.plastics
    if not pair.warms or at.running == "oil bath":
        return pair
    R = housings()[at.housing]["R"]
    return replace(pair, theta_0=train.losses.theta_air, R_by_A=R / train.losses.A_h if R else 0.0, P_beside=P_beside)
