"""Everything that is computed for spur and helical pairs, external or internal, as arrays over designs.

The one function behind the Bench, the Levers and every later search. Inputs in the core's units. An internal wheel has
a negative count; its diameters and the centre distance are then negative too.
"""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from cooper.arrays import Loose as Array
from cooper.arrays import Loose as Real
from cooper.arrays import frozen
from cooper.gears.contact import Path, path_of_contact, specific_sliding
from cooper.gears.cutter import FormCut, PinionCutter
from cooper.gears.internal import tip_gap
from cooper.gears.pair import reference_centre_distance
from cooper.gears.rack import Rack
from cooper.gears.root import RootForm, least_x_shaped, root_form
from cooper.gears.tip import PLAIN, Tip, land_half_angle, tip_form_diameter
from cooper.gears.tolerances import flank_tolerances
from cooper.gears.tooth import Tooth, least_x, shift_of_allowance, tip_diameter
from cooper.rating.iso6336 import contact as pitting
from cooper.rating.iso6336 import contact_strength as flank_strength
from cooper.rating.iso6336 import dynamic, form, life, load, root, running_in, sharing, stiffness
from cooper.rating.iso6336.case_depth import least_case_depth
from cooper.rating.lewis import lewis_form_factor, lewis_stress
from cooper.rating.plastics import flank_wear, housing_warming, tip_deflection, tooth_warming
from cooper.running.backlash import Backlash, backlash
from cooper.running.friction import coefficient_1, load_intensity, loss_along_path, loss_factor_1
from cooper.running.mesh_loss import friction_coefficient, loss_factor
from cooper.running.play import Play, centre_change_by_heat, play
from cooper.running.viscosity import density, dynamic_viscosity, kinematic_viscosity
from cooper.stock.materials import MaterialNumbers, at_temperature, plastic_strength

ROOT_OVERHANG = 1.0
"""Width beyond the mate, in modules each side, that still bears root load. ISO 6336-3:2019, 5."""
THINNING_THAT_COUNTS = 0.05
"""Thinning of the tooth, in modules, from which the root is rated with the generating shift. ISO 6336-3:2019, 6."""


@dataclass(frozen=True)
class GearInput:
    """One gear; mm, um for roughness. ``d_a`` NaN takes the rack's addendum.

    Of an internal gear ``d_bore`` is its outside diameter, negative like the others. ``tool`` None is a rack or hob;
    protuberance ``pr_P`` and stock ``q_P`` in mm, ``alpha_prP`` in rad. ``teeth_cut`` is the true count of a rack, whose
    ``z`` is the great one that stands for it. ``contacts`` loads of a flank in a turn, ``meshes`` those that warm the gear at once.
    Of plastics ``k_theta`` are the heat transfer numbers of flank and root, ``k_W`` the wear coefficient (mm3/MJ, NaN: none); of wheels with rim and web ``d_i`` the inner diameter of the
    rim and ``b_s`` the width of the web (mm, NaN: a solid disc); of case-hardened gears ``CHD`` the case depth
    (mm, NaN: not given) and ``U_H`` the hardening process factor (MPa).
    """

    z: Array
    x: Array
    b: Array
    d_a: Array
    h_aP: Array
    h_fP: Array
    rho_fP: Array
    E_sns: Array
    E_sni: Array
    d_bore: Array
    Rz_H: Array
    Rz_F: Array
    K_1: Array
    K_1_helical: Array
    material: MaterialNumbers
    tool: PinionCutter | FormCut | None = None
    tip: Tip = PLAIN
    pr_P: Array = 0.0
    q_P: Array = 0.0
    alpha_prP: Array = 0.0
    teeth_cut: Array | None = None
    Q: Array = 7.0
    R_bend: Array = 0.0
    swelling: Array = 0.0
    t_g: Array = 0.0
    rho_g: Array = 1.0
    contacts: Array = 1.0
    meshes: Array = 1.0
    k_theta: tuple[Array, Array] = (0.0, 0.0)
    k_W: Array = np.nan
    d_i: Array = np.nan
    b_s: Array = np.nan
    CHD: Array = np.nan
    U_H: Array = 66000.0


FRICTIONS = ("ISO/TR 14179-2", "ISO/TR 14179-1", "along the path")
"""The friction laws of the mesh, by `PairInput.friction`."""
BY_QUALITY, OUTER_SINGLE, TIP_LOAD = 0.0, 1.0, 2.0
"""Where the load of the root rating acts, as `PairInput.load_at`."""
COARSE = 9
"""Flank tolerance class from which two pairs of teeth no longer share a load that is too light for their pitch deviation."""


@dataclass(frozen=True)
class PairInput:
    """A pair under its duty; mm, N m, rad, rad/s, h, degrees C, mm2/s, kg/m3.

    ``f_sh_given`` (um, not NaN) takes the place of the misalignment that method C finds from the shafts: a full calculation of the
    shafts gives it.

    Plastic teeth have ``theta_gears``, or where ``warms`` is true the warmth of their friction ``mu_plastic`` above the air or oil
    ``theta_0`` around them: ``ED`` share of the time under load, ``R_by_A`` resistance over area of the housing (K/W), ``P_beside``
    power that other meshes lose in it (W).
    """

    gears: tuple[GearInput, GearInput]
    m_n: Array
    alpha_n: Array
    beta: Array
    f_ZCa: Array
    a_w: Array
    A_as: Array
    A_ai: Array
    T_1: Array
    omega_1: Array
    L_h: Array
    K_A: Array
    K_Hbeta: Array
    K_Halpha: Array
    theta_oil: Array
    nu_40: Array
    nu_100: Array
    rho_15: Array
    X_L: Array
    NT_1e10: Array
    pitting_allowed: Array
    double_helix: Array = False
    K_V_by_B: Array = False
    K_Hbeta_by_C: Array = False
    K_Halpha_by_B: Array = False
    l_sh: Array = 100.0
    s_sh: Array = 0.0
    d_sh: Array = 30.0
    K_arranged: tuple[Array, Array] = (0.48, 0.8)
    B_modified: tuple[Array, Array] = (1.0, 1.0)
    C_a: Array = 0.0
    theta_gears: Array = 20.0
    theta_housing: Array = 20.0
    alpha_housing: Array = 11.5e-6
    K_AP: Array = np.nan
    K_gamma: Array = 1.0
    load_at: Array = BY_QUALITY
    friction: Array = 0.0
    copies: Array = 1.0
    warms: Array = False
    theta_0: Array = 20.0
    mu_plastic: Array = 0.2
    ED: Array = 1.0
    R_by_A: Array = 0.0
    P_beside: Array = 0.0
    wheel_bends: Array = False
    l_sh2: Array = 100.0
    s_sh2: Array = 0.0
    d_sh2: Array = 30.0
    K_arranged2: tuple[Array, Array] = (0.48, 0.8)
    f_sh_given: Array = np.nan


