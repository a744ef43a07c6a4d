"""What a survey is asked: arrangements, ranges of what is varied, materials, limits from outside; and what it found, kept with the design."""

from __future__ import annotations

from typing import Annotated, Any, Literal, Self

from pydantic import Field, model_validator

from cooper.document.base import Model
from cooper.document.duty import Duty
from cooper.document.gear_data import Material
from cooper.stock.processes import ways
from cooper.stock.racks import rack_profiles

ARRANGEMENTS: dict[str, str] = {
    "pair": "pair",
    "double helix": "pair with a double helix",
    "internal": "pinion in a ring",
    "two stages": "two stages",
    "two stages, coaxial": "two stages, output in line with the input",
    "three stages": "three stages",
    "idler": "idler, for a wanted distance",
    "planet set": "planet set",
    "stepped planets": "planet set with stepped planets",
    "two rings": "two rings, carrier driven",
    "two rings, sun": "two rings, sun driven",
}
"""Every arrangement that is searched, by key, in words."""
SHARES = {
    "sliding": "equal specific sliding at both roots",
    "root": "equal root safety",
    "least": "no more than keeps both from undercut",
    "none": "none on the pinion",
}
"""Rules by which the sum of the profile shifts is shared."""
MOST_FOUND = 20_000
"""Designs that are kept with the document."""


MOST_MODULES = 400
"""Modules that one survey tries."""


class MaterialChoice(Model):
    """What pinion and wheel are made of, and the ring where there is one."""

    pinion: Material
    wheel: Material
    ring: Material | None = Field(None, description="material of an internal gear; null takes the wheel's")

    @property
    def words(self) -> str:
        """In short: Eh 700 / V 280."""
        a, b = (f"{m.group} {m.hardness:g}" for m in (self.pinion, self.wheel))
        return a if a == b else f"{a} / {b}"


