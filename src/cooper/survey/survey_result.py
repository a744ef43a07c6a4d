"""What a survey found: the designs by number, their quantities as columns; packed into the document and read again."""

from __future__ import annotations

import base64
import json
import zlib
from collections.abc import Iterator
from functools import cached_property
from typing import Any

import numpy as np
from msgspec import Struct, field
from msgspec.structs import replace
from numpy.typing import NDArray

from cooper.arrays import Array
from cooper.document.models import Design
from cooper.document.older_files import kept_in_survey
from cooper.document.survey_spec import MOST_FOUND, Survey, SurveySpec
from cooper.errors import OutOfRange
from cooper.i18n.text import join, tr
from cooper.survey.choice_table import table_of
from cooper.survey.design_batch import DesignBatch
from cooper.survey.filter_and_rate import BLOCK, Batch
from cooper.survey.heated import heated
from cooper.survey.pareto_front import pareto_front
from cooper.survey.patterns import Pattern
from cooper.survey.plan import Plan
from cooper.survey.rated import rate_block

LARGEST = 200 * 1024 * 1024
"""Bytes that what is kept may unpack to."""


class Growing:
    """A column that grows: room is made for twice as much whenever it is full, so that adding costs no more the more
    there is."""

    def __init__(self, start: Array) -> None:
        self.held, self.n = start.copy(), len(start)

    def add(self, more: Array) -> Array:
        """What there is with more behind it; the same memory as before where there is room."""
        end = self.n + len(more)
        if end > len(self.held):
            room = np.empty(max(2 * len(self.held), end), dtype=self.held.dtype)
            room[: self.n] = self.held[: self.n]
            self.held = room
        self.held[self.n : end] = more
        self.n = end
        return self.held[:end]


class SurveyResult(Struct, dict=True):
    """Designs by number: ``pattern`` and ``row`` tell where each one's numbers stand in ``blocks``, ``values`` its
    quantities.

    ``gone`` is how many candidates each rule took away, ``looked`` how many were looked at one by one, ``possible`` how
    many the bounds allow.
    """

    question: SurveySpec
    patterns: list[Pattern]
    blocks: list[DesignBatch]
    pattern: NDArray[np.int64] = field(default_factory=lambda: np.empty(0, dtype=np.int64))
    row: NDArray[np.int64] = field(default_factory=lambda: np.empty(0, dtype=np.int64))
    values: dict[str, Array] = field(default_factory=dict)
    gone: dict[str, float] = field(default_factory=dict)
    looked: int = 0
    size: int = 0
    possible: float = 0.0
    whole: bool = True

    @cached_property
    def _columns(self) -> dict[tuple[int, str], Growing]:
        """What has room for more, by column; no part of what is kept or sent."""
        return {}

    def __len__(self) -> int:
        return len(self.pattern)

    @staticmethod
    def of(plan: Plan) -> SurveyResult:
        """Nothing yet, of a plan."""
        return SurveyResult(
            plan.question,
            [replace(s.pattern, design=s.design) for s in plan.spaces],
            [DesignBatch(s.design, {}) for s in plan.spaces],
            gone=plan.gone(),
            size=plan.size,
            possible=plan.possible,
            whole=False,
        )

    def add(self, batch: Batch) -> None:
        """Take in what a batch found."""
        self.looked += batch.looked
        for rule, many in batch.gone.items():
            self.gone[rule] = self.gone.get(rule, 0.0) + many
        if not len(batch):
            return
        i, old = batch.pattern, self.blocks[batch.pattern]
        first = len(old) if old.columns else 0
        joined = {p: self._grown((i, p), old.columns.get(p), v) for p, v in batch.columns.items()}
        self.blocks[i] = DesignBatch(old.design, joined)
        n, before = len(batch), len(self.pattern)
        self.pattern = self._grown((-1, "pattern"), self.pattern, np.full(n, i))
        self.row = self._grown((-1, "row"), self.row, np.arange(first, first + n))
        for k in {*self.values, *batch.values}:
            own = self.values.get(k, np.full(before, np.nan) if before else None)
            self.values[k] = self._grown((-1, k), own, batch.values.get(k, np.full(n, np.nan)))

    def _grown(self, key: tuple[int, str], now: Any, more: Any) -> Any:
        """A column with more behind it."""
        column = self._columns.get(key)
        if column is None or now is None or column.n != len(now):
            column = self._columns[key] = Growing(more[:0] if now is None else now)
        return column.add(more)

    def teeth(self, n: int) -> str:
        """The counts of a design: of each stage, or of a set whole, the gears in the order of the power.

        A stage as 19/65, a planet set as 19/31/81.
        """
        block, row = self.blocks[int(self.pattern[n])], int(self.row[n])
        text: list[str] = []
        seen: set[str] = set()
        for k, stage in enumerate(block.design.train.stages):
            part = []
            for i, gear in enumerate(stage.gears):
                if gear.id not in seen:
                    seen.add(gear.id)
                    column = block.of_gear(k, i, "z")
                    part.append(f"{abs(gear.z) if column is None else abs(int(column[row]))}")
            one = stage.within
            if one is not None and k > one.first:
                text[-1] += "".join(f"/{z}" for z in part)
            else:
                text.append("/".join(part))
        return join("  ", text)

    def label(self, n: int) -> str:
        """Arrangement, counts and materials of a design, in words."""
        p = self.patterns[int(self.pattern[n])]
        spur = float(self.values["beta"][n]) == 0
        label = ("spur " if spur else "helical ") + p.label if p.label in ("pair", "pinion in a ring") else p.label
        return tr("{label}; {n}; {materials}", label=label, n=self.teeth(n), materials=p.materials)

    def design(self, n: int, own: Design | None = None, *, around: bool = False) -> Design:
        """A design found; what is not its gears' is that of the design ``own`` which it becomes: name, place, duty,
        losses, what is required, the survey itself, and where it was found ``around`` that design its formulas too."""
        result = self.blocks[int(self.pattern[n])].design_at(int(self.row[n]))
        if own is None:
            return result
        # Of plastics that were searched the teeth are warmed by friction.
        plastics = own.train.defaults.plastics.replace_unchecked(heat=result.train.defaults.plastics.heat)
        defaults = own.train.defaults.replace_unchecked(plastics=plastics)
        train = result.train.replace_unchecked(
            duty=own.train.duty, losses=heated(self.question, own).train.losses, defaults=defaults
        )
        kept: dict[str, Any] = {"name": own.name, "place": own.place, "survey": own.survey, "train": train}
        if around:
            kept |= {"names": own.names, "formulas": own.formulas}
        return result.replace_unchecked(**kept)

    def altered(self, own: Design) -> bool:
        """Whether what is required of a design, or how its losses count, has changed since this was searched."""

        def told(design: Design) -> tuple[object, ...]:
            train = design.train
            return train.defaults.plain() | {
                "plastics": train.defaults.plastics.plain(without={"heat"})
            }, train.losses.plain(without={"oil_by_balance"})

        now = told(heated(self.question, own))
        return any(told(p.design) != now for p in self.patterns[:1])

    def numbers(self) -> dict[str, Array]:
        """All columns, the kind of arrangement as a number among them."""
        kinds = sorted({p.arrangement for p in self.patterns})
        of = np.array([kinds.index(p.arrangement) for p in self.patterns])
        return {**self.values, "arrangement": of[self.pattern].astype(float) if len(self) else np.empty(0)}


