"""Named values, and formulas that tie quantities of a design together.

A formula is simple arithmetic: numbers, + - * / ^, brackets, the functions of `FUNCTIONS`, named values, and quantities
by the names of their tags (``m_n``, ``z_1``, ``d_a2``), those of another stage by its identity, as ``stage2.m_n``.
Quantities count in the units of the document, named values without a unit.
"""

from __future__ import annotations

import ast
import math
import re
from collections.abc import Callable

from cooper.document.models import Design
from cooper.editing.fields import Field
from cooper.editing.forms import FACE, PROFILE, form_fields
from cooper.editing.sheet_fields import bench_fields, duty_fields, gear_fields, loss_fields, mesh_fields
from cooper.errors import OutOfRange
from cooper.i18n.text import join, tr
from cooper.results.evaluate import WHOLE, Scope, evaluate
from cooper.results.result_tree import Results

LONGEST = 160
ROUNDS = 12
"""Passes after which formulas that still move, since what they use is solved from what they give, are refused."""

FUNCTIONS: dict[str, Callable[..., float]] = {
    "sqrt": math.sqrt,
    "sin": lambda a: math.sin(math.radians(a)),
    "cos": lambda a: math.cos(math.radians(a)),
    "tan": lambda a: math.tan(math.radians(a)),
    "abs": abs,
    "min": min,
    "max": max,
    "floor": math.floor,
    "ceil": math.ceil,
    "round": lambda v, digits=0: round(v, int(digits)),
}
"""Functions by name; angles in degrees."""
NAME = re.compile(r"[A-Za-z][A-Za-z0-9_]{0,39}")
_OPERATIONS: dict[type, Callable[[float, float], float]] = {
    ast.Add: lambda a, b: a + b,
    ast.Sub: lambda a, b: a - b,
    ast.Mult: lambda a, b: a * b,
    ast.Div: lambda a, b: a / b,
    ast.Pow: lambda a, b: a**b,
}


def all_fields(design: Design) -> dict[str, Field]:
    """Every quantity that a formula can use or give, by its full name."""
    result = {f.key: f for group in (duty_fields() | loss_fields()).values() for f in group.values()}
    for k in range(len(design.train.stages)):
        for fields in (
            bench_fields(design, k),
            gear_fields(design, k, 1),
            gear_fields(design, k, 2),
            mesh_fields(design, k),
            form_fields(design, k, (*PROFILE, *FACE)),
        ):
            result |= {field.full_key: field for field in fields.values()}
    return result


def read_formula(text: str, place: str) -> ast.expr:
    """The parsed formula; raises `OutOfRange` that names the place, what was found there, and what is understood."""
    clean = text.strip().removeprefix("=").strip().replace("^", "**").replace("·", "*")
    if not clean or len(clean) > LONGEST:
        raise OutOfRange(place, text[:40], tr("a formula has 1 to {longest} characters", longest=LONGEST))
    try:
        tree = ast.parse(clean, mode="eval").body
    except (SyntaxError, ValueError, RecursionError, MemoryError) as error:
        at = getattr(error, "offset", None)
        raise OutOfRange(
            place, text[:40], tr("it cannot be read{at}", at=tr(" near character {at}", at=at) if at else "")
        ) from error
    node: ast.AST
    for node in ast.walk(tree):
        if isinstance(node, ast.Call):
            if not isinstance(node.func, ast.Name) or node.func.id not in FUNCTIONS or node.keywords:
                raise OutOfRange(place, text[:40], tr("functions are {functions}", functions=join(", ", FUNCTIONS)))
        elif isinstance(node, ast.UnaryOp):
            if not isinstance(node.op, ast.USub | ast.UAdd):
                raise OutOfRange(place, text[:40], tr("only numbers, names, + - * / ^ and brackets are understood"))
        elif isinstance(node, ast.Constant):
            if isinstance(node.value, bool) or not isinstance(node.value, int | float):
                raise OutOfRange(place, text[:40], tr("only numbers, names and arithmetic are understood"))
        elif not isinstance(node, ast.Name | ast.Attribute | ast.BinOp | ast.operator | ast.unaryop | ast.Load):
            raise OutOfRange(place, text[:40], tr("only numbers, names, + - * / ^ and brackets are understood"))
    return tree


