"""Public functions of the core have structured docstrings: every parameter with its meaning and unit, what is returned,
and the standard where the room has one."""

import ast
import re
from pathlib import Path

import pytest

import cooper

ROOMS = ("gears", "rating", "running", "machine", "field", "trains", "survey")
NUMBERS = ("Real", "Array", "float")
UNIT = re.compile(
    r"\((?:[^()]*[ ;,])?(?:mm|mm2|mm2/s|N|MPa|rad|rad/s|deg|degrees|um|W|kW|kg|K|1/K|h|HV|1/min|m/s|N/|N m)"
)
WITHOUT_UNIT = re.compile(
    r"(?i)\b(counts?|teeth|ratio|factors?|share|coefficients?|class|grade|exponent|number|hardness|parameter|shift"
    r"|poisson's|times|slope|whether|true|damping|cycles|safety|decades|power|values?|loads|limits|key|stage|term"
    r"|speeds|stresses|directions?|efficiency|loss|moments|places|pairs?|overlap|addend)\b"
)


def _public(room):
    for path in sorted((Path(cooper.__file__).parent / room).rglob("*.py")):
        for node in ast.parse(path.read_text()).body:
            if isinstance(node, ast.FunctionDef) and not node.name.startswith("_"):
                yield f"{path.stem}.{node.name}", node


def _sections(node):
    """The docstring's sections by name, its beginning under the empty name."""
    parts = re.split(r"^(\w+)\n-{4,}$", ast.get_docstring(node) or "", flags=re.M)
    return {"": parts[0], **dict(zip(parts[1::2], parts[2::2], strict=True))}


@pytest.mark.parametrize("room", ROOMS)
def test_public_functions_say_their_parameters_returns_and_units(room):
    functions = list(_public(room))
    poor, unitless, numbers = [], [], 0
    for name, node in functions:
        message = _sections(node)
        described = dict(re.findall(r"^(\w+) : .+\n((?:    .+\n?)+)", message.get("Parameters", ""), re.M))
        arguments = [*node.args.posonlyargs, *node.args.args, *node.args.kwonlyargs]
        returns = node.returns is None or ast.unparse(node.returns) == "None" or {"Returns", "Yields"} & set(message)
        if not message[""].strip() or [a.arg for a in arguments] != list(described) or not returns:
            poor.append(name)
        for a in arguments:
            if ast.unparse(a.annotation) in NUMBERS:
                numbers += 1
                text = described.get(a.arg, "")
                if not UNIT.search(text) and not WITHOUT_UNIT.search(text):
                    unitless.append(f"{name}: {a.arg}")
    assert len(functions) > 20 and len(poor) <= 0.1 * len(functions), poor
    assert len(unitless) <= 0.1 * numbers, unitless


def test_ratings_name_their_standard():
    functions = list(_public("rating"))
    without = [name for name, node in functions if "References" not in _sections(node)]
    assert len(without) <= 0.1 * len(functions), without