def first_of(result: SurveyResult, n: int) -> SurveyResult:
    """The first designs of those found.

    Parameters
    ----------
    result : SurveyResult
        Designs found, with their quantities.
    n : int
        Number of designs.

    Returns
    -------
    SurveyResult
        The first of them.
    """
    part = replace(
        result, pattern=result.pattern[:n], row=result.row[:n], values={k: v[:n] for k, v in result.values.items()}
    )
    part._columns = {}
    return part


def kept_rows(result: SurveyResult, most: int = MOST_FOUND) -> NDArray[np.int64]:
    """The designs that are kept where there are more than a document holds: all on the edges of mass and size over
    margin, then evenly.

    Parameters
    ----------
    result : SurveyResult
        Designs found, with their quantities.
    most : int
        Greatest number of designs.

    Returns
    -------
    NDArray[np.int64]
        Numbers of the designs.
    """
    n = len(result)
    if n <= most:
        return np.arange(n)
    v = result.values
    keep = np.zeros(n, dtype=bool)
    for a, b in (("mass", "worst"), ("length", "worst"), ("mass", "length"), ("cost", "eta"), ("d_out", "mass")):
        keep[pareto_front(v, a, b)] = True
    rest = np.flatnonzero(~keep)
    room = most - int(np.sum(keep))
    keep[rest[np.linspace(0, len(rest) - 1, max(room, 0)).astype(int)]] = True
    return np.flatnonzero(keep)[:most]


