"""What cannot be made or rated is refused, with the range that works found by trying."""

from __future__ import annotations

from math import floor, isfinite, radians

import numpy as np
from msgspec.structs import replace

from cooper.document.models import Stage, Train
from cooper.document.quantities import plain
from cooper.errors import OutOfRange
from cooper.gears.cutter import PinionCutter
from cooper.gears.inputs import PairInput
from cooper.gears.pair import reference_centre_distance
from cooper.gears.pair_shape import PairShape, make_tooth
from cooper.gears.tip import land_half_angle
from cooper.gears.tooth import Tooth, pointed_diameter
from cooper.i18n.text import tr
from cooper.results.cached_shapes import found_sound, is_sound, shape_of
from cooper.results.limits import LEAST_FLANK, LEAST_THICKNESS, range_near, tool_fits, vary_distance, vary_gear
from cooper.results.pair_numbers import PairNumbers
from cooper.results.solve_stage import Solved, normal_module, solve_stage
from cooper.results.to_core import pair_input
from cooper.running.pair_play import service_play


def solve_or_refuse(stage: Stage, train: Train, T: float, omega: float, ranges: bool = True) -> Solved:
    """Solve a stage; for a centre distance out of reach, tell the distances at which the whole pair works."""
    try:
        return solve_stage(stage)
    except OutOfRange as fault:
        if fault.quantity != "a_w" or not ranges:
            raise
        mesh = stage.mesh
        one, two = stage.gears
        m_n, beta = normal_module(stage), radians(mesh.beta)
        kind = stage.kind_of_pair
        a = kind.measured(float(reference_centre_distance(one.z, kind.count(two.z), m_n, beta)), m_n, beta)
        near = replace(stage, mesh=mesh.replace_unchecked(a_w=a))
        solved = solve_stage(near)
        pair = pair_input(near, solved, train.duty, train.defaults, T, omega)
        result = _distances(pair, solved, float(fault.value), 0.9 * a, (1.3 if kind.turns else 1.5) * a)
        low, high = result if result else (fault.low, fault.high)
        raise OutOfRange("a_w", fault.value, fault.reason, low=low, high=high, unit="mm") from fault


def _distances(pair: PairInput, solved: Solved, value: float, low: float, high: float) -> tuple[float, float] | None:
    """Working centre distances near a value, as they are measured."""
    size = float(pair.m_n), float(pair.beta)
    kind = solved.kinds[1]
    first, last = sorted(kind.distance(a, *size) for a in (low, high))
    result = range_near(vary_distance(pair, solved.names), kind.distance(value, *size), first, last)
    if result is None:
        return None
    low, high = sorted(kind.measured(a, *size) for a in result)
    return low, high


def shape_or_refuse(stage: Stage, solved: Solved, pair: PairInput, ranges: bool = True) -> PairShape:
    """The shape of a pair whose gears can be made and mesh; others are refused before anything is rated."""
    if is_sound(stage):
        return shape_of(stage, pair)
    refuse_impossible(solved, pair, ranges)
    shape = shape_of(stage, pair)
    refuse_shape(stage, solved, pair, shape, ranges)
    found_sound(stage)
    return shape


def refuse_impossible(solved: Solved, pair: PairInput, ranges: bool = True) -> None:
    """Refuse teeth that cannot be made, before anything is computed from them."""
    for i, gear in enumerate(pair.gears, 1):
        tooth = make_tooth(gear, pair.m_n, pair.alpha_n, pair.beta)
        fault = _fault_of(tooth)
        if fault is not None:
            quantity, reason = fault
            blame = _tip_or(i, "x", solved) if quantity == "tip" else plain(quantity, i)
            _refuse_nearest(reason, blame, solved, pair, ranges)
        if np.isfinite(gear.d_i) and gear.d_i >= float(tooth.d_f):
            raise OutOfRange(
                f"d_i{i}",
                float(gear.d_i),
                tr("the rim would be cut through at the root circle of {d_f:.3f} mm", d_f=float(tooth.d_f)),
                high=round(float(tooth.d_f), 3),
                unit="mm",
            )
        if gear.d_bore >= float(tooth.d_f):
            kind = solved.kinds[i - 1]
            root = (
                tr("root circle of {d_f:.3f} mm", d_f=abs(float(tooth.d_f)))
                if kind.turns
                else tr("roots of the {name}", name=kind.name)
            )
            _refuse_edge(
                tr("the {edge_words} would cut into the {root}", edge_words=kind.edge_words, root=root),
                i,
                solved,
                pair,
                ranges,
            )


