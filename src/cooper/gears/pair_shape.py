"""Teeth, root forms and path of contact of pairs, external or internal, as arrays over designs."""

from __future__ import annotations

from typing import Self

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from cooper.arrays import Array, Real, all_, any_, as_float, frozen, where
from cooper.gears.cutter import FormCut, PinionCutter
from cooper.gears.inputs import GearInput, PairInput
from cooper.gears.internal import tip_gap
from cooper.gears.pair import reference_centre_distance
from cooper.gears.path_of_contact import Path, path_of_contact, specific_sliding
from cooper.gears.rack import Rack
from cooper.gears.root import RootForm, least_x_shaped, root_form
from cooper.gears.tip import land_half_angle, tip_form_diameter
from cooper.gears.tooth import Tooth, least_x, shift_of_allowance, tip_diameter
from cooper.gears.virtual import virtual_tooth_count
from cooper.kept import Kept
from cooper.values import GearValues, MeshValues


class PairShape(Struct, frozen=True):
    """A pair as it stands: values of the mesh and of each gear, which ratings and losses add to; teeth, root forms,
    path of contact."""

    mesh: MeshValues[Array]
    gears: tuple[GearValues[Array], GearValues[Array]]
    teeth: tuple[Tooth, Tooth]
    forms: tuple[RootForm, RootForm]
    path: Path

    def fresh(self) -> Self:
        """The same with values of its own, to which a rating may add."""
        one, two = (g.copy() for g in self.gears)
        return replace(self, mesh=self.mesh.copy(), gears=(one, two))


TEETH: Kept[Tooth] = Kept(96)
"""Teeth, each with its root form, outline and areas, so that an edit calculates again only what it alters."""


def make_tooth(gear: GearInput, m_n: Real, alpha_n: Real, beta: Real = 0.0) -> Tooth:
    """The tooth at the middle of its thickness allowance; for plain numbers the same object as before for the same
    numbers.

    Parameters
    ----------
    gear : GearInput
        The gear as entered.
    m_n : Real
        Normal module (mm).
    alpha_n : Real
        Normal pressure angle (rad).
    beta : Real
        Helix angle at the reference cylinder (rad).

    Returns
    -------
    Tooth
        The tooth.
    """
    d_a = None if np.ndim(gear.d_a) == 0 and np.isnan(gear.d_a) else gear.d_a
    key = (
        gear.z,
        gear.x,
        d_a,
        gear.h_aP,
        gear.h_fP,
        gear.rho_fP,
        gear.E_sns,
        gear.E_sni,
        gear.tool,
        gear.tip,
        gear.pr_P,
        gear.q_P,
        gear.alpha_prP,
        m_n,
        alpha_n,
        beta,
    )
    try:
        hash(key)
    except TypeError:
        # Arrays have no hash.
        return _make_tooth(gear, m_n, alpha_n, beta)
    return TEETH.of(key, lambda: frozen(_make_tooth(gear, m_n, alpha_n, beta)))


def _make_tooth(gear: GearInput, m_n: Real, alpha_n: Real, beta: Real) -> Tooth:
    rack = Rack(
        as_float(alpha_n),
        as_float(gear.h_aP),
        as_float(gear.h_fP),
        as_float(gear.rho_fP),
        as_float(gear.pr_P) / m_n,
        as_float(gear.q_P) / m_n,
        as_float(gear.alpha_prP),
    )
    mean = (as_float(gear.E_sns) + gear.E_sni) / 2
    x_E = gear.x + shift_of_allowance(mean, m_n, alpha_n)
    d_a = where(np.isnan(gear.d_a), tip_diameter(gear.z, m_n, beta, gear.x, gear.h_aP), gear.d_a)
    z = as_float(gear.z)
    return Tooth(z, as_float(m_n), as_float(beta), as_float(gear.x), x_E, rack, d_a, gear.tool, gear.tip)