Values = dict[str, Array]


@dataclass(frozen=True)
class PairNumbers:
    """Values by ISO symbol in the core's units: of the mesh and of each gear; the teeth as made; the path of contact; the input
    with its plastics at the temperature of their teeth."""

    mesh: Values
    gears: tuple[Values, Values]
    teeth: tuple[Tooth, Tooth]
    forms: tuple[RootForm, RootForm]
    path: Path
    pair: PairInput


_TEETH: OrderedDict[tuple[object, ...], Tooth] = OrderedDict()
TEETH_KEPT = 96
"""Teeth that are kept: with a tooth stay its root form, outline and areas, so that an edit finds anew only what it alters."""


def make_tooth(gear: GearInput, m_n: Array, alpha_n: Array, beta: Array = 0.0) -> Tooth:
    """The tooth at the middle of its thickness allowance; for plain numbers the same object as before for the same numbers."""
    d_a = None if np.ndim(gear.d_a) == 0 and np.isnan(gear.d_a) else gear.d_a
    key = (gear.z, gear.x, d_a, gear.h_aP, gear.h_fP, gear.rho_fP, gear.E_sns, gear.E_sni, gear.tool, gear.tip, gear.pr_P, gear.q_P,
           gear.alpha_prP, m_n, alpha_n, beta)  # fmt: skip
    try:
        found = _TEETH.get(key)
    except TypeError:
        # Arrays have no hash.
        return _make_tooth(gear, m_n, alpha_n, beta)
    if found is None:
        found = _TEETH[key] = frozen(_make_tooth(gear, m_n, alpha_n, beta))
        if len(_TEETH) > TEETH_KEPT:
            _TEETH.popitem(last=False)
    else:
        _TEETH.move_to_end(key)
    return found


def _make_tooth(gear: GearInput, m_n: Array, alpha_n: Array, beta: Array) -> Tooth:
    rack = Rack(
        np.asarray(alpha_n), np.asarray(gear.h_aP), np.asarray(gear.h_fP), np.asarray(gear.rho_fP),
        np.asarray(gear.pr_P) / m_n, np.asarray(gear.q_P) / m_n, np.asarray(gear.alpha_prP),
    )  # fmt: skip
    mean = (np.asarray(gear.E_sns) + gear.E_sni) / 2
    x_E = gear.x + shift_of_allowance(mean, m_n, alpha_n)
    d_a = np.where(np.isnan(gear.d_a), tip_diameter(gear.z, m_n, beta, gear.x, gear.h_aP), gear.d_a)
    z = np.asarray(gear.z, dtype=float)
    return Tooth(z, np.asarray(m_n), np.asarray(beta), gear.x, x_E, rack, d_a, gear.tool, gear.tip)


def first_is_pinion(p: PairInput) -> Array:
    """Whether gear 1 is the pinion: the gear with fewer teeth, whoever drives; of equal ones that with more shift."""
    (z_1, x_1), (z_2, x_2) = ((np.abs(np.asarray(g.z, dtype=float)), np.asarray(g.x, dtype=float)) for g in p.gears)
    return (z_1 < z_2) | ((z_1 == z_2) & (x_1 >= x_2))


def pair_numbers(p: PairInput) -> PairNumbers:
    """All numbers of pairs; see the module text. No exceptions: what cannot be is NaN."""
    teeth = (make_tooth(p.gears[0], p.m_n, p.alpha_n, p.beta), make_tooth(p.gears[1], p.m_n, p.alpha_n, p.beta))
    forms = (root_form(teeth[0]), root_form(teeth[1]))
    mesh, path = _geometry(p, teeth, forms)
    gears = tuple(_gear_geometry(p, i, teeth, forms, mesh, path) for i in (0, 1))
    _play(p, mesh, gears)
    _loads(p, mesh, gears)
    mesh["H_V"] = loss_factor(p.gears[0].z, mesh["u"], mesh["beta_b"], mesh["eps_alpha"], path.eps_1, path.eps_2)
    p = _with_plastics(p, mesh, gears)
    load_factors(p, teeth, mesh, gears)
    _contact(p, teeth, mesh, gears)
    for i in (0, 1):
        _root(p, i, teeth[i], mesh, gears[i])
    _losses(p, mesh, path)
    return PairNumbers(mesh, (gears[0], gears[1]), teeth, forms, path, p)


def any_plastic(p: PairInput) -> bool:
    """Whether a gear of the pairs is of plastic."""
    return bool(np.any([np.any(np.asarray(g.material.plastic) > 0) for g in p.gears]))


