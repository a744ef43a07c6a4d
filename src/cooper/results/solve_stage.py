"""From what the document gives to everything that geometry needs: module, shifts, centre distance, duty."""

from __future__ import annotations

from math import cos, isfinite, pi, radians

import numpy as np
from msgspec import Struct

from cooper.document.duty import Duty
from cooper.document.gear_data import Gear, Mesh
from cooper.document.models import Stage
from cooper.errors import OutOfRange
from cooper.gears.cutter import ConicCut, FormCut, PinionCutter, cutter_rounding_fits, greatest_cutter_rounding
from cooper.gears.pair import centre_distance, shift_sum
from cooper.gears.rack import Rack, greatest_h_fP, greatest_rho_fP
from cooper.gears.tooth import tip_diameter, transverse_pressure_angle
from cooper.i18n.text import tr
from cooper.kinds.kind import Kind

GREATEST_SHIFT = 3.0


class Solved(Struct, frozen=True):
    """Module, shifts, tip diameters, centre distance and kinds of a stage; ``names`` tells which were not given.

    Diameters of an internal wheel and its centre distance are negative, as everywhere in the core.
    """

    m_n: float
    x: tuple[float, float]
    d_a: tuple[float, float]
    a_w: float
    names: frozenset[str]
    kinds: tuple[Kind, Kind]


def solve_duty(duty: Duty) -> tuple[float, float, float]:
    """Input power (W), torque (N m) and speed (rad/s) from the two that are given."""
    omega = None if duty.n is None else duty.n * pi / 30
    if duty.P is None:
        assert duty.T is not None and omega is not None
        return duty.T * omega, duty.T, omega
    if duty.T is None:
        assert omega is not None
        return duty.P, duty.P / omega, omega
    return duty.P, duty.T, duty.P / duty.T


def module_of(mesh: Mesh, z_1: int, z_2: int) -> float:
    """Normal module from whichever of module, diametral pitch and reference diameter is given; mm.

    d = z m_n/cos(beta).
    """
    if mesh.m_n is not None:
        return mesh.m_n
    if mesh.P_nd is not None:
        return 25.4 / mesh.P_nd
    m_t = mesh.d_1 / abs(z_1) if mesh.d_1 is not None else (mesh.d_2 or 0.0) / abs(z_2)
    return m_t * cos(radians(mesh.beta))


def normal_module(stage: Stage) -> float:
    """Normal module of a stage, however its size is given; mm."""
    return module_of(stage.mesh, stage.gears[0].z, stage.gears[1].z)


def solve_stage(stage: Stage) -> Solved:
    """Solve a pair; raises `OutOfRange` for what cannot be."""
    mesh = stage.mesh
    one, two = stage.gears
    m_n = normal_module(stage)
    kinds = stage.kinds
    z_1, z_2 = (k.count(g.z) for k, g in zip(kinds, (one, two), strict=True))
    if not 0.02 <= m_n <= 100:
        if mesh.P_nd is not None:
            reason = tr("the module would be {m_n:.4g} mm", m_n=m_n)
            raise OutOfRange("P_nd", mesh.P_nd, reason, low=25.4 / 100, high=25.4 / 0.02, unit="1/in")
        name = next(n for n in ("d_1", "d_2") if getattr(mesh, n) is not None)
        z = abs(one.z if name == "d_1" else two.z)
        raise OutOfRange(
            name,
            getattr(mesh, name),
            tr("with {z} teeth the module would be {m_n:.4g} mm", z=z, m_n=m_n),
            low=0.02 * z,
            high=100 * z,
            unit="mm",
        )
    alpha, beta = radians(mesh.alpha_n), radians(mesh.beta)
    for i, gear in ((1, one), (2, two)):
        _check_tool(gear, alpha, beta, m_n, i)
    names = set()
    sign = 1 if z_1 + z_2 > 0 else -1
    x_1, x_2, a_w = one.x, two.x, None if mesh.a_w is None else kinds[1].distance(mesh.a_w, m_n, beta)
    if a_w is None:
        assert x_1 is not None and x_2 is not None
        names.add("a_w")
        a_w = float(centre_distance(z_1, z_2, m_n, x_1 + x_2, alpha, beta))
        if not isfinite(a_w):
            alpha_t = float(transverse_pressure_angle(alpha, beta))
            least = -(np.tan(alpha_t) - alpha_t) * (z_1 + z_2) / (2 * np.tan(alpha)) - x_1
            raise OutOfRange(
                "x_2",
                x_2,
                tr("with so much ")
                + ("negative" if sign > 0 else "positive")
                + tr(" shift no involute flanks can work together"),
                low=float(least) if sign > 0 else None,
                high=None if sign > 0 else float(least),
            )
    else:
        total = float(shift_sum(z_1, z_2, m_n, a_w, alpha, beta))
        free = "x_1" if x_1 is None else "x_2"
        names.add(free)
        low, high = _reach(z_1, z_2, m_n, alpha, beta, (x_2 if free == "x_1" else x_1) or 0.0)
        rest = total - ((x_2 if free == "x_1" else x_1) or 0.0)
        # Rounding of the distance is no shift.
        rest = 0.0 if abs(rest) < 1e-12 else rest
        if not isfinite(total) or abs(rest) > GREATEST_SHIFT:
            if isfinite(rest):
                reason = tr(
                    "it would need the shift {free} = {rest:.3f}, beyond {greatest_shift:g}",
                    free=free,
                    rest=rest,
                    greatest_shift=GREATEST_SHIFT,
                )
            else:
                reason = tr("no shift can bring the flanks so near together")
            ends = sorted(kinds[1].measured(a, m_n, beta) for a in (low, high))
            raise OutOfRange("a_w", mesh.a_w or 0.0, reason, low=ends[0], high=ends[1], unit="mm")
        x_1, x_2 = (rest, x_2) if x_1 is None else (x_1, rest)
    assert x_1 is not None and x_2 is not None
    tips = []
    for i, (gear, x) in enumerate(((one, x_1), (two, x_2)), 1):
        if gear.d_a is None:
            names.add(f"d_a{i}")
        made = float(tip_diameter((z_1, z_2)[i - 1], m_n, beta, x, gear.h_aP))
        tips.append(made if gear.d_a is None else float(np.copysign(gear.d_a, made)))
    names |= {n for n in ("m_n", "d_1", "d_2", "P_nd") if getattr(mesh, n) is None}
    return Solved(m_n, (x_1, x_2), (tips[0], tips[1]), a_w, frozenset(names), kinds)