def pair_shape(p: PairInput) -> PairShape:
    """Geometry of pairs.

    Parameters
    ----------
    p : PairInput
        The pairs as entered, arrays of any shape.

    Returns
    -------
    PairShape
        Teeth, root forms, path of contact and values; what cannot be is NaN.
    """
    teeth = (make_tooth(p.gears[0], p.m_n, p.alpha_n, p.beta), make_tooth(p.gears[1], p.m_n, p.alpha_n, p.beta))
    forms = (root_form(teeth[0]), root_form(teeth[1]))
    mesh, path = _geometry(p, teeth, forms)
    gears = (_gear_geometry(p, 0, teeth, forms, mesh, path), _gear_geometry(p, 1, teeth, forms, mesh, path))
    return PairShape(mesh, gears, teeth, forms, path)


def with_widths(p: PairInput, shape: PairShape) -> PairShape:
    """A shape at other widths.

    Parameters
    ----------
    p : PairInput
        Input that differs in its widths alone.
    shape : PairShape
        Shape to which no rating has added yet; stays as it was.

    Returns
    -------
    PairShape
        The shape at the widths of `p`.
    """
    mesh = shape.mesh.copy()
    mesh.eps_beta = _overlap(p)
    mesh.eps_gamma = mesh.eps_alpha + mesh.eps_beta
    one, two = (g.copy(b=as_float(i.b)) for g, i in zip(shape.gears, p.gears, strict=True))
    return PairShape(mesh, (one, two), shape.teeth, shape.forms, shape.path)


def _overlap(p: PairInput) -> Array:
    """Overlap ratio; each half of a double helix overlaps by itself. ISO 6336-1:2019, 4."""
    width = np.minimum(p.gears[0].b, p.gears[1].b) / where(p.double_helix, 2.0, 1.0)
    return as_float(width * np.sin(p.beta) / (np.pi * p.m_n))


def _geometry(
    p: PairInput, teeth: tuple[Tooth, Tooth], forms: tuple[RootForm, RootForm]
) -> tuple[MeshValues[Array], Path]:
    one, two = teeth
    alpha_t = one.alpha_t
    a = reference_centre_distance(one.z, two.z, p.m_n, p.beta)
    ratio = a * np.cos(alpha_t) / p.a_w
    alpha_wt = np.arccos(where(np.abs(ratio) < 1, ratio, np.nan))
    p_et = np.pi * one.m_t * np.cos(alpha_t)
    d_Fa1, d_Fa2 = tip_form_diameter(one), tip_form_diameter(two)
    path = path_of_contact(one.d_b, two.d_b, d_Fa1, d_Fa2, forms[0].d_Ff, forms[1].d_Ff, p.a_w, p_et)
    u = two.z / one.z
    eps_alpha = path.eps_alpha
    eps_beta = _overlap(p)
    mesh: MeshValues[Array] = MeshValues(
        **{
            "u": u,
            "m_n": as_float(p.m_n),
            "alpha_n": as_float(p.alpha_n),
            "beta": as_float(p.beta),
            "beta_b": one.beta_b,
            "f_ZCa": as_float(p.f_ZCa),
            "a": a,
            "a_w": as_float(p.a_w),
            "x_sum": one.x + two.x,
            "alpha_t": alpha_t,
            "alpha_wt": alpha_wt,
            "p_et": p_et,
            "eps_alpha": eps_alpha,
            "eps_beta": eps_beta,
            "eps_gamma": eps_alpha + eps_beta,
            "g_alpha": path.E - path.A,
            "g_A": path.A,
            "g_B": path.B,
            "g_C": path.C,
            "g_D": path.D,
            "g_E": path.E,
        }
    )
    if any_(two.z < 0):
        mesh.c_tip = tip_gap(one, two, p.a_w, alpha_wt)
    return mesh, path


