"""Cooper as a library: designs opened, changed by the names of formulas, evaluated, searched, saved and exported.

    >>> import cooper
    >>> m = cooper.example("mirror-cover")
    >>> m["z_1"], round(m["S_F2"], 2), m.verdict
    (17.0, 1.44, 'short')
    >>> wider = m.set({"b_1": 14, "b_2": "13 mm"})
    >>> wider["S_F2"] > m["S_F2"]
    True

A name is that of a tag or of a result: ``m_n``, ``z_1``, ``S_F2``; of a stage by its identity, ``stage2.b_1``; of the
duty and the train plainly, ``P``, ``eta``. Values are in the units of the document (`Model.unit`). What cannot be
raises `OutOfRange` with the reason and the range that works.
"""

from __future__ import annotations

import os
import re
from collections.abc import Mapping
from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING, Any

from msgspec import Struct

from cooper.document.base import Model as Part
from cooper.document.base import fields_of
from cooper.document.models import Design
from cooper.document.quantities import QUANTITIES
from cooper.document.units import KINDS, parse
from cooper.editing.formulas import all_fields, settled
from cooper.editing.machine_edits import refuse_unbuildable
from cooper.errors import OutOfRange
from cooper.results.evaluate import evaluate
from cooper.results.result_tree import Check, Results

if TYPE_CHECKING:
    from cooper.results.loaded_curves import LoadedCurves
    from cooper.results.loaded_tooth import LoadedAsk
    from cooper.results.relief import ErrorMap
    from cooper.results.root_comparison import RootComparison
    from cooper.results.topography import Topography
    from cooper.survey.survey_result import SurveyResult

INDEXED = re.compile(r"^(?P<symbol>.*?)_?(?P<index>[12])$")


