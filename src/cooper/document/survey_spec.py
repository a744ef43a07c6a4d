"""What a survey is asked: arrangements, ranges of what is varied, materials, limits from outside; and what it found,
kept with the design."""

from typing import Annotated, Any, Literal

from cooper.document.base import Model, about, fields_of
from cooper.document.duty import Duty
from cooper.document.gear_data import Material
from cooper.i18n.text import tr
from cooper.stock.processes import processes
from cooper.stock.racks import rack_profiles

ARRANGEMENTS: dict[str, str] = {
    "pair": "pair",
    "double helix": tr("pair with a double helix"),
    "internal": "pinion in a ring",
    "two stages": tr("two stages"),
    "two stages, coaxial": tr("two stages, output in line with the input"),
    "three stages": tr("three stages"),
    "idler": tr("idler, for a wanted distance"),
    "planet set": tr("planet set"),
    "stepped planets": tr("planet set with stepped planets"),
    "two rings": tr("two rings, carrier driven"),
    "two rings, sun": tr("two rings, sun driven"),
}
"""Every arrangement that is searched, by key, in words."""
SHARES = {
    "sliding": tr("equal specific sliding at both roots"),
    "root": tr("equal root safety"),
    "least": tr("no more than keeps both from undercut"),
    "none": tr("none on the pinion"),
}
"""Rules by which the sum of the profile shifts is shared."""
MOST_FOUND = 20_000
"""Designs that are kept with the document."""


MOST_MODULES = 400
"""Modules that one survey tries."""


class MaterialChoice(Model, frozen=True, kw_only=True):
    """What pinion and wheel are made of, and the ring where there is one."""

    pinion: Material
    wheel: Material
    ring: Annotated[Material | None, about("material of an internal gear; null takes the wheel's")] = None

    @property
    def words(self) -> str:
        """In short: Eh 700 / V 280."""
        a, b = (tr("{group} {hardness:g}", group=m.group, hardness=m.hardness) for m in (self.pinion, self.wheel))
        return a if a == b else f"{a} / {b}"


