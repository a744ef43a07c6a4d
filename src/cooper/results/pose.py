"""Every gear of the train in its place and phase, for any turn of the input: for drawings, animation and solids."""

from __future__ import annotations

from collections.abc import Callable
from math import cos, hypot, pi, sin
from typing import Any

import numpy as np
from msgspec import Struct

from cooper.i18n.text import join, tr
from cooper.results.result_tree import Results, SetResults, StageResults
from cooper.trains.planets import phase_at_external, phase_in_mesh, phase_of_mate


class Placed(Struct, frozen=True):
    """One gear: gear ``i`` (0 drives, 1 is driven) of stage ``stage``, its centre (mm) and the direction of the
    middle of one of its teeth (rad); what does not turn stands at its datum line, moved along y. ``member`` is what
    turns with it in its set; ``planet`` its number among the planets, None for the others."""

    stage: int
    i: int
    x: float
    y: float
    angle: float
    member: str
    planet: int | None = None

    @property
    def drives(self) -> bool:
        """Whether it stands for what drives; driven gears and planets do not."""
        return self.i == 0 and self.planet is None


class Pose(Struct, frozen=True):
    """The gears, the carrier's arms by set (centre, centre distance, angle of each planet's arm) and the angle of every
    shaft by name."""

    gears: tuple[Placed, ...]
    carriers: tuple[tuple[float, float, float, tuple[float, ...]], ...]
    angles: dict[str, float]
    ways: dict[int, float]
    """Direction from the driving gear's centre to the driven one's, by stage whose axes stand still (rad)."""


class Axis(Struct, frozen=True):
    """A shaft in its place: its centre (mm), how far it is turned, and the direction in which axes went on to it
    (rad)."""

    x: float
    y: float
    angle: float
    way: float


def pose(results: Results, turn: float) -> Pose:
    """The train with its input turned by ``turn`` (rad, counter-clockwise). Axes follow each other to the right; what
    else a shaft drives goes on to the other sides."""
    gears: list[Placed] = []
    carriers: list[tuple[float, float, float, tuple[float, ...]]] = []
    angles = {"input": turn}
    shafts: dict[str, Axis] = {}
    ways: dict[int, float] = {}
    for group in results.groups:
        at = shafts.setdefault(group.comes_in, Axis(0.0, 0.0, turn, 0.0))
        others = [g for g in results.groups if g.comes_in == group.comes_in]
        way = at.way + BESIDE[others.index(group) % len(BESIDE)]
        to, k = (cos(way), sin(way)), group.stages[0]
        x, y, angle = at.x, at.y, at.angle
        one = results.within[k]
        if one is not None and one.arranged.around:
            placed, arms, turned = _around(one, tuple(results.stages[n] for n in one.stages), angle)
            gears += [Placed(g.stage, g.i, g.x + x, g.y + y, g.angle, g.member, g.planet) for g in placed]
            carriers.append((x, y, results.stages[k].mesh.a_w, arms))
            angles |= {tr("{name}: {name_2}", name=one.name, name_2=name): a for name, a in turned.items()}
            for key, role in zip(group.ends, (one.output, one.second or one.output), strict=False):
                shafts[key] = Axis(x, y, turned[role], at.way)
            continue
        # An idler stands with the first mesh alone.
        words = (tr("stage {value} in", value=k + 1),) if one is None else one.arranged.roles[0][:1]
        gears.append(Placed(k, 0, x, y, angle, words[0]))
        for n in group.stages:
            stage = results.stages[n]
            own = stage.sections[1]
            moved = _driven(stage, angle - way)
            off, turned_by = own.placed(own.within(moved)) if one is None else (0.0, moved)
            ways[n] = way
            word = tr("stage {value} out", value=n + 1) if one is None else one.arranged.roles[n - k][1]
            x, y = x + to[0] * stage.wheel_x, y + to[1] * stage.wheel_x
            gears.append(Placed(n, 1, x - to[1] * off, y + to[0] * off, turned_by + way, word))
            if stage.kind.turns:
                angle = turned_by + way
        if one is None:
            angles[f"stage {k + 1} out"] = angle
        shafts[group.goes_out] = Axis(x, y, angle, way)
    angles["output"] = angle if not results.outputs else shafts[results.outputs[0].shaft].angle
    return Pose(tuple(gears), tuple(carriers), angles, ways)


