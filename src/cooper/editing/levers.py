"""Levers: one quantity changed so that a check reaches its target, solved on the real evaluation."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from math import ceil, cos, radians

import numpy as np

from cooper.document.models import Design
from cooper.editing.edit import set_many
from cooper.editing.form_levers import FORM_LEVERED, form_levers
from cooper.editing.lever_search import STEEPEST, Lever, least_value, margin_of, search_value
from cooper.editing.machine_levers import MACHINE_LEVERED, machine_levers
from cooper.editing.make_sets import set_number
from cooper.editing.set_fields import scaled
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.kinds.known import kind_of
from cooper.rating.iso6336.case_depth import DEEPEST
from cooper.results.evaluate import QUICK, WHOLE, Scope, evaluate
from cooper.results.result_tree import Check, Results
from cooper.results.why import CHAINS
from cooper.stock.materials import groups, hardness_range
from cooper.stock.series import modules

LEVERED = (
    *CHAINS,
    "S_B",
    "S_int",
    "S_lambda",
    "S_FF",
    "CHD",
    "theta_Fla",
    "delta_W",
    "lambda_t",
    "theta_bal",
    *FORM_LEVERED,
    *MACHINE_LEVERED,
)
"""Checks that have levers: those of teeth and mesh, of strength and of scuffing, warmth, wear and deflection of
plastics, of the oil's temperature, those of shafts, bearings and joints."""
HARDEST_CORE = 430.0
"""Hardness of a core (HV) up to which a lever looks: tougher steels quenched harder are no more tough."""
WIDEST = 60.0
"""Face width, in modules, up to which a width lever looks."""


def levers(design: Design, results: Results, check: Check) -> list[Lever]:
    """All levers of `each_lever`."""
    return list(each_lever(design, results, check))


def each_lever(design: Design, results: Results, check: Check) -> Iterator[Lever]:
    """One change after the other that would bring a check to its limit, each solved as it is asked for.

    Of strength: face width, module, material, hardness, profile shift, helix, flank class, oil (contact and scuffing),
    torque, life. Of the oil's temperature: area of the housing, thinner oil, less of it, load.
    """
    if check.part:
        for result in machine_levers(design, results, check):
            yield Lever(*result)
        return
    if check.symbol in FORM_LEVERED:
        for w in form_levers(design, results, check):
            yield (
                Lever(w.label, w.now, w.kind, design, results)
                if check.margin >= 0
                else search_value(w.label, w.kind, check, w.make, w.now, w.end, w.cannot, w.step)
            )
        return
    if check.symbol == "theta_bal":
        yield from _heat(design, check)
        return
    if check.stage is None or check.symbol not in LEVERED:
        return
    yield _width(design, results, check)
    yield _module(design, results, check)
    if check.symbol in CHAINS:
        yield _material(design, check)
    yield from _values(design, results, check)


def _values(design: Design, results: Results, check: Check) -> Iterator[Lever]:
    """Levers on one number each: searched from the present value outwards, the first that reaches the limit is
    taken."""
    k, i = check.stage or 0, check.index or 1
    stage = design.train.stages[k]
    mesh, gear, base = stage.mesh, stage.gears[i - 1], stage.paths[i - 1]
    _low, high = hardness_range(gear.material.group, gear.material.grade)
    now = gear.material.hardness

    def one(path: str) -> Callable[[float], Design]:
        return lambda v: set_many(design, {path: v})

    if check.symbol in CHAINS:
        yield search_value(
            "hardness",
            None,
            check,
            one(f"{base}.material.hardness"),
            now,
            high,
            tr("not reached up to {high:g}", high=high),
            5.0,
        )
    shift = results.stages[k].gears[i - 1].x
    if kind_of(gear).shifts and gear.x is not None and check.symbol in CHAINS:
        yield search_value(
            tr("profile shift"),
            "factor",
            check,
            one(f"{base}.x"),
            shift,
            shift + 0.8,
            tr("no greater shift reaches it"),
            0.01,
        )
    if check.symbol == "S_FF":
        CHD, core = gear.CHD or 0.0, gear.HV_core or 0.0
        deepest = DEEPEST * results.stages[k].mesh.m_n
        yield search_value(
            tr("depth of the case"),
            "length",
            check,
            one(f"{base}.CHD"),
            CHD,
            max(deepest, CHD),
            tr("no case as deep as tips allow reaches it"),
            0.05,
        )
        yield search_value(
            tr("hardness of the core"),
            "hardness",
            check,
            one(f"{base}.HV_core"),
            core,
            HARDEST_CORE,
            tr("no usual core reaches it"),
            5.0,
        )
    if mesh.beta < STEEPEST and stage.kind_of_pair.turns:
        yield _helix(design, results, check)
    fine = min(g.Q for g in stage.gears)

    def classes(Q: float) -> Design:
        paths = {f"{path}.Q": min(int(Q), g.Q) for path, g in zip(stage.paths, stage.gears, strict=True)}
        return set_many(design, paths)

    yield search_value(tr("flank class"), "count", check, classes, fine, 1.0, tr("no finer class reaches it"), 1.0)
    if check.symbol in ("S_H", "S_Heq", "S_B", "S_int", "S_lambda"):
        nu, words = design.train.defaults.lubricant.nu_40, tr("no thicker oil up to 1000 mm2/s reaches it")
        yield search_value("oil", "viscosity", check, _oil(design), nu, 1000.0, words, 10.0)
    yield _load(design, check)
    duty = design.train.duty
    if check.symbol in ("S_H", "S_F", "S_HA", "S_FA", "S_Heq", "S_Feq"):
        yield search_value("life", "time", check, one("train.duty.L_h"), duty.L_h, 1.0, tr("not even one hour"), 0.0)


