"""Edits of the train itself: stages added, split, taken away, moved. Speeds and torques downstream follow by
themselves."""

from __future__ import annotations

from collections.abc import Sequence
from math import sqrt

from msgspec.structs import replace

from cooper.document.change import changed
from cooper.document.models import Design
from cooper.document.plain import without_lost_formulas
from cooper.document.row import Part, in_row, row_of
from cooper.document.walk import Stage
from cooper.editing.follow import follow
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.i18n.translate import translate
from cooper.kinds.external_wheel import EXTERNAL
from cooper.results.evaluate import evaluate
from cooper.results.solve_stage import module_of

MOST = 12


def with_row(design: Design, parts: Sequence[Part]) -> Design:
    """The design with other pairs and sets, one driving the next; raises `OutOfRange` where they are too many or
    cannot be."""
    count = sum(len(part.stages) for part in parts)
    if not 1 <= count <= MOST:
        raise OutOfRange("stages", count, tr("a train has 1 to 12 stages"), low=1, high=MOST)
    row = in_row(parts)
    follow(row["sets"], row["gears"], row["meshes"])
    return without_lost_formulas(changed(design, {f"train.{name}": value for name, value in row.items()}))


def part_at(design: Design, k: int) -> int:
    """Number of the pair or set that stage k belongs to, in the row."""
    return next(n for n, group in enumerate(design.train.walk.groups) if k in group.stages)


def _named(stage: Stage, design: Design) -> Stage:
    """The stage under a name that no other has."""
    names = {s.name for s in design.train.stages}
    number = next(n for n in range(1, 99) if f"Stage {n}" not in names)
    name = translate(tr("Stage {number}", number=number))
    return Stage(stage.gears, stage.mesh.replace_unchecked(name=name))


def add_stage(design: Design, k: int) -> Design:
    """A stage like stage k behind it, sized for the torque there; before it where stage k does not end in what
    turns."""
    row, at = row_of(design.train), part_at(design, k)
    part = row[at]
    # Behind a whole set, like its second mesh.
    old = part.stages[0] if part.of is None else part.stages[1]
    turns = old.kind_of_pair.turns
    if not turns:
        wheel = old.gears[1].replace_unchecked(shape=EXTERNAL.shape, name=EXTERNAL.name)
        old = Stage((old.gears[0], wheel), old.mesh)
    torque = _torque_ratio(design, design.train.walk.groups[at].stages[len(part.stages) > 1]) if turns else 1.0
    grown = _grown(old, torque, _named(old, design).name)
    row.insert(at + turns, Part((grown,)))
    return with_row(design, row)


def branch_stage(design: Design, k: int) -> Design:
    """A stage like stage k beside it, driven by the same shaft, whose power they share."""
    row, at = row_of(design.train), part_at(design, k)
    group, old = design.train.walk.groups[at], design.train.stages[k]
    if row[at].of is not None:
        raise OutOfRange("stage", k + 1, tr("a set has one place on its shaft; a pair can stand beside it"))
    gears = tuple(g.replace_unchecked(id="") for g in old.gears)
    beside = _named(Stage((gears[0], gears[1]), old.mesh.replace_unchecked(id="", share=None)), design)
    first = old.mesh.replace_unchecked(share=None)
    row[at] = replace(row[at], stages=(Stage(old.gears, first),))
    return with_row(design, [*row, Part((beside,), behind=group.comes_in)])


def take_off(design: Design, k: int, share: float | None) -> Design:
    """Take a share of the power off at the shaft behind stage k, from which more goes on; None takes none."""
    group = design.train.walk.group_of(k)
    if not design.train.walk.ways(group.goes_out):
        raise OutOfRange("stage", k + 1, tr("nothing goes on behind it, so that all of its power is taken off there"))
    return changed(design, {f"train.shafts.{group.goes_out}.takes": share})


def _torque_ratio(design: Design, k: int) -> float:
    power = evaluate(design).stages[k].power
    return power.T_out / power.T_in