BESIDE = (0.0, pi / 2, -pi / 2, pi)
"""Directions in which axes go on from a shaft that drives more than one pair, the way back last (rad)."""


def _driven(stage: StageResults, angle: float) -> float:
    """Motion of the driven gear in the middle of the backlash."""
    return stage.motions(angle, 0.0)[1]


def _around(
    one: SetResults, pair: tuple[StageResults, ...], turn: float
) -> tuple[list[Placed], tuple[float, ...], dict[str, float]]:
    """The gears of a planet set about its centre."""
    of, k, a_w = one.arranged, one.first, pair[0].mesh.a_w
    z = [[int(g.z) for g in s.gears] for s in pair[:2]]
    at = {name: turn * w for name, w in one.speeds.items()}
    phases, mates = _phases(one, z)(at[one.arranged.carrier], at)
    gears = []
    for n, angle in enumerate(mates):
        i = 1 - of.at(n)
        gears.append(Placed(k + n, i, 0.0, 0.0, angle, of.roles[n][i]))
    for n, alpha in enumerate(one.angles):
        theta = at[one.arranged.carrier] + alpha
        x, y = a_w * cos(theta), a_w * sin(theta)
        gears.append(Placed(k, of.at(0), x, y, phases[n], of.between, n))
        if not of.one_gear:
            gears.append(Placed(k + 1, of.at(1), x, y, phases[n], of.between, n))
    if len(one.stages) == 3:
        # The free sun stands as the first planet lets it, from whose centre it lies opposite to the arm.
        arm = at[one.arranged.carrier] + one.angles[0]
        free = phase_at_external(float(pair[2].gears[0].z), abs(z[0][of.at(0)]), arm + pi, phases[0])
        gears.append(Placed(k + 2, 0, 0.0, 0.0, float(free), "sun"))
    return gears, tuple(at[one.arranged.carrier] + a for a in one.angles), at


Phases = Callable[[float, dict[str, float]], tuple[list[float], tuple[float, float]]]


def _phases(one: SetResults, z: list[list[int]]) -> Phases:
    """Phases of every planet, and of its mates in both meshes, for a carrier's angle and the angles of the shafts;
    ``z`` signed.

    The second mate takes the phase that the first planet gives it. Of stepped planets, both gears have a tooth in the
    same direction; which tooth of the first gear stands in the mesh is chosen so that the second fits its mate too.
    """
    (z_1, mate_1), (z_2, mate_2) = ((z[n][i], z[n][1 - i]) for n, i in ((n, one.arranged.at(n)) for n in (0, 1)))
    shaft = one.arranged.roles[0][1 - one.arranged.planet]

    def first_phase(theta: float, at: dict[str, float]) -> float:
        return float(phase_in_mesh(z_1, mate_1, theta, at[shaft]))

    start = dict.fromkeys((*one.speeds,), 0.0)
    second_0 = phase_of_mate(z_2, mate_2, one.angles[0], first_phase(one.angles[0], start))
    teeth = []
    for alpha in one.angles:
        psi = first_phase(alpha, start) + 2 * pi * np.arange(z_1) / z_1
        miss = abs(mate_2) * (phase_of_mate(z_2, mate_2, alpha, psi) - second_0)
        teeth.append(int(np.argmin(np.abs((miss + pi) % (2 * pi) - pi))))

    def place(carrier: float, at: dict[str, float]) -> tuple[list[float], tuple[float, float]]:
        both = [first_phase(carrier + alpha, at) + 2 * pi * j / z_1 for alpha, j in zip(one.angles, teeth, strict=True)]
        return both, (at[shaft], float(phase_of_mate(z_2, mate_2, carrier + one.angles[0], both[0])))

    return place


