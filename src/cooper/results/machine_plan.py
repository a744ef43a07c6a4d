"""From a train to the machine around it: which gears stand on which shaft, in which plane, under which forces."""

from __future__ import annotations

from math import cos, radians, sin, tan

import numpy as np
from msgspec import Struct, field

from cooper.document.machine_data import ShaftData
from cooper.document.models import Train
from cooper.document.walk import Group
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.machine.lay_out import Body
from cooper.machine.shaft_model import Contact, HubSeat
from cooper.results.result_tree import Results, StageResults
from cooper.stock.hub_yield import hub_yield
from cooper.stock.materials import material_numbers

Place = tuple[float, float]


class Force(Struct):
    """A mesh on a gear: its plane, the middle of its face from where the plane begins, its width, points (cases, 2;
    mm), forces (cases, 3; N)."""

    gear: str
    plane: int
    middle: float
    b: float
    point: np.ndarray
    force: np.ndarray

    def contact(self, planes: tuple[Place, ...]) -> Contact:
        at = planes[self.plane][0] + self.middle
        return Contact(gear=self.gear, at=at, b=self.b, point=self.point, force=self.force)


class PlannedShaft(Struct):
    """A shaft that is being put together."""

    key: str
    name: str
    stage: int
    axis: Place
    n: float
    T: float = 0.0
    bars_left: bool = False
    bars_right: bool = False
    left_end: bool = False
    right_end: bool = False
    T_most: float = 0.0
    """The greatest torque that a mesh brings to it (N m), by which its first diameter is guessed."""
    seats: list[tuple[int, HubSeat]] = field(default_factory=list)
    """With its plane each seat; ``at`` from where that begins."""
    forces: list[Force] = field(default_factory=list)


class Plan(Struct):
    """All shafts of a train with their gears in planes; ``together`` are the gears that may overlap, as they mesh."""

    shafts: list[PlannedShaft] = field(default_factory=list)
    widths: list[float] = field(default_factory=list)
    bodies: list[Body] = field(default_factory=list)
    together: set[frozenset[str]] = field(default_factory=set)
    m_n: float = 0.0


def angles_of(train: Train, results: Results, given: dict[str, float]) -> list[float]:
    """Direction of every stage's line of centres (degrees): as given, else level; folded back where the distance is
    that of the stage before, so that input and output lie in line."""
    result: list[float] = []
    axes: dict[str, Place] = {train.input: (0.0, 0.0)}
    for k, (stage, s) in enumerate(zip(train.stages, results.stages, strict=True)):
        level = 0.0
        way = results.way_before(k)
        own = next(g for g in results.groups if k in g.stages)
        beside = [g for g in results.groups if g.comes_in == own.comes_in]
        at = axes[own.comes_in]
        level = _free_way(at, float(s.mesh.a_w), list(axes.values())) if own is not beside[0] else 0.0
        if not level and way and stage.within is None and len(way[-1].stages) == 1 and s.kind.turns:
            last = way[-1].stages[0]
            before = results.stages[last]
            same = abs(float(s.mesh.a_w) - float(before.mesh.a_w)) <= 1e-6 * float(s.mesh.a_w)
            folds = len(way) > 1 and abs((result[last] - result[way[-2].stages[-1]]) % 360 - 180) < 1e-9
            if same and not folds and not s.kind.inward and not before.kind.inward:
                level = (result[last] + 180) % 360
        result.append(float(given.get(stage.id, level)))
        if stage.within is None or not stage.within.arranged.around:
            phi, a_w = radians(result[-1]), float(s.mesh.a_w)
            at = axes.get(own.goes_out, at)
            axes[own.goes_out] = (at[0] + a_w * cos(phi), at[1] + a_w * sin(phi))
        else:
            axes[own.goes_out] = at
    return result


