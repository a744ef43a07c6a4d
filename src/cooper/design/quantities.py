"""Every quantity that Cooper shows, by its ISO symbol in ASCII: kind, meaning, source.

The one list behind the screen, the command line, the report, the results' documentation and the help.
"""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Quantity:
    """``kind`` names an entry of `cooper.design.units.KINDS`; ``source`` the standard and clause, or where it comes from."""

    symbol: str
    kind: str
    meaning: str
    source: str


I53, I21771, I1122 = "ISO 53:1998", "ISO 21771:2007", "ISO 1122-1:1998"
P1, P2, P3, P5 = "ISO 6336-1:2019", "ISO 6336-2:2019", "ISO 6336-3:2019", "ISO 6336-5:2016"
TR2 = "ISO/TR 14179-2:2001"
MICRO = "ISO/TS 6336-22:2018"
AGMA = "ANSI/AGMA 2101-D04"
DUTY, ENTERED = "duty", "entered"

_ROWS: tuple[tuple[str, str, str, str], ...] = (
    # duty and train
    ("P", "power", "power", "power balance"),
    ("T", "torque", "torque", "power balance"),
    ("n", "speed", "speed", "kinematics"),
    ("u", "factor", "ratio, driven to driving tooth count", I21771 + ", 5.2"),
    ("u_wanted", "factor", "wanted ratio", DUTY),
    ("u_tol", "share", "tolerance of the wanted ratio", DUTY),
    ("du", "share", "deviation from the wanted ratio", DUTY),
    ("L_h", "time", "required life", DUTY),
    ("K_A", "factor", "application factor", DUTY),
    ("K_AP", "factor", "greatest torque over the nominal one, for static strength (none: K_A)", DUTY),
    ("T_rel", "factor", "torque of a level over the nominal torque", DUTY),
    ("n_rel", "factor", "speed of a level over the nominal speed", DUTY),
    ("q_t", "factor", "share of a level in the life, in any unit of time", DUTY),
    ("T_mesh", "torque", "torque on the driving gear of one mesh", "equilibrium"),
    ("n_mesh", "speed", "speed of the driving gear relative to its carrier", "kinematics"),
    ("eta_set", "factor", "efficiency of the set", "torque equilibrium with friction"),
    ("circulation", "factor", "greatest power through a mesh over the power that comes in", "power flow"),
    ("c_pl", "length", "gap between the tip circles of neighbouring planets", "geometry"),
    ("c_pl_min", "length", "required gap between planets", DUTY),
    ("envelope", "length", "diameter of the circle around the set", "geometry"),
    ("phi_lost", "small_angle", "lost motion at the output, mean", "plays of all meshes"),
    ("phi_lost_max", "small_angle", "lost motion at the output, worst case", "plays of all meshes"),
    ("phi_lost_min", "small_angle", "lost motion at the output, least", "plays of all meshes"),
    ("phi_lost_rss", "small_angle", "lost motion at the output, root sum of squares", "plays of all meshes"),
    ("n_planets", "count", "number of planets", ENTERED),
    ("eta", "factor", "efficiency, mesh losses only", TR2),
    # rack and tooth
    ("alpha_n", "angle", "normal pressure angle", I53),
    ("beta", "angle", "helix angle at the reference cylinder", I21771 + ", 4.2"),
    ("h_aP", "factor", "addendum factor of the basic rack", I53),
    ("h_fP", "factor", "dedendum factor of the basic rack", I53),
    ("rho_fP", "factor", "root fillet radius factor of the basic rack", I53),
    ("z", "count", "tooth count, negative for an internal gear", I21771 + ", 4.2"),
    ("z_0", "count", "tooth count of the pinion cutter", ENTERED),
    ("x_0", "factor", "profile shift coefficient of the pinion cutter", ENTERED),
    ("a_0", "length", "centre distance of gear and pinion cutter at full depth", I21771 + ", 7"),
    ("alpha_w0", "angle", "working pressure angle of gear and pinion cutter", I21771 + ", 7"),
    ("pr_P", "allowance", "protuberance of the tool's tip beyond its flank", ENTERED),
    ("q_P", "allowance", "stock ground off each flank", ENTERED),
    ("alpha_prP", "angle", "profile angle of the protuberance's ramp", ENTERED),
    ("h_K", "length", "height of the tip chamfer along the radius", ENTERED),
    ("delta_K", "angle", "angle between tip chamfer and radius", ENTERED),
    ("rho_a", "length", "radius of the tip rounding", ENTERED),
    ("d_Fa", "length", "tip form diameter, where the usable involute ends", I21771 + ", 4.4"),
    ("d_i", "length", "inner diameter of the rim of a wheel with a web (none: a solid disc)", ENTERED),
    ("b_s", "length", "width of the web under the rim (none: as wide as the teeth)", ENTERED),
    ("C_R", "factor", "gear blank factor of the stiffness", P1 + ", 9"),
    ("d_rim", "length", "outside diameter of an internal gear", ENTERED),
    ("h_back", "length", "distance from a rack's datum line to its back", ENTERED),
    ("h_a", "length", "addendum: height of a rack's tip above its datum line", I53),
    ("h_f", "length", "dedendum: depth of a rack's root below its datum line", I53),
    ("p_t", "length", "transverse pitch", I21771 + ", 4.3"),
    ("L_z", "length", "length of the toothed part of a rack", "z p_t"),
    ("travel", "length", "travel of the rack for one turn of its pinion", "z_1 p_t"),
    ("F", "force", "force on the rack along its travel", "power balance"),
    ("b_gap", "length", "gap between the halves of a double helix", ENTERED),
    ("c_tip", "length", "gap between the tip corners beyond the mesh", "where the tip circles cross"),
    ("m_n", "module", "normal module", "ISO 54:1996"),
    ("P_nd", "diametral_pitch", "normal diametral pitch", "25.4 mm / m_n"),
    ("x", "factor", "profile shift coefficient", I21771 + ", 4.3"),
    ("x_E", "factor", "generating profile shift coefficient at mean allowance", I21771 + ", 8.6"),
    ("x_min", "factor", "least shift without undercut", I21771 + ", 7.6"),
    ("d", "length", "reference diameter", I21771 + ", 4.2"),
    ("d_b", "length", "base diameter", I21771 + ", 4.3"),
    ("d_a", "length", "tip diameter", I21771 + ", 4.4"),
    ("d_f", "length", "root diameter, nominal", I21771 + ", 4.4"),
    ("d_fE", "length", "root diameter of the finished gear at mean allowance", I21771 + ", 7.6"),
    ("d_w", "length", "working pitch diameter", I21771 + ", 5.3"),
    ("d_Ff", "length", "root form diameter", I21771 + ", 7.6"),
    ("d_Nf", "length", "start of active profile diameter", I21771 + ", 5.4"),
    ("d_Na", "length", "active tip diameter", I21771 + ", 5.4"),
    (
        "c_F",
        "length",
        "form over-dimension: from the root form circle to where the mate's tip reaches",
        I21771 + ", 7.6",
    ),
    ("undercut", "count", "1 where the tool undercuts the flank, else 0", I21771 + ", 7.6"),
    ("h", "length", "tooth depth", I21771 + ", 4.4"),
    ("s_n", "length", "normal tooth thickness at the reference circle, nominal", I21771 + ", 4.5"),
    ("s_nE", "length", "normal tooth thickness at the reference circle at mean allowance", I21771 + ", 4.5"),
    ("s_an", "length", "normal tooth thickness at the tip (tip land), nominal", I21771 + ", 4.5"),
    ("s_anE", "length", "tip land of the finished gear at mean allowance", I21771 + ", 4.5"),
    ("E_sns", "allowance", "upper tooth thickness allowance", ENTERED),
    ("E_sni", "allowance", "lower tooth thickness allowance", ENTERED),
    ("b", "length", "face width", ENTERED),
    ("d_bore", "length", "bore diameter", ENTERED),
    ("s_R", "length", "rim thickness under the root", "(d_f - d_bore)/2"),
    ("Q", "count", "flank tolerance class", "ISO 1328-1:2013"),
    ("Rz_H", "roughness", "mean peak-to-valley roughness of the flank", ENTERED),
    ("Rz_F", "roughness", "mean peak-to-valley roughness of the root", ENTERED),
    ("hardness", "hardness", "surface hardness on the material group's scale", ENTERED),
    ("R_p02", "stress", "yield strength", "entered, or estimated from hardness"),
    ("E", "stress", "modulus of elasticity", "stock, or entered"),
    ("density", "density", "density", "stock, or entered"),
    ("price_index", "factor", "cost per kg over that of through-hardened steel", "stock, typical, or entered"),
    ("cost", "factor", "relative cost of material: mass in kg times price index", "mass, price index"),
    ("swelling", "share", "linear growth by moisture", "entered; typical of the stock"),
    ("R_bend", "factor", "stress ratio of teeth bent both ways (-1.2 under equal loads)", P3 + ", Annex B"),
    ("mass", "mass", "mass of outline times face width, less bore", "outline area"),
    # mesh
    ("a_w", "length", "working centre distance", I21771 + ", 5.3"),
    ("a", "length", "reference centre distance", I21771 + ", 5.2"),
    ("A_as", "allowance", "upper centre distance allowance", ENTERED),
    ("A_ai", "allowance", "lower centre distance allowance", ENTERED),
    ("x_sum", "factor", "sum of the profile shifts", I21771 + ", 5.3"),
    ("alpha_t", "angle", "transverse pressure angle", I21771 + ", 4.2"),
    ("alpha_wt", "angle", "transverse working pressure angle", I21771 + ", 5.3"),
    ("p_et", "length", "transverse base pitch", I21771 + ", 4.3"),
    ("c", "length", "tip clearance to the mate's root, nominal", I21771 + ", 5.4"),
    ("eps_alpha", "factor", "profile contact ratio", I21771 + ", 5.4"),
    ("eps_beta", "factor", "overlap ratio", I21771 + ", 5.4"),
    ("eps_gamma", "factor", "total contact ratio", I21771 + ", 5.4"),
    ("g_alpha", "length", "length of the path of contact", I21771 + ", 5.4"),
    ("g_A", "length", "start of contact, from the pinion's base tangent point", I21771 + ", 5.4"),
    ("g_B", "length", "inner single contact point of the pinion", I21771 + ", 5.4"),
    ("g_C", "length", "pitch point", I21771 + ", 5.4"),
    ("g_D", "length", "outer single contact point of the pinion", I21771 + ", 5.4"),
    ("g_E", "length", "end of contact", I21771 + ", 5.4"),
    ("zeta_f", "factor", "specific sliding at the root end of the path", I21771 + ", 6"),
    ("zeta_a", "factor", "specific sliding at the tip end of the path", I21771 + ", 6"),
    ("j_wt_min", "length", "least circumferential backlash", I21771 + ", 9"),
    ("j_wt_max", "length", "greatest circumferential backlash", I21771 + ", 9"),
    ("j_bn_min", "length", "least normal backlash", I21771 + ", 9"),
    ("j_bn_max", "length", "greatest normal backlash", I21771 + ", 9"),
    ("j_phi_min", "small_angle", "least angular backlash, mate held", I21771 + ", 9"),
    ("j_phi_max", "small_angle", "greatest angular backlash, mate held", I21771 + ", 9"),
    ("j_wt", "length", "circumferential backlash of the teeth as drawn", I21771 + ", 9"),
    ("j_op_min", "length", "least backlash in service: tolerances, run-out, temperature together", I21771 + ", 9"),
    ("j_op_max", "length", "greatest backlash in service", I21771 + ", 9"),
    ("j_op", "length", "mean backlash in service", I21771 + ", 9"),
    ("j_rss_min", "length", "least backlash in service, root sum of squares", "statistics"),
    ("j_rss_max", "length", "greatest backlash in service, root sum of squares", "statistics"),
    ("j_heat", "length", "change of the backlash by temperature and swelling", "expansion"),
    ("F_rT", "allowance", "run-out tolerance of the flanks", "ISO 1328-1:2013"),
    ("theta_gears", "temperature", "temperature of the gears in service", DUTY),
    ("theta_housing", "temperature", "temperature of the housing in service", DUTY),
    ("alpha_housing", "expansion", "coefficient of expansion of the housing", DUTY),
    # load
    ("F_t", "force", "nominal tangential force at the reference cylinder", P1 + ", 4"),
    ("F_r", "force", "radial force at the working pitch circle", "statics"),
    ("F_a", "force", "axial force of the helix", "statics"),
    ("F_bt", "force", "tangential force at the base circle", P1 + ", 4"),
    ("v", "velocity", "circumferential speed at the reference cylinder", P1 + ", 4"),
    ("w_t", "line_load", "line load K_A F_t / b", P1 + ", 6"),
    ("vz", "velocity", "speed parameter v z_1/100 sqrt(u^2/(1+u^2))", P1 + ", 6, method C"),
    ("K_V", "factor", "dynamic factor", P1 + ", 6, method as chosen"),
    ("K_gamma", "factor", "mesh load factor for several meshes that share the power", ENTERED),
    ("K_Hbeta", "factor", "face load factor, contact", P1 + ", 7, method C, or entered"),
    ("K_Halpha", "factor", "transverse load factor, contact", P1 + ", 8, method B, or entered"),
    ("c_s", "stiffness", "single stiffness c' of a pair of teeth", P1 + ", 9"),
    ("c_gamma", "stiffness", "mean mesh stiffness", P1 + ", 9"),
    ("m_red", "line_mass", "mass of the pair reduced to the line of action, per width", P1 + ", 6, method B"),
    ("n_E1", "speed", "resonance speed of the pinion", P1 + ", 6, method B"),
    ("N_res", "factor", "resonance ratio N = n_1/n_E1", P1 + ", 6, method B"),
    ("f_alphaeff", "roughness", "greater of base pitch and profile form deviation after running-in", P1 + ", 8"),
    ("f_pbeff", "roughness", "base pitch deviation after running-in", P1 + ", 6 and 8"),
    ("f_faeff", "roughness", "profile form deviation after running-in", P1 + ", 6"),
    ("C_ay", "roughness", "tip relief by running-in", P1 + ", 6, method B"),
    ("C_a", "roughness", "designed tip relief", ENTERED),
    ("f_sh", "roughness", "misalignment by deflection of the pinion's shaft", P1 + ", 7, method C"),
    ("f_ma", "roughness", "misalignment by manufacture", P1 + ", 7, method C"),
    ("F_betax", "roughness", "initial equivalent misalignment", P1 + ", 7, method C"),
    ("F_betay", "roughness", "misalignment after running-in", P1 + ", 7, method C"),
    ("l_sh", "length", "span of the pinion's bearings", ENTERED),
    ("s_sh", "length", "distance of the pinion's middle from mid-span", ENTERED),
    ("d_sh", "length", "diameter of the pinion's shaft", ENTERED),
    ("K_Fbeta", "factor", "face load factor, root: K_Hbeta^N_F", P1 + ", 7"),
    ("K_Falpha", "factor", "transverse load factor, root", P1 + ", 8, method B, or K_Halpha as entered"),
    ("b_H", "length", "face width in contact", P2 + ", 5"),
    ("b_F", "length", "face width counted for the root", P3 + ", 5"),
    ("N_L", "number", "load cycles", "60 n L_h"),
    # contact
    ("sigma_load", "root_stress", "nominal load, √(F (u+1) / (d₁ b u))", P2 + ", 5"),
    ("Z_H", "factor", "zone factor", P2 + ", 6"),
    ("Z_E", "root_stress", "elasticity factor", P2 + ", 7"),
    ("Z_eps", "factor", "contact ratio factor", P2 + ", 8"),
    ("Z_beta", "factor", "helix angle factor", P2 + ", 9"),
    (
        "f_ZCa",
        "factor",
        "helical gears: contact pressure factor for the flank modification (1.2 none, 1.07, 1.0)",
        P2 + ", 6",
    ),
    ("Z_BD", "factor", "single pair tooth contact factor (Z_B pinion, Z_D wheel)", P2 + ", 6"),
    ("sigma_H0", "stress", "nominal contact stress", P2 + ", 5"),
    ("sigma_H", "stress", "contact stress", P2 + ", 5"),
    ("sigma_Hlim", "stress", "allowable contact stress number", P5 + ", Table 1"),
    ("Z_NT", "factor", "life factor", P2 + ", 11"),
    ("Z_L", "factor", "lubricant factor", P2 + ", 12"),
    ("Z_V", "factor", "velocity factor", P2 + ", 12"),
    ("Z_R", "factor", "roughness factor", P2 + ", 12"),
    ("Z_W", "factor", "work hardening factor", P2 + ", 13"),
    ("Z_X", "factor", "size factor, contact", P2 + ", 14"),
    ("sigma_HG", "stress", "pitting stress limit", P2 + ", 5"),
    ("S_H", "safety", "safety against pitting", P2 + ", 5"),
    ("K_peak", "factor", "greatest torque over the running one, K_AP/K_A", DUTY),
    ("sigma_Hpk", "stress", "contact stress at the greatest load", P2 + ", 5"),
    ("sigma_Hlim_st", "stress", "allowable contact stress number for static strength", P5 + ", Table 1"),
    ("Z_NTst", "factor", "life factor, static", P2 + ", 11"),
    ("Z_Wst", "factor", "work hardening factor, static", P2 + ", 13"),
    ("sigma_HGst", "stress", "contact stress limit for static strength", P2 + ", 5"),
    ("sigma_HGref", "stress", "contact stress limit at the reference life", P2 + ", 5"),
    ("S_Hst", "safety", "safety of the flank against the greatest load, static", P2 + ", 5"),
    ("S_Heq", "safety", "safety against pitting under the load spectrum", "ISO 6336-6:2019"),
    ("D_H", "factor", "damage sum of the flank", "ISO 6336-6:2019"),
    # root
    ("at_tip", "count", "1 where the root is rated with the load at the tip, 0 at the outer point of single contact", P3 + ", 6"),
    ("Y_eps", "factor", "contact ratio factor, root, load at the tip", "VDI 2736-2"),
    ("mu_pl", "factor", "friction coefficient of a plastic pair (none: of the table by materials and lubrication)", "VDI 2736-2, 6.2"),
    ("ED", "share", "share of the time under load, for the warmth of plastic teeth", DUTY),
    ("theta_0", "temperature", "temperature of the air or oil around plastic teeth", "VDI 2736-2, 6.2"),
    ("theta_Fla", "temperature", "temperature of the flanks of a plastic gear", "VDI 2736-2, 6.2"),
    ("theta_Fuss", "temperature", "temperature of the roots of a plastic gear", "VDI 2736-2, 6.2"),
    ("theta_Fla_max", "temperature", "temperature up to which the plastic's numbers hold", "data of the material"),
    ("k_W", "wear", "wear coefficient of the gear on its mate (none: wear is not computed)", ENTERED),
    ("l_Fl", "length", "length of the active flank along the profile", "VDI 2736-2, 6.5"),
    ("delta_W", "allowance", "mean wear of the flanks over the required life, normal to them", "VDI 2736-2, 6.5"),
    ("delta_Wmax", "factor", "wear that is admitted, as a factor of m_n", "VDI 2736-2, 6.5"),
    ("lambda_t", "allowance", "deflection of the tooth tips of a plastic pair under the load", "VDI 2736-2"),
    ("Y_M", "factor", "mean stress influence factor", P3 + ", Annex B"),
    ("Y_Mst", "factor", "mean stress influence factor for static strength", P3 + ", Annex B"),
    ("sigma_Fpk", "stress", "root stress at the greatest load", P3 + ", 5"),
    ("sigma_Flim_st", "stress", "nominal stress number, bending, for static strength", P5 + ", Table 1"),
    ("Y_NTst", "factor", "life factor, static", P3 + ", 12"),
    ("Y_delta_st", "factor", "relative notch sensitivity factor, static", P3 + ", 13"),
    ("sigma_FGst", "stress", "tooth-root stress limit for static strength", P3 + ", 5"),
    ("sigma_FGref", "stress", "tooth-root stress limit at the reference life", P3 + ", 5"),
    ("S_Fst", "safety", "safety of the root against the greatest load, static", P3 + ", 5"),
    ("S_Feq", "safety", "safety against tooth breakage under the load spectrum", "ISO 6336-6:2019"),
    ("D_F", "factor", "damage sum of the root", "ISO 6336-6:2019"),
    ("sigma_Fload", "stress", "nominal load over width and module, F / (b m)", P3 + ", 5"),
    ("s_Fn", "length", "chord at the critical section", P3 + ", 6"),
    ("h_Fe", "length", "lever arm of the load", P3 + ", 6"),
    ("rho_F", "length", "fillet radius at the critical section", P3 + ", 6"),
    ("alpha_Fen", "angle", "load direction at the outer point of single contact", P3 + ", 6"),
    ("q_s", "factor", "notch parameter", P3 + ", 7"),
    ("f_eps", "factor", "load distribution influence factor", P3 + ", 6"),
    ("z_n", "factor", "virtual tooth count", P3 + ", 6"),
    ("beta_b", "angle", "base helix angle", I21771 + ", 4.3"),
    ("p_z", "length", "lead of the helix (0 for spur gears)", I21771 + ", 4.2"),
    ("Y_F", "factor", "form factor, load at the outer point of single contact", P3 + ", 6"),
    ("Y_S", "factor", "stress correction factor", P3 + ", 7"),
    ("Y_g", "factor", "stress of a grinding notch over that of the fillet without it, Y_Sg/Y_S", P3 + ", 7.3"),
    ("t_g", "length", "depth of the grinding notch in the fillet (0: stock less protuberance, where that is above 0)", ENTERED),
    ("rho_g", "length", "radius of the grinding notch", ENTERED),
    ("Y_beta", "factor", "helix angle factor", P3 + ", 8"),
    ("Y_B", "factor", "rim thickness factor", P3 + ", 9"),
    ("Y_DT", "factor", "deep tooth factor", P3 + ", 10"),
    ("sigma_F0", "stress", "nominal root stress", P3 + ", 5"),
    ("sigma_F", "stress", "root stress", P3 + ", 5"),
    ("sigma_Flim", "stress", "nominal stress number, bending", P5 + ", Table 1"),
    ("Y_ST", "factor", "stress correction factor of the test gears", P3 + ", 7"),
    ("Y_NT", "factor", "life factor", P3 + ", 12"),
    ("Y_delta_relT", "factor", "relative notch sensitivity factor", P3 + ", 13"),
    ("Y_R_relT", "factor", "relative surface factor", P3 + ", 14"),
    ("Y_X", "factor", "size factor, root", P3 + ", 15"),
    ("sigma_FG", "stress", "tooth-root stress limit", P3 + ", 5"),
    ("S_F", "safety", "safety against tooth breakage", P3 + ", 5"),
    ("Y_L", "factor", "Lewis form factor of the true tooth, load at the tip", "W. Lewis, 1892"),
    ("sigma_L", "stress", "Lewis bending stress, no other factors", "W. Lewis, 1892"),
    # ANSI/AGMA 2101-D04, metric
    ("F_w", "force", "tangential force at the working pitch cylinder", AGMA + ", 7"),
    ("v_wt", "velocity", "pitch line speed", AGMA + ", 7"),
    ("p_HA", "root_stress", "nominal load, √(F / (d_w1 b))", AGMA + ", 5.1"),
    ("p_FA", "stress", "nominal load over width and transverse module", AGMA + ", 5.2"),
    ("Z_I", "factor", "geometry factor for pitting (I)", "AGMA 908-B89, 4"),
    ("Y_J", "factor", "geometry factor for bending (J)", "AGMA 908-B89, 5"),
    ("m_N", "factor", "load sharing ratio", "AGMA 908-B89, 4"),
    ("K_f", "factor", "stress correction factor", "AGMA 908-B89, 5"),
    ("Y_AGMA", "factor", "tooth form factor", "AGMA 908-B89, 5"),
    ("K_vA", "factor", "dynamic factor", AGMA + ", 8"),
    ("K_HA", "factor", "load distribution factor, empirical", AGMA + ", 15"),
    ("A_v", "count", "transmission accuracy grade (none: the flank class stands for it)", AGMA + ", 8"),
    ("K_s", "factor", "size factor", AGMA + ", 20, entered"),
    ("K_B", "factor", "rim thickness factor", AGMA + ", Annex B"),
    ("Z_RA", "factor", "surface condition factor", AGMA + ", 13"),
    ("Z_N", "factor", "stress cycle factor for pitting", AGMA + ", 17"),
    ("Y_N", "factor", "stress cycle factor for bending", AGMA + ", 17"),
    ("Z_WA", "factor", "hardness ratio factor", AGMA + ", 14"),
    ("Y_theta", "factor", "temperature factor, 1 up to blanks of 120 °C", AGMA + ", 19"),
    ("Y_Z", "factor", "reliability factor", AGMA + ", 18"),
    ("Y_both", "factor", "bending both ways: 0.7 of the strength", AGMA + ", 16"),
    ("sigma_HA", "stress", "contact stress number", AGMA + ", 5.1"),
    ("sigma_FA", "stress", "bending stress number", AGMA + ", 5.2"),
    ("sigma_HP0", "stress", "allowable contact stress number", AGMA + ", 16"),
    ("sigma_FP0", "stress", "allowable bending stress number", AGMA + ", 16"),
    ("sigma_HPA", "stress", "permissible contact stress before the safety", AGMA + ", 5.1"),
    ("sigma_FPA", "stress", "permissible bending stress before the safety", AGMA + ", 5.2"),
    ("S_HA", "safety", "safety against pitting, AGMA", AGMA + ", 5.1"),
    ("S_FA", "safety", "safety against tooth breakage, AGMA", AGMA + ", 5.2"),
    # scuffing
    ("S_FZG", "count", "failure load stage of the oil, test A/8.3/90", "ISO 14635-1, entered"),
    ("w_Bt", "line_load", "line load with all load factors", "ISO/TS 6336-20:2017" + ", 5"),
    ("mu_m", "factor", "mean friction coefficient of the flash temperature", "ISO/TS 6336-20:2017" + ", 7"),
    ("theta_fl", "temperature", "greatest flash temperature, rise over the bulk (K)", "ISO/TS 6336-20:2017" + ", 5"),
    ("g_fl", "length", "where the flash temperature is greatest, from the pinion's base tangent point", "ISO/TS 6336-20:2017"),
    ("theta_M", "temperature", "bulk temperature of the teeth", "ISO/TS 6336-20:2017" + ", 6"),
    ("theta_B", "temperature", "greatest contact temperature", "ISO/TS 6336-20:2017" + ", 5"),
    ("theta_S", "temperature", "scuffing temperature of oil and flanks", "ISO/TS 6336-20:2017" + ", 9"),
    ("S_B", "safety", "safety against scuffing by flash temperature", "ISO/TS 6336-20:2017" + ", 5"),
    ("mu_mC", "factor", "mean friction coefficient of the integral temperature", "ISO/TS 6336-21:2017" + ", 6"),
    ("theta_flaint", "temperature", "mean flash temperature, rise over the bulk (K)", "ISO/TS 6336-21:2017" + ", 6"),
    ("theta_int", "temperature", "integral temperature", "ISO/TS 6336-21:2017" + ", 5"),
    ("theta_Sint", "temperature", "scuffing integral temperature", "ISO/TS 6336-21:2017" + ", 7"),
    ("S_int", "safety", "safety against scuffing by integral temperature", "ISO/TS 6336-21:2017" + ", 5"),
    ("X_W", "factor", "structural factor of the flanks", "ISO/TS 6336-20:2017" + ", 9"),
    ("X_mp", "factor", "multiple mesh contact factor of the bulk temperature, (1 + n_p)/2", "ISO/TS 6336-20:2017" + ", 6"),
    ("X_E", "factor", "running-in factor of the integral temperature", "ISO/TS 6336-21:2017" + ", 6"),
    ("phi_E", "factor", "how far the flanks are run in when they first bear full load: 1 run in, 0 new", ENTERED),
    # case
    ("CHD", "length", "effective depth of the hardened case, at 550 HV (none: not rated)", P5 + ", 5.6, entered"),
    ("CHD_c", "length", "least case depth against fracture below the case", P5 + ", 5.6.2"),
    # micropitting
    ("S_GF", "count", "failure load stage of the oil in the micropitting test C-GF/8.3 (none: micropitting is not rated)", MICRO + ", 5, entered"),
    ("theta_GF", "temperature", "oil temperature of the micropitting test", MICRO + ", 5, entered"),
    ("lambda_GF", "factor", "least specific film thickness along the path of contact", MICRO + ", 5"),
    ("g_GF", "length", "where the film is least, from the base tangent point of gear 1", MICRO + ", 5"),
    ("h_GF", "roughness", "least film thickness", MICRO + ", 5"),
    ("theta_MGF", "temperature", "bulk temperature of the teeth, for the film", MICRO + ", 6"),
    ("W_W", "factor", "material factor of the permissible film", MICRO + ", 5"),
    ("lambda_GFT", "factor", "specific film of the test gear at its failure load stage", MICRO + ", 5"),
    ("lambda_GFP", "factor", "permissible specific film, 1.4 W_W lambda_GFT", MICRO + ", 5"),
    ("S_lambda", "safety", "safety against micropitting", MICRO + ", 5"),
    ("S_lambda_min", "safety", "required safety against micropitting", DUTY),
    # losses
    ("theta_oil", "temperature", "oil temperature", DUTY),
    ("nu_40", "viscosity", "kinematic viscosity at 40 °C", "ISO 3448"),
    ("nu_100", "viscosity", "kinematic viscosity at 100 °C", DUTY),
    ("rho_15", "density", "oil density at 15 °C", DUTY),
    ("X_L", "factor", "lubricant factor of mesh friction", TR2),
    ("nu_oil", "viscosity", "kinematic viscosity at oil temperature", "ASTM D341"),
    ("eta_oil", "dynamic_viscosity", "dynamic viscosity at oil temperature", "nu rho"),
    ("tau_sh", "stress", "torsional stress from which bearing bores are estimated", ENTERED),
    ("d_s", "length", "bearing bore of the gear's shaft (none: estimated from the torque)", ENTERED),
    ("seals", "count", "number of rubbing shaft seals, half at the input and half at the output", ENTERED),
    ("h_e", "length", "depth by which the driven gears dip into the oil", ENTERED),
    ("l_hyd", "length", "hydraulic length of the sump: four times its area over its edge", TR2 + ", 6"),
    ("A_h", "area", "area of the housing that gives off heat", ENTERED),
    ("k_h", "heat_transfer", "heat transfer from housing to air", TR2 + ", 9"),
    ("theta_air", "temperature", "temperature of the air", ENTERED),
    ("theta_bal", "temperature", "oil temperature at which the housing gives off the losses", TR2 + ", 9"),
    ("P_V", "power", "power lost in all", TR2),
    ("P_Vz", "power", "lost in the meshes under load", TR2 + ", 5"),
    ("P_V0", "power", "lost by churning and windage", TR2 + ", 6"),
    ("P_VL", "power", "lost in the bearings", "ISO/TR 14179-1:2001" + ", 6"),
    ("P_VD", "power", "lost at the seals", TR2 + ", 8"),
    ("eta_all", "factor", "efficiency, all losses", TR2),
    ("eta_back", "factor", "efficiency with the power going backwards", TR2),
    ("rho_red", "length", "radius of relative curvature at the pitch point", P2 + ", 12"),
    ("mu_mz", "factor", "mean coefficient of mesh friction, formula as chosen", TR2),
    ("H_V", "factor", "tooth loss factor", TR2),
    ("P_VZ", "power", "mesh loss under load", TR2),
    ("eta_z", "factor", "efficiency of the mesh", TR2),
    # limits
    ("S_Hmin", "safety", "required safety against pitting", DUTY),
    ("S_Fmin", "safety", "required safety against tooth breakage", DUTY),
    ("S_Hstmin", "safety", "required safety of the flank against the greatest load (none: as against pitting)", DUTY),
    ("S_Fstmin", "safety", "required safety of the root against the greatest load (none: as against tooth breakage)", DUTY),
    ("S_Bmin", "safety", "required safety against scuffing, flash temperature", DUTY),
    ("S_intmin", "safety", "required safety against scuffing, integral temperature", DUTY),
    ("eps_alpha_min", "factor", "required profile contact ratio", DUTY),
    ("s_an_min", "factor", "required tip land as a factor of m_n", DUTY),
    ("c_min", "factor", "required tip clearance as a factor of m_n", DUTY),
    ("c_proc", "allowance", "process clearance: gap normal to the flanks that printing or cutting needs (0: none)", DUTY),
    ("j_min", "allowance", "required least circumferential backlash", DUTY),
    ("NT_1e10", "factor", "life factors Z_NT and Y_NT at 1e10 cycles", P2 + ", 11; " + P3 + ", 12"),
)