def _with_plastics(p: PairInput, mesh: Values, gears: tuple[Values, ...]) -> PairInput:
    """The input with its plastics at the temperature of their teeth; deflection and wear into the values. VDI 2736-2."""
    if not any_plastic(p):
        return p
    P_loss = p.T_1 * p.omega_1 * p.mu_plastic * mesh["H_V"]
    warms = np.asarray(p.warms, dtype=bool)
    around = p.theta_0 + housing_warming(P_loss * p.copies + p.P_beside, p.R_by_A, 1.0, p.ED)
    warm_gears = []
    for i, (gear, g) in enumerate(zip(p.gears, gears, strict=True)):
        if not np.any(np.asarray(gear.material.plastic) > 0):
            warm_gears.append(gear)
            continue
        own = [tooth_warming(P_loss * gear.meshes, mesh["b_H"], gears[0]["z"] if gear.teeth_cut is not None else g["z"], mesh["v"], p.m_n, k, p.ED)
               for k in gear.k_theta]  # fmt: skip
        flank, root_ = (np.where(warms, around + k, p.theta_gears) for k in own)
        g["theta_Fla"], g["theta_Fuss"] = flank, root_
        warm_gears.append(replace(gear, material=at_temperature(gear.material, flank, root_)))
        # From the flank's end at the root to its end at the tip along the involute.
        l_Fl = np.abs(g["d_Na"] ** 2 - g["d_Nf"] ** 2) / (4 * np.abs(g["d_b"]))
        g["l_Fl"] = l_Fl
        if np.all(np.isfinite(gear.k_W)):
            # The teeth of a rack share the work that its pinion does in all its turns.
            z, T, N_L = g["z"], p.T_1 * (1.0 if i == 0 else np.abs(mesh["u"])), g["N_L"]
            if gear.teeth_cut is not None:
                z, T, N_L = np.asarray(gear.teeth_cut), p.T_1, gears[0]["N_L"]
            g["k_W"], g["delta_W"] = np.asarray(gear.k_W), flank_wear(T, N_L, mesh["H_V"], gear.k_W, mesh["b_H"], z, l_Fl)
    p = replace(p, gears=(warm_gears[0], warm_gears[1]))
    mesh["lambda_t"] = tip_deflection(mesh["F_t"] * mesh["K_A"] * mesh["K_gamma"], mesh["b_H"], p.beta, *_stiff_as(p))
    return p


def _stiff_as(p: PairInput) -> list[Array]:
    """Moduli of the teeth as a whole: of plastics at the temperature of their roots."""
    return [g.material.E if g.material.E_root is None else g.material.E_root for g in p.gears]


def _geometry(p: PairInput, teeth: tuple[Tooth, Tooth], forms: tuple[RootForm, RootForm]) -> tuple[Values, Path]:
    one, two = teeth
    alpha_t = one.alpha_t
    a = reference_centre_distance(one.z, two.z, p.m_n, p.beta)
    ratio = a * np.cos(alpha_t) / p.a_w
    alpha_wt = np.arccos(np.where(np.abs(ratio) < 1, ratio, np.nan))
    p_et = np.pi * one.m_t * np.cos(alpha_t)
    d_Fa1, d_Fa2 = tip_form_diameter(one), tip_form_diameter(two)
    path = path_of_contact(one.d_b, two.d_b, d_Fa1, d_Fa2, forms[0].d_Ff, forms[1].d_Ff, p.a_w, p_et)
    u = two.z / one.z
    eps_alpha = path.eps_alpha
    # Each half of a double helix overlaps by itself. ISO 6336-1:2019, 4.
    width = np.minimum(p.gears[0].b, p.gears[1].b) / np.where(p.double_helix, 2, 1)
    eps_beta = width * np.sin(p.beta) / (np.pi * p.m_n)
    mesh = {
        "u": u, "m_n": np.asarray(p.m_n), "alpha_n": np.asarray(p.alpha_n), "beta": np.asarray(p.beta), "beta_b": one.beta_b,
        "f_ZCa": np.asarray(p.f_ZCa), "a": a,
        "a_w": np.asarray(p.a_w), "x_sum": one.x + two.x, "alpha_t": alpha_t, "alpha_wt": alpha_wt, "p_et": p_et,
        "eps_alpha": eps_alpha, "eps_beta": eps_beta, "eps_gamma": eps_alpha + eps_beta,
        "g_alpha": path.E - path.A, "g_A": path.A, "g_B": path.B, "g_C": path.C, "g_D": path.D, "g_E": path.E,
    }  # fmt: skip
    if np.any(two.z < 0):
        mesh["c_tip"] = tip_gap(one, two, p.a_w, alpha_wt)
    return mesh, path


def _gear_geometry(
    p: PairInput,
    i: int,
    teeth: tuple[Tooth, Tooth],
    forms: tuple[RootForm, RootForm],
    mesh: Values,
    path: Path,
) -> Values:
    tooth, mate, gear = teeth[i], teeth[1 - i], p.gears[i]
    # Distances of the path's ends from this gear's own base tangent point.
    near, far = (path.A, path.E) if i == 0 else (path.T2 - path.E, path.T2 - path.A)
    reach = path.tip_2 if i == 0 else path.T2 - path.tip_1
    u_own = mate.z / tooth.z
    r_b = tooth.d_b / 2
    # Past the base tangent point the mate's tip meets no involute at all; the reach goes on below the base circle.
    r_reach = tooth.sign * np.where((reach >= 0) | (tooth.sign < 0), np.hypot(r_b, reach), r_b + reach)
    land = 2 * np.cos(np.arctan(np.tan(tooth.beta) * tooth.d_a / tooth.d)) * np.abs(tooth.d_a) / 2
    with np.errstate(divide="ignore"):
        root_end, tip_end = (specific_sliding(g, path.T2, u_own)[0] for g in (near, far))
    return {
        "z": tooth.z, "x": np.asarray(tooth.x), "x_E": tooth.x_E,
        "z_n": form.virtual_tooth_count(tooth.z, tooth.beta, tooth.beta_b), "p_z": _lead(tooth),
        "h_aP": tooth.rack.h_aP, "h_fP": tooth.rack.h_fP, "rho_fP": tooth.rack.rho_fP,
        "d": tooth.d, "d_b": tooth.d_b, "d_a": tooth.d_a, "d_f": tooth.d_f_nominal, "d_fE": tooth.d_f,
        "d_w": 2 * mesh["a_w"] / (1 + u_own),
        "d_Ff": forms[i].d_Ff, "d_Nf": tooth.sign * np.hypot(tooth.d_b, 2 * near),
        "d_Fa": tip_form_diameter(tooth), "d_Na": tooth.sign * np.hypot(tooth.d_b, 2 * far),
        "h": (tooth.d_a - tooth.d_f_nominal) / 2, "s_n": tooth.s_yn(tooth.d, tooth.x), "s_nE": tooth.s_yn(tooth.d),
        "s_an": tooth.s_yn(tooth.d_a, tooth.x), "s_anE": land * land_half_angle(tooth),
        "c": mesh["a_w"] - tooth.d_a / 2 - mate.d_f_nominal / 2, "b": np.asarray(gear.b), "d_bore": np.asarray(gear.d_bore),
        "c_F": r_reach - forms[i].d_Ff / 2, "undercut": forms[i].undercut.astype(float),
        "s_R": (tooth.d_f - _rim_edge(gear)) / 2, "zeta_f": root_end, "zeta_a": tip_end,
        "E_sns": np.asarray(gear.E_sns), "E_sni": np.asarray(gear.E_sni),
        "Rz_H": np.asarray(gear.Rz_H), "Rz_F": np.asarray(gear.Rz_F), "R_bend": np.asarray(gear.R_bend),
        **_tool_values(tooth),
    }  # fmt: skip