def _load(design: Design, check: Check, scope: Scope = QUICK) -> Lever:
    """Less torque or power, whichever the duty gives."""
    duty = design.train.duty
    name, kind = ("T", "torque") if duty.T is not None else ("P", "power")
    now = duty.T if duty.T is not None else duty.P or 0.0

    def make(load: float) -> Design:
        return set_many(design, {f"train.duty.{name}": load})

    words = tr("no load above 2 % of it holds")
    return search_value(tr("{kind} at the input", kind=kind), kind, check, make, now, 0.02 * now, words, 0.0, scope)


def _heat(design: Design, check: Check) -> Iterator[Lever]:
    """What lets the oil stay cooler; with a machine that counts its own bearings count too."""
    train = design.train
    scope = WHOLE if train.machine is not None and train.machine.counted else QUICK
    at, oil = train.losses, train.defaults.lubricant

    def one(name: str) -> Callable[[float], Design]:
        return lambda v: set_many(design, {f"train.losses.{name}": v})

    if at.A_h is not None:
        step = float(10 ** np.floor(np.log10(at.A_h) - 1))
        words = tr("no housing up to 20 times its area gives the heat off")
        yield search_value(
            tr("area of the housing"),
            "area",
            check,
            one("A_h"),
            at.A_h,
            20 * at.A_h,
            words,
            step,
            scope,
        )
    # Thinner oil is stirred with less loss, thicker oil keeps flanks apart: either may help.
    words = tr("neither thinner nor thicker oil does")
    other = search_value("oil", "viscosity", check, _oil(design), oil.nu_40, oil.nu_40 / 8, words, 0.0, scope)
    if other.design is None:
        other = search_value("oil", "viscosity", check, _oil(design), oil.nu_40, 1000.0, words, 5.0, scope)
    yield other
    if at.h_e > 0:
        yield search_value(
            tr("depth of the oil"),
            "length",
            check,
            one("h_e"),
            at.h_e,
            0.02 * at.h_e,
            tr("not even with hardly any oil"),
            0.0,
            scope,
        )
    yield _load(design, check, scope)


def _oil(design: Design) -> Callable[[float], Design]:
    """The design with an oil of another viscosity at 40 degrees C, its index kept about the same."""
    oil = design.train.defaults.lubricant
    thicker = oil.nu_100 / oil.nu_40

    def make(nu: float) -> Design:
        path = "train.defaults.lubricant"
        return set_many(design, {f"{path}.nu_40": nu, f"{path}.nu_100": nu * thicker ** (oil.nu_40 / nu) ** 0.15})

    return make


def _helix(design: Design, results: Results, check: Check) -> Lever:
    """The least helix angle; where the centre distance is fixed, the module gives way so that the shifts stay."""
    k = check.stage or 0
    mesh, base = design.train.stages[k].mesh, design.train.stages[k].path
    fixed = mesh.a_w is not None
    m_n, now = results.stages[k].mesh.m_n, mesh.beta

    def make(beta: float) -> Design:
        changes: dict[str, float | None] = {f"{base}.beta": beta}
        if fixed:
            changes |= {f"{base}.{n}": None for n in ("P_nd", "d_1", "d_2")}
            changes[f"{base}.m_n"] = m_n * cos(radians(beta)) / cos(radians(now))
        return set_many(design, changes)

    words = tr("not reached up to {steepest:g}°", steepest=STEEPEST) + (
        tr(", the module giving way to the fixed centre distance") if fixed else ""
    )
    return search_value(tr("helix angle"), "angle", check, make, now, STEEPEST, words, 0.5)


