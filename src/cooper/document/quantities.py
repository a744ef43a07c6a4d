"""Every quantity that Cooper shows, by its ISO symbol in ASCII: kind, meaning, source.

The one list behind the screen, the command line, the report, the results' documentation and the help.
"""

from __future__ import annotations

from msgspec import Struct, field

from cooper.i18n.text import tr


class Quantity(Struct, frozen=True):
    """One row: all that is known of a quantity beside its value.

    ``kind`` names an entry of `cooper.document.units.KINDS`; ``source`` the standard and clause, or where it comes
    from; ``formula`` as it is printed; ``inputs`` the symbols that drive it (``1:d`` of gear 1, ``p:d`` of the pinion)
    and ``inputs_by`` those by the method that found it; ``shown`` main letter and subscript where they do not follow
    from the symbol.
    """

    symbol: str
    kind: str
    meaning: str
    source: str
    formula: str = ""
    inputs: tuple[str, ...] = ()
    inputs_by: dict[str, tuple[str, ...]] = field(default_factory=dict)
    shown: tuple[str, str] | None = None


def _q(
    symbol: str,
    kind: str,
    meaning: str,
    source: str,
    formula: str = "",
    inputs: str = "",
    by: dict[str, str] | None = None,
    shown: tuple[str, str] | None = None,
) -> Quantity:
    drives = {how: tuple(words.split()) for how, words in (by or {}).items()}
    return Quantity(symbol, kind, meaning, source, formula, tuple(inputs.split()), drives, shown)


def _each_once(*rows: Quantity) -> dict[str, Quantity]:
    """Quantities by symbol; raises ValueError where two have the same.

    >>> _each_once(*[Quantity("x", "factor", "shift", "entered")] * 2)
    Traceback (most recent call last):
    ValueError: two quantities have the symbol x
    """
    result = {q.symbol: q for q in rows}
    if len(result) < len(rows):
        twice = sorted(s for s in result if sum(q.symbol == s for q in rows) > 1)
        raise ValueError(tr("two quantities have the symbol {twice}", twice=", ".join(twice)))
    return result


I53, I21771, I1122 = "ISO 53:1998", "ISO 21771:2007", "ISO 1122-1:1998"
P1, P2, P3, P5 = "ISO 6336-1:2019", "ISO 6336-2:2019", "ISO 6336-3:2019", "ISO 6336-5:2016"
TR2 = "ISO/TR 14179-2:2001"
MICRO = "ISO/TS 6336-22:2018"
FRACTURE = "ISO/TS 6336-4:2019"
AGMA = "ANSI/AGMA 2101-D04"
DUTY, ENTERED = "duty", "entered"