def _rim_edge(gear: GearInput) -> Array:
    """Inner diameter of the rim: of a solid disc its bore; outside diameter of a ring, negative."""
    return np.where(np.isnan(gear.d_i), gear.d_bore, gear.d_i)


def _tool_values(tooth: Tooth) -> Values:
    """What only some tools have: the least shift without undercut; how a pinion cutter stands."""
    values: Values = {}
    if not isinstance(tooth.tool, FormCut) and np.all(tooth.sign > 0):
        values["x_min"] = least_x(tooth.z, tooth.beta, tooth.rack) if tooth.tool is None else least_x_shaped(tooth)
    if isinstance(tooth.tool, PinionCutter):
        values |= {"z_0": np.asarray(tooth.tool.z_0), "a_0": tooth.cut.a_0, "alpha_w0": tooth.cut.alpha_w0}
    return values


def _lead(tooth: Tooth) -> Array:
    """Lead of the helix, 0 for a spur gear; mm. ISO 21771:2007, 4.2."""
    tangent = np.tan(np.asarray(tooth.beta, dtype=float))
    return np.where(tangent > 0, np.pi * tooth.d / np.where(tangent > 0, tangent, 1.0), 0.0)


def _play(p: PairInput, mesh: Values, gears: tuple[Values, ...]) -> None:
    def at(e: tuple[Array, Array], a_w: Array) -> Backlash:
        x = [g.x + shift_of_allowance(s, p.m_n, p.alpha_n) for g, s in zip(p.gears, e, strict=True)]
        return backlash(p.gears[0].z, p.gears[1].z, p.m_n, p.alpha_n, p.beta, x[0], x[1], a_w)

    one, two = p.gears
    # An internal pair has least play at its greatest centre distance.
    inside = np.asarray(p.a_w) < 0
    least = at((one.E_sns, two.E_sns), p.a_w + np.where(inside, -np.asarray(p.A_as), p.A_ai))
    most = at((one.E_sni, two.E_sni), p.a_w + np.where(inside, -np.asarray(p.A_ai), p.A_as))
    mean = at(((one.E_sns + one.E_sni) / 2, (two.E_sns + two.E_sni) / 2), p.a_w)
    for end, found in (("min", least), ("max", most)):
        mesh[f"j_wt_{end}"], mesh[f"j_bn_{end}"] = found.j_wt, found.j_bn
        gears[0][f"j_phi_{end}"], gears[1][f"j_phi_{end}"] = found.phi_1, found.phi_2
    mesh["j_wt"] = mean.j_wt


def service_play(p: PairInput, mesh: Values, gears: tuple[Values, ...]) -> Play:
    """Play in service of arrays of pairs: tolerances, run-out by flank class, temperature."""
    one, two = p.gears

    def limits(g: GearInput) -> tuple[Array, Array]:
        low, high = (g.x + shift_of_allowance(e, p.m_n, p.alpha_n) for e in (g.E_sni, g.E_sns))
        return low, high

    inside = np.asarray(p.a_w) < 0
    ends = [p.a_w + np.where(inside, -np.asarray(A), A) for A in (p.A_ai, p.A_as)]
    heat = centre_change_by_heat(
        p.a_w, gears[0]["d_w"] / 2, gears[1]["d_w"] / 2, one.material.expansion, two.material.expansion, p.alpha_housing,
        p.theta_gears, p.theta_housing, one.swelling, two.swelling,
    )  # fmt: skip
    return play(
        one.z, two.z, p.m_n, p.alpha_n, p.beta, limits(one), limits(two), (ends[0], ends[1]),
        (gears[0]["F_rT"], gears[1]["F_rT"]), heat,
    )  # fmt: skip


def _loads(p: PairInput, mesh: Values, gears: tuple[Values, ...]) -> None:
    one, two = gears
    F_t = load.tangential_force(p.T_1, one["d"])
    v = load.circumferential_speed(one["d"], p.omega_1)
    b_H = np.minimum(one["b"], two["b"])
    w_t = p.K_A * p.K_gamma * F_t / b_H
    vz = load.speed_parameter(v, one["z"], mesh["u"])
    K_1 = np.maximum(p.gears[0].K_1, p.gears[1].K_1)
    K_1_helical = np.maximum(p.gears[0].K_1_helical, p.gears[1].K_1_helical)
    depth = np.maximum(one["h"], two["h"])
    turns = p.omega_1 * 3600 * p.L_h / (2 * np.pi)
    cut = p.gears[1].teeth_cut
    # Over its life the pinion's teeth meet those of a rack evenly.
    # Among planets a tooth of sun or ring is loaded once by each of them.
    one["N_L"] = turns * p.gears[0].contacts
    two["N_L"] = p.gears[1].contacts * (turns / np.abs(mesh["u"]) if cut is None else turns * one["z"] / cut)
    for g in gears:
        g["b_F"] = np.minimum(g["b"], b_H + 2 * ROOT_OVERHANG * p.m_n)
    mesh.update(
        F_t=F_t, v=v, b_H=b_H, w_t=w_t, vz=vz, K_A=np.asarray(p.K_A), K_gamma=np.asarray(p.K_gamma),
        K_AP=np.where(np.isnan(p.K_AP), p.K_A, p.K_AP),
        F_bt=F_t / np.cos(mesh["alpha_t"]), F_a=np.where(p.double_helix, 0.0, F_t * np.tan(p.beta)),
        F_r=2000 * p.T_1 / one["d_w"] * np.tan(mesh["alpha_wt"]),
        K_V=load.dynamic_factor_c(K_1, w_t, vz, mesh["eps_beta"], K_1_helical),
    )  # fmt: skip
    mesh["depth"] = depth