class Model(Struct, frozen=True, dict=True):
    """A design with its results, found when they are first asked for. Nothing of it changes: `set` gives another
    one."""

    design: Design

    @cached_property
    def results(self) -> Results:
        """All results, as the window shows them."""
        return evaluate(self.design)

    @property
    def verdict(self) -> str:
        """holds, thin or short: the worst of all checks and warnings."""
        return str(self.results.verdict)

    @property
    def checks(self) -> tuple[Check, ...]:
        """All checks: symbol, index, stage, value, limit, margin, verdict."""
        return self.results.checks

    def names(self) -> list[str]:
        """Names of all that can be set."""
        return sorted(all_fields(self.design))

    def __getitem__(self, name: str) -> float:
        """The value of a name: what is entered or solved, else what is found; raises `KeyError` where there is none."""
        known = all_fields(self.design)
        full = self._full(name, known)
        if full in known:
            value = known[full].read(self.design, self.results)
            if value is not None:
                return float(value)
        value = self._found_value(name)
        if value is None:
            raise KeyError(name)
        return value

    def get(self, name: str, default: float | None = None) -> float | None:
        """The same, or another value where there is none."""
        try:
            return self[name]
        except KeyError:
            return default

    def unit(self, name: str) -> str:
        """The unit in which a name counts; empty for plain numbers.

        >>> import cooper
        >>> cooper.example().unit("sigma_F1"), cooper.example().unit("b_1")
        ('MPa', 'mm')
        """
        known = all_fields(self.design)
        full = self._full(name, known)
        symbol = known[full].symbol if full in known else name.rpartition(".")[2]
        if symbol not in QUANTITIES and (hit := INDEXED.match(symbol)):
            symbol = hit["symbol"]
        if symbol not in QUANTITIES:
            raise KeyError(name)
        return KINDS[QUANTITIES[symbol].kind].document

    def set(self, values: Mapping[str, float | str] | None = None, /, **more: float | str) -> Model:
        """Another model with values changed one after the other; texts are read with their units: ``"5/8 in"``.
        Formulas of the design follow.

        >>> import cooper
        >>> round(cooper.example().set(m_n=1.5)["d_1"], 3)
        25.5
        """
        design, results = self.design, self.results
        for name, value in {**(values or {}), **more}.items():
            known = all_fields(design)
            full = self._full(name, known)
            if full not in known:
                near = [n for n in known if name.rpartition(".")[2] in n][:6]
                raise OutOfRange(
                    name,
                    str(value),
                    f"nothing that can be set is called so{': near are ' + ', '.join(near) if near else ''}",
                )
            one = known[full]
            number = parse(value, one.kind, "mm", name) if isinstance(value, str) else float(value)
            before = design
            design, results = settled(one.give(design, results, number))
            refuse_unbuildable(before, design, results)
        made = Model(design)
        # They were found on the way.
        made.__dict__["results"] = results
        return made

    def save(self, path: str | os.PathLike[str]) -> None:
        """Write the design, whole or not at all."""
        from cooper.document.store import save_design

        save_design(self.design, path)

    def export(self, path: str | os.PathLike[str], stage: int = 1, *, system: str = "mm") -> None:
        """Write .dxf, .svg, .step, .stl, .3mf, .csv, .xlsx, .txt or .html of a stage (from 1), of the whole train
        with 0."""
        from cooper.exchange.formats import WHOLE
        from cooper.exchange.save import export

        export(self.design, self.results, Path(path), system, WHOLE if stage == 0 else self._stage(stage))

    def drawing(self, path: str | os.PathLike[str], gear: int = 1, stage: int = 1, *, system: str = "mm") -> None:
        """Write the drawing sheet of a gear: .pdf, .dxf or .svg."""
        from cooper.atomic_write import atomic_write
        from cooper.exchange.gear_drawing import gear_drawing

        if gear not in (1, 2):
            raise OutOfRange("gear", gear, "1 drives, 2 is driven", low=1, high=2)
        atomic_write(Path(path), gear_drawing(self.design, self.results, self._stage(stage), gear, system).write)

    def machine_drawing(self, path: str | os.PathLike[str], *, system: str = "mm") -> None:
        """Write the sheet of the whole machine in section with item numbers and parts list: .pdf, .dxf or .svg."""
        from cooper.exchange.assembly_sheet import write_machine_drawing

        next(write_machine_drawing(self.design, Path(path), system))

    def shaft_drawing(self, path: str | os.PathLike[str], shaft: str, *, system: str = "mm") -> None:
        """Write the drawing sheet of a shaft of the machine, by its first gear: .pdf, .dxf or .svg."""
        from cooper.atomic_write import atomic_write
        from cooper.exchange.shaft_sheet import machine_counted, shaft_drawing

        design, results = machine_counted(self.design)
        atomic_write(Path(path), shaft_drawing(design, results, shaft, system).write)

    def loaded(self, stage: int = 1, *, counted: str = "nominal") -> LoadedCurves:
        """Curves of the loaded teeth of a stage (from 1) on the flanks that bear: arrays over the path of contact,
        over a pitch and over the flank.

        ``counted`` the load factors: nominal, K_A or all. A model beside the rating. Raises `OutOfRange` where no load
        is on the stage.

        >>> import cooper
        >>> c = cooper.example().loaded()
        >>> c.te.shape, bool(c.ptp > 0)
        ((128,), True)
        """
        from cooper.results.loaded_curves import curves_of

        return curves_of(self._loaded_ask(stage, counted))

    def root_stress(self, stage: int = 1, gear: int = 1, *, counted: str = "nominal") -> RootComparison:
        """The root stress of the true tooth of a gear, compared with ISO 6336-3, AGMA and Lewis, one pair bearing
        all: `rows` with words, factor and stress (MPa)."""
        from cooper.field.stress_field import field_basis
        from cooper.results.root_comparison import root_comparison

        if gear not in (1, 2):
            raise OutOfRange("gear", gear, "1 drives, 2 is driven", low=1, high=2)
        ask = self._loaded_ask(stage, counted)
        return root_comparison(self.results.stages[stage - 1], gear - 1, field_basis(ask.bodies[gear - 1]), ask)

    def topography(self, stage: int = 1, gear: int = 1) -> Topography:
        """What is taken off the flank of a gear that bears: arrays over roll and face (um)."""
        from cooper.results.topography import topography

        if gear not in (1, 2):
            raise OutOfRange("gear", gear, "1 drives, 2 is driven", low=1, high=2)
        return topography(self.design.train, self.results, self._stage(stage), gear - 1)

    def error_map(self, stage: int = 1, *, counted: str = "nominal") -> ErrorMap:
        """Peak-to-peak transmission error (um) of a stage over the load and the amount of tip relief."""
        from cooper.exchange.loaded_tables import error_map

        ask = self._loaded_ask(stage, counted)
        return error_map(ask, self.loaded(stage, counted=counted))

    def _loaded_ask(self, stage: int, counted: str) -> LoadedAsk:
        from cooper.results.loaded_tooth import COUNTED, loaded_ask

        if counted not in COUNTED:
            raise OutOfRange("counted", counted, f"load factors are counted as one of {', '.join(COUNTED)}")
        return loaded_ask(self.design.train, self.results, self._stage(stage), counted)

    def _stage(self, stage: int) -> int:
        """The index of the stage with a number, from 1."""
        n = len(self.results.stages)
        if isinstance(stage, bool) or not isinstance(stage, int) or not 1 <= stage <= n:
            raise OutOfRange("stage", stage, f"stages are told by their number; this train has {n}", low=1, high=n)
        return stage - 1

    def survey(self, **bounds: Any) -> SurveyResult:
        """Search for designs with this duty; bounds by the names of the document (*Question*), ``arrangements=("two
        stages",)``."""
        from cooper.document.survey_spec import SurveySpec, asked
        from cooper.survey.task import at_once

        _known(bounds, SurveySpec)
        start = asked(process=bounds.get("process", "ground"), shown=("factor",))
        return at_once(SurveySpec.from_data({**start.plain(), **bounds}), self.design)

    def taken(self, result: SurveyResult, row: int) -> Model:
        """The design of a row (from 0) of what a survey found for this duty."""
        return Model(result.design(row, self.design))

    def _full(self, name: str, known: Mapping[str, Any]) -> str:
        """The full name: that of the only stage where none is told."""
        if name in known or "." in name:
            return name
        return f"{self.design.train.stages[0].id}.{name}"

    def _found_value(self, name: str) -> float | None:
        stage, _, symbol = name.rpartition(".")
        results, stages = self.results, self.design.train.stages
        if not stage and symbol in results.train:
            return float(results.train[symbol])
        k = next((n for n, s in enumerate(stages) if s.id == stage), 0 if not stage else -1)
        if k < 0:
            return None
        one = results.stages[k]
        if symbol in one.mesh:
            return float(one.mesh[symbol])
        if hit := INDEXED.match(symbol):
            gear = one.gears[int(hit["index"]) - 1]
            for key in (hit["symbol"], f"{hit['symbol']}_"):
                if key in gear:
                    return float(gear[key])
        return float(one.power[symbol]) if symbol in one.power else None