def _fault_of(tooth: Tooth) -> tuple[str, str] | None:
    """What makes a tooth impossible: the quantity concerned ("tip" or "x") and the reason."""
    d_f, d_b, d_a = float(tooth.d_f), float(tooth.d_b), float(tooth.d_a)
    # At the nominal shift a cutter may fail where it does not at the middle of the allowance.
    if not isfinite(d_f) or not isfinite(float(tooth.d_f_nominal)) or not bool(tool_fits(tooth)):
        if tooth.tool is not None and isinstance(tooth.tool, PinionCutter):
            return "x", tr("the pinion cutter cannot generate this root: its rounding would reach its pitch circle")
        return "rho_fP", tr("two fillets of this radius do not fit into one tooth space")
    if float(tooth.s_t()) <= LEAST_THICKNESS * float(tooth.m_n):
        return "x", tr("the tooth would have no thickness left at the reference circle")
    if d_f * float(tooth.sign) <= 0:
        return "x", tr("the tool would cut past the centre of the gear")
    widest = float(pointed_diameter(tooth))
    if tooth.sign < 0:
        if abs(d_a) <= abs(d_b):
            return (
                "tip",
                tr(
                    "the tip circle would lie inside the base circle of {d_b:.3f} mm, where there is no involute",
                    d_b=abs(d_b),
                ),
            )
        if abs(d_a) >= abs(d_f):
            return "tip", tr("nothing of the tooth would be left above its root circle of {d_f:.3f} mm", d_f=abs(d_f))
    elif d_a <= max(d_b, d_f):
        return "tip", tr("nothing of the involute would be left above {d_b:.3f} mm", d_b=max(d_b, d_f))
    if float(land_half_angle(tooth)) <= 0 and d_a < widest:
        return ("h_K" if float(tooth.tip.h_K) > 0 else "rho_a"), tr(
            "chamfer or rounding would take the whole tip land away"
        )
    if d_a >= widest:
        widest = abs(widest)
        return "tip", tr(
            "both flanks of the tooth would meet at {widest:.3f} mm, inside its tip circle (pointed tooth)",
            widest=widest,
        )
    return None


def refuse_shape(stage: Stage, solved: Solved, pair: PairInput, shape: PairShape, ranges: bool = True) -> None:
    """Refuse pairs whose teeth have no flank or part before the next ones meet, before anything is rated."""
    for i, (tooth, form) in enumerate(zip(shape.teeth, shape.forms, strict=True), 1):
        # What is no number is no flank either: fillet and involute do not meet.
        if not float(form.d_Ff) < float(tooth.d_a) - LEAST_FLANK * solved.m_n:
            where = (
                tr(" {d_Ff:.3f} mm", d_Ff=abs(float(form.d_Ff)))
                if isfinite(float(form.d_Ff))
                else tr(", which the fillet never meets,")
            )
            reason = tr("no flank would be left between root form circle{where} and tip circle", where=where)
            _refuse_nearest(reason, _tip_or(i, "z", solved), solved, pair, ranges)
    # Helical teeth hand over along their width too.
    eps, whole = float(shape.mesh.eps_alpha), float(shape.mesh.eps_gamma)
    if not (eps >= 1.0 or (eps > 0 and whole >= 1.0)):
        shown = tr("{eps:.2f}", eps=eps) if eps > 0 else "0"
        total = (
            tr(" and total contact ratio {whole:.2f}", whole=whole)
            if eps > 0 and float(shape.mesh.eps_beta) > 0
            else ""
        )
        reason = tr(
            "a pair of teeth would part before the next one meets (profile contact ratio {shown}{total}, below 1)",
            shown=shown,
            total=total,
        )
        given_tips = [i for i in (1, 2) if f"d_a{i}" not in solved.names]
        if given_tips:
            blame = f"d_a{given_tips[-1]}"
        else:
            blame = "a_w" if stage.mesh.a_w is not None else "x_2"
        _refuse_nearest(reason, blame, solved, pair, ranges)


def refuse_unworkable(solved: Solved, pair: PairInput, numbers: PairNumbers, ranges: bool = True) -> None:
    """Refuse pairs whose strength numbers would be meaningless."""
    for i, (tooth, gear) in enumerate(zip(numbers.teeth, numbers.gears, strict=True), 1):
        if not isfinite(float(gear.Y_B)):
            reason = tr(
                "the rim would be thinner than {thinnest}, where the root cannot be rated",
                thinnest=solved.kinds[i - 1].thinnest,
            )
            if np.isfinite(pair.gears[i - 1].d_i):
                thickest = float(tooth.d_f) - float(gear.h)
                raise OutOfRange(f"d_i{i}", float(pair.gears[i - 1].d_i), reason, high=round(thickest, 3), unit="mm")
            _refuse_edge(reason, i, solved, pair, ranges)
    _refuse_near(pair, numbers)
    if not float(numbers.mesh.eta_z) > 0:
        mu = float(numbers.mesh.mu_mz)
        raise OutOfRange(
            "mu_mz",
            round(mu, 4),
            tr(
                "the mesh would lose all that it is given: speed, load or oil lie far outside what the "
                "friction formula is made for"
            ),
            low=0.0,
            high=round(0.99 / float(numbers.mesh.H_V), 3),
        )