def packed(result: SurveyResult, most: int = MOST_FOUND) -> str:
    """The designs as text for the document: patterns and columns of numbers, compressed.

    Parameters
    ----------
    result : SurveyResult
        Designs found, with their quantities.
    most : int
        Greatest number of designs.

    Returns
    -------
    str
        Compressed text.

    Notes
    -----
    Their quantities are found anew when it is read.
    """
    rows = kept_rows(result, most)
    parts: list[dict[str, Any]] = []
    for i, (pattern, block) in enumerate(zip(result.patterns, result.blocks, strict=True)):
        mine = rows[result.pattern[rows] == i]
        if not len(mine):
            continue
        at = result.row[mine]
        parts.append(
            {
                "arrangement": pattern.arrangement,
                "materials": pattern.materials,
                "rack": pattern.rack,
                "label": pattern.label,
                "design": pattern.design.plain(without={"survey"}),
                "columns": {p: v[at].tolist() for p, v in block.columns.items()},
            }
        )
    text = json.dumps(parts, separators=(",", ":"))
    return base64.b64encode(zlib.compress(text.encode(), 6)).decode()


def survey_of(result: SurveyResult, design: Design, around: int | None = None) -> Survey:
    """What is kept with the document of a survey that was made for a design's duty.

    Parameters
    ----------
    result : SurveyResult
        Designs found, with their quantities.
    design : Design
        The design.
    around : int | None
        Number of the stage to vary, None for the whole train.

    Returns
    -------
    Survey
        Survey of the document.
    """
    taken = sorted(result.gone.items(), key=lambda kv: -kv[1])
    return Survey(
        question=result.question,
        duty=design.train.duty,
        around=around,
        looked=result.looked,
        possible=result.possible,
        taken_away=tuple((rule, int(min(many, 1e15))) for rule, many in taken if many > 0),
        whole=result.whole,
        found=packed(result),
    )


def unpacked(survey: Survey) -> SurveyResult:
    """The designs of a kept survey, without their quantities.

    Parameters
    ----------
    survey : Survey
        Survey of the document.

    Returns
    -------
    SurveyResult
        The designs.

    Raises
    ------
    OutOfRange
        Where what is kept cannot be read.
    """
    try:
        engine = zlib.decompressobj()
        data = engine.decompress(base64.b64decode(survey.found, validate=True), LARGEST)
        if engine.unconsumed_tail:
            raise ValueError(tr("it unpacks to more than a survey has"))
        parts = json.loads(data) if data else []
        patterns, blocks = [], []
        for part in parts:
            kept, numbers = kept_in_survey(part["design"], part["columns"])
            design = Design.from_data({**kept, "survey": None})
            columns = {str(p): np.asarray(v, dtype=float) for p, v in numbers.items()}
            if len({len(v) for v in columns.values()}) != 1 or not all(
                np.all(np.isfinite(v)) for v in columns.values()
            ):
                raise ValueError(tr("its columns are not of one length, or not numbers"))
            words = [str(part[k])[:200] for k in ("arrangement", "materials", "rack", "label")]
            patterns.append(Pattern(words[0], design, words[1], words[2], words[3]))
            blocks.append(DesignBatch(design, columns))
    except (ValueError, KeyError, TypeError, AttributeError, zlib.error, RecursionError) as error:
        text = str(error).splitlines()[0] if str(error) else type(error).__name__
        raise OutOfRange(
            "survey", "kept", tr("what was kept of the survey cannot be read: {text}", text=text[:200])
        ) from error
    result = SurveyResult(
        survey.question, patterns, blocks, looked=survey.looked, possible=survey.possible, whole=survey.whole
    )
    result.gone = {rule: float(many) for rule, many in survey.taken_away}
    for i, block in enumerate(blocks):
        result.pattern = np.concatenate((result.pattern, np.full(len(block), i)))
        result.row = np.concatenate((result.row, np.arange(len(block))))
    return result


def reopened(survey: Survey) -> Iterator[SurveyResult | Batch]:
    """A kept survey with its quantities, rated block after block: first what it is of, then batches.

    Parameters
    ----------
    survey : Survey
        Survey of the document.

    Yields
    ------
    SurveyResult | Batch
        The designs without quantities, then batches.
    """
    result = unpacked(survey)
    yield SurveyResult(
        survey.question,
        result.patterns,
        [DesignBatch(p.design, {}) for p in result.patterns],
        gone=result.gone,
        size=survey.looked,
        possible=survey.possible,
        whole=survey.whole,
    )
    for i, block in enumerate(result.blocks):
        for start in range(0, len(block), BLOCK):
            some = block.pick(slice(start, start + BLOCK))
            try:
                rated = rate_block(some)
            except (OutOfRange, ValueError, KeyError, AttributeError) as error:
                raise OutOfRange(
                    "survey", "kept", tr("what was kept of the survey cannot be rated: {error}", error=error)
                ) from error
            yield Batch(i, some.columns, table_of(rated))
