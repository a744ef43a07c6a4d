"""Whatever can be on the screen can be saved, opened and recovered: random edits by the functions that the window
calls, over all that can be given.

`EDITS=50000 pytest tests/abuse/test_saved_and_opened.py` makes as many as one likes.
"""

import os
import random
from typing import Literal, get_args, get_origin

import pytest

from cooper.demo import DEMOS, demo
from cooper.document.base import Model, bare, fields_of, types_of
from cooper.document.quantities import QUANTITIES
from cooper.document.store import design_text, read_design
from cooper.editing.edit import set_many
from cooper.editing.formulas import all_fields, settled, with_formula, with_name
from cooper.editing.machine_edits import count_machine, in_machine, refuse_unbuildable
from cooper.editing.machine_fields import machine_fields
from cooper.editing.spectrum_text import read_levels
from cooper.editing.stages import split_stage
from cooper.errors import OutOfRange
from cooper.results.evaluate import evaluate

EDITS = int(os.environ.get("EDITS", "400"))
WORDS = (
    "Load",
    "4711.25",
    "Output 2,5",
    "α",
    "%%c",
    "<b>",
    "=1+1",
    "  ",
    "",
    "u",
    "E",
    "\ufffe",
    "a\nb",
    "a\n",
    "ß" * 90,
    "-1e308",
)
NUMBERS = (0.0, -1.0, 1e-300, 1e308, float("nan"), float("inf"), 0.5, 5.0)


def texts_of(model, place=""):
    """Places of all texts, choices and marks below a model that are entered by themselves."""
    for name, hint in types_of(type(model)).items():
        value, at = getattr(model, name), f"{place}.{name}" if place else name
        if isinstance(value, Model):
            yield from texts_of(value, at)
        elif isinstance(value, tuple):
            for n, part in enumerate(value):
                if isinstance(part, Model):
                    yield from texts_of(part, f"{at}.{n}")
        else:
            kind = bare(hint)[0]
            if kind in (str, bool) or get_origin(kind) is Literal:
                yield at, kind


def number(rng, now):
    if now is None or rng.random() < 0.15:
        return rng.choice(NUMBERS)
    return now * rng.choice((0.7, 0.9, 1.1, 1.3)) if rng.random() < 0.7 else float(round(now + rng.choice((-1, 1, 2))))


def of_fields(rng, d, r):
    result = all_fields(d)
    field = result[rng.choice(sorted(result))]
    if field.clear is not None and rng.random() < 0.1:
        return field.clear(d)
    if field.swap is not None and rng.random() < 0.2:
        return field.swap(d, r)
    return field.give(d, r, number(rng, field.read(d, r)))


def of_texts(rng, d, r):
    place, kind = rng.choice([*texts_of(d.train, "train"), ("name", str), ("place", str)])
    if kind is bool:
        value = rng.random() < 0.5
    elif kind is str:
        value = rng.choice(WORDS)
    else:
        value = rng.choice(get_args(kind))
    if place in ("name", "place"):
        return type(d).from_data({**d.plain(), place: value})
    return set_many(d, {place: value})


def of_names(rng, d, r):
    name = rng.choice((*sorted(QUANTITIES)[:: rng.randint(5, 40)], "u", "F_end", "E", "own", *d.names))
    return with_name(d, name, rng.choice(("", "2", "1.5*2", "sqrt(9)", "own + 1", "1/0")))


def of_formulas(rng, d, r):
    place = rng.choice(sorted(all_fields(d)))
    now = all_fields(d)[place].read(d, r)
    return with_formula(d, place, rng.choice(("", f"={now or 1:g}", f"{now or 1:g}*1.02", "=2000*4", "own", "b_1")))


def of_machine(rng, d, r):
    if d.train.machine is None or r.machine is None:
        return count_machine(d)
    s = rng.choice(r.machine.shafts)
    piece, base = rng.choice(s.made.pieces), ("shafts", s.key)
    bearing, joint = rng.choice(s.made.bearings), rng.choice(s.made.joints or (None,))
    changes = [
        ((*base, "pieces", piece.name, "undercut"), rng.choice(("E", "F", "E, stronger", None))),
        (
            (*base, "pieces", piece.name, rng.choice(("d", "length", "r", "hole"))),
            rng.choice((None, piece.d * 1.1, 0.3)),
        ),
        (
            (*base, "bearings", bearing.name, "type"),
            rng.choice((None, "tapered roller", "needle roller", "spherical roller")),
        ),
        ((*base, "bearings", bearing.name, "C"), rng.choice((None, 4e4))),
        ((*base, "paired"), rng.choice(("face to face", "back to back"))),
        ((*base, "ends", rng.choice(("end left", "end right")), rng.choice(("F", "J"))), rng.choice((0.0, 500.0))),
        ((*base, "d_i"), rng.choice((0.0, 4.0))),
        (("steel",), rng.choice(("C45E+QT", "42CrMo4+QT"))),
    ]
    if joint is not None:
        changes.append(
            (
                (*base, "joints", joint.gear or joint.piece, "kind"),
                rng.choice((None, "key", "spline", "press fit", "set screw")),
            )
        )
    if rng.random() < 0.3:
        group = rng.choice(list(machine_fields().values()))
        field = rng.choice(list(group.values()))
        return field.give(d, r, number(rng, field.read(d, r)))
    return in_machine(d, rng.choice(changes))


def of_duty(rng, d, r):
    if rng.random() < 0.3:
        return split_stage(d, rng.randrange(len(d.train.stages)))
    text = rng.choice(("", "1.2\t1\t1", "3\t1\t0.001\n1\t1\t99", "x"))
    return set_many(d, {"train.duty.spectrum": [lv.plain() for lv in read_levels(text)] if text else []})


KINDS = (of_fields, of_fields, of_fields, of_texts, of_names, of_formulas, of_machine, of_machine, of_duty)


def edited(rng, d, r):
    """The design and its results after one edit, as the window takes it; the same where it is refused."""
    try:
        made = rng.choice(KINDS)(rng, d, r)
        made, results = settled(made)
        refuse_unbuildable(d, made, results)
    except OutOfRange:
        return d, r
    return made, results


@pytest.mark.parametrize("name", DEMOS)
def test_what_is_on_the_screen_is_saved_and_opened(name):
    rng = random.Random(hash_of(name))
    start = demo(name)
    first = evaluate(start)
    d, r, kept, apart = start, first, 0, []
    for k in range(EDITS // len(DEMOS)):
        if k % 40 == 39:
            d, r = start, first
        before = d
        d, r = edited(rng, d, r)
        if d is before:
            continue
        kept += 1
        text = design_text(d)
        again = read_design(text)
        if again != d or design_text(again) != text:
            apart.append(k)
        elif kept % 10 == 0:
            settled(again)
    assert not apart and kept > EDITS // len(DEMOS) / 10


def hash_of(name):
    return sum(ord(c) * 31**n for n, c in enumerate(name)) + int(os.environ.get("SEED", "0"))


def test_all_that_is_entered_is_reached():
    """What is fixed by the test above is all that a gear and a duty hold."""
    d = demo("winch")
    places = {at for at, _ in texts_of(d.train, "train")}
    assert {"train.duty.direction", "train.gears.gear1.name", "train.gears.gear1.drawing.part"} & places
    assert {"L_h", "S_Fmin", "theta_max"} <= {f.rpartition(".")[2] for f in all_fields(d)} and len(
        fields_of(type(d.train.duty))
    ) > 8
