"""The joint of a hub or a coupling in the room that there is: key, two keys, spline, press fit, pin, set screws."""

from __future__ import annotations

import numpy as np
from msgspec.structs import replace

from cooper.machine import hub_joints as hub
from cooper.machine.check_joint import check_joint
from cooper.machine.shaft_model import Joint, JointGiven, Rules
from cooper.stock.fits import PRESSED, interference
from cooper.stock.shaft_joints import key_lengths, key_size, screw_size, screw_sizes, spline_size

PINS = (0.6, 0.8, 1.0, 1.2, 1.5, 2.0, 2.5, 3.0, 4.0, 5.0, 6.0, 8.0, 10.0, 12.0, 16.0, 20.0, 25.0, 30.0, 40.0, 50.0)
"""Diameters of parallel pins; mm. ISO 2338."""


def joint_of(
    kind: str,
    piece: str,
    gear: str,
    given: JointGiven,
    d: float,
    T: float,
    yields: tuple[float, float],
    room: float,
    d_hub: float,
    E_hub: float,
    alpha_hub: float,
    n: float,
    rules: Rules,
    d_i: float = 0.0,
) -> Joint | None:
    """A joint of one kind in the room that there is.

    Parameters
    ----------
    kind : str
        Kind of the joint.
    piece : str
        Name of the piece of the shaft.
    gear : str
        Name of the gear.
    given : JointGiven
        What a person fixed of it.
    d : float
        Diameter of the shaft (mm).
    T : float
        Greatest torque (N m).
    yields : tuple[float, float]
        Yield points of hub and shaft (MPa).
    room : float
        Length that there is (mm).
    d_hub : float
        Outside diameter of the hub (mm).
    E_hub : float
        Modulus of elasticity of the hub (MPa).
    alpha_hub : float
        Coefficient of expansion of the hub (1/K).
    n : float
        Speed (1/min).
    rules : Rules
        What is counted, with least safeties and methods.
    d_i : float
        Bore of a hollow shaft (mm).

    Returns
    -------
    Joint | None
        The joint, None where it cannot be.
    """
    R_e = min(yields)
    if kind in ("key", "two keys"):
        if not 6 < d <= 230:
            return None
        s = key_size(d)
        wanted = [x for x in key_lengths() if x <= room and x >= 1.5 * s.b]
        if given.length is not None:
            length = given.length + s.b
        elif wanted:
            longest = [x for x in wanted if x - s.b <= 1.3 * d] or wanted[:1]
            # One key bears twice what each of two does by 0.75 of its length.
            T_max = T * max(rules.K_A, rules.K_AP) / (1.5 if kind == "two keys" else 1.0)
            least = float(hub.key_length(T_max, d, s.h, s.t_1, min(R_e, rules.R_e_key), rules.S_joint))
            enough = [x for x in longest if x - s.b >= least]
            length = enough[0] if gear == "" and enough else longest[-1]
        else:
            return None
        return Joint(
            piece=piece,
            gear=gear,
            kind=kind,
            d=d,
            T=T,
            R_e=min(R_e, rules.R_e_key),
            length=length,
            l_tr=length - s.b,
            b=s.b,
            h=s.h,
            t_1=s.t_1,
            t_2=s.t_2,
            d_hub=d_hub,
            d_i=d_i,
        )
    if kind == "spline":
        return _splined(piece, gear, d, T, R_e, given.length or room, d_hub) if d >= 6 else None
    across = Joint(
        piece=piece, gear=gear, kind=kind, d=d, T=T, R_e=min(R_e, rules.R_e_key), length=room, l_tr=room, d_hub=d_hub
    )
    if kind == "pin":
        return _pinned(across, given, rules)
    if across.screws:
        return _screwed(across, given, rules)
    length = given.length or room
    bare = Joint(
        piece=piece,
        gear=gear,
        kind="press fit",
        d=d,
        T=T,
        R_e=R_e,
        R_hub=yields[0],
        R_shaft=yields[1],
        d_i=d_i,
        length=length,
        l_tr=length,
        E_hub=E_hub,
        d_hub=max(d_hub, 1.05 * d),
        alpha_hub=alpha_hub,
        n=n,
    )
    return _pressed(bare, rules)


def _splined(piece: str, gear: str, d: float, T: float, R_e: float, length: float, d_hub: float) -> Joint:
    """An involute spline of the usual module. DIN 5480."""
    size = spline_size(d)
    return Joint(
        piece=piece,
        gear=gear,
        kind="spline",
        d=d,
        T=T,
        R_e=R_e,
        length=length,
        l_tr=length,
        m=size.m,
        z=size.z,
        h=0.9 * size.m,
        d_hub=d_hub,
    )


def _thinnest(joints: list[Joint], rules: Rules) -> Joint:
    """The first that holds, else the last."""
    return next((j for j in joints if rules.S_joint <= check_joint(j, rules).S), joints[-1])


def _pinned(joint: Joint, given: JointGiven, rules: Rules) -> Joint:
    """A pin across hub and shaft: as given, or the thinnest that holds, up to 0.3 d, where a hole weakens the shaft
    no more than it must."""
    sizes = [v for v in PINS if v <= 0.3 * joint.d] or [PINS[0]]
    return _thinnest([replace(joint, d_pin=v) for v in ([given.d_pin] if given.d_pin is not None else sizes)], rules)


TIGHTENED = 0.8
"""Of the torque that a set screw bears in its test, what it is tightened with where nothing is given; a rule of
thumb."""


def _screwed(joint: Joint, given: JointGiven, rules: Rules) -> Joint:
    """Set screws through the hub: as given, or the thinnest that hold, up to a third of the shaft and as long as the
    hub's wall."""
    wall = (joint.d_hub - joint.d) / 2 if joint.d_hub > joint.d else joint.d
    bear = [one for one in screw_sizes() if one.M_test >= (given.M_A or 0.0)] or [screw_sizes()[-1]]
    sizes = [one for one in bear if one.d <= min(joint.d / 3, wall)] or [bear[0]]
    if given.d_screw is not None:
        sizes = [screw_size(given.d_screw)]
    return _thinnest([replace(joint, d_screw=one.d, M_A=given.M_A or TIGHTENED * one.M_test) for one in sizes], rules)


def _pressed(bare: Joint, rules: Rules) -> Joint:
    """A press fit: the lightest of H7 with p6 to x6 that bears the torque, else the one whose safeties are best;
    between sizes that no fit has, an interference that lies between slipping and yielding. Smoothing takes 0.8 (Rz +
    Rz) of it (DIN 7190-1)."""
    smoothed, d = 1.6 * rules.Rz / 1000, bare.d
    best: tuple[float, Joint] | None = None
    for letter in PRESSED:
        result = interference(d, letter)
        if result is None or result[0] <= smoothed:
            continue
        joint = replace(bare, U=result[0] - smoothed, U_max=result[1], fit=f"H7/{letter}6")
        S = check_joint(joint, rules).S
        if rules.S_joint <= S:
            return joint
        if best is None or best[0] < S:
            best = (S, joint)
    if best is not None:
        return best[1]
    per = hub.press_fit(
        U=0.001 * d,
        d=d,
        d_hub=bare.d_hub,
        d_i=min(bare.d_i, 0.95 * d),
        length=bare.l_tr,
        mu=rules.mu_press,
        E_hub=bare.E_hub,
    )
    T_max = bare.T * max(rules.K_A, rules.K_AP)
    U = 0.001 * d * float(np.sqrt(max(T_max, 1e-9) / per.T * bare.R_hub / per.sigma_hub))
    return replace(bare, U=U, U_max=U, fit="")