def _reach(z_1: int, z_2: int, m_n: float, alpha: float, beta: float, other: float) -> tuple[float, float]:
    """Centre distances that shifts up to the greatest allowed can meet; mm."""
    high = float(centre_distance(z_1, z_2, m_n, other + GREATEST_SHIFT, alpha, beta))
    low = float(centre_distance(z_1, z_2, m_n, other - GREATEST_SHIFT, alpha, beta))
    base = (z_1 + z_2) * m_n / (2 * cos(beta)) * cos(float(transverse_pressure_angle(alpha, beta)))
    return tuple(a if isfinite(a) else base * (1 + 1e-6) for a in (low, high))  # type: ignore[return-value]


def tool_of(gear: Gear) -> PinionCutter | FormCut | None:
    """The tool of a gear as the core knows it; None for a rack or hob."""
    if gear.tool == "pinion cutter":
        return PinionCutter(float(gear.z_0), gear.x_0)
    if gear.tool == "elliptic":
        return ConicCut(gear.h_Ff, gear.w_F)
    return FormCut() if gear.tool == "form" else None


def _check_tool(gear: Gear, alpha: float, beta: float, m_n: float, i: int) -> None:
    """Refuse a tool that cannot be; a formed root is looked at with the gear, whose counts decide."""
    tool = tool_of(gear)
    if isinstance(tool, FormCut):
        return
    if isinstance(tool, PinionCutter):
        alpha_t = float(transverse_pressure_angle(alpha, beta))
        rack = Rack(np.float64(alpha), gear.h_aP, gear.h_fP, gear.rho_fP)
        if cutter_rounding_fits(tool, rack, m_n / cos(beta), m_n, alpha_t):
            return
        greatest = greatest_cutter_rounding(tool, rack, m_n / cos(beta), m_n, alpha_t)
    else:
        greatest = float(greatest_rho_fP(alpha, gear.h_fP, max(gear.pr_P - gear.q_P, 0.0) / m_n))
    if greatest < 0 or (greatest == 0 and tool is not None):
        raise OutOfRange(
            f"h_fP{i}",
            gear.h_fP,
            tr("the tip of the cutting tool would be pointed before it reaches this depth"),
            low=0.5,
            high=float(greatest_h_fP(alpha, 0.0)) if tool is None else None,
        )
    if gear.rho_fP > greatest + 1e-12:
        raise OutOfRange(
            f"rho_fP{i}",
            gear.rho_fP,
            tr("the tip of the cutting tool has no room for a larger rounding"),
            low=0.0,
            high=float(np.floor(greatest * 1e4) / 1e4),
        )
    if float(Rack(np.float64(alpha), gear.h_aP, gear.h_fP, gear.rho_fP).h_FfP) <= 0:
        lowest_centre = gear.h_fP / (1 - np.sin(alpha))
        raise OutOfRange(
            f"rho_fP{i}",
            gear.rho_fP,
            tr("the rounding would swallow the whole straight flank of the tool's dedendum"),
            low=0.0,
            high=float(lowest_centre),
        )
    if gear.pr_P > gear.q_P and radians(gear.alpha_prP) >= alpha - radians(1):
        raise OutOfRange(
            f"alpha_prP{i}",
            gear.alpha_prP,
            tr("the ramp of the protuberance must stand steeper than the flank"),
            low=0.0,
            high=float(np.degrees(alpha)) - 1,
            unit="deg",
        )