class Frame(Struct, frozen=True):
    """Where a mesh stands: its stage, the driving gear's centre (mm), the direction of the driven gear's centre from
    it, or for a ring away from its centre (rad), and the driving gear's angle from that direction (its roll, rad)."""

    stage: int
    x: float
    y: float
    angle: float
    roll: float


def mesh_frames(results: Results, at: Pose) -> list[Frame]:
    """The frame of every mesh of the train, those of all planets among them; a mesh has the frame in which it is
    drawn alone."""
    result: list[Frame] = []
    planet_sets = [s.name for s in results.sets if s.arranged.around]
    for k in range(len(results.stages)):
        one = results.within[k]
        if one is None or not one.arranged.around:
            # The idler stands with the first mesh alone.
            own = [g for g in at.gears if (g.stage, g.i) == (k, 0)] or [
                g for g in at.gears if (g.stage, g.i) == (k - 1, 1)
            ]
            way = at.ways[k]
            result += [Frame(k, g.x, g.y, way, g.angle - way) for g in own]
            continue
        x, y, _a_w, arms = at.carriers[planet_sets.index(one.name)]
        drivers = [g for g in at.gears if (g.stage, g.i) == (k, 0)]
        if len(drivers) == 1 and drivers[0].planet is None:
            result += [Frame(k, x, y, a, drivers[0].angle - a) for a in arms]
            continue
        # The planet of plain planets stands with the mesh at the sun alone.
        planets = drivers or [g for g in at.gears if (g.stage, g.i) == (k - 1, 1)]
        result += [Frame(k, g.x, g.y, a, g.angle - a) for g, a in zip(planets, arms, strict=True)]
    return result


class Clash(Struct, frozen=True):
    """A gear that runs into a neighbouring shaft: its stage, where its centre lies (mm), its radius, and the values of
    its message."""

    stage: int
    x: float
    y: float
    radius: float
    values: dict[str, Any]


def clashes(results: Results) -> list[Clash]:
    """Gears that reach into the shaft of a neighbouring stage. Stages lie behind each other along their axes, so
    that gears of different stages pass, but every shaft runs through; only shafts with a known bore, and axes that a
    gear covers, are told."""
    at = pose(results, 0.0)
    axes: dict[tuple[float, float], list[Placed]] = {}
    for g in at.gears:
        if g.planet is None:
            y = g.y if results.stages[g.stage].kinds[g.i].turns else 0.0
            axes.setdefault((round(g.x, 6), round(y, 6)), []).append(g)
    result = []
    for g in at.gears:
        kind = results.stages[g.stage].kinds[g.i]
        if g.planet is not None or kind.inward or not kind.turns:
            continue
        for (x, y), others in axes.items():
            stages = {o.stage for o in others}
            if hypot(x - g.x, y - g.y) < 1e-6 or stages == {g.stage} or results.within[g.stage] is not None:
                continue
            if any(o.stage == g.stage for o in others):
                # Its own mate: that they mesh is wanted.
                continue
            shaft = max(
                (
                    results.stages[o.stage].gears[o.i].get("d_bore", 0.0)
                    for o in others
                    if not results.stages[o.stage].kinds[o.i].inward
                ),
                default=0.0,
            )
            reach, distance = results.stages[g.stage].gears[g.i].d_a / 2, hypot(x - g.x, y - g.y)
            if distance < reach + shaft / 2:
                values = {
                    "z": results.stages[g.stage].gears[g.i]["z"],
                    "stage": g.stage + 1,
                    "reach": reach,
                    "stages": join(tr(" and "), (str(s + 1) for s in sorted(stages))),
                    "distance": distance,
                }
                result.append(Clash(g.stage, g.x, g.y, reach, values))
    return result
