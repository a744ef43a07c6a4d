"""Every quantity that Cooper shows, by its ISO symbol in ASCII: kind, meaning, source.

The one list behind the screen, the command line, the report, the results' documentation and the help.
"""

from __future__ import annotations

from msgspec import Struct, field


class Quantity(Struct, frozen=True):
    """One row: all that is known of a quantity beside its value.

    ``kind`` names an entry of `cooper.document.units.KINDS`; ``source`` the standard and clause, or where it comes from; ``formula`` as it is
    printed; ``inputs`` the symbols that drive it (``1:d`` of gear 1, ``p:d`` of the pinion) and ``inputs_by`` those by the method that found
    it; ``shown`` main letter and subscript where they do not follow from the symbol.
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
    found = {q.symbol: q for q in rows}
    if len(found) < len(rows):
        twice = sorted(s for s in found if sum(q.symbol == s for q in rows) > 1)
        raise ValueError(f"two quantities have the symbol {', '.join(twice)}")
    return found


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
    _q("P", "power", "power", "power balance"),
    _q("T", "torque", "torque", "power balance"),
    _q("n", "speed", "speed", "kinematics"),
    _q("u", "factor", "ratio, driven to driving tooth count", I21771 + ", 5.2"),
    _q("u_wanted", "factor", "wanted ratio", DUTY, shown=("u", "wanted")),
    _q("u_tol", "share", "tolerance of the wanted ratio", DUTY, shown=("Δu", "tol")),
    _q("du", "share", "deviation from the wanted ratio", DUTY, shown=("Δu", "")),
    _q("L_h", "time", "required life", DUTY),
    _q("K_A", "factor", "application factor", DUTY),
    _q("K_AP", "factor", "greatest torque over the nominal one, for static strength (none: K_A)", DUTY),
    _q("T_rel", "factor", "torque of a level over the nominal torque", DUTY),
    _q("T_rel_H", "factor", "torque ratio of the level with the greatest contact stress (0: K_AP governs)", "ISO 6336-6:2019", shown=("T", "rel, H")),
    _q("T_rel_F", "factor", "torque ratio of the level with the greatest root stress (0: K_AP governs)", "ISO 6336-6:2019", shown=("T", "rel, F")),
    _q("T_rel_B", "factor", "torque ratio of the level with the least S_B", "ISO 6336-6:2019", shown=("T", "rel, B")),
    _q("T_rel_int", "factor", "torque ratio of the level with the least S_int", "ISO 6336-6:2019", shown=("T", "rel, int")),
    _q("T_rel_GF", "factor", "torque ratio of the level with the thinnest film", "ISO 6336-6:2019", shown=("T", "rel, GF")),
    _q("T_rel_FF", "factor", "torque ratio of the level nearest to flank fracture", "ISO 6336-6:2019", shown=("T", "rel, FF")),
    _q("n_rel", "factor", "speed of a level over the nominal speed", DUTY),
    _q("q_t", "factor", "share of a level in the life, in any unit of time", DUTY),
    # the machine around the gears
    _q("S_D", "factor", "safety of the shaft against fatigue", "DIN 743-1:2012, 5", shown=("S", "D")),
    _q("S_Y", "factor", "safety of the shaft against lasting deformation", "DIN 743-1:2012, 6", shown=("S", "Y")),
    _q("S_Dmin", "factor", "required safety of shafts against fatigue", DUTY, shown=("S", "Dmin")),
    _q("S_Ymin", "factor", "required safety of shafts against lasting deformation", DUTY, shown=("S", "Ymin")),
    _q("n_G", "factor", "safety of the shaft by von Mises and Goodman's line", "equivalent stresses on Goodman's line", shown=("n", "G")),
    _q("L_nmh", "time", "modified life of the bearing", "ISO 281:2007, 9", shown=("L", "nmh")),
    _q("L_10h", "time", "basic rating life of the bearing", "ISO 281:2007, 5", shown=("L", "10h")),
    _q("S_0", "factor", "static safety of the bearing", "ISO 76:2006", shown=("S", "0")),
    _q("S_0min", "factor", "required static safety of bearings", DUTY, shown=("S", "0min")),
    _q("C_r", "force", "dynamic radial rating of the bearing", "ISO 281:2007, or the maker's", shown=("C", "r")),
    _q("C_0r", "force", "static radial rating of the bearing", "ISO 76:2006, or the maker's", shown=("C", "0r")),
    _q("S_J", "factor", "safety of the joint of hub and shaft", "DIN 6892:2012, method C; DIN 7190-1:2017; splines by pressure", shown=("S", "J")),
    _q("S_Jmin", "factor", "required safety of the joints of hubs", DUTY, shown=("S", "Jmin")),
    _q("w_g", "length", "deflection of the shaft at the gear", "bending and shear of the stepped shaft", shown=("w", "g")),
    _q("theta_sh", "small_angle", "slope of the shaft in the bearing", "bending and shear of the stepped shaft", shown=("θ", "sh")),
    _q("n_crit", "speed", "lowest speed at which the shaft whirls", "stepped beam with the gears as discs", shown=("n", "crit")),
    _q("n_lim", "speed", "typical limit of the bearing's speed", "typical n d_pw of the type", shown=("n", "lim")),
    _q("w_rel", "factor", "deflection that is allowed at a gear over its module", DUTY, shown=("w", "rel")),
    _q("Rz_sh", "roughness", "roughness of shafts", ENTERED, shown=("R", "z")),
    _q("R_e_key", "stress", "yield point of keys", ENTERED, shown=("R", "e key")),
    _q("c_ax", "length", "clearance between neighbours in the machine", ENTERED, shown=("c", "ax")),
    _q("s_wall", "length", "thickness of the housing's walls", ENTERED, shown=("s", "wall")),
    _q("phi_ax", "angle", "direction of the line of centres, seen in the end view", ENTERED, shown=("φ", "")),
    _q("d_piece", "length", "diameter of the piece of shaft", ENTERED, shown=("d", "")),
    _q("l_piece", "length", "length of the piece of shaft", ENTERED, shown=("l", "")),
    _q("r_piece", "length", "fillet radius at the foot of the piece of shaft", ENTERED, shown=("r", "")),
    _q("d_hollow", "length", "bore through the shaft", ENTERED, shown=("d", "i")),
    _q("d_hole", "length", "diameter of a hole across the piece of shaft", ENTERED, shown=("d", "hole")),
    _q("d_screw", "length", "thread of the set screw", "ISO 4029", shown=("d", "screw")),
    _q("M_A", "torque", "torque with which a set screw is tightened", ENTERED),
    _q("d_pin", "length", "diameter of the pin across hub and shaft", "ISO 2338", shown=("d", "pin")),
    _q("l_bearing", "length", "middle of the bearing, from that of bearing 1", ENTERED, shown=("l", "B")),
    _q("l_tr", "length", "length of key or hub that bears", "DIN 6892:2012", shown=("l", "tr")),
    _q("L_box", "length", "length of the housing along the shafts", "laid out", shown=("L", "box")),
    _q("W_box", "length", "width of the housing", "laid out", shown=("W", "box")),
    _q("H_box", "length", "height of the housing", "laid out", shown=("H", "box")),
    _q("L_box_max", "length", "greatest length of the housing along the shafts", DUTY, shown=("L", "box max")),
    _q("W_box_max", "length", "greatest width of the housing", DUTY, shown=("W", "box max")),
    _q("H_box_max", "length", "greatest height of the housing", DUTY, shown=("H", "box max")),
    _q("m_box", "mass", "mass of shafts, gears, bearings and the housing's bare walls", "laid out", shown=("m", "box")),
    _q("L_sys", "time", "life that all bearings together reach", "ISO/TR 1281-2, slope 1.5", shown=("L", "sys")),
    _q("X_go", "factor", "load at which the part gives way, over that of the one that shall go first", "order of failure", shown=("X", "go")),
    _q("X_gomin", "factor", "factor by which all parts must outlast the one that shall go first", DUTY, shown=("X", "go min")),
    _q("C_Hbeta", "roughness", "helix slope made on purpose, taken away at the right end", ENTERED, shown=("C", "Hβ")),
    _q("C_beta", "roughness", "helix crowning made on purpose", ENTERED, shown=("C", "β")),
    _q("F_end", "force", "radial force on the end of the shaft from outside", ENTERED, shown=("F", "end")),
    _q("J_end", "inertia", "moment of inertia of what is coupled to the end of the shaft", ENTERED, shown=("J", "end")),
    _q("X_tors", "factor", "distance of the nearest torsional natural frequency from the speed of a shaft, over that speed", "train of shafts, meshes by c_gamma", shown=("X", "tors")),
    _q("T_mesh", "torque", "torque on the driving gear of one mesh", "equilibrium"),
    _q("n_mesh", "speed", "speed of the driving gear relative to its carrier", "kinematics"),
    _q("eta_set", "factor", "efficiency of the set", "torque equilibrium with friction"),
    _q("circulation", "factor", "greatest power through a mesh over the power that comes in", "power flow"),
    _q("c_pl", "length", "gap between the tip circles of neighbouring planets", "geometry", shown=("c", "planets")),
    _q("c_pl_min", "length", "required gap between planets", DUTY),
    _q("envelope", "length", "diameter of the circle around the set", "geometry"),
    _q("phi_lost", "small_angle", "lost motion at the output, mean", "plays of all meshes", shown=("φ", "lost")),
    _q("phi_lost_max", "small_angle", "lost motion at the output, worst case", "plays of all meshes"),
    _q("phi_lost_min", "small_angle", "lost motion at the output, least", "plays of all meshes"),
    _q("phi_lost_rss", "small_angle", "lost motion at the output, root sum of squares", "plays of all meshes"),
    _q("n_planets", "count", "number of planets", ENTERED, shown=("N", "")),
    _q("k_pl", "spring", "stiffness of a planet along its way: pin, bearing, wall, meshes", ENTERED),
    _q("e_pl", "roughness", "how far one planet may stand ahead of the others", ENTERED),
    _q("eta", "factor", "efficiency, with the losses that count", TR2),
    # rack and tooth
    _q("alpha_n", "angle", "normal pressure angle", I53),
    _q("beta", "angle", "helix angle at the reference cylinder", I21771 + ", 4.2"),
    _q("h_aP", "factor", "addendum factor of the basic rack", I53, shown=("h", "aP")),
    _q("h_fP", "factor", "dedendum factor of the basic rack", I53),
    _q("rho_fP", "factor", "root fillet radius factor of the basic rack", I53),
    _q("z", "count", "tooth count, negative for an internal gear", I21771 + ", 4.2"),
    _q("z_0", "count", "tooth count of the pinion cutter", ENTERED),
    _q("x_0", "factor", "profile shift coefficient of the pinion cutter", ENTERED),
    _q("a_0", "length", "centre distance of gear and pinion cutter at full depth", I21771 + ", 7"),
    _q("alpha_w0", "angle", "working pressure angle of gear and pinion cutter", I21771 + ", 7"),
    _q("pr_P", "allowance", "protuberance of the tool's tip beyond its flank", ENTERED),
    _q("q_P", "allowance", "stock ground off each flank", ENTERED),
    _q("alpha_prP", "angle", "profile angle of the protuberance's ramp", ENTERED),
    _q("h_K", "length", "height of the tip chamfer along the radius", ENTERED),
    _q("delta_K", "angle", "angle between tip chamfer and radius", ENTERED),
    _q("rho_a", "length", "radius of the tip rounding", ENTERED),
    _q("d_Fa", "length", "tip form diameter, where the usable involute ends", I21771 + ", 4.4"),
    _q("d_i", "length", "inner diameter of the rim of a wheel with a web (none: a solid disc)", ENTERED),
    _q("b_s", "length", "width of the web under the rim (none: as wide as the teeth)", ENTERED),
    _q("C_R", "factor", "gear blank factor of the stiffness", P1 + ", 9"),
    _q("d_rim", "length", "outside diameter of an internal gear", ENTERED, shown=("d", "rim")),
    _q("h_back", "length", "distance from a rack's datum line to its back", ENTERED, shown=("h", "back")),
    _q("h_a", "length", "addendum: height of a rack's tip above its datum line", I53),
    _q("h_f", "length", "dedendum: depth of a rack's root below its datum line", I53),
    _q("p_t", "length", "transverse pitch", I21771 + ", 4.3"),
    _q("L_z", "length", "length of the toothed part of a rack", "z p_t"),
    _q("travel", "length", "travel of the rack for one turn of its pinion", "z_1 p_t", shown=("travel", "")),
    _q("F", "force", "force on the rack along its travel", "power balance"),
    _q("b_gap", "length", "gap between the halves of a double helix", ENTERED, shown=("b", "gap")),
    _q("c_tip", "length", "gap between the tip corners beyond the mesh", "where the tip circles cross", shown=("c", "tip")),
    _q("m_n", "module", "normal module", "ISO 54:1996"),
    _q("P_nd", "diametral_pitch", "normal diametral pitch", "25.4 mm / m_n"),
    _q("x", "factor", "profile shift coefficient", I21771 + ", 4.3"),
    _q("x_E", "factor", "generating profile shift coefficient at mean allowance", I21771 + ", 8.6"),
    _q("x_min", "factor", "least shift without undercut", I21771 + ", 7.6"),
    _q("d", "length", "reference diameter", I21771 + ", 4.2"),
    _q("d_b", "length", "base diameter", I21771 + ", 4.3"),
    _q("d_a", "length", "tip diameter", I21771 + ", 4.4"),
    _q("d_f", "length", "root diameter, nominal", I21771 + ", 4.4"),
    _q("d_fE", "length", "root diameter of the finished gear at mean allowance", I21771 + ", 7.6"),
    _q("d_w", "length", "working pitch diameter", I21771 + ", 5.3"),
    _q("d_Ff", "length", "root form diameter", I21771 + ", 7.6"),
    _q("d_Nf", "length", "start of active profile diameter", I21771 + ", 5.4"),
    _q("d_Na", "length", "active tip diameter", I21771 + ", 5.4"),
    _q("c_F", "length", "form over-dimension: from the root form circle to where the mate's tip reaches", I21771 + ", 7.6"),
    _q("undercut", "count", "1 where the tool undercuts the flank, else 0", I21771 + ", 7.6"),
    _q("h", "length", "tooth depth", I21771 + ", 4.4"),
    _q("s_n", "length", "normal tooth thickness at the reference circle, nominal", I21771 + ", 4.5"),
    _q("s_nE", "length", "normal tooth thickness at the reference circle at mean allowance", I21771 + ", 4.5"),
    _q("s_an", "length", "normal tooth thickness at the tip (tip land), nominal", I21771 + ", 4.5"),
    _q("s_anE", "length", "tip land of the finished gear at mean allowance", I21771 + ", 4.5"),
    _q("E_sns", "allowance", "upper tooth thickness allowance", ENTERED),
    _q("E_sni", "allowance", "lower tooth thickness allowance", ENTERED),
    _q("b", "length", "face width", ENTERED),
    _q("d_bore", "length", "bore diameter", ENTERED, shown=("d", "bore")),
    _q("s_R", "length", "rim thickness under the root", "(d_f - d_bore)/2"),
    _q("Q", "count", "flank tolerance class", "ISO 1328-1:2013"),
    _q("IT_bore", "count", "tolerance grade of the bore (H)", ENTERED, shown=("IT", "bore")),
    _q("IT_tip", "count", "tolerance grade of the tip diameter (h)", ENTERED, shown=("IT", "a")),
    _q("Ra_bore", "roughness", "mean roughness of the bore", ENTERED, shown=("Ra", "bore")),
    _q("Ra_face", "roughness", "mean roughness of the faces", ENTERED, shown=("Ra", "face")),
    _q("Ra_rest", "roughness", "mean roughness of all other surfaces", ENTERED, shown=("Ra", "")),
    _q("t_tip", "length", "run-out of the tip cylinder", "ISO/TR 10064-3:1996", shown=("t", "tip")),
    _q("t_face", "length", "run-out of the face", "ISO/TR 10064-3:1996", shown=("t", "face")),
    _q("Rz_H", "roughness", "mean peak-to-valley roughness of the flank", ENTERED, shown=("Rz", "H")),
    _q("Rz_F", "roughness", "mean peak-to-valley roughness of the root", ENTERED, shown=("Rz", "F")),
    _q("hardness", "hardness", "surface hardness on the material group's scale", ENTERED, shown=("hardness", "")),
    _q("R_p02", "stress", "yield strength", "entered, or estimated from hardness", shown=("R", "p0.2")),
    _q("E", "stress", "modulus of elasticity", "stock, or entered"),
    _q("density", "density", "density", "stock, or entered", shown=("ρ", "")),
    _q("price_index", "factor", "cost per kg over that of through-hardened steel", "stock, typical, or entered", shown=("cost/kg", "")),
    _q("cost", "factor", "relative cost of material: mass in kg times price index", "mass, price index", shown=("cost", "")),
    _q("swelling", "share", "linear growth by moisture", "entered; typical of the stock", shown=("swelling", "")),
    _q("R_bend", "factor", "stress ratio of teeth bent both ways (-1.2 under equal loads)", P3 + ", Annex B"),
    _q("mass", "mass", "mass of outline times face width, less bore", "outline area", shown=("mass", "")),
    # mesh
    _q("a_w", "length", "working centre distance", I21771 + ", 5.3"),
    _q("a", "length", "reference centre distance", I21771 + ", 5.2"),
    _q("A_as", "allowance", "upper centre distance allowance", ENTERED),
    _q("A_ai", "allowance", "lower centre distance allowance", ENTERED),
    _q("x_sum", "factor", "sum of the profile shifts", I21771 + ", 5.3", shown=("Σx", "")),
    _q("alpha_t", "angle", "transverse pressure angle", I21771 + ", 4.2"),
    _q("alpha_wt", "angle", "transverse working pressure angle", I21771 + ", 5.3"),
    _q("p_et", "length", "transverse base pitch", I21771 + ", 4.3"),
    _q("c", "length", "tip clearance to the mate's root, nominal", I21771 + ", 5.4"),
    _q("eps_alpha", "factor", "profile contact ratio", I21771 + ", 5.4"),
    _q("eps_beta", "factor", "overlap ratio", I21771 + ", 5.4"),
    _q("eps_gamma", "factor", "total contact ratio", I21771 + ", 5.4"),
    _q("g_alpha", "length", "length of the path of contact", I21771 + ", 5.4"),
    _q("g_A", "length", "start of contact, from the pinion's base tangent point", I21771 + ", 5.4"),
    _q("g_B", "length", "inner single contact point of the pinion", I21771 + ", 5.4"),
    _q("g_C", "length", "pitch point", I21771 + ", 5.4"),
    _q("g_D", "length", "outer single contact point of the pinion", I21771 + ", 5.4"),
    _q("g_E", "length", "end of contact", I21771 + ", 5.4"),
    _q("zeta_f", "factor", "specific sliding at the root end of the path", I21771 + ", 6"),
    _q("zeta_a", "factor", "specific sliding at the tip end of the path", I21771 + ", 6"),
    _q("j_wt_min", "length", "least circumferential backlash", I21771 + ", 9"),
    _q("j_wt_max", "length", "greatest circumferential backlash", I21771 + ", 9"),
    _q("j_bn_min", "length", "least normal backlash", I21771 + ", 9"),
    _q("j_bn_max", "length", "greatest normal backlash", I21771 + ", 9"),
    _q("j_phi_min", "small_angle", "least angular backlash, mate held", I21771 + ", 9"),
    _q("j_phi_max", "small_angle", "greatest angular backlash, mate held", I21771 + ", 9"),
    _q("j_wt", "length", "circumferential backlash of the teeth as drawn", I21771 + ", 9"),
    _q("j_op_min", "length", "least backlash in service: tolerances, run-out, temperature together", I21771 + ", 9"),
    _q("j_op_max", "length", "greatest backlash in service", I21771 + ", 9"),
    _q("j_op", "length", "mean backlash in service", I21771 + ", 9"),
    _q("j_rss_min", "length", "least backlash in service, root sum of squares", "statistics"),
    _q("j_rss_max", "length", "greatest backlash in service, root sum of squares", "statistics"),
    _q("j_heat", "length", "change of the backlash by temperature and swelling", "expansion"),
    _q("F_rT", "allowance", "run-out tolerance of the flanks", "ISO 1328-1:2013"),
    _q("theta_gears", "temperature", "temperature of the gears in service", DUTY),
    _q("theta_housing", "temperature", "temperature of the housing in service", DUTY),
    _q("alpha_housing", "expansion", "coefficient of expansion of the housing", DUTY),
    # load
    _q("F_t", "force", "nominal tangential force at the reference cylinder", P1 + ", 4"),
    _q("F_r", "force", "radial force at the working pitch circle", "statics"),
    _q("F_a", "force", "axial force of the helix", "statics"),
    _q("F_bt", "force", "tangential force at the base circle", P1 + ", 4"),
    _q("v", "velocity", "circumferential speed at the reference cylinder", P1 + ", 4"),
    _q("w_t", "line_load", "line load K_A F_t / b", P1 + ", 6"),
    _q("vz", "velocity", "speed parameter v z_1/100 sqrt(u^2/(1+u^2))", P1 + ", 6, method C", shown=("v·z", "")),
    _q("K_V", "factor", "dynamic factor", P1 + ", 6, method as chosen", formula="method C: 1 + (K_1/(K_A F_t/b) + K_2) · v z_1/100 · K_3 · √(u²/(1 + u²)); method B: 1 + N K below resonance", inputs="v 1:z w_t Q", by={"B": "N_res c_s f_pbeff f_faeff w_t"}),
    _q("K_gamma", "factor", "mesh load factor for several meshes that share the power", ENTERED),
    _q("K_Hbeta", "factor", "face load factor, contact", P1 + ", 7, method C, or entered", formula="method C: 1 + F_βy c_γβ b / (2 F_m), from 2 on √(2 F_βy c_γβ b / F_m)", by={"f_sh": "F_betay f_sh f_ma c_gamma w_t", "C": "F_betay f_sh f_ma c_gamma w_t"}),
    _q("K_Halpha", "factor", "transverse load factor, contact", P1 + ", 8, method B, or entered", formula="method B: ε_γ/2 (0.9 + 0.4 c_γα f_α,eff/(F_tH/b)) up to ε_γ = 2", by={"B": "c_gamma f_alphaeff eps_gamma"}),
    _q("c_s", "stiffness", "single stiffness c' of a pair of teeth", P1 + ", 9", shown=("c′", "")),
    _q("c_gamma", "stiffness", "mean mesh stiffness", P1 + ", 9"),
    _q("m_red", "line_mass", "mass of the pair reduced to the line of action, per width", P1 + ", 6, method B"),
    _q("n_E1", "speed", "resonance speed of the pinion", P1 + ", 6, method B"),
    _q("N_res", "factor", "resonance ratio N = n_1/n_E1", P1 + ", 6, method B", shown=("N", "")),
    _q("f_alphaeff", "roughness", "greater of base pitch and profile form deviation after running-in", P1 + ", 8", shown=("f", "α eff")),
    _q("f_pbeff", "roughness", "base pitch deviation after running-in", P1 + ", 6 and 8", shown=("f", "pb eff")),
    _q("f_faeff", "roughness", "profile form deviation after running-in", P1 + ", 6", shown=("f", "fα eff")),
    _q("C_ay", "roughness", "tip relief by running-in", P1 + ", 6, method B"),
    _q("C_a", "roughness", "designed tip relief that counts for K_V and scuffing", ENTERED),
    _q("h_Ff", "factor", "depth under the generating reference line, in modules, at which the flank of an elliptic root ends", ENTERED, shown=("h", "Ff")),
    _q("w_F", "factor", "weight of the corner of an elliptic root: small keeps metal, large comes near the corner", ENTERED, shown=("w", "F")),
    _q("C_alphaa", "roughness", "tip relief made on purpose", ENTERED, shown=("C", "αa")),
    _q("l_Ca", "length", "length of roll over which the tip relief reaches, from the end of the contact", "ISO 21771-1:2024", shown=("l", "Ca")),
    _q("d_Ca", "length", "diameter at which the tip relief begins", "ISO 21771-1:2024", shown=("d", "Ca")),
    _q("xi_Ca", "angle", "roll angle at which the tip relief begins", "ISO 21771-1:2024", shown=("ξ", "Ca")),
    _q("d_Cf", "length", "diameter at which the root relief begins", "ISO 21771-1:2024", shown=("d", "Cf")),
    _q("xi_Cf", "angle", "roll angle at which the root relief begins", "ISO 21771-1:2024", shown=("ξ", "Cf")),
    _q("C_alphaf", "roughness", "root relief made on purpose", ENTERED, shown=("C", "αf")),
    _q("l_Cf", "length", "length of roll over which the root relief reaches, from the end of the contact", "ISO 21771-1:2024", shown=("l", "Cf")),
    _q("C_alpha", "roughness", "profile crowning made on purpose", ENTERED, shown=("C", "α")),
    _q("C_Halpha", "roughness", "profile slope made on purpose, taken away at the tip", ENTERED, shown=("C", "Hα")),
    _q("C_betaI", "roughness", "end relief of the left end", ENTERED, shown=("C", "βI")),
    _q("l_CI", "length", "length of the end relief of the left end", ENTERED, shown=("l", "CI")),
    _q("C_betaII", "roughness", "end relief of the right end", ENTERED, shown=("C", "βII")),
    _q("l_CII", "length", "length of the end relief of the right end", ENTERED, shown=("l", "CII")),
    _q("f_sh", "roughness", "misalignment by deflection of the pinion's shaft", P1 + ", 7, method C"),
    _q("f_ma", "roughness", "misalignment by manufacture", P1 + ", 7, method C"),
    _q("F_betax", "roughness", "initial equivalent misalignment", P1 + ", 7, method C"),
    _q("F_betay", "roughness", "misalignment after running-in", P1 + ", 7, method C"),
    _q("l_sh", "length", "span of the pinion's bearings", ENTERED, shown=("l", "")),
    _q("s_sh", "length", "distance of the pinion's middle from mid-span", ENTERED, shown=("s", "")),
    _q("d_sh", "length", "diameter of the pinion's shaft", ENTERED),
    _q("K_Fbeta", "factor", "face load factor, root: K_Hbeta^N_F", P1 + ", 7", formula="K_Hβ^N_F with N_F = (b/h)² / (1 + b/h + (b/h)²), b/h at least 3", inputs="K_Hbeta b_H h"),
    _q("K_Falpha", "factor", "transverse load factor, root", P1 + ", 8, method B, or K_Halpha as entered", formula="method B: as K_Hα, with its own upper limit", by={"B": "c_gamma f_alphaeff eps_gamma"}),
    _q("b_H", "length", "face width in contact", P2 + ", 5"),
    _q("b_F", "length", "face width counted for the root", P3 + ", 5"),
    _q("N_L", "number", "load cycles", "60 n L_h"),
    # contact
    _q("sigma_load", "root_stress", "nominal load, √(F (u+1) / (d₁ b u))", P2 + ", 5", formula="√(F_t (u + 1) / (d_1 b u))", inputs="F_t 1:d b_H u", shown=("√p", "")),
    _q("Z_H", "factor", "zone factor", P2 + ", 6", formula="√(2 cos β_b cos α_wt / (cos² α_t sin α_wt))", inputs="alpha_t alpha_wt"),
    _q("Z_E", "root_stress", "elasticity factor", P2 + ", 7", formula="√(1 / (π ((1 − ν_1²)/E_1 + (1 − ν_2²)/E_2)))"),
    _q("Z_eps", "factor", "contact ratio factor", P2 + ", 8", formula="spur: √((4 − ε_α)/3); overlap of 1 and more: √(1/ε_α); between: √((4 − ε_α)(1 − ε_β)/3 + ε_β/ε_α)", inputs="eps_alpha eps_beta"),
    _q("Z_beta", "factor", "helix angle factor", P2 + ", 9", formula="1/√cos β", inputs="beta"),
    _q("f_ZCa", "factor", "helical gears: contact pressure factor for the flank modification (1.2 none, 1.07, 1.0)", P2 + ", 6"),
    _q("Z_BD", "factor", "single pair tooth contact factor (Z_B pinion, Z_D wheel)", P2 + ", 6", formula="pressure at the inner (wheel: outer) point of single contact over that at the pitch point, at least 1", inputs="z d_Na alpha_wt eps_alpha f_ZCa", shown=("Z", "B,D")),
    _q("sigma_H0", "stress", "nominal contact stress", P2 + ", 5", formula="Z_H Z_E Z_ε Z_β √(F_t (u + 1) / (d_1 b u))"),
    _q("sigma_H", "stress", "contact stress", P2 + ", 5", formula="Z_B,D σ_H0 √(K_A K_γ K_V K_Hβ K_Hα)"),
    _q("sigma_Hlim", "stress", "allowable contact stress number", P5 + ", Table 1", inputs="hardness"),
    _q("Z_NT", "factor", "life factor", P2 + ", 11", formula="log-log line between the corners of the life curve at N_L cycles", inputs="N_L"),
    _q("Z_L", "factor", "lubricant factor", P2 + ", 12", formula="C_ZL + 4 (1 − C_ZL) / (1.2 + 134/ν_40)²"),
    _q("Z_V", "factor", "velocity factor", P2 + ", 12", formula="C_ZV + 2 (1 − C_ZV) / √(0.8 + 32/v)", inputs="v"),
    _q("Z_R", "factor", "roughness factor", P2 + ", 12", formula="(3 / Rz_10)^C_ZR with Rz_10 = mean Rz · ∛(10/ρ_red)", inputs="Rz_H rho_red"),
    _q("Z_W", "factor", "work hardening factor", P2 + ", 13", formula="surface-hardened mate: (1.2 − (HB − 130)/1700) (3/R_zH)^0.15; both through hardened: 1 + A (u − 1)"),
    _q("Z_X", "factor", "size factor, contact", P2 + ", 14", formula="1"),
    _q("sigma_HG", "stress", "pitting stress limit", P2 + ", 5", formula="σ_Hlim Z_NT Z_L Z_V Z_R Z_W Z_X"),
    _q("S_H", "safety", "safety against pitting", P2 + ", 5"),
    _q("K_peak", "factor", "greatest torque over the running one, K_AP/K_A", DUTY, formula="K_AP / K_A", inputs="K_AP K_A"),
    _q("sigma_Hpk", "stress", "contact stress at the greatest load", P2 + ", 5", inputs="T_rel_H"),
    _q("sigma_Hlim_st", "stress", "allowable contact stress number for static strength", P5 + ", Table 1"),
    _q("Z_NTst", "factor", "life factor, static", P2 + ", 11"),
    _q("Z_Wst", "factor", "work hardening factor, static", P2 + ", 13"),
    _q("sigma_HGst", "stress", "contact stress limit for static strength", P2 + ", 5", formula="σ_Hlim Z_NT Z_W, static"),
    _q("sigma_HGref", "stress", "contact stress limit at the reference life", P2 + ", 5"),
    _q("S_Hst", "safety", "safety of the flank against the greatest load, static", P2 + ", 5"),
    _q("S_Heq", "safety", "safety against pitting under the load spectrum", "ISO 6336-6:2019"),
    _q("D_H", "factor", "damage sum of the flank", "ISO 6336-6:2019"),
    # root
    _q("at_tip", "count", "1 where the root is rated with the load at the tip, 0 at the outer point of single contact", P3 + ", 6"),
    _q("Y_eps", "factor", "contact ratio factor, root, load at the tip", "VDI 2736-2", formula="0.25 + 0.75/ε_α"),
    _q("mu_pl", "factor", "friction coefficient of a plastic pair (none: of the table by materials and lubrication)", "VDI 2736-2, 6.2"),
    _q("ED", "share", "share of the time under load, for the warmth of plastic teeth", DUTY),
    _q("theta_0", "temperature", "temperature of the air or oil around plastic teeth", "VDI 2736-2, 6.2"),
    _q("theta_Fla", "temperature", "temperature of the flanks of a plastic gear", "VDI 2736-2, 6.2"),
    _q("theta_Fuss", "temperature", "temperature of the roots of a plastic gear", "VDI 2736-2, 6.2"),
    _q("theta_Fla_max", "temperature", "temperature up to which the plastic's numbers hold", "data of the material"),
    _q("k_W", "wear", "wear coefficient of the gear on its mate (none: wear is not computed)", ENTERED),
    _q("l_Fl", "length", "length of the active flank along the profile", "VDI 2736-2, 6.5"),
    _q("delta_W", "allowance", "mean wear of the flanks over the required life, normal to them", "VDI 2736-2, 6.5"),
    _q("delta_Wmax", "factor", "wear that is admitted, as a factor of m_n", "VDI 2736-2, 6.5"),
    _q("lambda_t", "allowance", "deflection of the tooth tips of a plastic pair under the load", "VDI 2736-2"),
    _q("Y_M", "factor", "mean stress influence factor", P3 + ", Annex B", formula="1 / (1 − R (1 − M)/(1 + M))", inputs="R_bend"),
    _q("Y_Mst", "factor", "mean stress influence factor for static strength", P3 + ", Annex B", inputs="R_bend"),
    _q("sigma_Fpk", "stress", "root stress at the greatest load", P3 + ", 5", inputs="T_rel_F"),
    _q("sigma_Flim_st", "stress", "nominal stress number, bending, for static strength", P5 + ", Table 1"),
    _q("Y_NTst", "factor", "life factor, static", P3 + ", 12"),
    _q("Y_delta_st", "factor", "relative notch sensitivity factor, static", P3 + ", 13"),
    _q("sigma_FGst", "stress", "tooth-root stress limit for static strength", P3 + ", 5", formula="σ_Flim Y_ST Y_NT Y_δrelT Y_M, static"),
    _q("sigma_FGref", "stress", "tooth-root stress limit at the reference life", P3 + ", 5"),
    _q("S_Fst", "safety", "safety of the root against the greatest load, static", P3 + ", 5"),
    _q("S_Feq", "safety", "safety against tooth breakage under the load spectrum", "ISO 6336-6:2019"),
    _q("D_F", "factor", "damage sum of the root", "ISO 6336-6:2019"),
    _q("sigma_Fload", "stress", "nominal load over width and module, F / (b m)", P3 + ", 5", formula="F_t / (b m_n)", inputs="F_t b_F m_n", shown=("p", "F")),
    _q("s_Fn", "length", "chord at the critical section", P3 + ", 6"),
    _q("h_Fe", "length", "lever arm of the load", P3 + ", 6"),
    _q("rho_F", "length", "fillet radius at the critical section", P3 + ", 6"),
    _q("alpha_Fen", "angle", "load direction at the outer point of single contact", P3 + ", 6"),
    _q("q_s", "factor", "notch parameter", P3 + ", 7"),
    _q("f_eps", "factor", "load distribution influence factor", P3 + ", 6"),
    _q("z_n", "factor", "virtual tooth count", P3 + ", 6"),
    _q("beta_b", "angle", "base helix angle", I21771 + ", 4.3"),
    _q("p_z", "length", "lead of the helix (0 for spur gears)", I21771 + ", 4.2"),
    _q("Y_F", "factor", "form factor, load at the outer point of single contact", P3 + ", 6", formula="6 (h_Fe/m_n) cos α_Fen / ((s_Fn/m_n)² cos α_n) · f_ε", inputs="h_Fe s_Fn alpha_Fen f_eps"),
    _q("Y_S", "factor", "stress correction factor", P3 + ", 7", formula="(1.2 + 0.13 L) q_s^(1/(1.21 + 2.3/L)) with L = s_Fn/h_Fe, q_s = s_Fn/(2 ρ_F)", inputs="s_Fn h_Fe rho_F"),
    _q("Y_g", "factor", "stress of a grinding notch over that of the fillet without it, Y_Sg/Y_S", P3 + ", 7.3", formula="1.3 / (1.3 − 0.6 √(t_g/ρ_g))", inputs="t_g rho_g"),
    _q("t_g", "length", "depth of the grinding notch in the fillet (0: stock less protuberance, where that is above 0)", ENTERED),
    _q("rho_g", "length", "radius of the grinding notch", ENTERED),
    _q("Y_beta", "factor", "helix angle factor", P3 + ", 8", formula="(1 − ε_β β/120°) / cos³ β, ε_β at most 1, β at most 30°"),
    _q("Y_B", "factor", "rim thickness factor", P3 + ", 9", formula="external: 1.6 ln(2.242 h/s_R) below s_R/h = 1.2; ring: 1.15 ln(8.324 m_n/s_R) below s_R/m_n = 3.5; else 1", inputs="s_R h"),
    _q("Y_DT", "factor", "deep tooth factor", P3 + ", 10", formula="2.366 − 0.666 ε_αn for class 4 and finer, within 0.7 and 1", inputs="eps_alpha Q"),
    _q("sigma_F0", "stress", "nominal root stress", P3 + ", 5", formula="F_t/(b m_n) · Y_F Y_S Y_β Y_B Y_DT"),
    _q("sigma_F", "stress", "root stress", P3 + ", 5", formula="σ_F0 K_A K_γ K_V K_Fβ K_Fα"),
    _q("sigma_Flim", "stress", "nominal stress number, bending", P5 + ", Table 1", inputs="hardness"),
    _q("Y_ST", "factor", "stress correction factor of the test gears", P3 + ", 7"),
    _q("Y_NT", "factor", "life factor", P3 + ", 12", formula="log-log line between the corners of the life curve at N_L cycles", inputs="N_L"),
    _q("Y_delta_relT", "factor", "relative notch sensitivity factor", P3 + ", 13", formula="(1 + √(ρ′ χ*)) / (1 + √(ρ′ χ*_T)) with χ* = (1 + 2 q_s)/5", inputs="q_s"),
    _q("Y_R_relT", "factor", "relative surface factor", P3 + ", 14", formula="a − b (Rz + 1)^n, by material", inputs="Rz_F"),
    _q("Y_X", "factor", "size factor, root", P3 + ", 15", formula="a − b m_n within its limits, by material", inputs="m_n"),
    _q("sigma_FG", "stress", "tooth-root stress limit", P3 + ", 5", formula="σ_Flim Y_ST Y_NT Y_δrelT Y_RrelT Y_X Y_M"),
    _q("S_F", "safety", "safety against tooth breakage", P3 + ", 5"),
    _q("Y_L", "factor", "Lewis form factor of the true tooth, load at the tip", "W. Lewis, 1892"),
    _q("sigma_L", "stress", "Lewis bending stress, no other factors", "W. Lewis, 1892"),
    # ANSI/AGMA 2101-D04, metric
    _q("F_w", "force", "tangential force at the working pitch cylinder", AGMA + ", 7"),
    _q("v_wt", "velocity", "pitch line speed", AGMA + ", 7"),
    _q("p_HA", "root_stress", "nominal load, √(F / (d_w1 b))", AGMA + ", 5.1", formula="√(F_t / (d_w1 b))", inputs="F_w p:d_w b_H", shown=("√p", "")),
    _q("p_FA", "stress", "nominal load over width and transverse module", AGMA + ", 5.2", formula="F_t / (b m_t)", inputs="F_w b_H m_n", shown=("p", "F")),
    _q("Z_I", "factor", "geometry factor for pitting (I)", "AGMA 908-B89, 4", formula="cos α_wt C_ψ² / ((1/ρ_1 + 1/ρ_2) d_w1 m_N)", inputs="m_N eps_beta alpha_wt"),
    _q("Y_J", "factor", "geometry factor for bending (J)", "AGMA 908-B89, 5", formula="Y C_ψ / (K_f m_N)", inputs="Y_AGMA K_f m_N"),
    _q("m_N", "factor", "load sharing ratio", "AGMA 908-B89, 4"),
    _q("K_f", "factor", "stress correction factor", "AGMA 908-B89, 5"),
    _q("Y_AGMA", "factor", "tooth form factor", "AGMA 908-B89, 5", shown=("Y", "")),
    _q("K_vA", "factor", "dynamic factor", AGMA + ", 8", formula="((A + √(200 v)) / A)^B with B = 0.25 (A_v − 5)^⅔, A = 50 + 56 (1 − B)", inputs="v_wt A_v", shown=("K", "v")),
    _q("K_HA", "factor", "load distribution factor, empirical", AGMA + ", 15", formula="1 + K_Hmc (K_Hpf K_Hpm + K_Hma K_He)", inputs="b_H p:d_w", shown=("K", "H")),
    _q("A_v", "count", "transmission accuracy grade (none: the flank class stands for it)", AGMA + ", 8"),
    _q("K_s", "factor", "size factor", AGMA + ", 20, entered"),
    _q("K_B", "factor", "rim thickness factor", AGMA + ", Annex B", formula="1.6 ln(2.242 h/s_R) below s_R/h = 1.2, else 1", inputs="s_R h"),
    _q("Z_RA", "factor", "surface condition factor", AGMA + ", 13", shown=("Z", "R")),
    _q("Z_N", "factor", "stress cycle factor for pitting", AGMA + ", 17", formula="2.466 N^−0.056 below 10⁷ cycles, then 1.4488 N^−0.023 (critical: 2.466 N^−0.056)", inputs="N_L"),
    _q("Y_N", "factor", "stress cycle factor for bending", AGMA + ", 17", formula="by hardness below 3·10⁶ cycles, then 1.3558 N^−0.0178 (critical: 1.6831 N^−0.0323)", inputs="N_L"),
    _q("Z_WA", "factor", "hardness ratio factor", AGMA + ", 14", formula="1 + A (u − 1), or 1 + B (450 − HB) against a surface-hardened pinion", shown=("Z", "W")),
    _q("Y_theta", "factor", "temperature factor, 1 up to blanks of 120 °C", AGMA + ", 19"),
    _q("Y_Z", "factor", "reliability factor", AGMA + ", 18"),
    _q("Y_both", "factor", "bending both ways: 0.7 of the strength", AGMA + ", 16"),
    _q("sigma_HA", "stress", "contact stress number", AGMA + ", 5.1", formula="Z_E √(F_t K_o K_v K_s K_H/(d_w1 b) · Z_R/Z_I)", shown=("σ", "H")),
    _q("sigma_FA", "stress", "bending stress number", AGMA + ", 5.2", formula="F_t K_o K_v K_s K_H K_B / (b m_t Y_J)", shown=("σ", "F")),
    _q("sigma_HP0", "stress", "allowable contact stress number", AGMA + ", 16", inputs="hardness"),
    _q("sigma_FP0", "stress", "allowable bending stress number", AGMA + ", 16", inputs="hardness"),
    _q("sigma_HPA", "stress", "permissible contact stress before the safety", AGMA + ", 5.1", formula="σ_HP Z_N Z_W / (Y_θ Y_Z)", shown=("σ", "HP")),
    _q("sigma_FPA", "stress", "permissible bending stress before the safety", AGMA + ", 5.2", formula="σ_FP Y_N / (Y_θ Y_Z)", shown=("σ", "FP")),
    _q("S_HA", "safety", "safety against pitting, AGMA", AGMA + ", 5.1"),
    _q("S_FA", "safety", "safety against tooth breakage, AGMA", AGMA + ", 5.2"),
    # scuffing
    _q("S_FZG", "count", "failure load stage of the oil, test A/8.3/90", "ISO 14635-1, entered"),
    _q("w_Bt", "line_load", "line load with all load factors", "ISO/TS 6336-20:2017" + ", 5"),
    _q("mu_m", "factor", "mean friction coefficient of the flash temperature", "ISO/TS 6336-20:2017" + ", 7"),
    _q("theta_fl", "temperature", "greatest flash temperature, rise over the bulk (K)", "ISO/TS 6336-20:2017" + ", 5"),
    _q("g_fl", "length", "where the flash temperature is greatest, from the pinion's base tangent point", "ISO/TS 6336-20:2017"),
    _q("theta_M", "temperature", "bulk temperature of the teeth", "ISO/TS 6336-20:2017" + ", 6"),
    _q("theta_B", "temperature", "greatest contact temperature", "ISO/TS 6336-20:2017" + ", 5"),
    _q("theta_S", "temperature", "scuffing temperature of oil and flanks", "ISO/TS 6336-20:2017" + ", 9"),
    _q("S_B", "safety", "safety against scuffing by flash temperature", "ISO/TS 6336-20:2017" + ", 5"),
    _q("mu_mC", "factor", "mean friction coefficient of the integral temperature", "ISO/TS 6336-21:2017" + ", 6"),
    _q("theta_flaint", "temperature", "mean flash temperature, rise over the bulk (K)", "ISO/TS 6336-21:2017" + ", 6"),
    _q("theta_int", "temperature", "integral temperature", "ISO/TS 6336-21:2017" + ", 5"),
    _q("theta_Sint", "temperature", "scuffing integral temperature", "ISO/TS 6336-21:2017" + ", 7"),
    _q("S_int", "safety", "safety against scuffing by integral temperature", "ISO/TS 6336-21:2017" + ", 5"),
    _q("X_W", "factor", "structural factor of the flanks", "ISO/TS 6336-20:2017" + ", 9"),
    _q("X_mp", "factor", "multiple mesh contact factor of the bulk temperature, (1 + n_p)/2", "ISO/TS 6336-20:2017" + ", 6"),
    _q("X_E", "factor", "running-in factor of the integral temperature", "ISO/TS 6336-21:2017" + ", 6"),
    _q("phi_E", "factor", "how far the flanks are run in when they first bear full load: 1 run in, 0 new", ENTERED),
    # case
    _q("CHD", "length", "effective depth of the hardened case, at 550 HV (none: not rated)", P5 + ", 5.6, entered"),
    _q("CHD_c", "length", "least case depth against fracture below the case", P5 + ", 5.6.2"),
    _q("HV_core", "hardness", "hardness of the core beneath the case, HV (none: flank fracture is not rated)", FRACTURE + ", entered"),
    _q("A_FF", "factor", "material exposure below the case, largest of all points and depths", FRACTURE + ", 6"),
    _q("y_FF", "length", "depth at which the material exposure is largest", FRACTURE + ", 6"),
    _q("S_FF", "safety", "safety against flank fracture", FRACTURE + ", 6"),
    _q("S_FFmin", "safety", "required safety against flank fracture", DUTY),
    # micropitting
    _q("S_GF", "count", "failure load stage of the oil in the micropitting test C-GF/8.3 (none: micropitting is not rated)", MICRO + ", 5, entered"),
    _q("theta_GF", "temperature", "oil temperature of the micropitting test", MICRO + ", 5, entered"),
    _q("lambda_GF", "factor", "least specific film thickness along the path of contact", MICRO + ", 5"),
    _q("g_GF", "length", "where the film is least, from the base tangent point of gear 1", MICRO + ", 5"),
    _q("h_GF", "roughness", "least film thickness", MICRO + ", 5"),
    _q("theta_MGF", "temperature", "bulk temperature of the teeth, for the film", MICRO + ", 6"),
    _q("W_W", "factor", "material factor of the permissible film", MICRO + ", 5"),
    _q("lambda_GFT", "factor", "specific film of the test gear at its failure load stage", MICRO + ", 5"),
    _q("lambda_GFP", "factor", "permissible specific film, 1.4 W_W lambda_GFT", MICRO + ", 5"),
    _q("S_lambda", "safety", "safety against micropitting", MICRO + ", 5"),
    _q("S_lambda_min", "safety", "required safety against micropitting", DUTY),
    # losses
    _q("theta_oil", "temperature", "oil temperature", DUTY),
    _q("nu_40", "viscosity", "kinematic viscosity at 40 °C", "ISO 3448"),
    _q("nu_100", "viscosity", "kinematic viscosity at 100 °C", DUTY),
    _q("rho_15", "density", "oil density at 15 °C", DUTY),
    _q("X_L", "factor", "lubricant factor of mesh friction", TR2),
    _q("nu_oil", "viscosity", "kinematic viscosity at oil temperature", "ASTM D341"),
    _q("eta_oil", "dynamic_viscosity", "dynamic viscosity at oil temperature", "nu rho"),
    _q("tau_sh", "stress", "torsional stress from which bearing bores are estimated", ENTERED),
    _q("d_s", "length", "bearing bore of the gear's shaft (none: estimated from the torque)", ENTERED),
    _q("seals", "count", "number of rubbing shaft seals, half at the input and half at the output", ENTERED),
    _q("h_e", "length", "depth by which the driven gears dip into the oil", ENTERED),
    _q("l_hyd", "length", "hydraulic length of the sump: four times its area over its edge", TR2 + ", 6"),
    _q("A_h", "area", "area of the housing that gives off heat", ENTERED),
    _q("k_h", "heat_transfer", "heat transfer from housing to air", TR2 + ", 9"),
    _q("theta_air", "temperature", "temperature of the air", ENTERED),
    _q("theta_max", "temperature", "greatest temperature of the oil (none: not checked)", ENTERED),
    _q("theta_bal", "temperature", "oil temperature at which the housing gives off the losses", TR2 + ", 9"),
    _q("P_V", "power", "power lost in all", TR2),
    _q("P_Vz", "power", "lost in the meshes under load", TR2 + ", 5"),
    _q("P_V0", "power", "lost by churning and windage", TR2 + ", 6"),
    _q("P_VL", "power", "lost in the bearings", "ISO/TR 14179-1:2001" + ", 6"),
    _q("P_VD", "power", "lost at the seals", TR2 + ", 8"),
    _q("eta_all", "factor", "efficiency, all losses", TR2),
    _q("eta_back", "factor", "efficiency with the power going backwards", TR2),
    _q("rho_red", "length", "radius of relative curvature at the pitch point", P2 + ", 12"),
    _q("mu_mz", "factor", "mean coefficient of mesh friction, formula as chosen", TR2),
    _q("H_V", "factor", "tooth loss factor", TR2),
    _q("P_VZ", "power", "mesh loss under load", TR2),
    _q("eta_z", "factor", "efficiency of the mesh", TR2),
    # limits
    _q("S_Hmin", "safety", "required safety against pitting", DUTY),
    _q("S_Fmin", "safety", "required safety against tooth breakage", DUTY),
    _q("S_Hstmin", "safety", "required safety of the flank against the greatest load (none: as against pitting)", DUTY),
    _q("S_Fstmin", "safety", "required safety of the root against the greatest load (none: as against tooth breakage)", DUTY),
    _q("S_Bmin", "safety", "required safety against scuffing, flash temperature", DUTY),
    _q("S_intmin", "safety", "required safety against scuffing, integral temperature", DUTY),
    _q("eps_alpha_min", "factor", "required profile contact ratio", DUTY),
    _q("s_an_min", "factor", "required tip land as a factor of m_n", DUTY),
    _q("c_min", "factor", "required tip clearance as a factor of m_n", DUTY),
    _q("c_proc", "allowance", "process clearance: gap normal to the flanks that printing or cutting needs (0: none)", DUTY),
    _q("j_min", "allowance", "required least circumferential backlash", DUTY),
    _q("NT_1e10", "factor", "life factors Z_NT and Y_NT at 1e10 cycles", P2 + ", 11; " + P3 + ", 12", shown=("Z,Y", "NT 1e10")),
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
    """Symbol, number of the gear and trailing mark of a word such as ``d_a1,``; None for an ordinary word. ``more`` are symbols beside the quantities.

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