def load_factors(p: PairInput, teeth: tuple[Tooth, Tooth], mesh: Values, gears: tuple[Values, ...]) -> None:
    """K_V, K_Hbeta and K_Halpha by the methods chosen, with the stiffness and the deviations behind them. ISO 6336-1:2019.

    In the standard's order: K_V, then K_Hbeta with it, then K_Halpha with both. A value that is entered stands as it is.
    """
    mat = [g.material for g in p.gears]
    first = first_is_pinion(p)

    def by_size(a: Real, b: Real) -> tuple[Array, Array]:
        """The value of the pinion and that of the wheel from those of gear 1 and gear 2."""
        return np.where(first, a, b), np.where(first, b, a)

    def of(symbol: str) -> tuple[Array, Array]:
        return by_size(gears[0][symbol], gears[1][symbol])

    h_fP = (gears[0]["h_fP"] + gears[1]["h_fP"]) / 2
    stiff = stiffness.single_stiffness(*of("z_n"), *of("x"), h_fP, p.alpha_n, p.beta, mesh["w_t"], *_stiff_as(p))
    if any(np.any(np.isfinite(g.d_i)) for g in p.gears):
        # Two unlike blanks: the mean of both.
        blanks = [np.where(np.isnan(i.d_i) | np.isnan(i.b_s), 1.0, stiffness.blank_factor(i.b_s, i.b, g["s_R"], p.m_n)) for i, g in zip(p.gears, gears, strict=True)]
        mesh["C_R"] = (blanks[0] + blanks[1]) / 2
        stiff = stiff * mesh["C_R"]
    c_gamma, c_beta = stiffness.mesh_stiffness(stiff, mesh["eps_alpha"])
    # A rack is held to the deviations of its pinion's diameter.
    d_tol = [teeth[0].d, teeth[0].d if p.gears[1].teeth_cut is not None else np.abs(teeth[1].d)]
    halves = np.where(p.double_helix, 2, 1)
    each = [flank_tolerances(d, p.m_n, g["b"] / halves, i.Q) for d, g, i in zip(d_tol, gears, p.gears, strict=True)]
    f_pb = np.maximum(each[0]["f_pT"], each[1]["f_pT"]) * np.cos(mesh["alpha_t"])
    f_fa = np.maximum(each[0]["f_falphaT"], each[1]["f_falphaT"])
    f_Hbeta = [e["f_HbetaT"] for e in each]
    f_ma = np.hypot(*f_Hbeta)
    v = mesh["v"]

    def less(deviation: Array, allowance: Callable[[Real, Real, Real, Real], Array]) -> Array:
        y = [allowance(m.running_in, m.sigma_Hlim, deviation, v) for m in mat]
        return deviation - (y[0] + y[1]) / 2

    f_pbeff, f_faeff = less(f_pb, running_in.profile_allowance), less(f_fa, running_in.profile_allowance)
    bodies = [dynamic.disc_mass(t.d_a, t.d_f, _rim_edge(g), m.density) for t, g, m in zip(teeth, p.gears, mat, strict=True)]
    small, large = zip(*(by_size(a, b) for a, b in zip(*bodies, strict=True)), strict=True)
    u = mesh["u"]
    m_red = dynamic.reduced_mass(of("d_b")[0], by_size(u, 1 / u)[0], small, large)
    n_E1 = dynamic.resonance_speed(of("z")[0], c_gamma, m_red)
    N = by_size(p.omega_1, p.omega_1 / np.abs(u))[0] * 30 / np.pi / n_E1
    C_ay = dynamic.running_in_relief(mat[0].sigma_Hlim, mat[1].sigma_Hlim)
    # Only fine flanks can rely on tip relief; from class 6 on the standard takes B_k = 1.
    relief = np.where(np.asarray(p.C_a) > 0, p.C_a, C_ay)
    fine = np.maximum(p.gears[0].Q, p.gears[1].Q) <= 5
    B_k = np.where(fine, np.abs(1 - stiff * relief / mesh["w_t"]), 1.0)
    K_V_b = dynamic.dynamic_factor_b(N, mesh["w_t"], mesh["eps_gamma"], stiff, f_pbeff, f_faeff, B_k)
    K_V = np.where(p.K_V_by_B, K_V_b, mesh["K_V"])
    line = mesh["w_t"] * K_V
    half = mesh["b_H"] / np.where(p.double_helix, 2, 1)
    d_pinion = of("d")[0]
    f_sh = sharing.shaft_deflection(line, _shaft_bracket(p, gears, d_pinion, of("d")[1], half), p.double_helix)
    f_sh = np.where(np.isnan(p.f_sh_given), f_sh, p.f_sh_given)
    F_betax = sharing.initial_misalignment(f_sh, f_ma, *p.B_modified)
    F_betax = np.maximum(F_betax, sharing.least_misalignment(line, np.maximum(*f_Hbeta)))
    F_betay = less(F_betax, running_in.helix_allowance)
    K_Hbeta = np.where(p.K_Hbeta_by_C, sharing.face_load_factor(F_betay, c_beta, line), p.K_Hbeta)
    Z_eps = pitting.contact_ratio_factor(mesh["eps_alpha"], mesh["eps_beta"])
    # The profile form deviation stands for the pitch where it is the greater one.
    f_alpha = less(np.maximum(f_pb, f_fa), running_in.profile_allowance)
    K_Ha, K_Fa = sharing.transverse_load_factor(
        mesh["eps_gamma"], mesh["eps_alpha"], Z_eps, c_gamma, f_alpha, line * K_Hbeta
    )
    for g, deviations in zip(gears, each, strict=True):
        g["F_rT"] = deviations["F_rT"] / 1000
    if p.gears[1].teeth_cut is None:
        service = service_play(p, mesh, gears)
        mesh.update(
            j_op=service.mean, j_heat=service.by_heat, j_op_min=service.worst[0], j_op_max=service.worst[1],
            j_rss_min=service.statistical[0], j_rss_max=service.statistical[1],
        )  # fmt: skip
    mesh.update(
        c_s=stiff, f_alphaeff=f_alpha, c_gamma=c_gamma, m_red=m_red, n_E1=n_E1 * np.pi / 30, N_res=N, f_pbeff=f_pbeff, f_faeff=f_faeff, C_ay=C_ay,
        K_V=K_V, f_ma=f_ma, f_sh=f_sh, F_betax=F_betax, F_betay=F_betay, K_Hbeta=K_Hbeta,
        K_Halpha=np.where(p.K_Halpha_by_B, K_Ha, p.K_Halpha), K_Falpha=np.where(p.K_Halpha_by_B, K_Fa, p.K_Halpha),
        K_Fbeta=load.root_face_load_factor(K_Hbeta, half, mesh.pop("depth")),
    )  # fmt: skip


