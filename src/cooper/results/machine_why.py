"""Why a number of the machine is what it is: the steps behind it, with their sources, as rows."""

from __future__ import annotations

import numpy as np

from cooper.i18n.text import tr
from cooper.machine.check_joint import JointCheck
from cooper.machine.holding import hold_words
from cooper.machine.hub_joints import THREAD_FRICTION, screw_force, screw_torque
from cooper.machine.shaft_beam import cores_of, piece_of
from cooper.machine.shaft_model import Joint, Rules
from cooper.machine.shaft_section import bending_modulus, torsion_modulus
from cooper.machine.shaft_strength import roughness_factor, size_factor_notch
from cooper.results.check_types import MOST
from cooper.results.machine_result import MachineResult, PinResult, ShaftResult
from cooper.stock.shaft_joints import screw_size

Row = tuple[str, float, str, str]
"""Symbol or words, value, kind of its unit, and where it comes from."""
P1, P2 = "DIN 743-1:2012", "DIN 743-2:2012"


def why_machine(m: MachineResult, part: str, symbol: str) -> list[Row]:
    """The steps behind a check of a part; none where it is a length against a limit."""
    if symbol == "X_tors" and m.torsion is not None:
        return torsion_rows(m)
    pin = next((p for p in m.pins if part.startswith(f"pin of {p.key}")), None)
    if pin is not None:
        return pin_rows(pin, m.rules, symbol)
    shafts = [s for s in m.shafts if part == s.key or part.startswith(f"{s.key} ")]
    if not shafts:
        return []
    shaft = max(shafts, key=lambda s: len(s.key))
    rest = part.removeprefix(shaft.key).strip()
    if symbol in ("S_D", "S_Y"):
        return section_rows(shaft, m.rules, symbol)
    if symbol in ("L_nmh", "S_0"):
        return bearing_rows(shaft, rest, m.rules, symbol)
    if symbol == "S_ax":
        return holding_rows(shaft)
    if symbol == "S_J":
        return joint_rows(shaft, rest, m.rules)
    return []


def holding_rows(s: ShaftResult) -> list[Row]:
    """What keeps each hub and ring that a thrust comes to: what it bears, and the thrust."""
    rows: list[Row] = []
    for h in s.holding.holds:
        if h.needed and h.F > 1e-6 and np.isfinite(h.bears):
            what, thing, side = hold_words(s.made, h)
            text = tr("{what} of {thing} on the {side}", what=what, thing=thing, side=side)
            rows += [(text, h.bears, "force", tr("what it bears")), ("F", h.F, "force", tr("thrust with K_A or K_AP"))]
    worst = s.holding.worst
    return rows if worst is None else [*rows, ("S_ax", min(worst.S, MOST), "factor", tr("least of all"))]


def torsion_rows(m: MachineResult) -> list[Row]:
    """Torsional natural frequencies beside the speeds of all shafts."""
    assert m.torsion is not None
    source = tr("shafts, gears, meshes by c_gamma, what is coupled by its J_end")
    rows: list[Row] = [(tr("natural frequency {k}", k=k), n, "speed", source) for k, n in enumerate(m.torsion.n, 1)]
    rows += [(tr("speed of the {name}", name=s.name), s.made.wish.n, "speed", "kinematics") for s in m.shafts]
    return [*rows, (f"X_tors, {m.torsion.shaft}", m.torsion.apart, "factor", tr("distance over that speed"))]


