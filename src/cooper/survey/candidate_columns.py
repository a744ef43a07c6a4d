"""The columns of candidates: counts, modules, shifts, bodies and widths that follow from what is combined."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from cooper.arrays import Array
from cooper.document.models import GearSet
from cooper.gears.pair import centre_distance, shift_sum
from cooper.gears.rack import Rack
from cooper.gears.tooth import least_x, shift_of_allowance, tip_diameter
from cooper.results.solve_stage import solve_duty
from cooper.stock.processes import processes
from cooper.survey.design_batch import DesignBatch
from cooper.survey.module_series import grown
from cooper.survey.shares import shared_x
from cooper.survey.width_groups import clear_of_axes, shaft_diameter, width_groups

if TYPE_CHECKING:
    from cooper.survey.search_space import SearchSpace


SHIFT_REACH = (-0.8, 1.5)
"""Sums of the profile shifts that a given centre distance may ask for."""


class CandidateColumns:
    """The columns of candidates, made step by step: what is combined, then what follows from it."""

    def __init__(self, space: SearchSpace, z: Array, genes: dict[str, Array]) -> None:
        self.space, self.q, self.design, self.genes = space, space.question, space.design, genes
        self.train = space.design.train
        self.way = processes()[self.q.process]
        self.n = len(z)
        self.columns: dict[str, Array] = {}
        self.keep: dict[str, NDArray[np.bool_]] = {}
        # Every gear once, in the order in which the meshes name it.
        self.gears: dict[str, tuple[int, int]] = {}
        for k, stage in enumerate(self.train.stages):
            for i, gear in enumerate(stage.gears):
                self.gears.setdefault(gear.id, (k, i))
        self.z = {gear: z[:, n] for n, gear in enumerate(self.gears)}
        self.m: list[Array] = []
        self.beta = np.broadcast_to(np.asarray(genes.get("beta", 0.0), dtype=float), self.n)
        self.rad = np.radians(self.beta)

    def made(self) -> tuple[DesignBatch, dict[str, NDArray[np.bool_]]]:
        self._teeth()
        self._shifts()
        self._bodies()
        self._widths()
        self._sizes()
        return DesignBatch(self.design, self.columns), self.keep

    def _id(self, k: int, i: int) -> str:
        return self.train.stages[k].gears[i].id

    def _gear(self, k: int, i: int, name: str) -> str:
        return f"{self.train.stages[k].paths[i]}.{name}"

    def _mesh(self, k: int, name: str) -> str:
        return f"{self.train.stages[k].path}.{name}"

    def _teeth(self) -> None:
        m = first = np.broadcast_to(np.asarray(self.genes["m"], dtype=float), self.n)
        within = np.ones(self.n, dtype=bool)
        for k in range(len(self.train.stages)):
            grow = self.genes.get(f"grow {k}")
            if grow is not None:
                m, good = grown(self.q, m, grow)
                within &= good
            elif self.train.placed:
                # The sun of two rings drives the first gears of the planets.
                m = first
            self.m.append(m)
            self.columns[self._mesh(k, "m_n")] = m
            if "beta" in self.genes:
                self.columns[self._mesh(k, "beta")] = self.beta
        if len(self.m) > 1 and not self.train.placed:
            self.keep["module"] = within
        for gear, (k, i) in self.gears.items():
            inward = self.train.stages[k].kinds[i].inward
            self.columns[self._gear(k, i, "z")] = -self.z[gear] if inward else self.z[gear]

    def _shifts(self) -> None:
        """The allowances, then the shifts: by the rule, or what a given distance asks for."""
        for gear, (k, i) in self.gears.items():
            upper, lower = self.way.allowances(self.z[gear] * self.m[k] / np.cos(self.rad), self.m[k])
            self.columns[self._gear(k, i, "E_sns")], self.columns[self._gear(k, i, "E_sni")] = upper, lower
        x = np.broadcast_to(np.asarray(self.genes.get("x", 0.0), dtype=float), self.n)
        for k in range(len(self.train.stages)):
            half = self.way.distance_allowance(self._reference(k))
            self.columns[self._mesh(k, "A_as")], self.columns[self._mesh(k, "A_ai")] = half, -half
        if self.train.placed:
            self._of_set(self.train.placed[0], x)
            return
        for k, stage in enumerate(self.train.stages):
            if stage.kind_of_pair.inward:
                self._of_ring(k, x)
            elif k > 0 and stage.mesh.a_w is not None:
                a = self._distance(k - 1)
                self.columns[self._mesh(k, "a_w")] = a
                self._shared(k, self._sum_of(k, a), solved=True)
            else:
                self._shared(k, x if "x" in self.genes else self._fixed_sum(k))

    def _of_ring(self, k: int, x: Array) -> None:
        """The ring's shift against the pinion's, or what a given distance asks for."""
        self.columns[self._gear(k, 0, "x")] = x
        if self.q.a_w is None:
            self.columns[self._gear(k, 1, "x")] = -x
        else:
            self.columns[self._mesh(k, "a_w")] = np.full(self.n, self.q.a_w)

    def _reference(self, k: int) -> Array:
        a, b = self.z[self._id(k, 0)], self.z[self._id(k, 1)]
        inward = self.train.stages[k].kinds[1].inward
        return np.abs(b + (-a if inward else a)) * self.m[k] / 2 / np.cos(self.rad)

    def _distance(self, k: int) -> Array:
        """Working centre distance from the shifts of an external pair; mm."""
        total = self.columns[self._gear(k, 0, "x")] + self.columns[self._gear(k, 1, "x")]
        z = (self.z[self._id(k, 0)], self.z[self._id(k, 1)])
        return centre_distance(*z, self.m[k], total, self._alpha(k), self.rad)

    def _alpha(self, k: int) -> float:
        return float(np.radians(self.train.stages[k].mesh.alpha_n))

    def _sum_of(self, k: int, a_w: Array) -> Array:
        """The sum of shifts that a distance asks for; where it asks for too much the candidate goes."""
        with np.errstate(all="ignore"):
            total = shift_sum(self.z[self._id(k, 0)], self.z[self._id(k, 1)], self.m[k], a_w, self._alpha(k), self.rad)
        good = (total >= SHIFT_REACH[0]) & (total <= SHIFT_REACH[1])
        self.keep["distance"] = self.keep.get("distance", np.ones(self.n, dtype=bool)) & good
        return np.where(good, total, 0.0)

    def _fixed_sum(self, k: int) -> Array:
        a_w = np.full(self.n, self.q.a_w)
        self.columns[self._mesh(k, "a_w")] = a_w
        return self._sum_of(k, a_w)

    def _shared(self, k: int, x_sum: Array, solved: bool = False) -> None:
        """The shifts of an external pair by the rule; of one with a given distance the wheel's is solved."""
        fixed = solved or self._mesh(k, "a_w") in self.columns
        z = (self.z[self._id(k, 0)], self.z[self._id(k, 1)])
        # Equal root safeties are found from here on, by rating (`survey.equal_roots`).
        rule = "sliding" if self.q.share == "root" else self.q.share
        rack = self.train.stages[k].gears[0]
        least = (self._least(k, 0), self._least(k, 1))
        x_1 = shared_x(rule, z, self.m[k], self.rad, self._alpha(k), rack.h_aP, x_sum, least)
        self.columns[self._gear(k, 0, "x")] = x_1
        if not fixed:
            self.columns[self._gear(k, 1, "x")] = np.round(x_sum - x_1, 6)

    def _least(self, k: int, i: int) -> Array:
        """The nominal shift below which a gear is undercut; far below any where its tool leaves a plain fillet."""
        gear = self.train.stages[k].gears[i]
        if gear.tool != "rack":
            return np.full(self.n, -2.0)
        upper, lower = (self.columns[self._gear(*self.gears[gear.id], s)] for s in ("E_sns", "E_sni"))
        rack = Rack(self._alpha(k), gear.h_aP, gear.h_fP, gear.rho_fP)
        thinned = shift_of_allowance((upper + lower) / 2, self.m[k], self._alpha(k))
        return least_x(self.z[gear.id], self.rad, rack) - thinned + 1e-6

    def _idler(self, x: Array) -> None:
        """Both distances from the wanted one, shared as the gears' sizes are; the outer shifts are solved."""
        assert self.q.a_w is not None
        parts = [self._reference(0), self._reference(1)]
        self.columns[self._gear(0, 1, "x")] = np.round(x / 2, 3)
        for k, part in enumerate(parts):
            a_w = np.round(self.q.a_w * part / (parts[0] + parts[1]), 6) if k == 0 else None
            if a_w is None:
                a_w = self.q.a_w - self.columns[self._mesh(0, "a_w")]
            self.columns[self._mesh(k, "a_w")] = a_w
            self._sum_of(k, a_w)

    def _of_set(self, one: GearSet, x: Array) -> None:
        of = one.arranged
        if not of.around:
            self._idler(x)
            return
        if of.sun_inside:
            self._shared(0, x)
            if not of.one_gear:
                self.columns[self._gear(1, 0, "x")] = self._own_shift(1, x)
            return
        # The planets of two rings have a shift of their own; the rings follow.
        for k in (0, 1):
            self.columns[self._gear(k, 0, "x")] = self._own_shift(k, x)
        self.columns[self._mesh(0, "a_w")] = self._reference(0)

    def _own_shift(self, k: int, x: Array) -> Array:
        """Shift of the driving gear of stage k where no mate has a part in it: half of the sum, and what keeps it
        from undercut."""
        half: Array = x / 2
        return np.asarray(np.round(np.maximum(half, self._least(k, 0)), 3), dtype=np.float64)

    def _bodies(self) -> None:
        """Rims, cutters, shafts and bores that follow from the teeth and the torque."""
        duty = self.train.duty
        _, T, _ = solve_duty(duty)
        torque = np.full(self.n, T * duty.K_A)
        for k, stage in enumerate(self.train.stages):
            one = self.train.stages[k].within
            if one is None or k == one.first:
                d_sh = np.round(shaft_diameter(torque), 1)
            z = [self.z[self._id(k, i)] for i in (0, 1)]
            d = [v * self.m[k] / np.cos(self.rad) for v in z]
            small = np.minimum(*d)
            fits = np.round(np.maximum(np.minimum(d_sh, 0.75 * small), 0.1), 2)
            self.columns[self._mesh(k, "d_sh")] = fits
            widest = self._widest(k, small)
            self.columns[self._mesh(k, "l_sh")] = np.round(widest + 2 * fits + 2 * self.m[k], 1)
            if one is None:
                torque = torque * z[1] / z[0]
            for i, kind in enumerate(stage.kinds):
                if kind.inward:
                    gear = stage.gears[i]
                    x = np.maximum(np.abs(self.columns.get(self._gear(k, i, "x"), np.zeros(self.n))), 0.5)
                    root = self.m[k] * (z[i] / np.cos(self.rad) + 2 * gear.h_fP + 2 * x)
                    self.columns[self._gear(k, i, "d_rim")] = np.ceil(root + 8 * self.m[k])
                    if gear.tool == "pinion cutter":
                        self.columns[self._gear(k, i, "z_0")] = np.clip(z[i] // 3, 10.0, 25.0)
                elif one is None and i == 1:
                    self.columns[self._gear(k, 1, "d_bore")] = np.round(
                        np.minimum(shaft_diameter(torque), 0.5 * d[1]), 1
                    )

    def _widest(self, k: int, small: Array) -> Array:
        q = self.q
        widest = np.minimum(q.b_d_high * small, q.b_m_high * self.m[k])
        return np.minimum(widest, q.b_most) if q.b_most is not None else widest

    def _sizes(self) -> None:
        """What is too large is seen before anything is rated: rims, tips of gears whose shift is known, distances."""
        q = self.q
        if q.d_most is not None:
            good = np.ones(self.n, dtype=bool)
            for gear, (k, i) in self.gears.items():
                rim, x = (self.columns.get(self._gear(k, i, s)) for s in ("d_rim", "x"))
                if rim is not None:
                    good &= rim <= q.d_most + 1e-9
                elif x is not None:
                    own = self.train.stages[k].gears[i]
                    good &= tip_diameter(self.z[gear], self.m[k], self.rad, x, own.h_aP) <= q.d_most + 1e-9
            self.keep["d_most"] = good
        if q.a_most is not None and not self.train.placed:
            good = np.ones(self.n, dtype=bool)
            for k in range(len(self.train.stages)):
                if (
                    all(self._gear(k, i, "x") in self.columns for i in (0, 1))
                    and not self.train.stages[k].kinds[1].inward
                ):
                    good &= self._distance(k) <= q.a_most + 1e-9
            self.keep["a_most"] = good

        if len(self.train.stages) > 1 and not self.train.placed:
            self.keep["clash"] = self._clear_of_shafts()

    def _clear_of_shafts(self) -> NDArray[np.bool_]:
        """Whether no wheel runs into the shaft of another stage, as far as that is known from counts, modules and
        shifts alone."""
        stages = range(len(self.train.stages))
        given = [self.columns.get(self._mesh(k, "a_w")) for k in stages]
        axes = [np.zeros(self.n)]
        for k, a_w in zip(stages, given, strict=True):
            axes.append(axes[-1] + (self._distance(k) if a_w is None else a_w))
        tips = []
        for k in stages:
            both = []
            for i, own in enumerate(self.train.stages[k].gears):
                x = self.columns.get(self._gear(k, i, "x"))
                z = self.z[self._id(k, i)]
                # A shift that is still to be solved says nothing yet.
                both.append(np.zeros(self.n) if x is None else tip_diameter(z, self.m[k], self.rad, x, own.h_aP))
            tips.append(both)
        bores = [self.columns.get(self._gear(k, 1, "d_bore"), np.zeros(self.n)) for k in stages]
        return clear_of_axes(axes, tips, [np.zeros(self.n), *bores])

    def _widths(self) -> None:
        """All widths as great as they may be; of stepped ones their own."""
        keep = np.ones(self.n, dtype=bool)
        for group in width_groups(self.design):
            small = np.min(
                [self.z[self._id(k, i)] * self.m[k] / np.cos(self.rad) for k in group for i in (0, 1)], axis=0
            )
            widest = self._widest(group[0], small)
            least = self.q.b_m_low * self.m[group[0]]
            keep &= widest >= least
            share = self.genes.get("b")
            # Down to what widths are rounded to, as they may not be greater.
            b = widest if share is None else least + (widest - least) * share
            unit = self.q.b_round
            b = np.maximum(np.floor(b / unit + 1e-9) * unit, np.ceil(least / unit - 1e-9) * unit)
            for k in group:
                for i in (0, 1):
                    gear = self._id(k, i)
                    if self.gears[gear] == (k, i):
                        self.columns[self._gear(k, i, "b")] = np.round(b, 6)
        self.keep["width"] = keep