def _shaft_bracket(p: PairInput, gears: tuple[Values, ...], d_pinion: Array, d_wheel: Array, half: Array) -> Array:
    """The bracket of f_sh: of the pinion's shaft, of the wheel's where it counts, or of sun and pin among planets."""

    def K(arranged: tuple[Array, Array], d: Array, d_sh: Array) -> Array:
        return np.where(np.abs(d) / np.asarray(d_sh) >= sharing.STIFFENED, *arranged)

    bracket = sharing.pinion_factor(K(p.K_arranged, d_pinion, p.d_sh), p.l_sh, p.s_sh, d_pinion, p.d_sh, half, p.double_helix)
    # Both shafts lean away from each other; where they do not, this is on the safe side.
    other = sharing.pinion_factor(K(p.K_arranged2, d_wheel, p.d_sh2), p.l_sh2, p.s_sh2, np.abs(d_wheel), p.d_sh2, half, p.double_helix)
    bracket = bracket + np.where(np.asarray(p.wheel_bends, dtype=bool), other, 0.0)
    for own, mate, d_mate in ((p.gears[0], gears[0], gears[1]["d"]), (p.gears[1], gears[1], gears[0]["d"])):
        sun = np.where(mate["z"] > 0, mate["d"], np.inf)
        among = sharing.planet_factor(own.contacts, sun, K(p.K_arranged, d_mate, p.d_sh), p.l_sh, p.s_sh, d_mate, p.d_sh, half)
        bracket = np.where(np.asarray(own.contacts) > 1, among, bracket)
    return bracket


def _contact(p: PairInput, teeth: tuple[Tooth, Tooth], mesh: Values, gears: tuple[Values, ...]) -> None:
    one, two = gears
    mat = [g.material for g in p.gears]
    alpha_wt, u = mesh["alpha_wt"], mesh["u"]
    Z_H = pitting.zone_factor(mesh["alpha_t"], alpha_wt, mesh["beta_b"])
    Z_E = pitting.elasticity_factor(mat[0].E, mat[0].nu, mat[1].E, mat[1].nu)
    Z_eps = pitting.contact_ratio_factor(mesh["eps_alpha"], mesh["eps_beta"])
    Z_beta = pitting.helix_factor_contact(mesh["beta"])
    sigma_H0 = pitting.nominal_contact_stress(Z_H, Z_E, Z_eps, Z_beta, mesh["F_t"], one["d"], mesh["b_H"], u)
    Z_B, Z_D = pitting.single_contact_factors(
        alpha_wt,
        one["d_Na"],
        one["d_b"],
        one["z"],
        two["d_Na"],
        two["d_b"],
        two["z"],
        mesh["eps_alpha"],
        mesh["eps_beta"],
        p.f_ZCa,
    )
    # A ring's flank wraps around the pinion's: its pressure is greatest at the pitch point.
    Z_D = np.where(two["z"] < 0, 1.0, Z_D)
    rho_red = flank_strength.reduced_radius(one["d_b"], two["d_b"], alpha_wt, mesh["beta_b"])
    softer = np.minimum(mat[0].sigma_Hlim, mat[1].sigma_Hlim)
    Z_L = flank_strength.lubricant_factor(softer, p.nu_40)
    Z_V = flank_strength.velocity_factor(softer, mesh["v"])
    Z_R = flank_strength.roughness_factor(softer, one["Rz_H"], two["Rz_H"], rho_red)
    sigma_load = np.sqrt(mesh["F_t"] / (one["d"] * mesh["b_H"]) * (u + 1) / u)
    mesh.update(Z_H=Z_H, Z_E=Z_E, Z_eps=Z_eps, Z_beta=Z_beta, sigma_H0=sigma_H0, rho_red=rho_red, sigma_load=sigma_load)
    K = mesh["K_A"] * mesh["K_gamma"] * mesh["K_V"] * mesh["K_Hbeta"] * mesh["K_Halpha"]
    # The greatest load meets the load factors of the running one.
    mesh["K_peak"] = mesh["K_AP"] / mesh["K_A"]
    peak = np.sqrt(mesh["K_peak"])
    F_t = mesh["F_t"]
    for i, (g, Z_BD) in enumerate(zip(gears, (Z_B, Z_D), strict=True)):
        own = mat[i]
        corners = np.where(p.pitting_allowed, own.Z_N_pitting, own.Z_N)
        share = life.endurance_share(g["N_L"], corners)
        held = np.asarray(own.in_standard) > 0
        sigma_Hlim = _strength_number(own.sigma_Hlim, own.flank_life, own.plastic, g["N_L"])
        Z_W, Z_W_static = _work_hardening(p, i, mesh, gears)
        film = [np.where(held, factor, 1.0) for factor in (Z_L, Z_V, Z_R)]
        g.update(
            sigma_Hlim=sigma_Hlim, Z_BD=Z_BD, sigma_H=Z_BD * sigma_H0 * np.sqrt(K),
            Z_NT=_life(own.plastic, g["N_L"], corners, p.NT_1e10),
            Z_L=life.between(1, film[0], share), Z_V=life.between(1, film[1], share), Z_R=life.between(1, film[2], share),
            Z_W=life.between(Z_W_static, Z_W, share), Z_X=np.full_like(F_t, flank_strength.Z_X),
        )  # fmt: skip
        factors = g["Z_NT"] * g["Z_L"] * g["Z_V"] * g["Z_R"] * g["Z_W"] * g["Z_X"]
        g["sigma_HG"] = sigma_Hlim * factors
        g["S_H"] = g["sigma_HG"] / g["sigma_H"]
        static = _strength_number(own.sigma_Hlim, own.flank_life, own.plastic, 0.0)
        g["Z_NTst"], g["Z_Wst"] = corners[1, 0] + 0 * F_t, Z_W_static
        g["sigma_Hlim_st"] = np.asarray(static)
        g["sigma_HGst"] = static * corners[1, 0] * Z_W_static
        g["sigma_Hpk"] = g["sigma_H"] * peak
        g["sigma_HGref"] = own.sigma_Hlim * film[0] * film[1] * film[2] * Z_W * flank_strength.Z_X
        g["S_Hst"] = g["sigma_HGst"] / g["sigma_Hpk"]
        if np.all(np.isfinite(p.gears[i].CHD)):
            g["CHD"], g["CHD_c"] = np.asarray(p.gears[i].CHD), least_case_depth(g["sigma_H"], rho_red, p.gears[i].U_H)