class SurveySpec(Model, frozen=True, kw_only=True):
    """The bounds of a survey. Ranges are least, greatest, and a step where there is one; lengths in mm, angles in
    degrees."""

    process: Annotated[str, about("way of making the gears")] = "cut"
    arrangements: Annotated[tuple[str, ...], about("arrangements that are searched", min_length=1, max_length=20)] = (
        "pair",
        "two stages",
        "planet set",
    )
    materials: Annotated[tuple[MaterialChoice, ...], about("materials that are tried", min_length=1, max_length=12)]
    racks: Annotated[
        tuple[str, ...],
        about("basic racks that are tried; the pressure angle comes with them", min_length=1, max_length=6),
    ] = ("ISO 53 A",)
    K_Hbeta: (
        Annotated[
            float,
            about(
                "face load factor of all meshes; null: as is customary for the way of making and the torque, or by "
                "method C",
                ge=1,
                le=10,
            ),
        ]
        | None
    ) = None
    classes: Annotated[
        tuple[int, ...],
        about("flank tolerance classes of external gears that are tried; empty for the process's own", max_length=6),
    ] = ()
    z_least: Annotated[int, about("least count of a pinion, sun or planet", ge=5, le=200)] = 17
    z_pinion: Annotated[int, about("greatest count of a pinion or sun", ge=5, le=400)] = 30
    z_most: Annotated[int, about("greatest count of a wheel or planet", ge=6, le=1000)] = 150
    z_ring: Annotated[int, about("greatest count of a ring", ge=10, le=1500)] = 250
    m_low: Annotated[float, about("least module", ge=0.05, le=50)] = 1.0
    m_high: Annotated[float, about("greatest module", ge=0.05, le=50)] = 6.0
    m_step: (
        Annotated[
            float, about("step of the module from the least to the greatest; null for the standard series", gt=0, le=50)
        ]
        | None
    ) = None
    modules: Annotated[
        tuple[float, ...], about("modules that there are tools for; empty for all of the series", max_length=60)
    ] = ()
    beta_low: Annotated[float, about("least helix angle", ge=0, le=40)] = 0.0
    beta_high: Annotated[float, about("greatest helix angle", ge=0, le=40)] = 20.0
    beta_step: Annotated[float, about("step of the helix angle", gt=0, le=40)] = 10.0
    x_low: Annotated[float, about("least sum of the profile shifts", ge=-1, le=2)] = 0.0
    x_high: Annotated[float, about("greatest sum of the profile shifts", ge=-1, le=2)] = 0.5
    x_step: Annotated[float, about("step of the sum", gt=0, le=2)] = 0.25
    share: Annotated[Literal["sliding", "root", "least", "none"], about("rule by which the sum is shared")] = "sliding"
    widths: Annotated[Literal["solved", "stepped"], about("widths just to hold, or stepped")] = "solved"
    b_d_high: Annotated[float, about("greatest width over the pinion's reference diameter", gt=0, le=5)] = 1.1
    b_m_low: Annotated[float, about("least width in modules", gt=0, le=200)] = 6.0
    b_m_high: Annotated[float, about("greatest width in modules", gt=0, le=400)] = 30.0
    b_steps: Annotated[int, about("number of stepped widths", ge=1, le=40)] = 4
    b_round: Annotated[float, about("what widths are rounded up to", gt=0, le=20)] = 0.1
    planets: Annotated[tuple[int, ...], about("numbers of planets", min_length=1, max_length=8)] = (3,)
    lean: Annotated[float, about("greatest ratio of one stage over that of the next", ge=0.5, le=3)] = 1.2
    a_w: Annotated[float, about("given centre distance; of an idler that of the outer gears", gt=0, le=1e5)] | None = (
        None
    )
    a_most: Annotated[float, about("greatest centre distance of a stage", gt=0, le=1e5)] | None = None
    d_most: Annotated[float, about("greatest outside diameter", gt=0, le=1e5)] | None = None
    b_most: Annotated[float, about("greatest width of all stages together", gt=0, le=1e5)] | None = None
    l_most: Annotated[float, about("greatest length across the axes, the axes in one plane", gt=0, le=1e5)] | None = (
        None
    )
    A_h: (
        Annotated[
            float,
            about("area of the housing (m2), with which all losses count; null for what the design has", gt=0, le=1e4),
        ]
        | None
    ) = None
    theta_most: Annotated[float, about("greatest temperature of the oil; needs A_h", gt=-60, le=250)] | None = None
    shown: Annotated[tuple[str, ...], about("rules that are shown only, and not required", max_length=40)] = ()
    most: Annotated[int, about("candidates that are looked at, at most", ge=1, le=20_000_000)] = 120_000

    def __post_init__(self) -> None:
        if self.process not in processes():
            raise ValueError(
                tr(
                    "{process!r} is no way of making gears that is known: {ways}",
                    process=self.process,
                    ways=", ".join(processes()),
                )
            )
        unknown = [a for a in self.arrangements if a not in ARRANGEMENTS]
        if unknown:
            raise ValueError(
                tr(
                    "{unknown!r} is no arrangement that is searched: {arrangements}",
                    unknown=unknown[0],
                    arrangements=", ".join(ARRANGEMENTS),
                )
            )
        unknown = [r for r in self.racks if r not in rack_profiles()]
        if unknown:
            raise ValueError(
                tr(
                    "{unknown!r} is no basic rack of the stock: {rack_profiles}",
                    unknown=unknown[0],
                    rack_profiles=", ".join(rack_profiles()),
                )
            )
        for low, high, words in (
            (self.z_least, self.z_pinion, tr("count of a pinion")),
            (self.z_least, self.z_most, tr("count of a wheel")),
            (self.m_low, self.m_high, "module"),
            (self.beta_low, self.beta_high, tr("helix angle")),
            (self.x_low, self.x_high, tr("sum of the profile shifts")),
            (self.b_m_low, self.b_m_high, tr("width in modules")),
        ):
            if low > high:
                raise ValueError(
                    tr("the least {words}, {low:g}, lies above the greatest, {high:g}", words=words, low=low, high=high)
                )
        if any(not 1 <= n <= 12 for n in self.planets):
            raise ValueError(tr("a set is searched with 1 to 12 planets"))
        if any(not 1 <= n <= 12 for n in self.classes):
            raise ValueError(tr("flank tolerance classes lie between 1 and 12"))
        if any(not 0.05 <= m <= 50 for m in self.modules):
            raise ValueError(tr("modules lie between 0.05 and 50 mm"))
        if self.m_step is not None and self.modules:
            raise ValueError(tr("modules go by a step, or are those that there are tools for: leave one of them empty"))
        if self.m_step is not None and self.m_high - self.m_low > MOST_MODULES * self.m_step:
            raise ValueError(
                tr(
                    "a step of the module of {m_step:g} mm gives {m_high:.0f} modules: from {m_high_2:.3g} mm on "
                    "it is at most {most_modules}",
                    m_step=self.m_step,
                    m_high=(self.m_high - self.m_low) / self.m_step,
                    m_high_2=(self.m_high - self.m_low) / MOST_MODULES,
                    most_modules=MOST_MODULES,
                )
            )
        if self.theta_most is not None and self.A_h is None:
            raise ValueError(
                tr("the oil's temperature follows from the housing: give its area A_h, or leave the temperature out")
            )
        if "idler" in self.arrangements and self.a_w is None:
            raise ValueError(tr("an idler is searched for a wanted centre distance: give a_w, or leave the idler out"))


class Survey(Model, frozen=True, kw_only=True):
    """A survey that was made: what was asked, for which duty, how many candidates each rule took away, and what was
    found."""

    question: SurveySpec
    duty: Duty
    around: Annotated[int, about("stage that it closed in around; null for a sweep", ge=0, le=11)] | None = None
    looked: Annotated[int, about("candidates that were looked at", ge=0)] = 0
    possible: Annotated[float, about("candidates that the bounds allow", ge=0)] = 0.0
    taken_away: Annotated[
        tuple[tuple[str, int], ...], about("rules, and how many candidates each took away", max_length=200)
    ] = ()
    whole: Annotated[bool, about("whether it was searched to its end")] = True
    found: Annotated[str, about("the designs found, packed: see `survey.packed`", max_length=40_000_000)] = ""
    shelf: Annotated[tuple[int, ...], about("designs that stand on the shelf, by their number", max_length=6)] = ()

    def stale(self, duty: Duty) -> tuple[str, ...]:
        """What of the duty has changed since."""
        return tuple(n for n in fields_of(Duty) if getattr(duty, n) != getattr(self.duty, n))


def asked(**values: Any) -> SurveySpec:
    """A question for a process, with what customarily goes with it where nothing else is said.

    >>> asked(process="ground").materials[0].words
    'Eh 700'
    """
    way = processes()[values.get("process", "cut")]

    def material(group: str, grade: str, hardness: float) -> Material:
        return Material.from_data({"group": group, "grade": grade, "hardness": hardness})

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
    return SurveySpec.from_data({**start, **values})