# fmt: off
QUANTITIES: dict[str, Quantity] = _each_once(
    # duty and train
    _q("P", "power", tr("power"), tr("power balance")),
    _q("T", "torque", tr("torque"), tr("power balance")),
    _q("n", "speed", tr("speed"), "kinematics"),
    _q("u", "factor", tr("ratio, driven to driving tooth count"), I21771 + ", 5.2"),
    _q("u_wanted", "factor", tr("wanted ratio"), DUTY, shown=("u", tr("wanted"))),
    _q("u_tol", "share", tr("tolerance of the wanted ratio"), DUTY, shown=("Δu", "tol")),
    _q("du", "share", tr("deviation from the wanted ratio"), DUTY, shown=("Δu", "")),
    _q("L_h", "time", tr("required life"), DUTY),
    _q("K_A", "factor", tr("application factor"), DUTY),
    _q("K_AP", "factor", tr("greatest torque over the nominal one, for static strength (none: K_A)"), DUTY),
    _q("T_rel", "factor", tr("torque of a level over the nominal torque"), DUTY),
    _q("T_rel_H", "factor", tr("torque ratio of the level with the greatest contact stress (0: K_AP governs)"), "ISO 6336-6:2019", shown=("T", "rel, H")),
    _q("T_rel_F", "factor", tr("torque ratio of the level with the greatest root stress (0: K_AP governs)"), "ISO 6336-6:2019", shown=("T", "rel, F")),
    _q("T_rel_B", "factor", tr("torque ratio of the level with the least S_B"), "ISO 6336-6:2019", shown=("T", "rel, B")),
    _q("T_rel_int", "factor", tr("torque ratio of the level with the least S_int"), "ISO 6336-6:2019", shown=("T", "rel, int")),
    _q("T_rel_GF", "factor", tr("torque ratio of the level with the thinnest film"), "ISO 6336-6:2019", shown=("T", "rel, GF")),
    _q("T_rel_FF", "factor", tr("torque ratio of the level nearest to flank fracture"), "ISO 6336-6:2019", shown=("T", "rel, FF")),
    _q("n_rel", "factor", tr("speed of a level over the nominal speed"), DUTY),
    _q("q_t", "factor", tr("share of a level in the life, in any unit of time"), DUTY),
    # the machine around the gears
    _q("S_D", "factor", tr("safety of the shaft against fatigue"), "DIN 743-1:2012, 5", shown=("S", "D")),
    _q("S_Y", "factor", tr("safety of the shaft against yielding"), "DIN 743-1:2012, 6", shown=("S", "Y")),
    _q("S_Dmin", "factor", tr("required safety of shafts against fatigue"), DUTY, shown=("S", "Dmin")),
    _q("S_Ymin", "factor", tr("required safety of shafts against yielding"), DUTY, shown=("S", "Ymin")),
    _q("n_G", "factor", tr("safety of the shaft by von Mises and Goodman's line"), tr("equivalent stresses on Goodman's line"), shown=("n", "G")),
    _q("L_nmh", "time", tr("modified life of the bearing"), "ISO 281:2007, 9", shown=("L", "nmh")),
    _q("L_10h", "time", tr("basic rating life of the bearing"), "ISO 281:2007, 5", shown=("L", "10h")),
    _q("S_0", "factor", tr("static safety of the bearing"), "ISO 76:2006", shown=("S", "0")),
    _q("S_0min", "factor", tr("required static safety of bearings"), DUTY, shown=("S", "0min")),
    _q("C_r", "force", tr("dynamic radial rating of the bearing"), tr("ISO 281:2007, or the maker's"), shown=("C", "r")),
    _q("C_0r", "force", tr("static radial rating of the bearing"), tr("ISO 76:2006, or the maker's"), shown=("C", "0r")),
    _q("S_J", "factor", tr("safety of the joint of hub and shaft"), tr("DIN 6892:2012, method C; DIN 7190-1:2017; splines by pressure"), shown=("S", "J")),
    _q("S_Jmin", "factor", tr("required safety of the joints of hubs"), DUTY, shown=("S", "Jmin")),
    _q("w_g", "length", tr("deflection of the shaft at the gear"), tr("bending and shear of the stepped shaft"), shown=("w", "g")),
    _q("theta_sh", "small_angle", tr("slope of the shaft in the bearing"), tr("bending and shear of the stepped shaft"), shown=("θ", "sh")),
    _q("n_crit", "speed", tr("lowest speed at which the shaft whirls"), tr("stepped beam with the gears as discs"), shown=("n", "crit")),
    _q("S_ax", "factor", tr("what keeps a part along its shaft over the thrust that comes there"), tr("least of all contacts from the teeth to the housing"), shown=("S", "ax")),
    _q("v_seal", "velocity", tr("speed of the shaft under the lip of its seal"), tr("customary limit of the lip's material, DIN 3760"), shown=("v", "seal")),
    _q("n_lim", "speed", tr("typical limit of the bearing's speed"), tr("typical n d_pw of the type"), shown=("n", "lim")),
    _q("w_rel", "factor", tr("deflection that is allowed at a gear over its module"), DUTY, shown=("w", "rel")),
    _q("Rz_sh", "roughness", tr("roughness of shafts"), ENTERED, shown=("R", "z")),
    _q("R_e_key", "stress", tr("yield point of keys"), ENTERED, shown=("R", "e key")),
    _q("c_ax", "length", tr("clearance between neighbours in the machine"), ENTERED, shown=("c", "ax")),
    _q("s_wall", "length", tr("thickness of the housing's walls"), ENTERED, shown=("s", tr("wall"))),
    _q("phi_ax", "angle", tr("direction of the line of centres, seen in the end view"), ENTERED, shown=("φ", "")),
    _q("d_piece", "length", tr("diameter of the piece of shaft"), ENTERED, shown=("d", "")),
    _q("l_piece", "length", tr("length of the piece of shaft"), ENTERED, shown=("l", "")),
    _q("r_piece", "length", tr("fillet radius at the foot of the piece of shaft"), ENTERED, shown=("r", "")),
    _q("d_hollow", "length", tr("bore through the shaft"), ENTERED, shown=("d", "i")),
    _q("d_hole", "length", tr("diameter of a hole across the piece of shaft"), ENTERED, shown=("d", "hole")),
    _q("d_screw", "length", tr("thread of the set screw"), "ISO 4029", shown=("d", "screw")),
    _q("M_A", "torque", tr("torque with which a set screw is tightened"), ENTERED),
    _q("d_pin", "length", tr("diameter of the pin across hub and shaft"), "ISO 2338", shown=("d", "pin")),
    _q("l_bearing", "length", tr("middle of the bearing, from that of bearing 1"), ENTERED, shown=("l", "B")),
    _q("l_tr", "length", tr("length of key or hub that bears"), "DIN 6892:2012", shown=("l", "tr")),
    _q("L_box", "length", tr("length of the housing along the shafts"), tr("laid out"), shown=("L", "box")),
    _q("W_box", "length", tr("width of the housing"), tr("laid out"), shown=("W", "box")),
    _q("H_box", "length", tr("height of the housing"), tr("laid out"), shown=("H", "box")),
    _q("L_box_max", "length", tr("greatest length of the housing along the shafts"), DUTY, shown=("L", "box max")),
    _q("W_box_max", "length", tr("greatest width of the housing"), DUTY, shown=("W", "box max")),
    _q("H_box_max", "length", tr("greatest height of the housing"), DUTY, shown=("H", "box max")),
    _q("m_box", "mass", tr("mass of shafts, gears, bearings and the housing's bare walls"), tr("laid out"), shown=("m", "box")),
    _q("L_sys", "time", tr("life that all bearings together reach"), tr("ISO/TR 1281-2, slope 1.5"), shown=("L", "sys")),
    _q("X_go", "factor", tr("load at which the part fails, over that of the part that shall fail first"), tr("order of failure"), shown=("X", "go")),
    _q("X_gomin", "factor", tr("factor by which all parts must outlast the one that shall go first"), DUTY, shown=("X", "go min")),
    _q("C_Hbeta", "roughness", tr("helix slope made on purpose, taken away at the right end"), ENTERED, shown=("C", "Hβ")),
    _q("C_beta", "roughness", tr("helix crowning made on purpose"), ENTERED, shown=("C", "β")),
    _q("F_end", "force", tr("radial force on the end of the shaft from outside"), ENTERED, shown=("F", "end")),
    _q("J_end", "inertia", tr("moment of inertia of what is coupled to the end of the shaft"), ENTERED, shown=("J", "end")),
    _q("X_tors", "factor", tr("distance of the nearest torsional natural frequency from the speed of a shaft, over " "that speed"), tr("train of shafts, meshes by c_gamma"), shown=("X", "tors")),
    _q("T_mesh", "torque", tr("torque on the driving gear of one mesh"), "equilibrium"),
    _q("n_mesh", "speed", tr("speed of the driving gear relative to its carrier"), "kinematics"),
    _q("eta_set", "factor", tr("efficiency of the set"), tr("torque equilibrium with friction")),
    _q("circulation", "factor", tr("greatest power through a mesh over the power that comes in"), tr("power flow")),
    _q("c_pl", "length", tr("gap between the tip circles of neighbouring planets"), "geometry", shown=("c", "planets")),
    _q("c_pl_min", "length", tr("required gap between planets"), DUTY),
    _q("envelope", "length", tr("diameter of the circle around the set"), "geometry"),
    _q("phi_lost", "small_angle", tr("lost motion at the output, mean"), tr("plays of all meshes"), shown=("φ", "lost")),
    _q("phi_lost_max", "small_angle", tr("lost motion at the output, worst case"), tr("plays of all meshes")),
    _q("phi_lost_min", "small_angle", tr("lost motion at the output, least"), tr("plays of all meshes")),
    _q("phi_lost_rss", "small_angle", tr("lost motion at the output, root sum of squares"), tr("plays of all meshes")),
    _q("n_planets", "count", tr("number of planets"), ENTERED, shown=("N", "")),
    _q("P_share", "factor", tr("share of the power of its shaft that goes this way; what is left over goes where none is given"), ENTERED, shown=("P", "share")),
    _q("u_third", "factor", tr("speed of the third shaft over that of the output, with power taken off there too; not given: it is held"), ENTERED, shown=("n", "3/n 2")),
    _q("k_pl", "spring", tr("stiffness of a planet along its way: pin, bearing, wall, meshes"), ENTERED),
    _q("e_pl", "roughness", tr("how far one planet may stand ahead of the others"), ENTERED),
    _q("eta", "factor", tr("efficiency, with the losses that count"), TR2),
    # rack and tooth
    _q("alpha_n", "angle", tr("normal pressure angle"), I53),
    _q("beta", "angle", tr("helix angle at the reference cylinder"), I21771 + ", 4.2"),
    _q("h_aP", "factor", tr("addendum factor of the basic rack"), I53, shown=("h", "aP")),
    _q("h_fP", "factor", tr("dedendum factor of the basic rack"), I53),
    _q("rho_fP", "factor", tr("root fillet radius factor of the basic rack"), I53),
    _q("z", "count", tr("tooth count, negative for an internal gear"), I21771 + ", 4.2"),
    _q("z_0", "count", tr("tooth count of the pinion cutter"), ENTERED),
    _q("x_0", "factor", tr("profile shift coefficient of the pinion cutter"), ENTERED),
    _q("a_0", "length", tr("centre distance of gear and pinion cutter at full depth"), I21771 + ", 7"),
    _q("alpha_w0", "angle", tr("working pressure angle of gear and pinion cutter"), I21771 + ", 7"),
    _q("pr_P", "allowance", tr("protuberance of the tool's tip beyond its flank"), ENTERED),
    _q("q_P", "allowance", tr("stock ground off each flank"), ENTERED),
    _q("alpha_prP", "angle", tr("profile angle of the protuberance's ramp"), ENTERED),
    _q("h_K", "length", tr("height of the tip chamfer along the radius"), ENTERED),
    _q("delta_K", "angle", tr("angle between tip chamfer and radius"), ENTERED),
    _q("rho_a", "length", tr("radius of the tip rounding"), ENTERED),
    _q("d_Fa", "length", tr("tip form diameter, where the usable involute ends"), I21771 + ", 4.4"),
    _q("d_i", "length", tr("inner diameter of the rim of a wheel with a web (none: a solid disc)"), ENTERED),
    _q("b_s", "length", tr("width of the web under the rim (none: as wide as the teeth)"), ENTERED),
    _q("C_R", "factor", tr("gear blank factor of the stiffness"), P1 + ", 9"),
    _q("d_rim", "length", tr("outside diameter of an internal gear"), ENTERED, shown=("d", "rim")),
    _q("h_back", "length", tr("distance from a rack's datum line to its back"), ENTERED, shown=("h", "back")),
    _q("h_a", "length", tr("addendum: height of a rack's tip above its datum line"), I53),
    _q("h_f", "length", tr("dedendum: depth of a rack's root below its datum line"), I53),
    _q("p_t", "length", tr("transverse pitch"), I21771 + ", 4.3"),
    _q("L_z", "length", tr("length of the toothed part of a rack"), "z p_t"),
    _q("travel", "length", tr("travel of the rack for one turn of its pinion"), "z_1 p_t", shown=("travel", "")),
    _q("F", "force", tr("force on the rack along its travel"), tr("power balance")),
    _q("b_gap", "length", tr("gap between the halves of a double helix"), ENTERED, shown=("b", "gap")),
    _q("c_tip", "length", tr("gap between the tip corners beyond the mesh"), tr("where the tip circles cross"), shown=("c", "tip")),
    _q("m_n", "module", tr("normal module"), "ISO 54:1996"),
    _q("P_nd", "diametral_pitch", tr("normal diametral pitch"), "25.4 mm / m_n"),
    _q("x", "factor", tr("profile shift coefficient"), I21771 + ", 4.3"),
    _q("x_E", "factor", tr("generating profile shift coefficient at mean allowance"), I21771 + ", 8.6"),
    _q("x_min", "factor", tr("least shift without undercut"), I21771 + ", 7.6"),
    _q("d", "length", tr("reference diameter"), I21771 + ", 4.2"),
    _q("d_b", "length", tr("base diameter"), I21771 + ", 4.3"),
    _q("d_a", "length", tr("tip diameter"), I21771 + ", 4.4"),
    _q("d_f", "length", tr("root diameter, nominal"), I21771 + ", 4.4"),
    _q("d_fE", "length", tr("root diameter of the finished gear at mean allowance"), I21771 + ", 7.6"),
    _q("d_w", "length", tr("working pitch diameter"), I21771 + ", 5.3"),
    _q("d_Ff", "length", tr("root form diameter"), I21771 + ", 7.6"),
    _q("d_Nf", "length", tr("start of active profile diameter"), I21771 + ", 5.4"),
    _q("d_Na", "length", tr("active tip diameter"), I21771 + ", 5.4"),
    _q("c_F", "length", tr("form over-dimension: from the root form circle to where the mate's tip reaches"), I21771 + ", 7.6"),
    _q("undercut", "count", tr("1 where the tool undercuts the flank, else 0"), I21771 + ", 7.6"),
    _q("h", "length", tr("tooth depth"), I21771 + ", 4.4"),
    _q("s_n", "length", tr("normal tooth thickness at the reference circle, nominal"), I21771 + ", 4.5"),
    _q("s_nE", "length", tr("normal tooth thickness at the reference circle at mean allowance"), I21771 + ", 4.5"),
    _q("s_an", "length", tr("normal tooth thickness at the tip (tip land), nominal"), I21771 + ", 4.5"),
    _q("s_anE", "length", tr("tip land of the finished gear at mean allowance"), I21771 + ", 4.5"),
    _q("E_sns", "allowance", tr("upper tooth thickness allowance"), ENTERED),
    _q("E_sni", "allowance", tr("lower tooth thickness allowance"), ENTERED),
    _q("b", "length", tr("face width"), ENTERED),
    _q("d_bore", "length", tr("bore diameter"), ENTERED, shown=("d", "bore")),
    _q("s_R", "length", tr("rim thickness under the root"), "(d_f - d_bore)/2"),
    _q("Q", "count", tr("flank tolerance class"), "ISO 1328-1:2013"),
    _q("IT_bore", "count", tr("tolerance grade of the bore (H)"), ENTERED, shown=("IT", "bore")),
    _q("IT_tip", "count", tr("tolerance grade of the tip diameter (h)"), ENTERED, shown=("IT", "a")),
    _q("Ra_bore", "roughness", tr("mean roughness of the bore"), ENTERED, shown=("Ra", "bore")),
    _q("Ra_face", "roughness", tr("mean roughness of the faces"), ENTERED, shown=("Ra", "face")),
    _q("Ra_rest", "roughness", tr("mean roughness of all other surfaces"), ENTERED, shown=("Ra", "")),
    _q("t_tip", "length", tr("run-out of the tip cylinder"), "ISO/TR 10064-3:1996", shown=("t", "tip")),
    _q("t_face", "length", tr("run-out of the face"), "ISO/TR 10064-3:1996", shown=("t", "face")),
    _q("Rz_H", "roughness", tr("mean peak-to-valley roughness of the flank"), ENTERED, shown=("Rz", "H")),
    _q("Rz_F", "roughness", tr("mean peak-to-valley roughness of the root"), ENTERED, shown=("Rz", "F")),
    _q("hardness", "hardness", tr("surface hardness on the material group's scale"), ENTERED, shown=(tr("hardness"), "")),
    _q("R_p02", "stress", tr("yield strength"), tr("entered, or estimated from hardness"), shown=("R", "p0.2")),
    _q("E", "stress", tr("modulus of elasticity"), tr("stock, or entered")),
    _q("density", "density", tr("density"), tr("stock, or entered"), shown=("ρ", "")),
    _q("price_index", "factor", tr("cost per kg over that of through-hardened steel"), tr("stock, typical, or entered"), shown=(tr("cost/kg"), "")),
    _q("cost", "factor", tr("relative cost of material: mass in kg times price index"), tr("mass, price index"), shown=("cost", "")),
    _q("swelling", "share", tr("linear growth by moisture"), tr("entered; typical of the stock"), shown=("swelling", "")),
    _q("R_bend", "factor", tr("stress ratio of teeth bent both ways (-1.2 under equal loads)"), P3 + tr(", Annex B")),
    _q("mass", "mass", tr("mass of outline times face width, less bore"), tr("outline area"), shown=("mass", "")),
    # mesh
    _q("a_w", "length", tr("working centre distance"), I21771 + ", 5.3"),
    _q("a", "length", tr("reference centre distance"), I21771 + ", 5.2"),
    _q("A_as", "allowance", tr("upper centre distance allowance"), ENTERED),
    _q("A_ai", "allowance", tr("lower centre distance allowance"), ENTERED),
    _q("x_sum", "factor", tr("sum of the profile shifts"), I21771 + ", 5.3", shown=("Σx", "")),
    _q("alpha_t", "angle", tr("transverse pressure angle"), I21771 + ", 4.2"),
    _q("alpha_wt", "angle", tr("transverse working pressure angle"), I21771 + ", 5.3"),
    _q("p_et", "length", tr("transverse base pitch"), I21771 + ", 4.3"),
    _q("c", "length", tr("tip clearance to the mate's root, nominal"), I21771 + ", 5.4"),
    _q("eps_alpha", "factor", tr("profile contact ratio"), I21771 + ", 5.4"),
    _q("eps_beta", "factor", tr("overlap ratio"), I21771 + ", 5.4"),
    _q("eps_gamma", "factor", tr("total contact ratio"), I21771 + ", 5.4"),
    _q("g_alpha", "length", tr("length of the path of contact"), I21771 + ", 5.4"),
    _q("g_A", "length", tr("start of contact, from the pinion's base tangent point"), I21771 + ", 5.4"),
    _q("g_B", "length", tr("inner single contact point of the pinion"), I21771 + ", 5.4"),
    _q("g_C", "length", tr("pitch point"), I21771 + ", 5.4"),
    _q("g_D", "length", tr("outer single contact point of the pinion"), I21771 + ", 5.4"),
    _q("g_E", "length", tr("end of contact"), I21771 + ", 5.4"),
    _q("zeta_f", "factor", tr("specific sliding at the root end of the path"), I21771 + ", 6"),
    _q("zeta_a", "factor", tr("specific sliding at the tip end of the path"), I21771 + ", 6"),
    _q("j_wt_min", "length", tr("least circumferential backlash"), I21771 + ", 9"),
    _q("j_wt_max", "length", tr("greatest circumferential backlash"), I21771 + ", 9"),
    _q("j_bn_min", "length", tr("least normal backlash"), I21771 + ", 9"),
    _q("j_bn_max", "length", tr("greatest normal backlash"), I21771 + ", 9"),
    _q("j_phi_min", "small_angle", tr("least angular backlash, mate held"), I21771 + ", 9"),
    _q("j_phi_max", "small_angle", tr("greatest angular backlash, mate held"), I21771 + ", 9"),
    _q("j_wt", "length", tr("circumferential backlash of the teeth as drawn"), I21771 + ", 9"),
    _q("j_op_min", "length", tr("least backlash in service: tolerances, run-out, temperature together"), I21771 + ", 9"),
    _q("j_op_max", "length", tr("greatest backlash in service"), I21771 + ", 9"),
    _q("j_op", "length", tr("mean backlash in service"), I21771 + ", 9"),
    _q("j_rss_min", "length", tr("least backlash in service, root sum of squares"), "statistics"),
    _q("j_rss_max", "length", tr("greatest backlash in service, root sum of squares"), "statistics"),
    _q("j_heat", "length", tr("change of the backlash by temperature and swelling"), "expansion"),
    _q("F_rT", "allowance", tr("run-out tolerance of the flanks"), "ISO 1328-1:2013"),
    _q("theta_gears", "temperature", tr("temperature of the gears in service"), DUTY),
    _q("theta_housing", "temperature", tr("temperature of the housing in service"), DUTY),
    _q("alpha_housing", "expansion", tr("coefficient of expansion of the housing"), DUTY),
    # load
    _q("F_t", "force", tr("nominal tangential force at the reference cylinder"), P1 + ", 4"),
    _q("F_r", "force", tr("radial force at the working pitch circle"), "statics"),
    _q("F_a", "force", tr("axial force of the helix"), "statics"),
    _q("F_bt", "force", tr("tangential force at the base circle"), P1 + ", 4"),
    _q("v", "velocity", tr("circumferential speed at the reference cylinder"), P1 + ", 4"),
    _q("w_t", "line_load", tr("line load K_A F_t / b"), P1 + ", 6"),
    _q("vz", "velocity", tr("speed parameter v z_1/100 sqrt(u^2/(1+u^2))"), P1 + tr(", 6, method C"), shown=("v·z", "")),
    _q("K_V", "factor", tr("dynamic factor"), P1 + tr(", 6, method as chosen"), formula=tr("method C: 1 + (K_1/(K_A F_t/b) + K_2) · v z_1/100 · K_3 · √(u²/(1 + u²)); method B: 1 + N " "K " "below resonance"), inputs="v 1:z w_t Q", by={"B": "N_res c_s f_pbeff f_faeff w_t"}),
    _q("K_gamma", "factor", tr("mesh load factor for several meshes that share the power"), ENTERED),
    _q("K_Hbeta", "factor", tr("face load factor, contact"), P1 + tr(", 7, method C, or entered"), formula=tr("method C: 1 + F_βy c_γβ b / (2 F_m), from 2 on √(2 F_βy c_γβ b / F_m)"), by={"f_sh": "F_betay f_sh f_ma c_gamma w_t", "C": "F_betay f_sh f_ma c_gamma w_t"}),
    _q("K_Halpha", "factor", tr("transverse load factor, contact"), P1 + tr(", 8, method B, or entered"), formula=tr("method B: ε_γ/2 (0.9 + 0.4 c_γα f_α,eff/(F_tH/b)) up to ε_γ = 2"), by={"B": "c_gamma f_alphaeff eps_gamma"}),
    _q("c_s", "stiffness", tr("single stiffness c' of a pair of teeth"), P1 + ", 9", shown=("c′", "")),
    _q("c_gamma", "stiffness", tr("mean mesh stiffness"), P1 + ", 9"),
    _q("m_red", "line_mass", tr("mass of the pair reduced to the line of action, per width"), P1 + tr(", 6, method B")),
    _q("n_E1", "speed", tr("resonance speed of the pinion"), P1 + tr(", 6, method B")),
    _q("N_res", "factor", tr("resonance ratio N = n_1/n_E1"), P1 + tr(", 6, method B"), shown=("N", "")),
    _q("f_alphaeff", "roughness", tr("greater of base pitch and profile form deviation after running-in"), P1 + ", 8", shown=("f", "α eff")),
    _q("f_pbeff", "roughness", tr("base pitch deviation after running-in"), P1 + tr(", 6 and 8"), shown=("f", "pb eff")),
    _q("f_faeff", "roughness", tr("profile form deviation after running-in"), P1 + ", 6", shown=("f", "fα eff")),
    _q("C_ay", "roughness", tr("tip relief by running-in"), P1 + tr(", 6, method B")),
    _q("C_a", "roughness", tr("designed tip relief that counts for K_V and scuffing"), ENTERED),
    _q("h_Ff", "factor", tr("depth under the generating reference line, in modules, at which the flank of an " "elliptic root ends"), ENTERED, shown=("h", "Ff")),
    _q("w_F", "factor", tr("weight of the corner of an elliptic root: small keeps metal, large comes near the " "corner"), ENTERED, shown=("w", "F")),
    _q("C_alphaa", "roughness", tr("tip relief made on purpose"), ENTERED, shown=("C", "αa")),
    _q("l_Ca", "length", tr("length of roll over which the tip relief reaches, from the end of the contact"), "ISO 21771-1:2024", shown=("l", "Ca")),
    _q("d_Ca", "length", tr("diameter at which the tip relief begins"), "ISO 21771-1:2024", shown=("d", "Ca")),
    _q("xi_Ca", "angle", tr("roll angle at which the tip relief begins"), "ISO 21771-1:2024", shown=("ξ", "Ca")),
    _q("d_Cf", "length", tr("diameter at which the root relief begins"), "ISO 21771-1:2024", shown=("d", "Cf")),
    _q("xi_Cf", "angle", tr("roll angle at which the root relief begins"), "ISO 21771-1:2024", shown=("ξ", "Cf")),
    _q("C_alphaf", "roughness", tr("root relief made on purpose"), ENTERED, shown=("C", "αf")),
    _q("l_Cf", "length", tr("length of roll over which the root relief reaches, from the end of the contact"), "ISO 21771-1:2024", shown=("l", "Cf")),
    _q("C_alpha", "roughness", tr("profile crowning made on purpose"), ENTERED, shown=("C", "α")),
    _q("C_Halpha", "roughness", tr("profile slope made on purpose, taken away at the tip"), ENTERED, shown=("C", "Hα")),
    _q("C_betaI", "roughness", tr("end relief of the left end"), ENTERED, shown=("C", "βI")),
    _q("l_CI", "length", tr("length of the end relief of the left end"), ENTERED, shown=("l", "CI")),
    _q("C_betaII", "roughness", tr("end relief of the right end"), ENTERED, shown=("C", "βII")),
    _q("l_CII", "length", tr("length of the end relief of the right end"), ENTERED, shown=("l", "CII")),
    _q("f_sh", "roughness", tr("misalignment by deflection of the pinion's shaft"), P1 + tr(", 7, method C")),
    _q("f_ma", "roughness", tr("misalignment by manufacture"), P1 + tr(", 7, method C")),
    _q("F_betax", "roughness", tr("initial equivalent misalignment"), P1 + tr(", 7, method C")),
    _q("F_betay", "roughness", tr("misalignment after running-in"), P1 + tr(", 7, method C")),
    _q("l_sh", "length", tr("span of the pinion's bearings"), ENTERED, shown=("l", "")),
    _q("s_sh", "length", tr("distance of the pinion's middle from mid-span"), ENTERED, shown=("s", "")),
    _q("d_sh", "length", tr("diameter of the pinion's shaft"), ENTERED),
    _q("K_Fbeta", "factor", tr("face load factor, root: K_Hbeta^N_F"), P1 + ", 7", formula=tr("K_Hβ^N_F with N_F = (b/h)² / (1 + b/h + (b/h)²), b/h at least 3"), inputs="K_Hbeta b_H h"),
    _q("K_Falpha", "factor", tr("transverse load factor, root"), P1 + tr(", 8, method B, or K_Halpha as entered"), formula=tr("method B: as K_Hα, with its own upper limit"), by={"B": "c_gamma f_alphaeff eps_gamma"}),
    _q("b_H", "length", tr("face width in contact"), P2 + ", 5"),
    _q("b_F", "length", tr("face width counted for the root"), P3 + ", 5"),
    _q("N_L", "number", tr("load cycles"), "60 n L_h"),
    # contact
    _q("sigma_load", "root_stress", tr("nominal load, √(F (u+1) / (d₁ b u))"), P2 + ", 5", formula="√(F_t (u + 1) / (d_1 b u))", inputs="F_t 1:d b_H u", shown=("√p", "")),
    _q("Z_H", "factor", tr("zone factor"), P2 + ", 6", formula="√(2 cos β_b cos α_wt / (cos² α_t sin α_wt))", inputs="alpha_t alpha_wt"),
    _q("Z_E", "root_stress", tr("elasticity factor"), P2 + ", 7", formula="√(1 / (π ((1 − ν_1²)/E_1 + (1 − ν_2²)/E_2)))"),
    _q("Z_eps", "factor", tr("contact ratio factor"), P2 + ", 8", formula=tr("spur: √((4 − ε_α)/3); overlap of 1 and more: √(1/ε_α); between: √((4 − ε_α)(1 − ε_β)/3 + " "ε_β/ε_α)"), inputs="eps_alpha eps_beta"),
    _q("Z_beta", "factor", tr("helix angle factor"), P2 + ", 9", formula="1/√cos β", inputs="beta"),
    _q("f_ZCa", "factor", tr("helical gears: contact pressure factor for the flank modification (1.2 none, 1.07, " "1.0)"), P2 + ", 6"),
    _q("Z_BD", "factor", tr("single pair tooth contact factor (Z_B pinion, Z_D wheel)"), P2 + ", 6", formula=tr("pressure at the inner (wheel: outer) point of single contact over that at the pitch " "point, " "at least 1"), inputs="z d_Na alpha_wt eps_alpha f_ZCa", shown=("Z", "B,D")),
    _q("sigma_H0", "stress", tr("nominal contact stress"), P2 + ", 5", formula="Z_H Z_E Z_ε Z_β √(F_t (u + 1) / (d_1 b u))"),
    _q("sigma_H", "stress", tr("contact stress"), P2 + ", 5", formula="Z_B,D σ_H0 √(K_A K_γ K_V K_Hβ K_Hα)"),
    _q("sigma_Hlim", "stress", tr("allowable contact stress number"), P5 + tr(", Table 1"), inputs="hardness"),
    _q("Z_NT", "factor", tr("life factor"), P2 + ", 11", formula=tr("log-log line between the corners of the life curve at N_L cycles"), inputs="N_L"),
    _q("Z_L", "factor", tr("lubricant factor"), P2 + ", 12", formula="C_ZL + 4 (1 − C_ZL) / (1.2 + 134/ν_40)²"),
    _q("Z_V", "factor", tr("velocity factor"), P2 + ", 12", formula="C_ZV + 2 (1 − C_ZV) / √(0.8 + 32/v)", inputs="v"),
    _q("Z_R", "factor", tr("roughness factor"), P2 + ", 12", formula=tr("(3 / Rz_10)^C_ZR with Rz_10 = mean Rz · ∛(10/ρ_red)"), inputs="Rz_H rho_red"),
    _q("Z_W", "factor", tr("work hardening factor"), P2 + ", 13", formula=tr("surface-hardened mate: (1.2 − (HB − 130)/1700) (3/R_zH)^0.15; both through hardened: 1 + " "A (u − 1)")),
    _q("Z_X", "factor", tr("size factor, contact"), P2 + ", 14", formula="1"),
    _q("sigma_HG", "stress", tr("pitting stress limit"), P2 + ", 5", formula="σ_Hlim Z_NT Z_L Z_V Z_R Z_W Z_X"),
    _q("S_H", "safety", tr("safety against pitting"), P2 + ", 5"),
    _q("K_peak", "factor", tr("greatest torque over the running one, K_AP/K_A"), DUTY, formula="K_AP / K_A", inputs="K_AP K_A"),
    _q("sigma_Hpk", "stress", tr("contact stress at the greatest load"), P2 + ", 5", inputs="T_rel_H"),
    _q("sigma_Hlim_st", "stress", tr("allowable contact stress number for static strength"), P5 + tr(", Table 1")),
    _q("Z_NTst", "factor", tr("life factor, static"), P2 + ", 11"),
    _q("Z_Wst", "factor", tr("work hardening factor, static"), P2 + ", 13"),
    _q("sigma_HGst", "stress", tr("contact stress limit for static strength"), P2 + ", 5", formula=tr("σ_Hlim Z_NT Z_W, static")),
    _q("sigma_HGref", "stress", tr("contact stress limit at the reference life"), P2 + ", 5"),
    _q("S_Hst", "safety", tr("safety of the flank against the greatest load, static"), P2 + ", 5"),
    _q("S_Heq", "safety", tr("safety against pitting under the load spectrum"), "ISO 6336-6:2019"),
    _q("D_H", "factor", tr("damage sum of the flank"), "ISO 6336-6:2019"),
    # root
    _q("at_tip", "count", tr("1 where the root is rated with the load at the tip, 0 at the outer point of single " "contact"), P3 + ", 6"),
    _q("Y_eps", "factor", tr("contact ratio factor, root, load at the tip"), "VDI 2736-2", formula="0.25 + 0.75/ε_α"),
    _q("mu_pl", "factor", tr("friction coefficient of a plastic pair (none: of the table by materials and " "lubrication)"), "VDI 2736-2, 6.2"),
    _q("ED", "share", tr("share of the time under load, for the warmth of plastic teeth"), DUTY),
    _q("theta_0", "temperature", tr("temperature of the air or oil around plastic teeth"), "VDI 2736-2, 6.2"),
    _q("theta_Fla", "temperature", tr("temperature of the flanks of a plastic gear"), "VDI 2736-2, 6.2"),
    _q("theta_Fuss", "temperature", tr("temperature of the roots of a plastic gear"), "VDI 2736-2, 6.2"),
    _q("theta_Fla_max", "temperature", tr("temperature up to which the plastic's numbers hold"), tr("data of the material")),
    _q("k_W", "wear", tr("wear coefficient of the gear on its mate (none: wear is not computed)"), ENTERED),
    _q("l_Fl", "length", tr("length of the active flank along the profile"), "VDI 2736-2, 6.5"),
    _q("delta_W", "allowance", tr("mean wear of the flanks over the required life, normal to them"), "VDI 2736-2, 6.5"),
    _q("delta_Wmax", "factor", tr("wear that is admitted, as a factor of m_n"), "VDI 2736-2, 6.5"),
    _q("lambda_t", "allowance", tr("deflection of the tooth tips of a plastic pair under the load"), "VDI 2736-2"),
    _q("Y_M", "factor", tr("mean stress influence factor"), P3 + tr(", Annex B"), formula="1 / (1 − R (1 − M)/(1 + M))", inputs="R_bend"),
    _q("Y_Mst", "factor", tr("mean stress influence factor for static strength"), P3 + tr(", Annex B"), inputs="R_bend"),
    _q("sigma_Fpk", "stress", tr("root stress at the greatest load"), P3 + ", 5", inputs="T_rel_F"),
    _q("sigma_Flim_st", "stress", tr("nominal stress number, bending, for static strength"), P5 + tr(", Table 1")),
    _q("Y_NTst", "factor", tr("life factor, static"), P3 + ", 12"),
    _q("Y_delta_st", "factor", tr("relative notch sensitivity factor, static"), P3 + ", 13"),
    _q("sigma_FGst", "stress", tr("tooth-root stress limit for static strength"), P3 + ", 5", formula=tr("σ_Flim Y_ST Y_NT Y_δrelT Y_M, static")),
    _q("sigma_FGref", "stress", tr("tooth-root stress limit at the reference life"), P3 + ", 5"),
    _q("S_Fst", "safety", tr("safety of the root against the greatest load, static"), P3 + ", 5"),
    _q("S_Feq", "safety", tr("safety against tooth breakage under the load spectrum"), "ISO 6336-6:2019"),
    _q("D_F", "factor", tr("damage sum of the root"), "ISO 6336-6:2019"),
    _q("sigma_Fload", "stress", tr("nominal load over width and module, F / (b m)"), P3 + ", 5", formula="F_t / (b m_n)", inputs="F_t b_F m_n", shown=("p", "F")),
    _q("s_Fn", "length", tr("chord at the critical section"), P3 + ", 6"),
    _q("h_Fe", "length", tr("lever arm of the load"), P3 + ", 6"),
    _q("rho_F", "length", tr("fillet radius at the critical section"), P3 + ", 6"),
    _q("alpha_Fen", "angle", tr("load direction at the outer point of single contact"), P3 + ", 6"),
    _q("q_s", "factor", tr("notch parameter"), P3 + ", 7"),
    _q("f_eps", "factor", tr("load distribution influence factor"), P3 + ", 6"),
    _q("z_n", "factor", tr("virtual tooth count"), P3 + ", 6"),
    _q("beta_b", "angle", tr("base helix angle"), I21771 + ", 4.3"),
    _q("p_z", "length", tr("lead of the helix (0 for spur gears)"), I21771 + ", 4.2"),
    _q("Y_F", "factor", tr("form factor, load at the outer point of single contact"), P3 + ", 6", formula="6 (h_Fe/m_n) cos α_Fen / ((s_Fn/m_n)² cos α_n) · f_ε", inputs="h_Fe s_Fn alpha_Fen f_eps"),
    _q("Y_S", "factor", tr("stress correction factor"), P3 + ", 7", formula=tr("(1.2 + 0.13 L) q_s^(1/(1.21 + 2.3/L)) with L = s_Fn/h_Fe, q_s = s_Fn/(2 ρ_F)"), inputs="s_Fn h_Fe rho_F"),
    _q("Y_g", "factor", tr("stress of a grinding notch over that of the fillet without it, Y_Sg/Y_S"), P3 + ", 7.3", formula="1.3 / (1.3 − 0.6 √(t_g/ρ_g))", inputs="t_g rho_g"),
    _q("t_g", "length", tr("depth of the grinding notch in the fillet (0: stock less protuberance, where that is " "above 0)"), ENTERED),
    _q("rho_g", "length", tr("radius of the grinding notch"), ENTERED),
    _q("Y_beta", "factor", tr("helix angle factor"), P3 + ", 8", formula=tr("(1 − ε_β β/120°) / cos³ β, ε_β at most 1, β at most 30°")),
    _q("Y_B", "factor", tr("rim thickness factor"), P3 + ", 9", formula=tr("external: 1.6 ln(2.242 h/s_R) below s_R/h = 1.2; ring: 1.15 ln(8.324 m_n/s_R) below " "s_R/m_n " "= 3.5; else 1"), inputs="s_R h"),
    _q("Y_DT", "factor", tr("deep tooth factor"), P3 + ", 10", formula=tr("2.366 − 0.666 ε_αn for class 4 and finer, within 0.7 and 1"), inputs="eps_alpha Q"),
    _q("sigma_F0", "stress", tr("nominal root stress"), P3 + ", 5", formula="F_t/(b m_n) · Y_F Y_S Y_β Y_B Y_DT"),
    _q("sigma_F", "stress", tr("root stress"), P3 + ", 5", formula="σ_F0 K_A K_γ K_V K_Fβ K_Fα"),
    _q("sigma_Flim", "stress", tr("nominal stress number, bending"), P5 + tr(", Table 1"), inputs="hardness"),
    _q("Y_ST", "factor", tr("stress correction factor of the test gears"), P3 + ", 7"),
    _q("Y_NT", "factor", tr("life factor"), P3 + ", 12", formula=tr("log-log line between the corners of the life curve at N_L cycles"), inputs="N_L"),
    _q("Y_delta_relT", "factor", tr("relative notch sensitivity factor"), P3 + ", 13", formula=tr("(1 + √(ρ′ χ*)) / (1 + √(ρ′ χ*_T)) with χ* = (1 + 2 q_s)/5"), inputs="q_s"),
    _q("Y_R_relT", "factor", tr("relative surface factor"), P3 + ", 14", formula=tr("a − b (Rz + 1)^n, by material"), inputs="Rz_F"),
    _q("Y_X", "factor", tr("size factor, root"), P3 + ", 15", formula=tr("a − b m_n within its limits, by material"), inputs="m_n"),
    _q("sigma_FG", "stress", tr("tooth-root stress limit"), P3 + ", 5", formula="σ_Flim Y_ST Y_NT Y_δrelT Y_RrelT Y_X Y_M"),
    _q("S_F", "safety", tr("safety against tooth breakage"), P3 + ", 5"),
    _q("Y_L", "factor", tr("Lewis form factor of the true tooth, load at the tip"), "W. Lewis, 1892"),
    _q("sigma_L", "stress", tr("Lewis bending stress, no other factors"), "W. Lewis, 1892"),
    # ANSI/AGMA 2101-D04, metric
    _q("F_w", "force", tr("tangential force at the working pitch cylinder"), AGMA + ", 7"),
    _q("v_wt", "velocity", tr("pitch line speed"), AGMA + ", 7"),
    _q("p_HA", "root_stress", tr("nominal load, √(F / (d_w1 b))"), AGMA + ", 5.1", formula="√(F_t / (d_w1 b))", inputs="F_w p:d_w b_H", shown=("√p", "")),
    _q("p_FA", "stress", tr("nominal load over width and transverse module"), AGMA + ", 5.2", formula="F_t / (b m_t)", inputs="F_w b_H m_n", shown=("p", "F")),
    _q("Z_I", "factor", tr("geometry factor for pitting (I)"), "AGMA 908-B89, 4", formula="cos α_wt C_ψ² / ((1/ρ_1 + 1/ρ_2) d_w1 m_N)", inputs="m_N eps_beta alpha_wt"),
    _q("Y_J", "factor", tr("geometry factor for bending (J)"), "AGMA 908-B89, 5", formula="Y C_ψ / (K_f m_N)", inputs="Y_AGMA K_f m_N"),
    _q("m_N", "factor", tr("load sharing ratio"), "AGMA 908-B89, 4"),
    _q("K_f", "factor", tr("stress correction factor"), "AGMA 908-B89, 5"),
    _q("Y_AGMA", "factor", tr("tooth form factor"), "AGMA 908-B89, 5", shown=("Y", "")),
    _q("K_vA", "factor", tr("dynamic factor"), AGMA + ", 8", formula=tr("((A + √(200 v)) / A)^B with B = 0.25 (A_v − 5)^⅔, A = 50 + 56 (1 − B)"), inputs="v_wt A_v", shown=("K", "v")),
    _q("K_HA", "factor", tr("load distribution factor, empirical"), AGMA + ", 15", formula="1 + K_Hmc (K_Hpf K_Hpm + K_Hma K_He)", inputs="b_H p:d_w", shown=("K", "H")),
    _q("A_v", "count", tr("transmission accuracy grade (none: the flank class stands for it)"), AGMA + ", 8"),
    _q("K_s", "factor", tr("size factor"), AGMA + tr(", 20, entered")),
    _q("K_B", "factor", tr("rim thickness factor"), AGMA + tr(", Annex B"), formula=tr("1.6 ln(2.242 h/s_R) below s_R/h = 1.2, else 1"), inputs="s_R h"),
    _q("Z_RA", "factor", tr("surface condition factor"), AGMA + ", 13", shown=("Z", "R")),
    _q("Z_N", "factor", tr("stress cycle factor for pitting"), AGMA + ", 17", formula=tr("2.466 N^−0.056 below 10⁷ cycles, then 1.4488 N^−0.023 (critical: 2.466 N^−0.056)"), inputs="N_L"),
    _q("Y_N", "factor", tr("stress cycle factor for bending"), AGMA + ", 17", formula=tr("by hardness below 3·10⁶ cycles, then 1.3558 N^−0.0178 (critical: 1.6831 N^−0.0323)"), inputs="N_L"),
    _q("Z_WA", "factor", tr("hardness ratio factor"), AGMA + ", 14", formula=tr("1 + A (u − 1), or 1 + B (450 − HB) against a surface-hardened pinion"), shown=("Z", "W")),
    _q("Y_theta", "factor", tr("temperature factor, 1 up to blanks of 120 °C"), AGMA + ", 19"),
    _q("Y_Z", "factor", tr("reliability factor"), AGMA + ", 18"),
    _q("Y_both", "factor", tr("bending both ways: 0.7 of the strength"), AGMA + ", 16"),
    _q("sigma_HA", "stress", tr("contact stress number"), AGMA + ", 5.1", formula="Z_E √(F_t K_o K_v K_s K_H/(d_w1 b) · Z_R/Z_I)", shown=("σ", "H")),
    _q("sigma_FA", "stress", tr("bending stress number"), AGMA + ", 5.2", formula="F_t K_o K_v K_s K_H K_B / (b m_t Y_J)", shown=("σ", "F")),
    _q("sigma_HP0", "stress", tr("allowable contact stress number"), AGMA + ", 16", inputs="hardness"),
    _q("sigma_FP0", "stress", tr("allowable bending stress number"), AGMA + ", 16", inputs="hardness"),
    _q("sigma_HPA", "stress", tr("permissible contact stress before the safety"), AGMA + ", 5.1", formula="σ_HP Z_N Z_W / (Y_θ Y_Z)", shown=("σ", "HP")),
    _q("sigma_FPA", "stress", tr("permissible bending stress before the safety"), AGMA + ", 5.2", formula="σ_FP Y_N / (Y_θ Y_Z)", shown=("σ", "FP")),
    _q("S_HA", "safety", tr("safety against pitting, AGMA"), AGMA + ", 5.1"),
    _q("S_FA", "safety", tr("safety against tooth breakage, AGMA"), AGMA + ", 5.2"),
    # scuffing
    _q("S_FZG", "count", tr("failure load stage of the oil, test A/8.3/90"), tr("ISO 14635-1, entered")),
    _q("w_Bt", "line_load", tr("line load with all load factors"), "ISO/TS 6336-20:2017" + ", 5"),
    _q("mu_m", "factor", tr("mean friction coefficient of the flash temperature"), "ISO/TS 6336-20:2017" + ", 7"),
    _q("theta_fl", "temperature", tr("greatest flash temperature, rise over the bulk (K)"), "ISO/TS 6336-20:2017" + ", 5"),
    _q("g_fl", "length", tr("where the flash temperature is greatest, from the pinion's base tangent point"), "ISO/TS 6336-20:2017"),
    _q("theta_M", "temperature", tr("bulk temperature of the teeth"), "ISO/TS 6336-20:2017" + ", 6"),
    _q("theta_B", "temperature", tr("greatest contact temperature"), "ISO/TS 6336-20:2017" + ", 5"),
    _q("theta_S", "temperature", tr("scuffing temperature of oil and flanks"), "ISO/TS 6336-20:2017" + ", 9"),
    _q("S_B", "safety", tr("safety against scuffing by flash temperature"), "ISO/TS 6336-20:2017" + ", 5"),
    _q("mu_mC", "factor", tr("mean friction coefficient of the integral temperature"), "ISO/TS 6336-21:2017" + ", 6"),
    _q("theta_flaint", "temperature", tr("mean flash temperature, rise over the bulk (K)"), "ISO/TS 6336-21:2017" + ", 6"),
    _q("theta_int", "temperature", tr("integral temperature"), "ISO/TS 6336-21:2017" + ", 5"),
    _q("theta_Sint", "temperature", tr("scuffing integral temperature"), "ISO/TS 6336-21:2017" + ", 7"),
    _q("S_int", "safety", tr("safety against scuffing by integral temperature"), "ISO/TS 6336-21:2017" + ", 5"),
    _q("X_W", "factor", tr("structural factor of the flanks"), "ISO/TS 6336-20:2017" + ", 9"),
    _q("X_mp", "factor", tr("multiple mesh contact factor of the bulk temperature, (1 + n_p)/2"), "ISO/TS 6336-20:2017" + ", 6"),
    _q("X_E", "factor", tr("running-in factor of the integral temperature"), "ISO/TS 6336-21:2017" + ", 6"),
    _q("phi_E", "factor", tr("how far the flanks are run in when they first bear full load: 1 run in, 0 new"), ENTERED),
    # case
    _q("CHD", "length", tr("effective depth of the hardened case, at 550 HV (none: not rated)"), P5 + tr(", 5.6, entered")),
    _q("CHD_c", "length", tr("least case depth against fracture below the case"), P5 + ", 5.6.2"),
    _q("HV_core", "hardness", tr("hardness of the core beneath the case, HV (none: flank fracture is not rated)"), FRACTURE + tr(", entered")),
    _q("A_FF", "factor", tr("material exposure below the case, largest of all points and depths"), FRACTURE + ", 6"),
    _q("y_FF", "length", tr("depth at which the material exposure is largest"), FRACTURE + ", 6"),
    _q("S_FF", "safety", tr("safety against flank fracture"), FRACTURE + ", 6"),
    _q("S_FFmin", "safety", tr("required safety against flank fracture"), DUTY),
    # micropitting
    _q("S_GF", "count", tr("failure load stage of the oil in the micropitting test C-GF/8.3 (none: micropitting is " "not rated)"), MICRO + tr(", 5, entered")),
    _q("theta_GF", "temperature", tr("oil temperature of the micropitting test"), MICRO + tr(", 5, entered")),
    _q("lambda_GF", "factor", tr("least specific film thickness along the path of contact"), MICRO + ", 5"),
    _q("g_GF", "length", tr("where the film is least, from the base tangent point of gear 1"), MICRO + ", 5"),
    _q("h_GF", "roughness", tr("least film thickness"), MICRO + ", 5"),
    _q("theta_MGF", "temperature", tr("bulk temperature of the teeth, for the film"), MICRO + ", 6"),
    _q("W_W", "factor", tr("material factor of the permissible film"), MICRO + ", 5"),
    _q("lambda_GFT", "factor", tr("specific film of the test gear at its failure load stage"), MICRO + ", 5"),
    _q("lambda_GFP", "factor", tr("permissible specific film, 1.4 W_W lambda_GFT"), MICRO + ", 5"),
    _q("S_lambda", "safety", tr("safety against micropitting"), MICRO + ", 5"),
    _q("S_lambda_min", "safety", tr("required safety against micropitting"), DUTY),
    # losses
    _q("theta_oil", "temperature", tr("oil temperature"), DUTY),
    _q("nu_40", "viscosity", tr("kinematic viscosity at 40 °C"), "ISO 3448"),
    _q("nu_100", "viscosity", tr("kinematic viscosity at 100 °C"), DUTY),
    _q("rho_15", "density", tr("oil density at 15 °C"), DUTY),
    _q("X_L", "factor", tr("lubricant factor of mesh friction"), TR2),
    _q("nu_oil", "viscosity", tr("kinematic viscosity at oil temperature"), "ASTM D341"),
    _q("eta_oil", "dynamic_viscosity", tr("dynamic viscosity at oil temperature"), "nu rho"),
    _q("tau_sh", "stress", tr("torsional stress from which bearing bores are estimated"), ENTERED),
    _q("d_s", "length", tr("bearing bore of the gear's shaft (none: estimated from the torque)"), ENTERED),
    _q("seals", "count", tr("number of rubbing shaft seals, half at the input and half at the output"), ENTERED),
    _q("h_e", "length", tr("depth by which the driven gears dip into the oil"), ENTERED),
    _q("l_hyd", "length", tr("hydraulic length of the sump: four times its area over its edge"), TR2 + ", 6"),
    _q("A_h", "area", tr("area of the housing that gives off heat"), ENTERED),
    _q("k_h", "heat_transfer", tr("heat transfer from housing to air"), TR2 + ", 9"),
    _q("theta_air", "temperature", tr("temperature of the air"), ENTERED),
    _q("theta_max", "temperature", tr("greatest temperature of the oil (none: not checked)"), ENTERED),
    _q("theta_bal", "temperature", tr("oil temperature at which the housing gives off the losses"), TR2 + ", 9"),
    _q("P_V", "power", tr("power lost in all"), TR2),
    _q("P_Vz", "power", tr("lost in the meshes under load"), TR2 + ", 5"),
    _q("P_V0", "power", tr("lost by churning and windage"), TR2 + ", 6"),
    _q("P_VL", "power", tr("lost in the bearings"), "ISO/TR 14179-1:2001" + ", 6"),
    _q("P_VD", "power", tr("lost at the seals"), TR2 + ", 8"),
    _q("eta_all", "factor", tr("efficiency, all losses"), TR2),
    _q("eta_back", "factor", tr("efficiency with the power going backwards"), TR2),
    _q("rho_red", "length", tr("radius of relative curvature at the pitch point"), P2 + ", 12"),
    _q("mu_mz", "factor", tr("mean coefficient of mesh friction, formula as chosen"), TR2),
    _q("H_V", "factor", tr("tooth loss factor"), TR2),
    _q("P_VZ", "power", tr("mesh loss under load"), TR2),
    _q("eta_z", "factor", tr("efficiency of the mesh"), TR2),
    # limits
    _q("S_Hmin", "safety", tr("required safety against pitting"), DUTY),
    _q("S_Fmin", "safety", tr("required safety against tooth breakage"), DUTY),
    _q("S_Hstmin", "safety", tr("required safety of the flank against the greatest load (none: as against pitting)"), DUTY),
    _q("S_Fstmin", "safety", tr("required safety of the root against the greatest load (none: as against tooth " "breakage)"), DUTY),
    _q("S_Bmin", "safety", tr("required safety against scuffing, flash temperature"), DUTY),
    _q("S_intmin", "safety", tr("required safety against scuffing, integral temperature"), DUTY),
    _q("eps_alpha_min", "factor", tr("required profile contact ratio"), DUTY),
    _q("s_an_min", "factor", tr("required tip land as a factor of m_n"), DUTY),
    _q("c_min", "factor", tr("required tip clearance as a factor of m_n"), DUTY),
    _q("c_proc", "allowance", tr("process clearance: gap normal to the flanks that printing or cutting needs (0: " "none)"), DUTY),
    _q("j_min", "allowance", tr("required least circumferential backlash"), DUTY),
    _q("NT_1e10", "factor", tr("life factors Z_NT and Y_NT at 1e10 cycles"), P2 + ", 11; " + P3 + ", 12", shown=("Z,Y", "NT 1e10")),
)
# fmt: on
"""Every quantity by its symbol."""