class Question(Model):
    """The bounds of a survey. Ranges are least, greatest, and a step where there is one; lengths in mm, angles in degrees."""

    process: str = Field("cut", description="way of making the gears")
    arrangements: Annotated[tuple[str, ...], Field(min_length=1, max_length=20)] = Field(
        ("pair", "two stages", "planet set"), description="arrangements that are searched"
    )
    materials: Annotated[tuple[MaterialChoice, ...], Field(min_length=1, max_length=12)] = Field(
        description="materials that are tried"
    )
    racks: Annotated[tuple[str, ...], Field(min_length=1, max_length=6)] = Field(
        ("ISO 53 A",), description="basic racks that are tried; the pressure angle comes with them"
    )
    classes: Annotated[tuple[int, ...], Field(max_length=6)] = Field(
        (), description="flank tolerance classes of external gears that are tried; empty for the process's own"
    )
    z_least: int = Field(17, ge=5, le=200, description="least count of a pinion, sun or planet")
    z_pinion: int = Field(30, ge=5, le=400, description="greatest count of a pinion or sun")
    z_most: int = Field(150, ge=6, le=1000, description="greatest count of a wheel or planet")
    z_ring: int = Field(250, ge=10, le=1500, description="greatest count of a ring")
    m_low: float = Field(1.0, ge=0.05, le=50, description="least module")
    m_high: float = Field(6.0, ge=0.05, le=50, description="greatest module")
    m_step: float | None = Field(
        None, gt=0, le=50, description="step of the module from the least to the greatest; null for the standard series"
    )
    modules: tuple[float, ...] = Field(
        (), max_length=60, description="modules that there are tools for; empty for all of the series"
    )
    beta_low: float = Field(0.0, ge=0, le=40, description="least helix angle")
    beta_high: float = Field(20.0, ge=0, le=40, description="greatest helix angle")
    beta_step: float = Field(10.0, gt=0, le=40, description="step of the helix angle")
    x_low: float = Field(0.0, ge=-1, le=2, description="least sum of the profile shifts")
    x_high: float = Field(0.5, ge=-1, le=2, description="greatest sum of the profile shifts")
    x_step: float = Field(0.25, gt=0, le=2, description="step of the sum")
    share: Literal["sliding", "root", "least", "none"] = Field("sliding", description="rule by which the sum is shared")
    widths: Literal["solved", "stepped"] = Field("solved", description="widths just to hold, or stepped")
    b_d_high: float = Field(1.1, gt=0, le=5, description="greatest width over the pinion's reference diameter")
    b_m_low: float = Field(6.0, gt=0, le=200, description="least width in modules")
    b_m_high: float = Field(30.0, gt=0, le=400, description="greatest width in modules")
    b_steps: int = Field(4, ge=1, le=40, description="number of stepped widths")
    b_round: float = Field(0.1, gt=0, le=20, description="what widths are rounded up to")
    planets: Annotated[tuple[int, ...], Field(min_length=1, max_length=8)] = Field(
        (3,), description="numbers of planets"
    )
    lean: float = Field(1.2, ge=0.5, le=3, description="greatest ratio of one stage over that of the next")
    a_w: float | None = Field(
        None, gt=0, le=1e5, description="given centre distance; of an idler that of the outer gears"
    )
    a_most: float | None = Field(None, gt=0, le=1e5, description="greatest centre distance of a stage")
    d_most: float | None = Field(None, gt=0, le=1e5, description="greatest outside diameter")
    b_most: float | None = Field(None, gt=0, le=1e5, description="greatest width of all stages together")
    l_most: float | None = Field(
        None, gt=0, le=1e5, description="greatest length across the axes, the axes in one plane"
    )
    A_h: float | None = Field(
        None,
        gt=0,
        le=1e4,
        description="area of the housing (m2), with which all losses count; null for what the design has",
    )
    theta_most: float | None = Field(None, gt=-60, le=250, description="greatest temperature of the oil; needs A_h")
    shown: tuple[str, ...] = Field((), max_length=40, description="rules that are shown only, and not required")
    most: int = Field(120_000, ge=1, le=20_000_000, description="candidates that are looked at, at most")

    @model_validator(mode="after")
    def _holds_together(self) -> Self:
        if self.process not in ways():
            raise ValueError(f"{self.process!r} is no way of making gears that is known: {', '.join(ways())}")
        unknown = [a for a in self.arrangements if a not in ARRANGEMENTS]
        if unknown:
            raise ValueError(f"{unknown[0]!r} is no arrangement that is searched: {', '.join(ARRANGEMENTS)}")
        unknown = [r for r in self.racks if r not in rack_profiles()]
        if unknown:
            raise ValueError(f"{unknown[0]!r} is no basic rack of the stock: {', '.join(rack_profiles())}")
        for low, high, words in (
            (self.z_least, self.z_pinion, "count of a pinion"),
            (self.z_least, self.z_most, "count of a wheel"),
            (self.m_low, self.m_high, "module"),
            (self.beta_low, self.beta_high, "helix angle"),
            (self.x_low, self.x_high, "sum of the profile shifts"),
            (self.b_m_low, self.b_m_high, "width in modules"),
        ):
            if low > high:
                raise ValueError(f"the least {words}, {low:g}, lies above the greatest, {high:g}")
        if any(not 1 <= n <= 12 for n in self.planets):
            raise ValueError("a set is searched with 1 to 12 planets")
        if any(not 1 <= n <= 12 for n in self.classes):
            raise ValueError("flank tolerance classes lie between 1 and 12")
        if any(not 0.05 <= m <= 50 for m in self.modules):
            raise ValueError("modules lie between 0.05 and 50 mm")
        if self.m_step is not None and self.modules:
            raise ValueError("modules go by a step, or are those that there are tools for: leave one of them empty")
        if self.m_step is not None and self.m_high - self.m_low > MOST_MODULES * self.m_step:
            raise ValueError(
                f"a step of the module of {self.m_step:g} mm gives {(self.m_high - self.m_low) / self.m_step:.0f} modules: "
                f"from {(self.m_high - self.m_low) / MOST_MODULES:.3g} mm on it is at most {MOST_MODULES}"
            )
        if self.theta_most is not None and self.A_h is None:
            raise ValueError(
                "the oil's temperature follows from the housing: give its area A_h, or leave the temperature out"
            )
        if "idler" in self.arrangements and self.a_w is None:
            raise ValueError("an idler is searched for a wanted centre distance: give a_w, or leave the idler out")
        return self


class Survey(Model):
    """A survey that was made: what was asked, for which duty, how many candidates each rule took away, and what was found."""

    question: Question
    duty: Duty
    around: int | None = Field(None, ge=0, le=11, description="stage that it closed in around; null for a sweep")
    looked: int = Field(0, ge=0, description="candidates that were looked at")
    possible: float = Field(0.0, ge=0, description="candidates that the bounds allow")
    taken_away: tuple[tuple[str, int], ...] = Field(
        (), max_length=200, description="rules, and how many candidates each took away"
    )
    whole: bool = Field(True, description="whether it was searched to its end")
    found: str = Field("", max_length=40_000_000, description="the designs found, packed: see `survey.packed`")
    shelf: tuple[int, ...] = Field((), max_length=6, description="designs that stand on the shelf, by their number")

    def stale(self, duty: Duty) -> tuple[str, ...]:
        """What of the duty has changed since."""
        return tuple(n for n in Duty.model_fields if getattr(duty, n) != getattr(self.duty, n))


def asked(**values: Any) -> Question:
    """A question for a process, with what customarily goes with it where nothing else is said.

    >>> asked(process="ground").materials[0].words
    'Eh 700'
    """
    way = ways()[values.get("process", "cut")]

    def material(group: str, grade: str, hardness: float) -> Material:
        return Material(group=group, grade=grade, hardness=hardness)

    start: dict[str, Any] = {
        "materials": tuple(
            MaterialChoice(pinion=material(*a), wheel=material(*b), ring=material(*way.ring)) for a, b in way.materials
        ),
        "racks": way.racks,
        "m_low": way.module[0],
        "m_high": way.module[1],
        "beta_low": way.beta[0],
        "beta_high": way.beta[1],
    }
    return Question(**{**start, **values})