def _strength_number(metal: Array, life_of: Array, plastic: Array, N_L: Array) -> Array:
    """The strength number: of metals a constant, of plastics one of the load cycles."""
    if not np.any(plastic):
        return np.asarray(metal)
    return np.where(np.asarray(plastic) > 0, plastic_strength(life_of, N_L), metal)


def _life(plastic: Array, N_L: Array, corners: Array, at_1e10: Array) -> Array:
    """The life factor; 1 for plastics, whose strength number holds the life already."""
    return np.where(np.asarray(plastic) > 0, 1.0, life.life_factor(N_L, corners, at_1e10))


def _work_hardening(p: PairInput, i: int, mesh: Values, gears: tuple[Values, ...]) -> tuple[Array, Array]:
    """Z_W of one gear at the reference life and for static strength; 1 where its mate is not the harder one."""
    own, mate = p.gears[i].material, p.gears[1 - i].material
    R_zH = flank_strength.equivalent_roughness(
        gears[1 - i]["Rz_H"], gears[i]["Rz_H"], mesh["rho_red"], p.nu_40, mesh["v"]
    )
    soft = ~np.asarray(own.surface_hardened, dtype=bool) & np.isfinite(own.HB)
    mate_surface = np.asarray(mate.surface_hardened, dtype=bool)
    # A steel wheel that a harder steel pinion, the gear with fewer teeth, rolls hard.
    wheel = np.abs(gears[i]["z"]) >= np.abs(gears[1 - i]["z"])
    steel = (np.asarray(own.steel) > 0) & (np.asarray(mate.steel) > 0)
    applies = soft & steel & wheel & (mate_surface | (mate.HB > own.HB))
    u = np.abs(mesh["u"])
    u = np.maximum(u, 1 / u)
    reference = flank_strength.work_hardening_factor(own.HB, mate.HB, mate.surface_hardened, R_zH, u)
    static = np.where(mate_surface, flank_strength.static_work_hardening_factor(own.HB), 1.0)
    return np.where(applies, reference, 1.0), np.where(applies, static, 1.0)


def _root_shift(p: PairInput, tooth: Tooth, g: Values) -> Array:
    """The shift that the root is rated with: the nominal one until thinning counts."""
    thinning = -(g["E_sns"] + g["E_sni"]) / 2
    return np.where(thinning > THINNING_THAT_COUNTS * p.m_n, tooth.x_E, tooth.x)


def add_lewis(p: PairInput, n: PairNumbers) -> None:
    """Lewis's factor and stress, beside the rating and not part of it: it takes longer than all the rest together."""
    for tooth, g in zip(n.teeth, n.gears, strict=True):
        Y_L = lewis_form_factor(tooth, _root_shift(p, tooth, g))
        g.update(Y_L=Y_L, sigma_L=lewis_stress(n.mesh["F_t"], g["b_F"], p.m_n, Y_L))


def _root(p: PairInput, i: int, tooth: Tooth, mesh: Values, g: Values) -> None:
    own, rack = p.gears[i].material, tooth.rack
    x_root = _root_shift(p, tooth, g)
    plastic = np.asarray(own.plastic) > 0
    at_tip = np.logical_or(_at_tip(p, mesh), plastic)
    g["at_tip"] = at_tip.astype(float)
    eps_load = np.where(at_tip, np.cos(mesh["beta_b"]) ** 2, mesh["eps_alpha"])
    if tooth.tool is None:
        section = form.root_section(tooth.z, p.m_n, tooth.beta, x_root, rack, g["d_Na"], eps_load)
    else:
        section = form.root_section_on_curve(tooth, x_root, g["d_Na"], eps_load)
    f_eps = form.load_distribution_factor(mesh["eps_alpha"] / np.cos(mesh["beta_b"]) ** 2, mesh["eps_beta"])
    f_eps = np.where(at_tip, 1.0, f_eps)
    Y_F = form.form_factor(section, p.m_n, p.alpha_n, f_eps)
    Y_S = form.stress_correction_factor(section)
    Y_g = root.grinding_notch_factor(p.gears[i].t_g, p.gears[i].rho_g)
    if np.any(np.asarray(p.gears[i].t_g) > 0):
        g.update(Y_g=np.broadcast_to(Y_g, np.shape(Y_F)), t_g=np.asarray(p.gears[i].t_g), rho_g=np.asarray(p.gears[i].rho_g))
    Y_beta = root.helix_factor_root(tooth.beta, mesh["eps_beta"])
    Y_B = np.where(tooth.sign > 0, root.rim_factor(g["s_R"], g["h"]), root.ring_rim_factor(g["s_R"], p.m_n))
    q_s = form.notch_parameter(section)
    if np.any(plastic):
        g["Y_eps"] = np.where(plastic, 0.25 + 0.75 / mesh["eps_alpha"], 1.0)
    share = life.endurance_share(g["N_L"], own.Y_N)
    M = np.clip(np.asarray(own.mean_stress_a) + np.asarray(own.mean_stress_b) * Y_S, 0.0, 1.0)
    Y_Mref, Y_Mst = (np.broadcast_to(root.mean_stress_factor(p.gears[i].R_bend, of), np.shape(Y_F)) for of in (M, own.mean_stress_static))
    Y_M = life.between(Y_Mst, Y_Mref, share)
    static_notch = root.static_notch_sensitivity(Y_S, own.notch_k, own.notch_sigma, own.R_p02, own.notch_a, own.notch_b)
    surface = root.surface_factor(g["Rz_F"], own.surface_a, own.surface_b, own.surface_n, own.surface_smooth)
    Q = np.maximum(p.gears[0].Q, p.gears[1].Q)
    Y_DT = np.broadcast_to(root.deep_tooth_factor(mesh["eps_alpha"] / np.cos(mesh["beta_b"]) ** 2, Q), np.shape(Y_F))
    sigma_F0 = root.nominal_root_stress(mesh["F_t"], g["b_F"], p.m_n, Y_F, Y_S, Y_beta, Y_B, Y_DT) * g.get("Y_eps", 1.0) * Y_g
    notch = root.notch_sensitivity(q_s, own.rho_slip)
    size = root.size_factor(p.m_n, own.size_a, own.size_b, own.size_least)
    g.update(
        s_Fn=section.s_Fn, h_Fe=section.h_Fe, rho_F=section.rho_F, alpha_Fen=section.alpha_Fen, q_s=q_s, f_eps=f_eps,
        sigma_Fload=mesh["F_t"] / (g["b_F"] * p.m_n), Y_F=Y_F, Y_S=Y_S, Y_beta=Y_beta, Y_B=Y_B, Y_DT=Y_DT, sigma_F0=sigma_F0,
        sigma_F=sigma_F0 * mesh["K_A"] * mesh["K_gamma"] * mesh["K_V"] * mesh["K_Fbeta"] * mesh["K_Falpha"],
        sigma_Flim=_strength_number(own.sigma_Flim, own.root_life, own.plastic, g["N_L"]), Y_ST=np.full_like(Y_F, root.Y_ST),
        Y_NT=_life(own.plastic, g["N_L"], own.Y_N, p.NT_1e10),
        Y_delta_relT=life.between(static_notch, notch, share),
        Y_R_relT=life.between(1, surface, share),
        Y_X=life.between(1, size, share), Y_M=Y_M, Y_Mst=Y_Mst,
    )  # fmt: skip
    g["sigma_FG"] = g["sigma_Flim"] * g["Y_ST"] * g["Y_NT"] * g["Y_delta_relT"] * g["Y_R_relT"] * g["Y_X"] * Y_M
    g["S_F"] = g["sigma_FG"] / g["sigma_F"]
    number = _strength_number(own.sigma_Flim, own.root_life, own.plastic, 0.0)
    g["Y_NTst"], g["Y_delta_st"] = own.Y_N[1, 0] + 0 * Y_F, static_notch
    g["sigma_Flim_st"] = np.asarray(number)
    g["sigma_Fpk"] = g["sigma_F"] * mesh["K_peak"]
    g["sigma_FGst"] = number * root.Y_ST * own.Y_N[1, 0] * static_notch * Y_Mst
    g["sigma_FGref"] = own.sigma_Flim * root.Y_ST * notch * surface * size * Y_Mref
    g["S_Fst"] = g["sigma_FGst"] / g["sigma_Fpk"]