def names_in(tree: ast.expr) -> list[str]:
    """The names that a formula uses, as written."""
    result: list[str] = []

    def visit(node: ast.AST) -> None:
        if isinstance(node, ast.Attribute):
            result.append(ast.unparse(node))
        elif isinstance(node, ast.Call):
            for argument in node.args:
                visit(argument)
        elif isinstance(node, ast.Name):
            result.append(node.id)
        else:
            for part in ast.iter_child_nodes(node):
                visit(part)

    visit(tree)
    return result


def value_of(tree: ast.expr, look: Callable[[str], float], place: str, text: str) -> float:
    """The number that a formula gives; ``look`` finds names."""

    def of(node: ast.AST) -> float:
        if isinstance(node, ast.Constant):
            return float(node.value)  # type: ignore[arg-type]
        if isinstance(node, ast.Name):
            return math.pi if node.id == "pi" else look(node.id)
        if isinstance(node, ast.Attribute):
            return look(ast.unparse(node))
        if isinstance(node, ast.UnaryOp):
            return -of(node.operand) if isinstance(node.op, ast.USub) else of(node.operand)
        if isinstance(node, ast.BinOp) and type(node.op) in _OPERATIONS:
            return float(_OPERATIONS[type(node.op)](of(node.left), of(node.right)))
        if isinstance(node, ast.Call):
            return float(FUNCTIONS[node.func.id](*map(of, node.args)))  # type: ignore[attr-defined]
        raise OutOfRange(place, text[:40], tr("only numbers, names, + - * / ^ and brackets are understood"))

    try:
        value = of(tree)
    except OutOfRange:
        raise
    except (ZeroDivisionError, OverflowError, ValueError, TypeError, RecursionError) as error:
        raise OutOfRange(place, text[:40], tr("it cannot be worked out: {error}", error=error)) from error
    if isinstance(value, complex) or not math.isfinite(value):
        raise OutOfRange(place, text[:40], tr("it does not give a finite number"))
    return value


def order_of(design: Design) -> list[str]:
    """Names and formula places in the order in which they can be worked out; cycles and unknown names are refused."""
    texts: dict[str, str] = {**design.names, **design.formulas}
    quantities = set(all_fields(design))
    for name in design.names:
        if not NAME.fullmatch(name) or name in FUNCTIONS or name == "pi":
            raise OutOfRange(
                name, name, tr("a name is a letter followed by letters, digits and _, and not a function's")
            )
        if any(q.split(".")[-1] == name for q in quantities):
            raise OutOfRange(name, name, tr("a quantity of the design has this name already"))
    for place in design.formulas:
        if place not in quantities:
            raise OutOfRange(place, design.formulas[place][:40], tr("no quantity of this design has that name"))
    needs: dict[str, list[str]] = {}
    for place, text in texts.items():
        used = [n for n in names_in(read_formula(text, place)) if n != "pi"]
        needs[place] = [full_name(n, place, design, quantities, text) for n in used]
    order: list[str] = []
    state: dict[str, int] = {}

    def visit(place: str, chain: list[str]) -> None:
        if state.get(place) == 2 or place not in texts:
            return
        if state.get(place) == 1:
            loop = " → ".join([*chain[chain.index(place) :], place])
            raise OutOfRange(place, texts[place][:40], tr("it depends on itself: {loop}", loop=loop))
        state[place] = 1
        for used in needs[place]:
            visit(used, [*chain, place])
        state[place] = 2
        order.append(place)

    for place in texts:
        visit(place, [])
    return order