def _grown(stage: Stage, torque: float, name: str) -> Stage:
    """A stage scaled so that its teeth are loaded about as before by ``torque`` times the torque: lengths with its
    cube root."""
    from cooper.stock.series import modules, neighbour

    mesh = stage.mesh
    one, two = stage.gears
    m_n = module_of(mesh, one.z, two.z)
    wanted = m_n * max(torque, 1e-6) ** (1 / 3)
    series = modules()
    new = (
        min(series, key=lambda m: abs(m - wanted))
        if series[0] <= wanted <= series[-1]
        else neighbour(wanted, series, 1)
    )
    f = new / m_n
    members = []
    for g in stage.gears:
        changes: dict[str, object] = {
            "id": "",
            "b": round(g.b * f, 1),
            "d_a": None,
            "d_bore": round(g.d_bore * f, 1),
            "d_i": None if g.d_i is None else round(g.d_i * f, 1),
            "b_s": None if g.b_s is None else round(g.b_s * f, 1),
            "h_K": g.h_K * f,
            "rho_a": g.rho_a * f,
            "x": g.x or 0.0,
        }
        if g.d_rim is not None:
            changes["d_rim"] = round(g.d_rim * f, 1)
        members.append(g.replace_unchecked(**changes))
    sizes = {
        "m_n": new,
        "P_nd": None,
        "d_1": None,
        "d_2": None,
        "a_w": None,
        "l_sh": mesh.l_sh * f,
        "d_sh": mesh.d_sh * f,
    }
    made = mesh.replace_unchecked(**{**sizes, "s_sh": mesh.s_sh * f}, id="", name=name, share=None)
    return Stage((members[0], members[1]), made)


def split_stage(design: Design, k: int) -> Design:
    """Two stages in place of stage k with about the square root of its ratio each, the pinion's count kept."""
    row, at = row_of(design.train), part_at(design, k)
    old = design.train.stages[k]
    mesh, (one, two) = old.mesh, old.gears
    kind = old.kind_of_pair
    if not kind.turns:
        raise OutOfRange("stage", k + 1, tr("a {name} is not split: add a stage before it", name=kind.name))
    if old.within is not None:
        raise OutOfRange(
            "stage", k + 1, tr("a mesh of a set is not split: take the set apart first, or add a stage behind it")
        )
    u = abs(two.z) / one.z
    count = round(one.z * sqrt(u))
    if not kind.splits or count < 4 or u < 1.2:
        raise OutOfRange("ratio", u, tr("only an external pair that gears down can be split"), low=1.2)
    wheel = two.replace_unchecked(z=count, d_a=None, x=two.x if two.x is not None else 0.0)
    free = mesh.replace_unchecked(a_w=None)
    if mesh.d_2 is not None:
        free = free.replace_unchecked(d_2=None, m_n=module_of(mesh, one.z, two.z))
    first = Stage((one.replace_unchecked(x=one.x or 0.0), wheel), free)
    # The second one has the end of what is split.
    second = Part((_grown(first, count / one.z, _named(first, design).name),), ends=row[at].ends, takes=row[at].takes)
    row[at : at + 1] = [replace(row[at], stages=(first,), ends=(), takes=None), second]
    return with_row(design, row)


def remove_stage(design: Design, k: int) -> Design:
    """The train without stage k, or the set that it belongs to; the last one stays."""
    row, at = row_of(design.train), part_at(design, k)
    if len(design.train.stages) == 1:
        raise OutOfRange("stages", 0, tr("a train keeps at least one stage"), low=1, high=MOST)
    if len(row) == 1:
        raise OutOfRange(
            "stages",
            0,
            tr("a train keeps at least one stage; this set is the whole train: take the set apart"),
            low=1,
            high=MOST,
        )
    # What it leaves is shared anew by those beside it.
    beside = design.train.walk.ways(design.train.walk.groups[at].comes_in)
    left = [
        _sharing(part) if group in beside else part for part, group in zip(row, design.train.walk.groups, strict=True)
    ]
    gone = design.train.walk.groups[at]
    for n, part in enumerate(left):
        # What it drove is driven by what drove it.
        if n > at and (part.behind in gone.ends or (n == at + 1 and not part.behind)):
            left[n] = replace(part, behind=gone.comes_in)
    return with_row(design, [*left[:at], *left[at + 1 :]])


def _sharing(part: Part) -> Part:
    """A pair or set that takes what the others on its shaft leave."""
    if part.of is not None:
        return replace(part, of=part.of.replace_unchecked(share=None))
    (stage,) = part.stages
    return replace(part, stages=(Stage(stage.gears, stage.mesh.replace_unchecked(share=None)),))


def move_stage(design: Design, k: int, step: int) -> Design:
    """Stage k exchanged with its neighbour, -1 towards the input, +1 towards the output."""
    to = k + step
    if not 0 <= to < len(design.train.stages):
        raise OutOfRange("stage", k + 1, tr("it stands at that end of the train already"))
    row, at, other = row_of(design.train), part_at(design, k), part_at(design, to)
    if any(row[n].of is not None for n in (at, other)):
        raise OutOfRange(
            "stage", k + 1, tr("the meshes of a set stand together: other stages are added or taken away around it")
        )
    row[at], row[other] = row[other], row[at]
    return with_row(design, row)