QUANTITIES: dict[str, Quantity] = {row[0]: Quantity(*row) for row in _ROWS}


def quantity_of(key: str) -> Quantity:
    """The quantity of a key of the results, which may end in ``_in`` or ``_out``.

    >>> quantity_of("T_out").meaning
    'torque'
    """
    return QUANTITIES.get(key) or QUANTITIES[key.removesuffix("_in").removesuffix("_out")]


_GREEK = {
    "alpha": "α", "beta": "β", "gamma": "γ", "delta": "δ", "eps": "ε", "zeta": "ζ", "eta": "η", "lambda": "λ", "theta": "θ",
    "mu": "µ", "nu": "ν", "rho": "ρ", "sigma": "σ", "phi": "φ", "tau": "τ", "omega": "ω",
}  # fmt: skip

_SPECIAL = {
    "Z_BD": ("Z", "B,D"), "sigma_load": ("√p", ""), "sigma_Fload": ("p", "F"), "du": ("Δu", ""),
    "u_wanted": ("u", "wanted"), "hardness": ("hardness", ""), "mass": ("mass", ""), "NT_1e10": ("Z,Y", "NT 1e10"),
    "x_sum": ("Σx", ""), "R_p02": ("R", "p0.2"), "c_s": ("c′", ""), "N_res": ("N", ""), "f_pbeff": ("f", "pb eff"), "f_alphaeff": ("f", "α eff"), "f_faeff": ("f", "fα eff"), "l_sh": ("l", ""), "s_sh": ("s", ""), "d_rim": ("d", "rim"), "h_back": ("h", "back"), "travel": ("travel", ""), "b_gap": ("b", "gap"), "c_tip": ("c", "tip"), "d_bore": ("d", "bore"), "Rz_H": ("Rz", "H"), "Rz_F": ("Rz", "F"),
    "n_planets": ("N", ""), "c_pl": ("c", "planets"), "phi_lost": ("φ", "lost"), "K_vA": ("K", "v"), "K_HA": ("K", "H"), "Z_RA": ("Z", "R"), "Z_WA": ("Z", "W"), "Y_AGMA": ("Y", ""), "p_HA": ("√p", ""),
    "p_FA": ("p", "F"), "sigma_HA": ("σ", "H"), "sigma_FA": ("σ", "F"), "sigma_HPA": ("σ", "HP"), "sigma_FPA": ("σ", "FP"),
    "price_index": ("cost/kg", ""), "cost": ("cost", ""), "density": ("ρ", ""), "swelling": ("swelling", ""),
    "vz": ("v·z", ""), "u_tol": ("Δu", "tol"), "h_aP": ("h", "aP"),
}  # fmt: skip


def parts(symbol: str, index: int | None = None) -> tuple[str, str]:
    """A symbol as main letter and subscript for typesetting, with the number of the gear where one is meant.

    >>> parts("eps_alpha"), parts("d_a", 1), parts("Y_delta_relT")
    (('ε', 'α'), ('d', 'a1'), ('Y', 'δ relT'))
    """
    if symbol in _SPECIAL:
        main, sub = _SPECIAL[symbol]
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


def plain(symbol: str, index: int | None = None) -> str:
    """A symbol for plain text: ``S_F`` of gear 1 as ``S_F1``.

    >>> plain("S_F", 1)
    'S_F1'
    """
    return symbol if index is None else f"{symbol}{index}" if "_" in symbol else f"{symbol}_{index}"