def full_name(name: str, place: str, design: Design, quantities: set[str], text: str) -> str:
    """What a name in a formula stands for: a named value, a quantity of the formula's own stage, or one of the
    train."""
    stage = place.split(".")[0] if "." in place else design.train.stages[0].id
    for candidate in (name, f"{stage}.{name}"):
        if candidate in design.names or candidate in quantities:
            return candidate
    raise OutOfRange(place, text[:40], tr("the name {name} is not known here", name=name))


def settled(design: Design, scope: Scope = WHOLE) -> tuple[Design, Results]:
    """The design with every formula met, and its results within a scope; raises `OutOfRange` with the place of what
    cannot be.

    Without formulas this is `evaluate`.
    """
    results = evaluate(design, scope)
    if not design.formulas and not design.names:
        return design, results
    order = order_of(design)
    for _ in range(ROUNDS):
        start = design
        values: dict[str, float] = {}
        for place in order:
            fields = all_fields(design)
            text = design.names.get(place) or design.formulas[place]
            look = _looker(place, text, design, results, fields, values)
            values[place] = value_of(read_formula(text, place), look, place, text)
            if place in design.formulas:
                field = fields[place]
                present = field.read(design, results)
                if present is None or abs(present - values[place]) > 1e-9 * max(1.0, abs(values[place])):
                    try:
                        design = field.give(design, results, values[place])
                        results = evaluate(design, scope)
                    except OutOfRange as fault:
                        raise OutOfRange(
                            place,
                            values[place],
                            tr("its formula {text} gives this; {reason}", text=text, reason=fault.reason),
                            low=fault.low,
                            high=fault.high,
                            unit=fault.unit,
                        ) from fault
        if design == start:
            return design, results
    raise OutOfRange(
        place,
        design.formulas.get(place, "")[:40],
        tr("the formulas never come to rest: what they use is solved from what they give"),
    )


def _looker(
    place: str, text: str, design: Design, results: Results, fields: dict[str, Field], values: dict[str, float]
) -> Callable[[str], float]:
    """How the names in one formula are found: what has been worked out already, else the quantity as it is now."""

    def look(name: str) -> float:
        full = full_name(name, place, design, set(fields), text)
        if full in values:
            return values[full]
        value = fields[full].read(design, results)
        if value is None:
            raise OutOfRange(place, text[:40], tr("{name} has no value now", name=name))
        return float(value)

    return look


def with_formula(design: Design, place: str, text: str) -> Design:
    """The design with a formula for a quantity, or without one when the text is empty."""
    rest = {k: v for k, v in design.formulas.items() if k != place}
    return design.replace_unchecked(formulas={**rest, place: text} if text else rest)


def with_name(design: Design, name: str, text: str) -> Design:
    """The design with a named value, or without it when the text is empty."""
    rest = {k: v for k, v in design.names.items() if k != name}
    return design.replace_unchecked(names={**rest, name: text} if text else rest)


EXAMPLE = "width"
"""The name of the example with which one begins."""


def with_example(design: Design, stage: int) -> Design:
    """The design with a named value for the wheel's face width, to which both widths of a stage are tied as they are
    now: nothing changes until the value does."""
    doc = design.train.stages[stage]
    b_1, b_2 = (g.b for g in doc.gears)
    more = round(b_1 - b_2, 6)
    own = EXAMPLE if not more else f"{EXAMPLE} {'+' if more > 0 else '-'} {abs(more):g}"
    design = with_name(design, EXAMPLE, f"{b_2:g}")
    return with_formula(with_formula(design, f"{doc.id}.b_2", EXAMPLE), f"{doc.id}.b_1", own)


def named_values(design: Design, results: Results) -> dict[str, float]:
    """Present numbers of all named values."""
    fields = all_fields(design)
    values: dict[str, float] = {}
    for place in order_of(design):
        if place in design.names:
            text = design.names[place]
            look = _looker(place, text, design, results, fields, values)
            values[place] = value_of(read_formula(text, place), look, place, text)
    return values