def _at_tip(p: PairInput, mesh: Values) -> Array:
    """Whether the root is rated with the load at the tip: as chosen, or by quality.

    By quality: spur-like gears of class 9 and coarser whose pitch deviation after running-in exceeds what the load deflects a
    pair of teeth, so that no second pair helps.
    """
    Q = np.maximum(p.gears[0].Q, p.gears[1].Q)
    alone = (Q >= COARSE) & (mesh["eps_beta"] < 1) & (mesh["f_pbeff"] > mesh["w_t"] / mesh["c_s"])
    choice = np.asarray(p.load_at)
    return np.where(choice == TIP_LOAD, True, np.where(choice == OUTER_SINGLE, False, alone))


def _losses(p: PairInput, mesh: Values, path: Path) -> None:
    nu = kinematic_viscosity(p.nu_40, p.nu_100, p.theta_oil)
    eta = dynamic_viscosity(nu, density(p.rho_15, p.theta_oil))
    # Rz = 6 Ra is the conversion of ISO 6336-2:2019, 12.
    Ra = (p.gears[0].Rz_H + p.gears[1].Rz_H) / 2 / 6
    v_w = mesh["v"] * np.cos(mesh["alpha_t"]) / np.cos(mesh["alpha_wt"])
    mu = friction_coefficient(mesh["F_bt"], mesh["b_H"], v_w, mesh["alpha_wt"], mesh["rho_red"], eta, Ra, p.X_L)
    H_V = mesh["H_V"]
    P = p.T_1 * p.omega_1 * p.copies
    if np.any(np.asarray(p.friction) > 0):
        mu, H_V = _other_friction(p, mesh, path, nu, eta, v_w, mu, H_V)
    if np.any(p.warms) and any_plastic(p):
        # No film of oil parts plastic flanks: what warms them is what they lose.
        mu, H_V = np.where(p.warms, p.mu_plastic, mu), np.where(p.warms, mesh["H_V"], H_V)
        mesh["mu_pl"] = np.asarray(p.mu_plastic)
    mesh.update(nu_oil=nu, eta_oil=eta, mu_mz=mu, H_V=H_V, P_VZ=P * mu * H_V, eta_z=1 - mu * H_V)


def _other_friction(
    p: PairInput, mesh: Values, path: Path, nu: Array, eta: Array, v_w: Array, mu: Array, H_V: Array
) -> tuple[Array, Array]:
    """Friction coefficient and loss factor by the law that is chosen; H_V is the loss over the coefficient."""
    r_w1 = p.a_w / (1 + mesh["u"])
    K = load_intensity(p.T_1, mesh["b_H"], r_w1, mesh["u"])
    ends = [np.abs(g - path.C) * np.abs(1 + 1 / mesh["u"]) / np.abs(r_w1) for g in (path.A, path.E)]
    mu_1, H_1 = coefficient_1(nu, K, v_w), loss_factor_1(ends[0], ends[1], mesh["alpha_wt"], np.arctan(np.tan(mesh["beta_b"]) / np.cos(mesh["alpha_wt"])))
    places = (path.A, path.B, path.C, path.D, path.E)
    P_path, mu_path = loss_along_path(places, path.T2, mesh["u"], p.omega_1, mesh["F_bt"], mesh["b_H"], eta)
    H_path = P_path / (mu_path * p.T_1 * p.omega_1) / np.cos(mesh["beta_b"])
    law = np.asarray(p.friction)
    return np.where(law == 1, mu_1, np.where(law == 2, mu_path, mu)), np.where(law == 1, H_1, np.where(law == 2, H_path, H_V))