def section_rows(s: ShaftResult, rules: Rules, symbol: str) -> list[Row]:
    """Strength of a shaft at the place where it is least."""
    j = s.checked
    S = j.S_D if symbol == "S_D" else j.S_Y
    e, side = (int(v) for v in np.unravel_index(int(np.argmin(S)), S.shape))
    d, d_i = float(j.d[e]), s.made.wish.d_i
    core = float(cores_of(s.made, j.x, j.d)[e])
    steel = s.made.wish.steel
    K_A = rules.K_A if symbol == "S_D" else max(rules.K_A, rules.K_AP)
    sigma, tau = (float(v[e, side]) / rules.K_A * K_A for v in (j.sigma, j.tau))
    rows: list[Row] = [
        (
            tr("place, on {name}", name=piece_of(s.made.pieces, float(j.ends[e].mean())).name),
            float(j.ends[e, side]),
            "length",
            tr("laid out"),
        ),
        (tr("diameter d"), d, "length", tr("proposed or given")),
        *([(tr("core of the spline"), core, "length", "DIN 5480-1, d - 2.2 m")] if core < d - 1e-9 else []),
        ("W_b", float(bending_modulus(core, min(d_i, 0.95 * core))), "number", tr("{P1}, mm3", P1=P1)),
        ("W_t", float(torsion_modulus(core, min(d_i, 0.95 * core))), "number", tr("{P1}, mm3", P1=P1)),
        ("K_A" if symbol == "S_D" else "K_A or K_AP", K_A, "factor", "duty"),
        (tr("bending stress"), sigma, "stress", tr("moment of both planes over W_b")),
        (tr("torsional stress"), tau, "stress", tr("torque over W_t")),
        (tr("sigma_B of {name} here", name=steel.name), j.sigma_B, "stress", tr("{P2}, 7.1; DIN 743-3", P2=P2)),
        (tr("sigma_S here"), j.sigma_S, "stress", tr("{P2}, 7.1; DIN 743-3", P2=P2)),
    ]
    if symbol == "S_Y":
        return [*rows, ("S_Y", float(j.S_Y[e, side]), "factor", tr("{P1}, 6", P1=P1))]
    K_2, K_F = size_factor_notch(d), roughness_factor(rules.Rz, j.sigma_B)
    return [
        *rows,
        ("K_1", j.K_1, "factor", tr("{P2}, 7.1", P2=P2)),
        ("beta_sigma", float(j.beta[e, side, 1]), "factor", tr("{P2}, 5", P2=P2)),
        ("beta_tau", float(j.beta[e, side, 2]), "factor", tr("{P2}, 5", P2=P2)),
        ("K_2", float(K_2[1]), "factor", tr("{P2}, 7.2", P2=P2)),
        ("K_Fsigma", float(K_F[1]), "factor", tr("{P2}, 7.3", P2=P2)),
        ("K_sigma", float(j.K[e, side, 1]), "factor", tr("{P1}, 5.2", P1=P1)),
        ("K_tau", float(j.K[e, side, 2]), "factor", tr("{P1}, 5.2", P1=P1)),
        (
            "sigma_bW K_1 / K_sigma",
            j.K_1 * steel.sigma_W[1] / float(j.K[e, side, 1]),
            "stress",
            tr("{P1}, 5", P1=P1),
        ),
        ("tau_tW K_1 / K_tau", j.K_1 * steel.sigma_W[2] / float(j.K[e, side, 2]), "stress", tr("{P1}, 5", P1=P1)),
        (
            tr("share of torsion that swings ({swing})", swing=rules.swing),
            {"steady": 0.0, "pulsating": 0.5, "alternating": 1.0}[rules.swing],
            "factor",
            "entered",
        ),
        ("S_D", float(j.S_D[e, side]), "factor", tr("{P1}, 5, case 2", P1=P1)),
        (tr("beside it n_G by Goodman's line, least"), float(j.n_G.min()), "factor", tr("von Mises, Marin's factors")),
    ]