def _free_way(at: Place, a_w: float, axes: list[Place]) -> float:
    """The direction from an axis, in steps of 15 degrees, in which another one stays farthest from all."""
    ways = np.arange(0.0, 360.0, 15.0)
    there = np.array(at) + a_w * np.stack((np.cos(np.radians(ways)), np.sin(np.radians(ways))), axis=1)
    nearest = np.min(np.hypot(*np.moveaxis(there[:, None] - np.array(axes)[None], -1, 0)), axis=1)
    return float(ways[int(np.argmax(np.round(nearest, 6)))])


def plan_of(train: Train, results: Results, angles: dict[str, float], shafts: dict[str, ShaftData]) -> Plan:
    """The shafts of a train, each next axis at the angle of its stage (degrees), with the forces of every mesh in
    both directions of rotation."""
    plan = Plan(m_n=max(s.mesh.m_n for s in results.stages))
    at = _Walk(train, results, angles, plan)
    for group in train.walk.groups:
        one = train.stages[group.stages[0]].within
        at.come_to(group)
        if one is None:
            at.pair(group.stages[0])
        elif not one.arranged.around:
            at.idler(group.stages)
        else:
            at.planets(group.stages)
        at.leave(group)
    for n, out in enumerate(results.outputs):
        end = at.on.get(out.shaft)
        if end is not None and end.shaft is not None:
            end.shaft.right_end = True
            end.shaft.T = float(results.train.get("T_out", out.T)) if not n else out.T
            if len(plan.shafts) > 1:
                end.shaft.name = tr("output shaft") if not n else tr("output shaft {n}", n=n + 1)
    for shaft in plan.shafts:
        given = shafts.get(shaft.key)
        if given is not None:
            _outer(shaft, given, plan)
    return plan


def _outer(shaft: PlannedShaft, given: ShaftData, plan: Plan) -> None:
    """Radial forces on the ends from outside; where along the shaft they stand is known once it is laid out (plane
    -1 and -2)."""
    for name, load in given.ends.items():
        if load.F > 0:
            force = load.F * np.array([cos(radians(load.phi)), sin(radians(load.phi)), 0.0])
            where = -1 if name == "end left" else -2
            shaft.forces.append(Force(name, where, 0.0, 0.0, np.zeros((2, 2)), np.vstack((force, force))))


class _End(Struct):
    """A shaft as power comes to it: the shaft, None for what moves along a line, the sense in which it turns when the
    input turns counter-clockwise, and its speed (1/min)."""

    shaft: PlannedShaft | None
    sense: int
    n: float


