"""Sets: meshes that work as one."""

from typing import Annotated, Literal

from cooper.document.base import NO_CONTROLS, Model, Rule, about, quantity
from cooper.i18n.text import term, tr
from cooper.kinds.arranged import Arrangement
from cooper.kinds.known import ARRANGED


class SetData(Model, frozen=True, kw_only=True):
    """Meshes that work as one, whose gears share planets, or an idler.

    planetary: sun with planet, planet with ring. stepped: sun with planet, second gear of the planet with ring. two
    rings: planet with ring, second gear of the planet with ring 2, and where a sun stands between the planets a third
    stage, sun with planet; it is free, and bears the planets alone, unless it is driven, held or taken off. idler:
    first gear with idler, idler with last gear.
    """

    id: Annotated[
        str, about("identity within the train; given where it is empty", max_length=40, pattern=NO_CONTROLS)
    ] = ""
    meshes: Annotated[tuple[str, ...], about("identities of its meshes, in the order of its arrangement")] = ()
    name: Annotated[str, about("what the set is called", max_length=80, pattern=NO_CONTROLS)] = "Planet set"
    kind: Annotated[str, about("arrangement", extra_json_schema={"enum": list(ARRANGED)})] = "planetary"
    share: Annotated[float, quantity("P_share", gt=0, le=1)] | None = None
    planets: Annotated[int, quantity("n_planets", ge=1, le=24)] = 3
    held: (
        Annotated[str, about("third shaft, held, or giving power off where u_third is given; null for an idler")] | None
    ) = "ring"
    u_third: Annotated[float, quantity("u_third", ge=-100, le=100)] | None = None
    input: Annotated[str, about("shaft at which power comes in")] = "sun"
    output: Annotated[str, about("shaft at which power is taken")] = "carrier"
    floating: Annotated[bool, about("a member floats between the planets, so that they share the load evenly")] = True
    K_gamma: Annotated[float, quantity("K_gamma", ge=1, le=5)] | None = None
    k_pl: Annotated[float, quantity("k_pl", gt=0, le=1e5)] | None = None
    e_pl: Annotated[float, quantity("e_pl", ge=0, le=5000)] | None = None
    free_sun: Annotated[
        bool,
        about(
            "two rings: a sun stands between the planets; free, and without torque, unless it is driven, held or "
            "taken off"
        ),
    ] = False
    agree: Annotated[
        Literal["shift", "module", "helix"],
        about("what makes the second mesh of stepped planets agree with the first one's centre distance"),
    ] = "shift"

    @property
    def shares_by_stiffness(self) -> bool:
        """Whether K_gamma is found from the stiffness of the planets and how far one may stand ahead."""
        return self.planets > 1 and self.K_gamma is None and self.k_pl is not None and self.e_pl is not None

    @property
    def second(self) -> str | None:
        """The third shaft where power is taken off there too."""
        return self.held if self.u_third is not None else None

    @property
    def path(self) -> str:
        """Its path in the document."""
        return f"train.sets.{self.id}"

    @property
    def arranged(self) -> Arrangement:
        """What its members are and how they mesh."""
        return ARRANGED[self.kind]

    @property
    def sun_works(self) -> bool:
        """Whether the sun between the planets of two rings bears torque."""
        return self.free_sun and "sun" in (self.input, self.output, self.held)

    def __post_init__(self) -> None:
        if self.kind not in ARRANGED:
            raise Rule(
                "kind",
                tr(
                    "{kind!r} is no arrangement of a set; there are {arranged}",
                    kind=self.kind[:40],
                    arranged=", ".join(ARRANGED),
                ),
            )
        of = self.arranged
        shafts = of.shafts_of(self.free_sun)
        wanted = [self.input, self.output] + ([self.held] if of.around else [])
        for role in wanted:
            if role not in shafts:
                raise ValueError(
                    tr(
                        "{role!r} is no shaft of a set of kind {kind}: it has {shafts}",
                        role=role,
                        kind=self.kind,
                        shafts=", ".join(shafts),
                    )
                )
        if of.fixed is not None and self.held != of.fixed:
            raise ValueError(tr("the {shaft} of such a set stands still in any case", shaft=term(of.fixed)))
        if len(set(wanted)) != len(wanted):
            text = ", ".join(str(w) for w in wanted)
            raise ValueError(
                tr("input, output and held shaft must be three different ones; these are {told}", told=text)
            )
        if self.u_third is not None and (not of.around or of.fixed is not None or self.u_third == 0):
            raise Rule(
                "u_third", tr("a third shaft that turns, and not at speed 0, is one of a set whose planets go around")
            )
        if not of.around and (self.planets != 1 or self.held is not None):
            raise ValueError(tr("an idler is one gear between two others: planets is 1 and nothing is held"))
        if self.free_sun and not of.sun_between:
            raise ValueError(
                tr("a free sun supports the planets of two rings; this set is of kind {kind}", kind=self.kind)
            )
        if self.agree != "shift" and of.one_gear:
            raise ValueError(
                tr(
                    "the meshes of a set of kind {kind} share one gear, so that their centre distances agree by "
                    "shift alone",
                    kind=self.kind,
                )
            )


class GearSet(SetData, frozen=True, kw_only=True):
    """A set as the walk comes to it."""

    first: Annotated[int, about("number of its first stage on the walk; the others follow it", ge=0)] = 0

    @property
    def stages(self) -> range:
        """Numbers of its stages on the walk."""
        return range(self.first, self.first + (3 if self.free_sun else 2))
