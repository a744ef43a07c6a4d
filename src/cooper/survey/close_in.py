"""The candidates around a design that is there: one stage or set of it varied, all else as it is."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from cooper.arrays import Array
from cooper.document.models import Design, GearSet
from cooper.document.survey_spec import SurveySpec
from cooper.editing.edit import set_many
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.kinds.known import kind_of
from cooper.results.evaluate import QUICK, evaluate
from cooper.results.solve_stage import normal_module
from cooper.survey.count_tables import CountTable
from cooper.survey.design_batch import DesignBatch
from cooper.survey.heated import heated
from cooper.survey.module_series import module_series
from cooper.survey.patterns import Pattern
from cooper.survey.plan import Plan
from cooper.survey.search_space import Candidates
from cooper.survey.width_groups import width_groups

COUNTS = 2
"""By how many teeth the counts go up and down."""
SHIFTS = (-0.1, 0.0, 0.1)
"""By how much the given shifts go up and down."""
HELIX = (-2.0, 0.0, 2.0)
"""By how many degrees a helix goes up and down; a spur gear stays one."""
RATIO = 1.0
"""Tolerance of the ratio (%) where none is wanted: that of the present design."""


class NearSpace(Candidates, kw_only=True):
    """Those around one stage or set of a design."""

    stage: int
    places: tuple[int, ...]

    def concerns(self, stage: int | None) -> bool:
        """What is not varied is left as it is, its checks too."""
        return stage is None or stage in self.places

    def block(self, numbers: NDArray[np.int64]) -> tuple[DesignBatch, dict[str, NDArray[np.bool_]]]:
        z, digits = self.chosen(numbers)
        n = len(numbers)
        columns: dict[str, Array] = {}
        keep = np.ones(n, dtype=bool)
        train = self.design.train
        by_gear = dict(zip(self._gears(), z.T, strict=True))
        for k in self.places:
            stage = train.stages[k]
            mesh = stage.mesh
            m = self._modules(k, digits["m"])
            columns[f"{stage.path}.m_n"] = m
            if "beta" in digits:
                columns[f"{stage.path}.beta"] = digits["beta"]
            small = np.full(n, np.inf)
            for path, gear in zip(stage.paths, stage.gears, strict=True):
                at = f"{path}."
                count = by_gear[gear.id]
                inward = kind_of(gear).inward
                columns[at + "z"] = -count if inward else count
                if gear.x is not None and f"x {gear.id}" in digits:
                    columns[at + "x"] = np.round(gear.x + digits[f"x {gear.id}"], 6)
                if gear.d_rim is not None:
                    m_0 = normal_module(stage)
                    cosine = np.cos(np.radians(digits.get("beta", np.full(n, mesh.beta))))
                    over = gear.d_rim - abs(gear.z) * m_0 / np.cos(np.radians(mesh.beta))
                    columns[at + "d_rim"] = np.round(count * m / cosine + over * np.maximum(m / m_0, 1.0), 2)
                    columns[at + "z_0"] = np.minimum(float(gear.z_0), count // 2)
                small = np.minimum(small, count * m)
            q = self.question
            widest = np.minimum(q.b_d_high * small, q.b_m_high * m)
            if q.b_most is not None:
                widest = np.minimum(widest, q.b_most)
            least = q.b_m_low * m
            keep &= widest >= least
            unit = q.b_round
            b = np.maximum(np.floor(widest / unit + 1e-9) * unit, np.ceil(least / unit - 1e-9) * unit)
            for path in stage.paths:
                columns.setdefault(f"{path}.b", np.asarray(np.round(b, 6), dtype=np.float64))
        self._one_width(columns)
        return DesignBatch(self.design, columns), {"width": keep}

    def _modules(self, k: int, m: Array) -> Array:
        """Modules of stage k beside those of the first: of the series or its own, the nearest in the ratio in which
        both stand now."""
        first, own = (self.design.train.stages[n].mesh.m_n or 1.0 for n in (self.places[0], k))
        there = np.array(sorted({*module_series(self.question), own}))
        return there[np.argmin(np.abs(np.log(there / (m[:, None] * own / first))), axis=1)]

    def _gears(self) -> list[str]:
        """Identities of the gears that are varied, each once, in the order in which the meshes name them."""
        result: list[str] = []
        for k in self.places:
            for gear in self.design.train.stages[k].gears:
                if gear.id not in result:
                    result.append(gear.id)
        return result

    def _one_width(self, columns: dict[str, Array]) -> None:
        """Meshes side by side have one width."""
        for group in width_groups(self.design):
            paths = {f"{path}.b" for k in group for path in self.design.train.stages[k].paths}
            there = [p for p in paths if p in columns]
            if there:
                columns |= dict.fromkeys(there, np.min([columns[p] for p in there], axis=0))


def near(question: SurveySpec, base: Design, stage: int) -> Plan:
    """The candidates around a stage, or around the set it belongs to.

    Parameters
    ----------
    question : SurveySpec
        What is asked of the survey.
    base : Design
        The design.
    stage : int
        Number of the stage, from 0.

    Returns
    -------
    Plan
        The plan.

    Raises
    ------
    OutOfRange
        Where they cannot be varied.
    """
    base = heated(question, base)
    train = base.train
    one = train.stages[stage].within
    places = (stage,) if one is None else tuple(one.stages)
    if one is not None and one.free_sun and not one.sun_works:
        raise OutOfRange(
            "stage", stage + 1, tr("a set with a free sun is not searched: take the sun out, close in, put it back")
        )
    if not train.walk.in_line:
        raise OutOfRange(
            "stage",
            stage + 1,
            tr("power parts or is taken off on the way; what is searched has one way and one output"),
        )
    if any(not train.stages[k].kind_of_pair.turns for k in range(len(train.stages))):
        raise OutOfRange("stage", stage + 1, tr("a train that ends in a rack has no ratio to close in on"))
    results = evaluate(base, QUICK)
    u = train.duty.u_wanted or results.train.u
    tol = train.duty.u_tol if train.duty.u_wanted is not None else RATIO
    design = _ready(base, places, u, tol, float(results.train.get("theta_oil", train.duty.theta_oil)))
    mesh = design.train.stages[places[0]].mesh
    m_0 = mesh.m_n or 1.0
    series = module_series(question)
    around = sorted({m_0, *sorted(series, key=lambda m: abs(np.log(m / m_0)))[:5]})
    genes: dict[str, Array] = {"m": np.array(around)}
    if mesh.beta > 0 and (one is None or one.arranged.one_gear):
        genes["beta"] = np.array([b for b in (mesh.beta + s for s in HELIX) if 0 < b <= 40])
    for k in places:
        for gear in design.train.stages[k].gears:
            if gear.x is not None:
                genes[f"x {gear.id}"] = np.array(SHIFTS)
    table = _counts(design, places, u / results.train.u if train.duty.u_wanted else 1.0, tol)
    label = tr("around the present design")
    space = NearSpace(
        Pattern(tr("close in"), design, "as it is", "", label),
        question,
        table,
        design,
        genes,
        stage=stage,
        places=places,
    )
    size = space.size
    return Plan(question, [space], max(size / question.most, 1.0))


def _ready(base: Design, places: tuple[int, ...], u: float, tol: float, theta: float) -> Design:
    """The design with its sizes given by modules and its tips free, so that all can be varied."""
    changes: dict[str, object] = {"train.duty.u_wanted": float(u), "train.duty.u_tol": float(tol)}
    for k in places:
        stage = base.train.stages[k]
        mesh = stage.mesh
        at = f"{stage.path}."
        if mesh.m_n is None:
            m_n = normal_module(stage)
            changes |= {at + s: None for s in ("P_nd", "d_1", "d_2")} | {at + "m_n": m_n}
        for path, gear in zip(stage.paths, stage.gears, strict=True):
            if gear.d_a is not None:
                changes[f"{path}.d_a"] = None
    if base.train.losses.oil_by_balance:
        # The oil stays as warm as it is with the present design.
        changes |= {"train.losses.oil_by_balance": False, "train.duty.theta_oil": theta}
    design = set_many(base, changes)
    return design.replace_unchecked(survey=None, formulas={})


def _counts(design: Design, places: tuple[int, ...], towards: float, tol: float) -> CountTable:
    """Counts a few teeth around, those of a set whole, with the ratio within its tolerance; ``towards`` is the
    wanted over the present."""
    stages = [design.train.stages[k] for k in places]
    one = design.train.stages[places[0]].within
    names: list[str] = []
    now: list[int] = []
    for s in stages:
        for gear in s.gears:
            if gear.id not in names:
                names.append(gear.id)
                now.append(abs(gear.z))
    span = np.arange(-COUNTS, COUNTS + 1)
    grid = np.stack([g.ravel() for g in np.meshgrid(*[span] * len(now), indexing="ij")], axis=1)
    z = np.array(now) + grid
    possible = float(len(z))
    good = np.all(z >= 5, axis=1)
    ring = False
    if one is None:
        ratio = (z[:, 1] / z[:, 0]) / (now[1] / now[0])
        if stages[0].kind_of_pair.inward:
            good &= z[:, 1] > z[:, 0] + 3
    elif one.arranged.plain_planets:
        good &= np.isin(z[:, 2] - z[:, 0] - 2 * z[:, 1], (0, 1)) & ((z[:, 0] + z[:, 2]) % one.planets == 0)
        ring = True
    elif not one.arranged.around:
        ratio = (z[:, 2] / z[:, 0]) / (now[2] / now[0])
    else:
        m_1, m_2 = (s.mesh.m_n or 1.0 for s in stages[:2])
        modules = m_1 / m_2
        good &= (
            np.abs((z[:, 3] - z[:, 2]) - (now[3] - now[2]) - modules * (_step(z, one) - _step(np.array([now]), one)[0]))
            <= 1
        )
        ring = True
    if ring:
        from cooper.trains.counts import PLANETARY_RATIO

        assert one is not None
        if one.arranged.sun_inside:
            of = PLANETARY_RATIO[one.input, one.output, str(one.held)]
            ratio = np.asarray(of(_through(z, one))) / of(_through(np.array([now]), one)[0])
        else:
            # What two rings come to is left to the rating, which checks the ratio.
            ratio = np.full(len(z), towards)
    off = np.abs(ratio / towards - 1) * 100 <= tol * (1 + 1e-12) + 1e-9
    table = CountTable(z[good & off], possible)
    table.gone = {"even": float(np.sum(~good)), "ratio": float(np.sum(good & ~off))}
    return table


def _step(z: NDArray[np.int64], one: GearSet) -> NDArray[np.int64]:
    """Counts of the distance in the first mesh."""
    return z[:, 0] + z[:, 1] if one.arranged.sun_inside else z[:, 1] - z[:, 0]


def _through(z: NDArray[np.int64], one: GearSet) -> NDArray[np.float64]:
    """Turns of the first gear over those of the last with the carrier held; counts of the gears, a gear in two
    meshes once."""
    return (z[:, 2] / z[:, 0]) if one.arranged.one_gear else z[:, 1] * z[:, 3] / (z[:, 0] * z[:, 2])