def bearing_rows(s: ShaftResult, name: str, rules: Rules, symbol: str) -> list[Row]:
    """Life or static safety of a bearing."""
    k = next((k for k, b in enumerate(s.made.bearings) if b.name == name), None)
    if k is None:
        return []
    b, f = s.made.bearings[k], s.checked.bearings[k]
    own = tr("typed, the maker's") if b.typed else tr("typical inner dimensions")
    forces: list[Row] = [
        (tr("F_r with nominal torque"), f.F_r, "force", tr("statics in space")),
        (
            tr("F_a with nominal torque"),
            f.F_a,
            "force",
            tr("the fixed bearing bears the thrust") if b.fixed else tr("floats, or its pair"),
        ),
    ]
    if symbol == "S_0":
        return [
            *forces,
            ("C_0r", b.C_0, "force", tr("ISO 76:2006, {own}", own=own)),
            (tr("P_0 under the greatest load"), f.P_0, "force", "ISO 76:2006, 5.3, 6.3"),
            ("S_0 = C_0r / P_0", f.S_0, "factor", "ISO 76:2006"),
        ]
    return [
        *forces,
        (tr("P with K_A or the spectrum"), f.P, "force", "ISO 281:2007, 5.2, 7.2"),
        ("C_r", b.C, "force", tr("ISO 281:2007, {own}", own=own)),
        ("n", f.n, "speed", "kinematics"),
        ("L_10h", f.L_10h, "time", "ISO 281:2007, 5.3, 7.3"),
        ("kappa", f.kappa, "factor", "ISO 281:2007, 9.3.3.2; 0.1 to 4"),
        ("a_ISO", f.a_ISO, "factor", tr("ISO 281:2007, 9.3.3.5, {cleanliness}", cleanliness=rules.cleanliness)),
        (
            tr("L_nmh, {reliability:g} % reach it", reliability=rules.reliability),
            f.L_nmh,
            "time",
            "ISO 281:2007, 9",
        ),
    ]


def pin_rows(p: PinResult, rules: Rules, symbol: str) -> list[Row]:
    """Strength of a planet's pin, or life of the bearing on it."""
    pin, f = p.pin, p.pin.checked
    rows: list[Row] = [
        (tr("force of both meshes and of turning"), pin.F, "force", tr("statics, with K_gamma; m a omega^2")),
        (
            tr("overturning moment"),
            pin.M / 1000,
            "torque",
            tr("statics: forces off the middle, thrust on the working circles"),
        ),
    ]
    if symbol == "S_J":
        return [
            *rows,
            (
                tr("p in the wall"),
                pin.p_wall,
                "stress",
                tr("greater force of both walls under the greatest load, over d and its thickness"),
            ),
            ("S = 0.9 sigma_S / p", pin.S_wall, "factor", tr("as a key, walls of the pin's steel")),
        ]
    if symbol in ("S_D", "S_Y"):
        return [
            *rows,
            ("d", pin.d, "length", tr("proposed")),
            (tr("span of the walls' middles"), pin.span, "length", tr("proposed")),
            (tr("bending stress under K_A"), pin.sigma, "stress", tr("stands free, forces spread over the faces")),
            (symbol, pin.S_D if symbol == "S_D" else pin.S_Y, "factor", tr("{P1}, starts and stops", P1=P1)),
        ]
    if f is None or pin.bearing is None:
        return []
    what = tr("two bearings at the ends of the planet") if pin.count == 2 else tr("two halves of the bearing")
    rows.append((tr("greater load of ") + what, max(pin.ends), "force", "statics"))
    if symbol == "S_0":
        return [
            *rows,
            ("C_0r", pin.bearing.C_0, "force", tr("ISO 76:2006, typical inner dimensions")),
            ("S_0", f.S_0, "factor", "ISO 76:2006"),
        ]
    return [
        *rows,
        (tr("P with K_A or the spectrum"), f.P, "force", "ISO 281:2007, 7.2"),
        ("C_r", pin.bearing.C, "force", tr("ISO 281:2007, typical inner dimensions")),
        (tr("n about the pin"), f.n, "speed", "kinematics"),
        (tr("L_10h of both"), f.L_10h, "time", tr("ISO 281:2007, 7.3; together by slope 9/8")),
        ("a_ISO", f.a_ISO, "factor", tr("ISO 281:2007, 9.3.3.5, {cleanliness}", cleanliness=rules.cleanliness)),
        (tr("L_nmh of both"), f.L_nmh, "time", "ISO 281:2007, 9"),
    ]