class _Walk:
    """Goes along the power from shaft to shaft (``on``); ``now`` is the shaft that comes in, with its sense and
    speed."""

    def __init__(self, train: Train, results: Results, angles: dict[str, float], plan: Plan) -> None:
        self.train, self.results, self.plan = train, results, plan
        self.angles = angles_of(train, results, angles)
        self.now: PlannedShaft | None = None
        self.sense = 1
        self.n = float(results.train.n_in)
        self.on = {train.input: _End(None, self.sense, self.n)}

    def come_to(self, group: Group) -> None:
        """Stand where power comes to a group."""
        end = self.on[group.comes_in]
        self.now, self.sense, self.n = end.shaft, end.sense, end.n

    def leave(self, group: Group) -> None:
        """Keep how power leaves it, and by which shaft it came."""
        self.on[group.goes_out] = _End(self.now, self.sense, self.n)
        first = self.on[group.comes_in]
        if first.shaft is None:
            first.shaft = next((s for s in self.plan.shafts if s.key == group.comes_in), None)

    # -- parts

    def plane(self, width: float) -> int:
        self.plan.widths.append(width)
        return len(self.plan.widths) - 1

    def shaft(self, key: str, stage: int, axis: Place, n: float, name: str = "") -> PlannedShaft:
        number = len(self.plan.shafts) + 1
        made = PlannedShaft(
            key, name or (tr("input shaft") if number == 1 else tr("shaft {number}", number=number)), stage, axis, n
        )
        if number == 1:
            made.left_end, made.T = True, float(self.results.train.T_in)
        self.plan.shafts.append(made)
        return made

    def incoming(self, key: str, stage: int) -> PlannedShaft:
        """The shaft that brings the power to a group; its checks stand with the stage that it drives."""
        if self.now is None:
            self.now = self.shaft(key, stage, (0.0, 0.0), self.n)
        self.now.stage = stage
        return self.now

    def gear(
        self, shaft: PlannedShaft, k: int, i: int, plane: int, middle: float, T: float, hub: Place | None = None
    ) -> str:
        """Gear i (0 drives, 1 is driven) of stage k onto a shaft, its face about ``middle`` in its plane; ``hub`` is
        where a ring's stands, from where to what width."""
        stage, result = self.train.stages[k], self.results.stages[k]
        doc = stage.gears[i]
        g, kind = result.gears[i], result.kinds[i]
        b = self.wide(k, i)
        start, length = hub or (middle - b / 2, b)
        R_e = hub_yield(doc.material.group, doc.material.hardness, doc.material.R_p02)
        outside = float(kind.outside(g))
        material = material_numbers(doc.material.group, doc.material.grade, doc.material.hardness)
        seat = HubSeat(
            gear=doc.id,
            name=doc.name,
            at=start + length / 2,
            b=length,
            d_f=outside if kind.inward else float(g.d_fE),
            d_a=outside,
            m_n=float(result.mesh.m_n),
            T=T,
            R_e=R_e,
            E=float(doc.material.E or material.E),
            alpha=float(material.expansion),
            bore=0.0 if kind.inward else float(doc.d_bore),
            inward=kind.inward,
            mass=float(g.get("mass", 0.0)),
        )
        shaft.seats.append((plane, seat))
        shaft.T_most = max(shaft.T_most, T)
        self.body(
            doc.id, doc.name, shaft, plane, middle - b / 2, b, outside / 2, float(g.d_a) / 2 if kind.inward else 0.0
        )
        return doc.id

    def body(
        self, key: str, name: str, shaft: PlannedShaft, plane: int, lead: float, b: float, r: float, r_in: float
    ) -> None:
        number = self.plan.shafts.index(shaft)
        self.plan.bodies.append(Body(key=key, name=name, shaft=number, plane=plane, lead=lead, b=b, r=r, r_in=r_in))

    def wide(self, k: int, i: int) -> float:
        """Width of a gear with the gap of a double helix."""
        mesh = self.train.stages[k].mesh
        return float(self.results.stages[k].gears[i].b) + (mesh.b_gap if mesh.double_helix else 0.0)

    # -- groups

    def direction(self, k: int) -> tuple[float, float]:
        phi = radians(self.angles[k])
        return cos(phi), sin(phi)

    def mesh(
        self, k: int, one: PlannedShaft, two: PlannedShaft | None, plane: int, middle: float, keys: tuple[str, str]
    ) -> None:
        """The forces of a mesh on both gears. The line of centres points from the driving axis to the pitch point."""
        s, doc = self.results.stages[k], self.train.stages[k].mesh
        to = self.direction(k)
        e = np.array(to) * (-1 if s.kind.inward else 1)
        T = float(s.power.T_mesh)
        push = _forces(s, doc.hand == "right", self.sense, e, T)
        b = min(self.wide(k, 0), self.wide(k, 1) if s.kind.turns else self.wide(k, 0))
        r_1 = float(s.gears[0].d_w) / 2
        one.forces.append(Force(keys[0], plane, middle, b, np.tile(r_1 * e, (2, 1)), -push))
        one.T_most = max(one.T_most, T)
        if two is not None:
            r_2 = float(s.gears[1].d_w) / 2 * (1 if s.kind.inward else -1)
            two.forces.append(Force(keys[1], plane, middle, b, np.tile(r_2 * e, (2, 1)), push))
            two.T_most = max(two.T_most, T * abs(float(s.mesh.u)))
        self.plan.together.add(frozenset(keys))

    def after(self, k: int, axis: Place, key: str, n: float) -> PlannedShaft:
        """The next shaft, that of the driven gear of stage k."""
        to, a_w = self.direction(k), float(self.results.stages[k].mesh.a_w)
        return self.shaft(key, k, (axis[0] + to[0] * a_w, axis[1] + to[1] * a_w), n)

    def pair(self, k: int) -> None:
        s, stage = self.results.stages[k], self.train.stages[k]
        ids = (stage.gears[0].id, stage.gears[1].id)
        one = self.incoming(ids[0], k)
        turns = s.kind.turns
        wide = max(self.wide(k, 0), self.wide(k, 1)) if turns else self.wide(k, 0)
        # A ring stands on a disc beside it, whose hub is half as wide as its teeth.
        disc = 0.5 * self.wide(k, 1) if s.kind.inward else 0.0
        gap = 0.5 * disc
        plane = self.plane(wide + gap + disc)
        self.gear(one, k, 0, plane, wide / 2, float(s.power.T_mesh))
        if not turns:
            self.mesh(k, one, None, plane, wide / 2, ids)
            self.now = None
            return
        self.n /= abs(float(s.mesh.u))
        two = self.after(k, one.axis, ids[1], self.n)
        hub = (wide + gap, disc) if s.kind.inward else None
        self.gear(two, k, 1, plane, wide / 2, float(s.power.T_mesh * abs(s.mesh.u)), hub)
        self.mesh(k, one, two, plane, wide / 2, ids)
        if s.kind.inward:
            # The ring's disc bars the pinion's shaft on the side to which the power goes on.
            one.bars_right, two.bars_left = True, True
        else:
            self.sense = -self.sense
        self.now = two

    def idler(self, group: tuple[int, ...]) -> None:
        k, last = group
        ids = [g.id for g in (*self.train.stages[k].gears, self.train.stages[last].gears[1])]
        one = self.incoming(ids[0], k)
        wide = max(self.wide(k, 0), self.wide(k, 1), self.wide(last, 1))
        s, t = self.results.stages[k], self.results.stages[last]
        disc = 0.5 * self.wide(last, 1) if t.kind.inward else 0.0
        plane = self.plane(wide + 1.5 * disc)
        self.gear(one, k, 0, plane, wide / 2, float(s.power.T_mesh))
        n_idler = self.n / abs(float(s.mesh.u))
        between = self.after(k, one.axis, ids[1], n_idler)
        between.name = tr("idler's shaft")
        self.gear(between, k, 1, plane, wide / 2, 0.0)
        self.mesh(k, one, between, plane, wide / 2, (ids[0], ids[1]))
        self.sense = -self.sense
        self.n = n_idler / abs(float(t.mesh.u))
        two = self.after(last, between.axis, ids[2], self.n)
        hub = (wide + 0.5 * disc, disc) if t.kind.inward else None
        self.gear(two, last, 1, plane, wide / 2, float(t.power.T_mesh * abs(t.mesh.u)), hub)
        self.mesh(last, between, two, plane, wide / 2, (ids[1], ids[2]))
        if t.kind.inward:
            between.bars_right, two.bars_left = True, True
        else:
            self.sense = -self.sense
        self.now = two

    def planets(self, group: tuple[int, ...]) -> None:
        """A set: its input comes from the left, its output goes to the right, both about one axis; its planets push
        all around, so that only torque is left. Carrier walls stand beside the planets, a ring that turns on a disc."""
        one = next(s for s in self.results.sets if s.first == group[0])
        if one.second is not None:
            raise OutOfRange(
                "u_third",
                self.train.stages[group[0]].within.u_third or 0.0,  # type: ignore[union-attr]
                tr(
                    "{name} has three shafts about one axis, which are not laid out: hold one of them, or leave the "
                    "machine out",
                    name=one.name,
                ),
            )
        planet_at = one.arranged.planet
        planet, first_mesh = self.train.stages[group[0]].gears[planet_at], self.results.stages[group[0]]
        meshes = [k for n, k in enumerate(group) if one.arranged.stands_in(n) == n]
        wide = [max(self.wide(k, 0), self.wide(k, 1)) for k in meshes]
        teeth = sum(wide)
        wall = 0.25 * teeth
        plane = self.plane(teeth + 2 * wall)
        a_w = float(first_mesh.mesh.a_w)
        hollow = a_w - float(first_mesh.gears[planet_at].d_a) / 2
        middles = {k: wall + sum(wide[:n]) + wide[n] / 2 for n, k in enumerate(meshes)}
        where = {role: (group[n], i) for role, (n, i) in one.arranged.where.items() if n < len(group)}
        carrier = tr("carrier of {id}", id=planet.id)
        keys = {one.arranged.carrier: carrier} | {
            role: self.train.stages[k].gears[i].id for role, (k, i) in where.items() if role in one.speeds
        }

        def middle(k: int) -> float:
            return middles.get(k, middles[group[0]])

        def member(shaft: PlannedShaft, role: str, comes_in: bool) -> None:
            T = abs(one.shafts[role]["T"])
            side = (0.0 if comes_in else wall + teeth, wall)
            shaft.T_most = max(shaft.T_most, T)
            if role == one.arranged.carrier:
                r = a_w + 0.3 * float(first_mesh.gears[planet_at].d)
                at = side[0] + wall / 2
                seat = HubSeat(
                    gear=carrier,
                    name="carrier",
                    at=at,
                    b=wall,
                    d_f=1.6 * r,
                    d_a=2 * r,
                    m_n=self.plan.m_n,
                    T=T,
                    R_e=235.0,
                )
                shaft.seats.append((plane, seat))
                # Its other wall is open for the shaft of the sun.
                self.body(carrier, "carrier", shaft, plane, 0.0, teeth + 2 * wall, r, hollow)
                arm = a_w
            else:
                k, i = where[role]
                ring = self.results.stages[k].kinds[i].inward
                self.gear(shaft, k, i, plane, middle(k), T, side if ring else None)
                at, arm = middle(k), float(self.results.stages[k].gears[i].d_w) / 2
            shaft.forces.extend(_couple(keys[role], plane, at, wall, arm, T))

        first = self.incoming(keys[one.input], group[0])
        member(first, one.input, True)
        first.bars_right = True
        self.n = abs(one.shafts[one.output]["n"])
        last = self.shaft(keys[one.output], group[0], first.axis, self.n)
        member(last, one.output, False)
        last.bars_left = True
        if one.held and one.held != one.arranged.carrier:
            k, i = where[one.held]
            result = self.results.stages[k]
            g, kind = result.gears[i], result.kinds[i]
            held = self.train.stages[k].gears[i]
            r_in = float(g.d_a) / 2 if kind.inward else 0.0
            self.body(
                held.id, held.name, last, plane, middle(k) - g.b / 2, float(g.b), float(kind.outside(g)) / 2, r_in
            )
        self.plan.together |= {frozenset((a, b)) for a in keys.values() for b in keys.values() if a != b}
        if one.values["u"] < 0:
            self.sense = -self.sense
        self.now = last


def _forces(s: StageResults, right: bool, sense: int, e: np.ndarray, T: float) -> np.ndarray:
    """Forces (2, 3; N) on the driven gear with the driving one turning in its sense, and against it; ``e`` points
    from the driving axis to the pitch point. ``T`` N m at the driving gear."""
    F_t = 2000 * T / float(s.gears[0].d_w)
    F_r = F_t * tan(radians(float(s.mesh.alpha_wt)))
    across = np.array([-e[1], e[0]])
    result = []
    for turn in (sense, -sense):
        flat = turn * F_t * across + F_r * e
        to_right = right == (turn > 0)
        result.append([flat[0], flat[1], -float(s.mesh.F_a) if to_right else float(s.mesh.F_a)])
    return np.array(result)


def _couple(key: str, plane: int, middle: float, b: float, arm: float, T: float) -> list[Force]:
    """A pure torque on a member of a set: two forces on opposite sides, which leave none."""
    F = 500 * T / max(arm, 1e-6)
    result = []
    for side in (1.0, -1.0):
        point = np.array([[side * arm, 0.0]] * 2)
        result.append(Force(key, plane, middle, b, point, np.array([[0.0, side * F, 0.0], [0.0, -side * F, 0.0]])))
    return result
