"""A joint of hub and shaft under its torque: keys, splines, press fits, pins."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from cooper.machine import hub_joints as hub
from cooper.machine.shaft_model import Joint, Rules
from cooper.stock.shaft_joints import screw_size


class JointCheck(Struct, frozen=True):
    """A joint under its torque: pressure (MPa) and safety."""

    piece: str
    p: float
    S: float


ALPHA_STEEL = 11.5e-6
"""Thermal expansion of shafts; 1/K."""


def check_joint(j: Joint, rules: Rules) -> JointCheck:
    """One joint under the greatest torque; a press fit at rest and turning, cold and at the temperature at which it
    works.

    Parameters
    ----------
    j : Joint
        The joint with its torque.
    rules : Rules
        What is counted, with least safeties and methods.

    Returns
    -------
    JointCheck
        Pressures (MPa), safeties and torques that it holds.
    """
    T = j.T * max(rules.K_A, rules.K_AP)
    if j.kind in ("key", "two keys"):
        i = 2.0 if j.kind == "two keys" else 1.0
        p = float(hub.key_pressure(T, j.d, j.h, j.t_1, max(j.l_tr, 1e-6), i))
        # A keyway that comes through the wall of a hollow shaft holds nothing.
        S = float(hub.key_safety(p, j.R_e)) if j.wall > 0 else 0.0
        return JointCheck(j.piece, p, min(S, 1e4))
    if j.kind == "spline":
        p = float(hub.spline_pressure(T, j.m * j.z, 0.9 * j.m, j.z, j.l_tr))
        return JointCheck(j.piece, p, min(float(hub.key_safety(p, j.R_e)), 1e4))
    if j.kind == "press fit":
        d_hub, d_i = max(j.d_hub, 1.05 * j.d), min(j.d_i, 0.95 * j.d)
        # It slips at its least interference, turning and warm or not; its hub yields at its greatest.
        warm = np.array([0.0, rules.theta - 20.0])
        fits = hub.press_fit(
            U=np.array([[j.U], [j.U_max]]),
            d=j.d,
            d_hub=d_hub,
            d_i=d_i,
            length=j.l_tr,
            mu=rules.mu_press,
            E_hub=j.E_hub,
            omega=np.array([[j.n * np.pi / 30], [0.0]]),
            dtheta=warm,
            alpha_hub=j.alpha_hub,
            alpha_shaft=ALPHA_STEEL,
        )
        S = min(
            float(fits.T[0].min()) / max(T, 1e-9),
            (j.R_hub or j.R_e) / max(float(fits.sigma_hub[1].max()), 1e-9),
            (j.R_shaft or j.R_e) / max(float(fits.sigma_shaft[1].max()), 1e-9),
        )
        return JointCheck(j.piece, float(fits.p[0].min()), min(S, 1e4))
    if j.kind == "pin":
        p = float(hub.pin_pressure(T, j.d, j.d_pin, max(j.d_hub, 1.05 * j.d)))
        shear = float(hub.pin_shear(T, j.d, j.d_pin))
        # By maximum shear a pin yields at half its yield point.
        return JointCheck(j.piece, p, min(float(hub.key_safety(p, j.R_e)), 0.5 * j.R_e / max(shear, 1e-9), 1e4))
    if j.screws:
        size = screw_size(j.d_screw)
        F = hub.screw_force(j.M_A, size.d, size.P, size.d_z)
        slips = float(hub.screw_torque(F, j.d, rules.mu_press, j.screws == 2))
        return JointCheck(j.piece, float(F) / (np.pi / 4 * size.d_z**2), min(slips / max(T, 1e-9), 1e4))
    return JointCheck(j.piece, 0.0, 1e4)