def joint_rows(s: ShaftResult, piece: str, rules: Rules) -> list[Row]:
    """Safety of a joint."""
    k = next((k for k, j in enumerate(s.made.joints) if j.piece == piece), None)
    if k is None:
        return []
    j, f = s.made.joints[k], s.checked.joints[k]
    rows: list[Row] = [
        (tr("T with the greatest load"), j.T * max(rules.K_A, rules.K_AP), "torque", "duty"),
        ("d", j.d, "length", tr("proposed or given")),
        ("l_tr", j.l_tr, "length", tr("proposed or given")),
    ]
    if j.kind == "press fit":
        rows += [
            (
                tr("U at least {fit}", fit=j.fit),
                1000 * j.U,
                "roughness",
                tr("ISO 286, less 0.8 (Rz + Rz) of smoothing"),
            ),
            (tr("U at most"), 1000 * j.U_max, "roughness", "ISO 286"),
            ("p", f.p, "stress", "DIN 7190-1:2017"),
        ]
        return [
            *rows,
            (tr("S against slipping at least, and yielding at most U"), f.S, "factor", "DIN 7190-1:2017"),
        ]
    if j.kind == "pin":
        return _pin_rows(rows, j, f)
    if j.screws:
        return _screw_rows(rows, j, f, rules)
    return [
        *rows,
        (tr("R_e of the weakest part"), j.R_e, "stress", tr("steel, key or hub")),
        (
            "p",
            f.p,
            "stress",
            tr("DIN 6892:2012, method C") if "key" in j.kind else tr("pressure of 0.75 of the flanks"),
        ),
        (
            "S = 0.9 R_e / p",
            f.S,
            "factor",
            tr("DIN 6892:2012, method C") if "key" in j.kind else tr("pressure, as is customary for DIN 5480"),
        ),
    ]


def _pin_rows(rows: list[Row], j: Joint, f: JointCheck) -> list[Row]:
    """Safety of a pin across hub and shaft."""
    return [
        rows[0],
        rows[1],
        ("d_pin", j.d_pin, "length", tr("ISO 2338, proposed or given")),
        (tr("R_e of the weakest part"), j.R_e, "stress", tr("steel, pin or hub")),
        (
            tr("p, the greater of shaft and hub"),
            f.p,
            "stress",
            tr("statics: 6 T / (d_pin d^2), 4 T / (d_pin (d_hub^2 - d^2))"),
        ),
        (
            tr("S, the lesser of 0.9 R_e / p and R_e / (2 tau)"),
            f.S,
            "factor",
            tr("statics: tau = 4 T / (pi d_pin^2 d)"),
        ),
    ]


def _screw_rows(rows: list[Row], j: Joint, f: JointCheck, rules: Rules) -> list[Row]:
    """Safety of one set screw or two."""
    size = screw_size(j.d_screw)
    F = float(screw_force(j.M_A, size.d, size.P, size.d_z))
    two = j.screws == 2
    return [
        rows[0],
        rows[1],
        (tr("d of the thread"), j.d_screw, "length", tr("ISO 4029, proposed or given")),
        (
            tr("M_A it is tightened with"),
            j.M_A,
            "torque",
            tr("given, or 0.8 of the torque of its test (ISO 898-5, from knowledge), a rule of thumb"),
        ),
        (
            tr("F on the shaft"),
            F,
            "force",
            tr(
                "VDI 2230-1:2015, 5.4.3, friction {thread_friction:g}; P {P:g}, d_z {d_z:g} mm",
                thread_friction=THREAD_FRICTION,
                P=size.P,
                d_z=size.d_z,
            ),
        ),
        (tr("mu of hub and shaft"), rules.mu_press, "factor", tr("as for press fits")),
        (
            tr("T at which it slips"),
            float(screw_torque(F, j.d, rules.mu_press, two)),
            "torque",
            tr("statics: mu (2 + sqrt(2)) F d/2") if two else tr("statics: mu F d"),
        ),
        (
            tr("S against slipping"),
            f.S,
            "factor",
            tr("statics; that the point digs in is not counted, nor is its dent as a notch"),
        ),
    ]
