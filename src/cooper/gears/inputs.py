"""What a pair of gears is computed from, as plain numbers or arrays over designs, in the core's units.

An internal wheel has a negative count; its diameters and the centre distance are then negative too. A rack is a wheel
with a great count.
"""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from cooper.arrays import Array, Real, as_float
from cooper.gears.cutter import FormCut, PinionCutter
from cooper.gears.tip import PLAIN, Tip
from cooper.stock.materials import MaterialNumbers


class GearInput(Struct, frozen=True, kw_only=True):
    """One gear; mm, um for roughness. ``d_a`` NaN takes the rack's addendum.

    Of an internal gear ``d_bore`` is its outside diameter, negative like the others. ``tool`` None is a rack or hob;
    protuberance ``pr_P`` and stock ``q_P`` in mm, ``alpha_prP`` in rad. ``teeth_cut`` is the true count of a rack,
    whose ``z`` is the great one that stands for it. ``contacts`` loads of a flank in a turn, ``meshes`` those that warm
    the gear at once. Of plastics ``k_theta`` are the heat transfer numbers of flank and root, ``k_W`` the wear
    coefficient (mm3/MJ, NaN: none); of wheels with rim and web ``d_i`` the inner diameter of the rim and ``b_s`` the
    width of the web (mm, NaN: a solid disc); of case-hardened gears ``CHD`` the case depth (mm, NaN: not given),
    ``HV_s`` and ``HV_core`` the hardness of surface and core (HV, NaN: not given) and ``U_H`` the hardening process
    factor (MPa).
    """

    z: Real
    x: Real
    b: Real
    d_a: Real
    h_aP: Real
    h_fP: Real
    rho_fP: Real
    E_sns: Real
    E_sni: Real
    d_bore: Real
    Rz_H: Real
    Rz_F: Real
    K_1: Real
    K_1_helical: Real
    material: MaterialNumbers
    tool: PinionCutter | FormCut | None = None
    tip: Tip = PLAIN
    pr_P: Real = 0.0
    q_P: Real = 0.0
    alpha_prP: Real = 0.0
    teeth_cut: Real | None = None
    Q: Real = 7.0
    R_bend: Real = 0.0
    swelling: Real = 0.0
    t_g: Real = 0.0
    rho_g: Real = 1.0
    contacts: Real = 1.0
    meshes: Real = 1.0
    k_theta: tuple[Real, Real] = (0.0, 0.0)
    k_W: Real = np.nan
    d_i: Real = np.nan
    b_s: Real = np.nan
    CHD: Real = np.nan
    HV_s: Real = np.nan
    HV_core: Real = np.nan
    U_H: Real = 66000.0


FRICTIONS = ("ISO/TR 14179-2", "ISO/TR 14179-1", "along the path")
"""The friction laws of the mesh, by `PairInput.friction`."""
BY_QUALITY, OUTER_SINGLE, TIP_LOAD = 0.0, 1.0, 2.0
"""Where the load of the root rating acts, as `PairInput.load_at`."""


class PairInput(Struct, frozen=True, kw_only=True):
    """A pair under its duty; mm, N m, rad, rad/s, h, degrees C, mm2/s, kg/m3.

    ``f_sh_given`` (um, not NaN) takes the place of the misalignment that method C finds from the shafts: a full
    calculation of the shafts gives it.

    Plastic teeth have ``theta_gears``, or where ``warms`` is true the warmth of their friction ``mu_plastic`` above the
    air or oil ``theta_0`` around them: ``ED`` share of the time under load, ``R_by_A`` resistance over area of the
    housing (K/W), ``P_beside`` power that other meshes lose in it (W).
    """

    gears: tuple[GearInput, GearInput]
    m_n: Real
    alpha_n: Real
    beta: Real
    f_ZCa: Real
    a_w: Real
    A_as: Real
    A_ai: Real
    T_1: Real
    omega_1: Real
    L_h: Real
    K_A: Real
    K_Hbeta: Real
    K_Halpha: Real
    theta_oil: Real
    nu_40: Real
    nu_100: Real
    rho_15: Real
    X_L: Real
    NT_1e10: Real
    pitting_allowed: Real
    double_helix: Real = False
    K_V_by_B: Real = False
    K_Hbeta_by_C: Real = False
    K_Halpha_by_B: Real = False
    l_sh: Real = 100.0
    s_sh: Real = 0.0
    d_sh: Real = 30.0
    K_arranged: tuple[Real, Real] = (0.48, 0.8)
    B_modified: tuple[Real, Real] = (1.0, 1.0)
    C_a: Real = 0.0
    theta_gears: Real = 20.0
    theta_housing: Real = 20.0
    alpha_housing: Real = 11.5e-6
    K_AP: Real = np.nan
    K_gamma: Real = 1.0
    load_at: Real = BY_QUALITY
    friction: Real = 0.0
    copies: Real = 1.0
    warms: Real = False
    theta_0: Real = 20.0
    mu_plastic: Real = 0.2
    ED: Real = 1.0
    R_by_A: Real = 0.0
    P_beside: Real = 0.0
    wheel_bends: Real = False
    l_sh2: Real = 100.0
    s_sh2: Real = 0.0
    d_sh2: Real = 30.0
    K_arranged2: tuple[Real, Real] = (0.48, 0.8)
    f_sh_given: Real = np.nan


def first_is_pinion(p: PairInput) -> Array:
    """Whether gear 1 is the pinion: the gear with fewer teeth, whoever drives; of equal ones that with more shift.

    Parameters
    ----------
    p : PairInput
        The pairs as entered, arrays of any shape.

    Returns
    -------
    Array
        True where gear 1 is the pinion.
    """
    (z_1, x_1), (z_2, x_2) = ((np.abs(as_float(g.z)), as_float(g.x)) for g in p.gears)
    return np.asarray((z_1 < z_2) | ((z_1 == z_2) & (x_1 >= x_2)))