def quantity_of(key: str) -> Quantity:
    """The quantity of a key of the results, which may end in ``_in`` or ``_out``.

    >>> quantity_of("T_out").meaning
    'torque'
    """
    return QUANTITIES.get(key) or QUANTITIES[key.removesuffix("_in").removesuffix("_out")]


_GREEK = {
    "alpha": "α",
    "beta": "β",
    "gamma": "γ",
    "delta": "δ",
    "eps": "ε",
    "zeta": "ζ",
    "eta": "η",
    "lambda": "λ",
    "theta": "θ",
    "mu": "µ",
    "nu": "ν",
    "rho": "ρ",
    "sigma": "σ",
    "phi": "φ",
    "tau": "τ",
    "omega": "ω",
}


def parts(symbol: str, index: int | None = None) -> tuple[str, str]:
    """A symbol as main letter and subscript for typesetting, with the number of the gear where one is meant.

    >>> parts("eps_alpha"), parts("d_a", 1), parts("Y_delta_relT")
    (('ε', 'α'), ('d', 'a1'), ('Y', 'δ relT'))
    """
    q = QUANTITIES.get(symbol)
    if q is not None and q.shown is not None:
        main, sub = q.shown
    else:
        head, *rest = symbol.split("_")
        main = _GREEK.get(head, head)
        sub = " ".join(_sub(word) for word in rest)
    tail = str(index) if index is not None else ""
    return main, sub + tail