def _gear_geometry(
    p: PairInput,
    i: int,
    teeth: tuple[Tooth, Tooth],
    forms: tuple[RootForm, RootForm],
    mesh: MeshValues[Array],
    path: Path,
) -> GearValues[Array]:
    tooth, mate, gear = teeth[i], teeth[1 - i], p.gears[i]
    # Distances of the path's ends from this gear's own base tangent point.
    near, far = (path.A, path.E) if i == 0 else (path.T2 - path.E, path.T2 - path.A)
    reach = path.tip_2 if i == 0 else path.T2 - path.tip_1
    u_own = mate.z / tooth.z
    r_b = tooth.d_b / 2
    # Past the base tangent point the mate's tip meets no involute at all; the reach goes on below the base circle.
    r_reach = tooth.sign * where((reach >= 0) | (tooth.sign < 0), np.hypot(r_b, reach), r_b + reach)
    land = tooth.normal_at(tooth.d_a) * np.abs(tooth.d_a)
    with np.errstate(divide="ignore"):
        root_end, tip_end = (specific_sliding(g, path.T2, u_own)[0] for g in (near, far))
    return GearValues(
        **{
            "z": tooth.z,
            "x": as_float(tooth.x),
            "x_E": tooth.x_E,
            "z_n": virtual_tooth_count(tooth.z, tooth.beta, tooth.beta_b),
            "p_z": _lead(tooth),
            "h_aP": as_float(tooth.rack.h_aP),
            "h_fP": as_float(tooth.rack.h_fP),
            "rho_fP": as_float(tooth.rack.rho_fP),
            "d": tooth.d,
            "d_b": tooth.d_b,
            "d_a": tooth.d_a,
            "d_f": tooth.d_f_nominal,
            "d_fE": tooth.d_f,
            "d_w": 2 * mesh.a_w / (1 + u_own),
            "d_Ff": forms[i].d_Ff,
            "d_Nf": tooth.sign * np.hypot(tooth.d_b, 2 * near),
            "d_Fa": tip_form_diameter(tooth),
            "d_Na": tooth.sign * np.hypot(tooth.d_b, 2 * far),
            "h": (tooth.d_a - tooth.d_f_nominal) / 2,
            "s_n": tooth.s_n(tooth.x),
            "s_nE": tooth.s_n(),
            "s_an": tooth.s_yn(tooth.d_a, tooth.x),
            "s_anE": land * land_half_angle(tooth),
            "c": mesh.a_w - tooth.d_a / 2 - mate.d_f_nominal / 2,
            "b": as_float(gear.b),
            "d_bore": as_float(gear.d_bore),
            "c_F": r_reach - forms[i].d_Ff / 2,
            "undercut": forms[i].undercut.astype(float),
            "s_R": (tooth.d_f - rim_edge(gear)) / 2,
            "zeta_f": root_end,
            "zeta_a": tip_end,
            "E_sns": as_float(gear.E_sns),
            "E_sni": as_float(gear.E_sni),
            "Rz_H": as_float(gear.Rz_H),
            "Rz_F": as_float(gear.Rz_F),
            "R_bend": as_float(gear.R_bend),
            **_tool_values(tooth),
        }
    )


def rim_edge(gear: GearInput) -> Array:
    """Inner diameter of the rim: of a solid disc its bore; outside diameter of a ring, negative.

    Parameters
    ----------
    gear : GearInput
        The gear as entered.

    Returns
    -------
    Array
        Diameter (mm), negative for a ring.
    """
    return where(np.isnan(gear.d_i), gear.d_bore, gear.d_i)


def _tool_values(tooth: Tooth) -> dict[str, Array]:
    """What only some tools have: the least shift without undercut; how a pinion cutter stands."""
    values: dict[str, Array] = {}
    if not isinstance(tooth.tool, FormCut) and all_(tooth.sign > 0):
        values["x_min"] = least_x(tooth.z, tooth.beta, tooth.rack) if tooth.tool is None else least_x_shaped(tooth)
    if isinstance(tooth.tool, PinionCutter):
        values |= {"z_0": as_float(tooth.tool.z_0), "a_0": tooth.cut.a_0, "alpha_w0": tooth.cut.alpha_w0}
    return values


def _lead(tooth: Tooth) -> Array:
    """Lead of the helix, 0 for a spur gear; mm. ISO 21771:2007, 4.2."""
    helical = tooth.tan_beta > 0
    return where(helical, np.pi * tooth.d / where(helical, tooth.tan_beta, 1.0), 0.0)
