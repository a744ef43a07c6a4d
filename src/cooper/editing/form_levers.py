"""Levers of the checks of teeth and mesh that are lengths or ratios: tips, clearance, reach of the flanks, contact,
backlash, ratio of the train."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from msgspec import Struct

from cooper.document.gear_data import Gear
from cooper.document.models import Design
from cooper.editing.edit import set_many
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.kinds.known import kind_of
from cooper.results.result_tree import Check, Results


class Wanted(Struct, frozen=True):
    """A value to be searched from where it is (``now``) to where it may go (``end``): what it is called, the kind of
    its unit, how the design takes it, the step it is rounded to, and what is said where nothing on the way is
    enough."""

    label: str
    kind: str
    make: Callable[[float], Design]
    now: float
    end: float
    step: float
    cannot: str


SHORTER = tr("no teeth shorter by up to half a module reach it")
TALLER = tr("no teeth taller by up to half a module reach it")
FORM_LEVERED = ("s_anE", "c", "c_F", "c_tip", "eps_alpha", "j_wt_min", "j_bn_min", "j_op_min", "du")


def form_levers(design: Design, results: Results, check: Check) -> Iterator[Wanted]:
    """What may be altered to bring such a check to its limit."""
    if check.symbol == "du":
        yield from _counts(design, results)
        return
    if check.stage is None or check.symbol not in FORM_LEVERED:
        return
    at = _At(design, results, check)
    own, mate = check.index or 1, 3 - (check.index or 1)
    match check.symbol:
        case "s_anE":
            yield from at.tip(own, -1.0)
            yield from at.shift(own, -0.8)
        case "c":
            yield from at.tip(own, -1.0)
            yield from at.depth(mate)
        case "c_F":
            yield from at.tip(mate, -1.0)
            yield from at.shift(own, 0.8)
            yield from at.depth(own)
        case "c_tip":
            yield from at.tip(1, -1.0)
            yield from at.tip(2, -1.0)
        case "eps_alpha":
            yield from at.tip(1, 1.0)
            yield from at.tip(2, 1.0)
            yield from at.shift(1, -0.8)
            yield from at.shift(2, -0.8)
        case _:
            yield from at.thinner()
            yield from at.apart()


class _At:
    """The two gears of a mesh and where they stand in the design."""

    def __init__(self, design: Design, results: Results, check: Check) -> None:
        self.design, self.k = design, check.stage or 0
        self.stage = results.stages[self.k]
        self.doc = design.train.stages[self.k]
        self.m_n = float(self.stage.mesh.m_n)

    def gear(self, i: int) -> Gear:
        return self.doc.gears[i - 1]

    def one(self, path: str) -> Callable[[float], Design]:
        return lambda v: set_many(self.design, {path: v})

    def member(self, i: int, name: str) -> Callable[[float], Design]:
        return self.one(f"{self.doc.paths[i - 1]}.{name}")

    def tip(self, i: int, way: float) -> Iterator[Wanted]:
        """The tip diameter: teeth shorter (-1) or taller (+1) by up to half a module."""
        kind, now = kind_of(self.gear(i)), float(self.stage.gears[i - 1].get("d_a", 0.0))
        if kind.turns and now:
            now = abs(now)
            end = now + way * (-1 if self.stage.gears[i - 1]["z"] < 0 else 1) * self.m_n
            words = SHORTER if way < 0 else TALLER
            yield Wanted(
                tr("tip diameter, {name}", name=self.gear(i).name),
                "length",
                self.member(i, "d_a"),
                now,
                end,
                0.01,
                words,
            )

    def shift(self, i: int, by: float) -> Iterator[Wanted]:
        """The profile shift, where it is entered."""
        if kind_of(self.gear(i)).shifts and self.gear(i).x is not None:
            now = float(self.stage.gears[i - 1]["x"])
            words = tr("no greater shift reaches it") if by > 0 else tr("no smaller shift reaches it")
            yield Wanted(
                tr("profile shift, {name}", name=self.gear(i).name),
                "factor",
                self.member(i, "x"),
                now,
                now + by,
                0.01,
                words,
            )

    def depth(self, i: int) -> Iterator[Wanted]:
        """How deep the tool cuts."""
        now = self.gear(i).h_fP
        make, words = self.member(i, "h_fP"), tr("no tool that cuts up to 1.6 modules deep reaches it")
        yield Wanted(
            tr("dedendum of the tool, {name}", name=self.gear(i).name), "factor", make, now, max(1.6, now), 0.01, words
        )

    def thinner(self) -> Iterator[Wanted]:
        """Both teeth thinner by the same: upper and lower allowance together."""
        gears = list(zip(self.doc.paths, self.doc.gears, strict=True))

        def make(E_sns: float) -> Design:
            by = E_sns - gears[0][1].E_sns
            paths: dict[str, float] = {}
            for base, g in gears:
                paths |= {f"{base}.E_sns": round(g.E_sns + by, 6), f"{base}.E_sni": round(g.E_sni + by, 6)}
            return set_many(self.design, paths)

        now = gears[0][1].E_sns
        words = tr("no teeth thinner by up to a quarter of a module reach it")
        yield Wanted(tr("tooth thickness allowance, both"), "length", make, now, now - 0.25 * self.m_n, 0.001, words)

    def apart(self) -> Iterator[Wanted]:
        """A greater centre distance, where it is entered."""
        a_w = self.doc.mesh.a_w
        if a_w is not None:
            words = tr("no centres up to half a module further apart reach it")
            sign = -1 if self.stage.mesh.u < 0 else 1
            yield Wanted(
                tr("centre distance"),
                "length",
                self.one(f"{self.doc.path}.a_w"),
                a_w,
                a_w + sign * 0.5 * self.m_n,
                0.001,
                words,
            )


def _counts(design: Design, results: Results) -> Iterator[Wanted]:
    """Another number of teeth of one gear at a time, up to a third more or less."""
    short = float(results.train["du"])
    for stage in design.train.stages:
        for i, gear in enumerate(stage.gears):
            if not kind_of(gear).turns:
                continue
            # A ratio that is too small wants more driven teeth or fewer driving ones.
            grows = (short < 0) == (i == 1)
            size = abs(gear.z)
            end = size + (size // 3 if grows else -(size // 3))
            sign = -1 if gear.z < 0 else 1

            def make(z: float, path: str = f"{stage.paths[i]}.z", sign: int = sign) -> Design:
                if round(z) < 5:
                    raise OutOfRange("z", round(z), tr("a gear needs teeth"), low=5)
                return set_many(design, {path: sign * round(z)})

            words = tr("no count up to a third off reaches it")
            yield Wanted(tr("teeth, {name}", name=gear.name), "count", make, float(size), float(end), 1.0, words)