def _sub(word: str) -> str:
    for name, letter in _GREEK.items():
        if word == name:
            return letter
        if word.startswith(("K", "H", "F", "h", "f")) and word[1:] == name:
            return word[0] + letter
        if word == name + "T":
            return letter + "T"
    return word


NOT_WORDS = frozenset({"beta", "eta"})
"""Symbols without a subscript that stand for themselves wherever they are a word."""


def symbol_word(word: str, more: frozenset[str] = frozenset()) -> tuple[str, int | None, str] | None:
    """Symbol, number of the gear and trailing mark of a word such as ``d_a1,``; None for an ordinary word. ``more``
    are symbols beside the quantities.

    >>> symbol_word("d_a1,"), symbol_word("gear"), symbol_word("m_n")
    (('d_a', 1, ','), None, ('m_n', None, ''))
    """
    tail = word[-1] if word and word[-1] in ",;:.)" else ""
    bare = word[: len(word) - len(tail)]
    if bare in NOT_WORDS:
        return bare, None, tail
    if "_" not in bare:
        return None
    if bare in QUANTITIES or bare in more:
        return bare, None, tail
    if bare[-1] in "12" and bare[:-1].rstrip("_") in QUANTITIES:
        return bare[:-1].rstrip("_"), int(bare[-1]), tail
    return None


def plain(symbol: str, index: int | None = None) -> str:
    """A symbol for plain text: ``S_F`` of gear 1 as ``S_F1``.

    >>> plain("S_F", 1)
    'S_F1'
    """
    return symbol if index is None else f"{symbol}{index}" if "_" in symbol else f"{symbol}_{index}"
