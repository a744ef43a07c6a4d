"""Edits of the train itself: stages added, split, taken away, moved. Speeds and torques downstream follow by
themselves."""

from __future__ import annotations

from math import sqrt

from cooper.document.models import Design, Stage, set_of
from cooper.document.plain import plain_data, validated
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.i18n.translate import translate
from cooper.kinds.external_wheel import EXTERNAL
from cooper.results.evaluate import evaluate
from cooper.results.solve_stage import module_of

MOST = 12


def _with(design: Design, stages: list[Stage], places: dict[int, int]) -> Design:
    """The design with other stages; ``places`` tells where each old one went, so that sets follow them."""
    if not 1 <= len(stages) <= MOST:
        raise OutOfRange("stages", len(stages), tr("a train has 1 to 12 stages"), low=1, high=MOST)

    tree = plain_data(design)
    tree["train"]["stages"] = [s.plain() for s in stages]
    # A set lives while both its stages do, side by side.
    tree["train"]["sets"] = [
        {**s.plain(), "first": places[s.first]}
        for s in design.train.sets
        if s.first in places and all(places.get(k) == places[s.first] + k - s.first for k in s.stages)
    ]
    return validated(tree)


def _named(stage: Stage, design: Design) -> Stage:
    """The stage under a name that no other has."""
    names = {s.name for s in design.train.stages}
    number = next(n for n in range(1, 99) if f"Stage {n}" not in names)
    return stage.replace_unchecked(name=translate(tr("Stage {number}", number=number)))


def add_stage(design: Design, k: int) -> Design:
    """A stage like stage k behind it, sized for the torque there; before it where stage k does not end in what
    turns."""
    stages = list(design.train.stages)
    old = stages[k]
    turns = old.kind_of_pair.turns
    if not turns:
        mesh = old.meshes[0]
        wheel = old.members[mesh.driven].replace_unchecked(shape=EXTERNAL.shape, name=EXTERNAL.name)
        members = tuple(wheel if n == mesh.driven else g for n, g in enumerate(old.members))
        old = old.replace_unchecked(members=members)
    at = k + 1 if turns else k
    one = set_of(design.train, k)
    if one is not None:
        # Behind the whole set.
        old, at, k = stages[one.first + 1], one.stages[-1] + 1, one.first + 1
    stages.insert(at, _grown(old, _torque_ratio(design, k) if turns else 1.0, _named(old, design).name))
    return _with(design, stages, {n: n + (n >= at) for n in range(len(design.train.stages))})


def _torque_ratio(design: Design, k: int) -> float:
    power = evaluate(design).stages[k].power
    return power.T_out / power.T_in


def _grown(stage: Stage, torque: float, name: str) -> Stage:
    """A stage scaled so that its teeth are loaded about as before by ``torque`` times the torque: lengths with its
    cube root."""
    from cooper.stock.series import modules, neighbour

    mesh = stage.meshes[0]
    one, two = stage.members[mesh.driver], stage.members[mesh.driven]
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
    for g in stage.members:
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
    meshes = (mesh.replace_unchecked(**{**sizes, "s_sh": mesh.s_sh * f}),)
    return stage.replace_unchecked(id="", name=name, members=tuple(members), meshes=meshes)


def split_stage(design: Design, k: int) -> Design:
    """Two stages in place of stage k with about the square root of its ratio each, the pinion's count kept."""
    stages = list(design.train.stages)
    old = stages[k]
    mesh = old.meshes[0]
    one, two = old.members[mesh.driver], old.members[mesh.driven]
    kind = old.kind_of_pair
    if not kind.turns:
        raise OutOfRange("stage", k + 1, tr("a {name} is not split: add a stage before it", name=kind.name))
    if set_of(design.train, k) is not None:
        raise OutOfRange(
            "stage", k + 1, tr("a mesh of a set is not split: take the set apart first, or add a stage behind it")
        )
    u = abs(two.z) / one.z
    count = round(one.z * sqrt(u))
    if not kind.splits or count < 4 or u < 1.2:
        raise OutOfRange("ratio", u, tr("only an external pair that gears down can be split"), low=1.2)
    wheel = two.replace_unchecked(z=count, d_a=None, x=two.x if two.x is not None else 0.0)
    members = tuple(wheel if n == mesh.driven else g.replace_unchecked(x=g.x or 0.0) for n, g in enumerate(old.members))
    free = mesh.replace_unchecked(a_w=None)
    if mesh.d_2 is not None:
        free = free.replace_unchecked(d_2=None, m_n=module_of(mesh, one.z, two.z))
    first = old.replace_unchecked(members=members, meshes=(free,))
    stages[k : k + 1] = [first, _grown(first, count / one.z, _named(first, design).name)]
    return _with(design, stages, {n: n + (n > k) for n in range(len(design.train.stages))})


def remove_stage(design: Design, k: int) -> Design:
    """The train without stage k; the last one stays."""
    if len(design.train.stages) == 1:
        raise OutOfRange("stages", 0, tr("a train keeps at least one stage"), low=1, high=MOST)
    one = set_of(design.train, k)
    gone = {k} if one is None else set(one.stages)
    if len(gone) == len(design.train.stages):
        raise OutOfRange(
            "stages",
            0,
            tr("a train keeps at least one stage; this set is the whole train: take the set apart"),
            low=1,
            high=MOST,
        )
    left = [n for n in range(len(design.train.stages)) if n not in gone]
    return _with(design, [design.train.stages[n] for n in left], {n: to for to, n in enumerate(left)})


def move_stage(design: Design, k: int, step: int) -> Design:
    """Stage k exchanged with its neighbour, -1 towards the input, +1 towards the output."""
    to = k + step
    if not 0 <= to < len(design.train.stages):
        raise OutOfRange("stage", k + 1, tr("it stands at that end of the train already"))
    if any(set_of(design.train, n) is not None for n in (k, to)):
        raise OutOfRange(
            "stage", k + 1, tr("the meshes of a set stand together: other stages are added or taken away around it")
        )
    stages = list(design.train.stages)
    stages[k], stages[to] = stages[to], stages[k]
    places = {n: n for n in range(len(stages))} | {k: to, to: k}
    return _with(design, stages, places)