def _width(design: Design, results: Results, check: Check) -> Lever:
    k = check.stage or 0
    stage = design.train.stages[k]
    widths = [g.b for g in stage.gears]
    extra = [b - min(widths) for b in widths]

    def with_width(b: float) -> Design:
        paths = [f"{path}.b" for path in stage.paths]
        return set_many(design, {p: b + e for p, e in zip(paths, extra, strict=True)})

    top = max(WIDEST * results.stages[k].mesh.m_n, 2 * min(widths))
    # A wider face leans more under its shaft: where the widest fails, a narrower one may still do.
    tops = (
        [top]
        if results.stages[k].methods["K_Hbeta"] == "entered"
        else [top * f for f in (1, 0.7, 0.5, 0.35, 0.25, 0.18, 0.12)]
    )
    top = next((t for t in tops if margin_of(with_width(t), check.key)[0] >= 0), top)
    result = least_value(lambda b: margin_of(with_width(b), check.key)[0], 0.05 * min(widths), top)
    if result is None:
        return Lever(tr("face width"), top, "length", None, None, tr("not reached up to b = {top:.0f} mm", top=top))
    rounded = ceil(result * 10 - 1e-9) / 10
    changed = with_width(rounded)
    return Lever(tr("face width"), rounded, "length", changed, evaluate(changed))


def _module(design: Design, results: Results, check: Check) -> Lever:
    k = check.stage or 0
    stage = design.train.stages[k]
    mesh = stage.mesh
    n_set = set_number(design, k)
    one = None if n_set is None else design.train.placed[n_set]
    if one is not None:
        # All meshes of a set grow together; the second one's distance follows, that of two rings is what sets their
        # size.
        fixed = None if not one.arranged.sun_inside else design.train.stages[one.first].mesh.a_w
    else:
        fixed = mesh.a_w
    if fixed is not None:
        return Lever(
            "module",
            results.stages[k].mesh.m_n,
            "module",
            None,
            None,
            tr("the centre distance is fixed at {fixed:g} mm; free it first", fixed=fixed),
        )
    base = stage.path
    for m in modules():
        if not 0.3 * results.stages[k].mesh.m_n <= m <= 8 * results.stages[k].mesh.m_n:
            continue
        changes: dict[str, float | None] = {f"{base}.{n}": None for n in ("P_nd", "d_1", "d_2")}
        # Given tip circles, rims and backs keep their proportion to the teeth.
        grown = m / results.stages[k].mesh.m_n
        for path, gear in zip(stage.paths, stage.gears, strict=True):
            for name in kind_of(gear).grows:
                if getattr(gear, name) is not None:
                    changes[f"{path}.{name}"] = round(getattr(gear, name) * grown, 3)
        try:
            changed = set_many(design, {**changes, f"{base}.m_n": m}) if n_set is None else scaled(design, n_set, grown)
        except OutOfRange:
            continue
        margin, after = margin_of(changed, check.key)
        if margin >= 0 and after is not None:
            return Lever("module", m, "module", changed, evaluate(changed))
    return Lever(
        "module", results.stages[k].mesh.m_n, "module", None, None, tr("no standard module up to 8 times reaches it")
    )


def _material(design: Design, check: Check) -> Lever:
    """The material of the stock with the least price that reaches the target for the gear concerned."""
    k = check.stage or 0
    i = (check.index or 1) - 1
    present = design.train.stages[k].gears[i].material
    path = f"{design.train.stages[k].paths[i]}.material"
    options = []
    for group, data in groups().items():
        for grade in data["grades"]:
            hardness = present.hardness if group == present.group else float(data["hardness_default"])
            options.append((data["price_index"], list(data["grades"]).index(grade), group, grade, hardness))
    for _, _, group, grade, hardness in sorted(options):
        try:
            same = (group, grade) == (present.group, present.grade)
            values = {"group": group, "grade": grade, "hardness": hardness, "R_p02": present.R_p02 if same else None}
            changed = set_many(design, {path: {**present.plain(), **values}})
        except OutOfRange:
            continue
        margin, after = margin_of(changed, check.key)
        if margin >= 0 and after is not None:
            name = tr("{name} {grade}", name=groups()[group]["name"], grade=grade)
            return Lever("material", name, None, changed, evaluate(changed))
    return Lever("material", "–", None, None, None, tr("no material of the stock reaches it alone"))