def _refuse_near(pair: PairInput, numbers: PairNumbers) -> None:
    """Refuse allowances that bring the centres so near, or in service with run-out and temperature, that the base
    circles let no teeth meet."""
    m = numbers.mesh
    in_service = "j_op_min" in m
    plays = [m.j_wt_min, m.j_wt_max, *((m.j_op_min, m.j_op_max) if in_service else ())]
    if np.all(np.isfinite(plays)):
        return
    a_w, based = abs(float(pair.a_w)), abs(float(m.a * np.cos(m.alpha_t)))
    tried = np.round(floor((based - a_w) * 100) / 100 + 0.01 * np.arange(1, 501), 2)
    if in_service:
        near = replace(pair, A_ai=tried, A_as=np.maximum(tried, pair.A_as))
        tried = tried[np.isfinite(sum(service_play(near, m, numbers.gears).worst))]
    raise OutOfRange(
        "A_ai",
        float(pair.A_ai),
        tr(
            "at the least centre distance, {a_w:.3f} mm{in_service}, the base circles let no teeth meet; "
            "that takes more than {based:.3f} mm",
            a_w=a_w + float(pair.A_ai),
            in_service=tr(" less run-out and warmth") if in_service else "",
            based=based,
        ),
        low=float(tried[0]) if len(tried) else None,
        unit="mm",
    )


def _tip_or(i: int, other: str, solved: Solved) -> str:
    """The tip diameter where it is given, else another quantity of the gear."""
    return f"{other}_{i}" if f"d_a{i}" in solved.names else f"d_a{i}"


def _refuse_edge(reason: str, i: int, solved: Solved, pair: PairInput, ranges: bool) -> None:
    """Refuse what bounds the body of gear i (1, 2), where its kind tells the least that works with that."""
    kind, gear = solved.kinds[i - 1], pair.gears[i - 1]
    tooth = make_tooth(gear, pair.m_n, pair.alpha_n, pair.beta)
    low = kind.edge_low(tooth)
    if low is None:
        _refuse_nearest(reason, f"d_bore{i}", solved, pair, ranges)
    value = round(kind.measured_edge(float(gear.d_bore), float(tooth.d)), 9)
    raise OutOfRange(plain(kind.boundary_diameter, i), value, reason, low=low, unit="mm")


_SPANS = {"x": (-2.0, 2.0), "h_K": (0.0, 0.0), "rho_a": (0.0, 0.0), "rho_fP": (0.0, 0.8)}


def _refuse_nearest(reason: str, blame: str, solved: Solved, pair: PairInput, ranges: bool) -> None:
    """Refuse with the working range nearest to the blamed quantity's value, in lengths as a person reads them."""
    if not ranges:
        raise OutOfRange(blame, "", reason)
    if blame == "a_w":
        value = solved.kinds[1].measured(float(pair.a_w), float(pair.m_n), float(pair.beta))
        result = _distances(pair, solved, value, 0.8 * value, 1.25 * value)
    else:
        name, i = blame.rstrip("12").rstrip("_"), int(blame[-1]) - 1
        gear = pair.gears[i]
        edges = {"h_K": float(gear.tip.h_K), "rho_a": float(gear.tip.rho_a)}
        value = {
            "z": float(gear.z),
            "x": solved.x[i],
            "d_a": solved.d_a[i],
            "d_bore": float(gear.d_bore),
            "rho_fP": float(gear.rho_fP),
            **edges,
        }[name]
        low, high = _SPANS.get(name, (0.0, value) if name == "d_bore" else (0.5 * value, 2 * value))
        if name in edges:
            low, high = 0.0, value
        if name == "z":
            low, high = solved.kinds[i].nearest_counts()
        elif value < 0 and name in ("d_bore", "d_a"):
            low, high = (3 * solved.d_a[i], solved.d_a[i]) if name == "d_bore" else (2 * value, 0.5 * value)
        result = range_near(vary_gear(pair, i, name, solved.names), value, low, high, whole=name == "z")
        if value < 0 and name in ("d_bore", "d_a"):
            result = (-result[1], -result[0]) if result else None
            value, blame = -value, blame.replace("d_bore", solved.kinds[i].boundary_diameter)
    low_, high_ = result if result else (None, None)
    unit = "mm" if blame[0] in "ad" or blame.startswith(("h_K", "rho_a")) else ""
    raise OutOfRange(blame, int(value) if blame[0] == "z" else value, reason, low=low_, high=high_, unit=unit)
