"""The torsional natural frequencies of a laid-out train: shafts between their seats, meshes by their stiffness,
planets on their carrier."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
from msgspec import Struct, field

from cooper.document.machine_data import ShaftData
from cooper.document.models import Train
from cooper.i18n.text import tr
from cooper.machine.shaft_model import MadeShaft
from cooper.machine.shaft_section import shaft_mass
from cooper.machine.torsion import TorsionModel, natural_frequencies, ring_inertia, torsion_stiffness
from cooper.results.machine_result import ShaftResult, Torsion
from cooper.results.result_tree import Results, StageResults

Row = dict[int, float]


class _Model(Struct):
    """Angles by name while they are collected."""

    J: list[float] = field(default_factory=list)
    springs: list[tuple[Row, float]] = field(default_factory=list)
    of: dict[str, int] = field(default_factory=dict)

    def angle(self, name: str, J: float) -> int:
        self.of[name] = len(self.J)
        self.J.append(J)
        return self.of[name]

    def shaft(self, made: MadeShaft, given: ShaftData) -> None:
        """The places of a shaft where something sits or ends, its own inertia on the nearest of them, and what
        twists between."""
        places = sorted(
            [(s.at, s.gear) for s in made.wish.seats]
            + [(p.at, tr("{key} {name}", key=made.key, name=p.name)) for p in made.pieces if p.kind == "end"]
        )
        at = np.array([z for z, _ in places])
        J = np.zeros(len(places))
        for p in made.pieces:
            mass = float(shaft_mass(p.d, min(made.wish.d_i, 0.9 * p.d), p.length))
            J[int(np.argmin(np.abs(at - p.at)))] += float(ring_inertia(mass, p.d, made.wish.d_i))
        for n, (_, name) in enumerate(places):
            # What is coupled to an end turns with it.
            J[n] += (
                1e6 * given.ends[name.removeprefix(f"{made.key} ")].J
                if name.removeprefix(f"{made.key} ") in given.ends
                else 0.0
            )
        for s in made.wish.seats:
            n = next(n for n, (_, name) in enumerate(places) if name == s.gear)
            J[n] += float(ring_inertia(s.mass, s.d_a if s.inward else (s.d_a + s.d_f) / 2, s.d_f if s.inward else 0.0))
        nodes = [self.angle(name, max(float(j), 1e-9)) for (_, name), j in zip(places, J, strict=True)]
        for n in range(len(places) - 1):
            z_1, z_2 = at[n], at[n + 1]
            soft = 0.0
            for p in made.pieces:
                length = min(p.end, z_2) - max(p.start, z_1)
                if length > 1e-9:
                    soft += length / float(torsion_stiffness(p.d, min(made.wish.d_i, 0.9 * p.d), 1.0))
            if soft > 0:
                self.springs.append(({nodes[n]: 1.0, nodes[n + 1]: -1.0}, 1 / soft))

    def mesh(self, s: StageResults, one: int | None, two: int | None, carrier: int | None, many: int) -> None:
        """A mesh strains by how far its base circles run apart; None stands for what is held."""
        sign = -1.0 if any(k.inward for k in s.kinds) else 1.0
        row: Row = {}
        for at, r in ((one, float(s.gears[0].d_b) / 2), (two, sign * float(s.gears[1].d_b) / 2)):
            for node, part in ((at, r), (carrier, -r)):
                if node is not None:
                    row[node] = row.get(node, 0.0) + part
        b = min(float(s.gears[0].b), float(s.gears[1].b))
        self.springs.append((row, many * float(s.mesh.c_gamma) * b * 1000))

    def whole(self) -> TorsionModel:
        B = np.zeros((len(self.springs), len(self.J)))
        for n, (row, _) in enumerate(self.springs):
            for at, part in row.items():
                B[n, at] = part
        return TorsionModel(np.array(self.J), B, np.array([k for _, k in self.springs]))


MODES = 4


def torsion_of(
    train: Train, results: Results, shafts: tuple[ShaftResult, ...], given: Mapping[str, ShaftData]
) -> Torsion | None:
    """The lowest torsional natural frequencies of the train, and which lies nearest to a speed of its shafts; None
    where a mesh has no stiffness by ISO 6336, or nothing twists."""
    if any(not float(s.mesh.get("c_gamma", 0.0)) > 0 for s in results.stages):
        return None
    m = _Model()
    for s in shafts:
        m.shaft(s.made, given.get(s.key, ShaftData()))
    for group in train.walk.groups:
        _group(m, train, results, group.stages)
    if not m.springs:
        return None
    result = natural_frequencies(m.whole())[:MODES] * 30 / np.pi
    speeds = [(s.made.wish.n, s.name) for s in shafts if s.made.wish.n > 0]
    if not len(result) or not speeds:
        return None
    apart, n_near, name = min((abs(float(f) / n - 1), float(f), name) for f in result for n, name in speeds)
    return Torsion(tuple(float(f) for f in result), apart, n_near, name)


def _group(m: _Model, train: Train, results: Results, group: tuple[int, ...]) -> None:
    """The meshes of a pair, an idler or a set."""

    def key(k: int, i: int) -> str:
        return train.stages[k].gears[i].id

    one = results.within[group[0]]
    if one is None or not one.arranged.around:
        for k in group:
            if results.stages[k].kind.turns:
                m.mesh(results.stages[k], m.of.get(key(k, 0)), m.of.get(key(k, 1)), None, 1)
        return
    # What is neither on a shaft nor held is a planet; the gears of a stepped one turn together.
    roles = {k: results.stages[k].roles or ("", "") for k in group}
    planets = [(k, i) for k in group for i in (0, 1) if roles[k][i] == one.arranged.between]
    carrier = next(
        (
            n
            for name, n in m.of.items()
            if name.startswith("carrier of") and any(name.endswith(key(*p)) for p in planets)
        ),
        None,
    )
    gears = {key(k, i): results.stages[k].gears[i] for k, i in planets}
    J = sum(float(ring_inertia(float(g.get("mass", 0.0)), float(g.d), 0.0)) for g in gears.values())
    mass = sum(float(g.get("mass", 0.0)) for g in gears.values())
    planet = m.angle(tr("planets of stage {group}", group=group[0]), max(one.planets * J, 1e-9))
    a_w = float(results.stages[group[0]].mesh.a_w)
    if carrier is not None:
        m.J[carrier] += one.planets * mass * a_w**2
    for k in group:
        nodes = [planet if (k, i) in planets else m.of.get(key(k, i)) for i in (0, 1)]
        m.mesh(results.stages[k], nodes[0], nodes[1], carrier, one.planets)