def open(path: str | os.PathLike[str]) -> Model:
    """A design from a file; raises `cooper.document.store.Unusable` where it is none."""
    from cooper.document.store import open_design

    return Model(open_design(path))


def example(name: str = "mirror-cover") -> Model:
    """One of the demo designs."""
    from cooper.demo import demo as design

    return Model(design(name))


def from_duty(P: float, n: float, ratio: float, life: float = 10000.0, process: str = "ground", **duty: Any) -> Model:
    """A design to start from: one pair for a power (W), a speed (rpm), a ratio and a life (h); ``duty`` has more of
    it by the document's names.

    >>> import cooper
    >>> m = cooper.from_duty(2200, 1420, 4.0)
    >>> round(m["u"], 1)
    4.0
    """
    from cooper.document.duty import Duty
    from cooper.survey.patterns import from_duty as design

    _known(duty, Duty)
    return Model(design(Duty(P=P, n=n, u_wanted=ratio, L_h=life, **duty), process))


def _known(values: Mapping[str, Any], kind: type[Part]) -> None:
    """Refuse names that a part of the document does not have: what is typed wrong would go unheard."""
    there = fields_of(kind)
    for name in values:
        if name not in there:
            raise OutOfRange(name, str(values[name])[:40], f"nothing is called so here; there are {', '.join(there)}")
