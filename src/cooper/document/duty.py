"""Duty, lubricant and what is required: what holds for a whole train."""

from typing import Annotated, Any, Literal

from cooper.document.base import NO_CONTROLS, Model, about, fields_of, quantity
from cooper.i18n.text import tr


class Lubricant(Model, frozen=True, kw_only=True):
    """The oil, by the numbers that the methods need."""

    name: Annotated[str, about("name of the oil", max_length=80, pattern=NO_CONTROLS)] = "mineral ISO VG 220"
    nu_40: Annotated[float, quantity("nu_40", ge=2, le=5000)] = 220.0
    nu_100: Annotated[float, quantity("nu_100", ge=1.5, le=500)] = 18.9
    rho_15: Annotated[float, quantity("rho_15", ge=600, le=1300)] = 895.0
    X_L: Annotated[float, quantity("X_L", ge=0.3, le=2)] = 1.0
    S_FZG: Annotated[int, quantity("S_FZG", ge=1, le=14)] = 12
    kind: Annotated[
        Literal["mineral", "polyalphaolefin", "polyglycol"],
        about("kind of the oil, which its film under pressure goes by"),
    ] = "mineral"
    S_GF: Annotated[int, quantity("S_GF", ge=5, le=10)] | None = None
    theta_GF: Annotated[float, quantity("theta_GF", ge=40, le=120)] = 90.0

    @classmethod
    def older(cls, data: dict[str, Any]) -> dict[str, Any]:
        """Older files tell the kind of the oil by its name alone."""
        if "kind" in data:
            return data
        name = str(data.get("name", ""))
        return {**data, "kind": next((k for k in ("polyalphaolefin", "polyglycol") if name.startswith(k)), "mineral")}

    def __post_init__(self) -> None:
        if self.nu_100 >= self.nu_40:
            raise ValueError(
                tr(
                    "nu_100 = {nu_100:g} mm2/s must be below nu_40 = {nu_40:g} mm2/s: oil thins as it warms",
                    nu_100=self.nu_100,
                    nu_40=self.nu_40,
                )
            )


class Level(Model, frozen=True, kw_only=True):
    """One level of a load spectrum: torque and speed over the nominal ones, and its share of the life."""

    T_rel: Annotated[float, quantity("T_rel", ge=0, le=20)]
    n_rel: Annotated[float, quantity("n_rel", gt=0, le=20)] = 1.0
    q_t: Annotated[float, quantity("q_t", gt=0, le=1e9)]


class Duty(Model, frozen=True, kw_only=True):
    """What comes in, what is wanted out, for how long. Two of power, torque and speed are given, the third is null."""

    P: Annotated[float, quantity("P", gt=0, le=1e9)] | None = None
    T: Annotated[float, quantity("T", gt=0, le=1e9)] | None = None
    n: Annotated[float, quantity("n", gt=0, le=1e6)] | None = None
    direction: Annotated[
        Literal["counter-clockwise", "clockwise"], about("direction of rotation of the input, seen as drawn")
    ] = "counter-clockwise"
    L_h: Annotated[float, quantity("L_h", gt=0, le=1e7)] = 10000.0
    K_A: Annotated[float, quantity("K_A", ge=0.5, le=10)] = 1.0
    K_AP: Annotated[float, quantity("K_AP", ge=0.5, le=20)] | None = None
    spectrum: Annotated[
        tuple[Level, ...], about("load spectrum by ISO 6336-6; empty for a steady load with K_A", max_length=200)
    ] = ()
    u_wanted: Annotated[float, quantity("u_wanted", gt=0, le=1e6)] | None = None
    u_tol: Annotated[float, quantity("u_tol", ge=0, le=100)] = 1.0
    theta_oil: Annotated[float, quantity("theta_oil", ge=-60, le=200)] = 60.0

    def __post_init__(self) -> None:
        given = [name for name in ("P", "T", "n") if getattr(self, name) is not None]
        if len(given) != 2:
            raise ValueError(
                tr(
                    "two of power P, torque T and speed n must be given; this has {given} ({value})",
                    given=len(given),
                    value=", ".join(given) or "none",
                )
            )


class Plastics(Model, frozen=True, kw_only=True):
    """What holds for the plastic gears of the train. VDI 2736-2."""

    heat: Annotated[
        Literal["entered", "by friction"],
        about("temperature of plastic teeth: theta_gears as entered, or from their friction by VDI 2736-2"),
    ] = "entered"
    running: Annotated[
        Literal["dry", "greased at assembly", "oil mist", "oil bath"], about("how plastic gears are lubricated")
    ] = "dry"
    housing: Annotated[
        Literal["open", "partly open", "closed"], about("kind of housing, which holds the warmth of plastic gears")
    ] = "open"
    ED: Annotated[float, quantity("ED", ge=0.1, le=100)] = 100.0
    S_Hmin: Annotated[float, quantity("S_Hmin", gt=0, le=10)] = 1.0
    S_Fmin: Annotated[float, quantity("S_Fmin", gt=0, le=10)] = 2.0
    delta_Wmax: Annotated[float, quantity("delta_Wmax", gt=0, le=0.5)] = 0.1


class Defaults(Model, frozen=True, kw_only=True):
    """What holds for the whole train: method, lubricant and what is required of every check."""

    method: Annotated[Literal["ISO 6336:2019", "ANSI/AGMA 2101-D04"], about("governing strength method")] = (
        "ISO 6336:2019"
    )
    reliability: Annotated[
        Literal["0.9", "0.99", "0.999", "0.9999"], about("reliability that ANSI/AGMA 2101-D04 rates for")
    ] = "0.99"
    critical_service: Annotated[bool, about("ANSI/AGMA 2101-D04: lower life curves, for critical service")] = False
    lubricant: Lubricant = Lubricant()
    plastics: Plastics = Plastics()
    S_Hmin: Annotated[float, quantity("S_Hmin", gt=0, le=10)] = 1.0
    S_Fmin: Annotated[float, quantity("S_Fmin", gt=0, le=10)] = 1.4
    S_Hstmin: Annotated[float, quantity("S_Hstmin", gt=0, le=10)] | None = None
    S_Fstmin: Annotated[float, quantity("S_Fstmin", gt=0, le=10)] | None = None
    S_Bmin: Annotated[float, quantity("S_Bmin", gt=0, le=10)] = 1.5
    S_intmin: Annotated[float, quantity("S_intmin", gt=0, le=10)] = 1.5
    S_FFmin: Annotated[float, quantity("S_FFmin", gt=0, le=10)] = 1.0
    S_lambda_min: Annotated[float, quantity("S_lambda_min", gt=0, le=10)] = 1.0
    phi_E: Annotated[float, quantity("phi_E", ge=0, le=1)] = 1.0
    lubrication: Annotated[Literal["dip", "spray", "submerged"], about("how the oil reaches the teeth")] = "dip"
    eps_alpha_min: Annotated[float, quantity("eps_alpha_min", ge=1, le=3)] = 1.2
    s_an_min: Annotated[float, quantity("s_an_min", ge=0, le=1.5)] = 0.3
    c_min: Annotated[float, quantity("c_min", ge=0, le=1)] = 0.15
    j_min: Annotated[float, quantity("j_min", ge=0, le=50)] = 0.02
    c_proc: Annotated[float, quantity("c_proc", ge=0, le=10)] = 0.0
    theta_gears: Annotated[float, quantity("theta_gears", ge=-60, le=200)] = 20.0
    theta_housing: Annotated[float, quantity("theta_housing", ge=-60, le=200)] = 20.0
    alpha_housing: Annotated[float, quantity("alpha_housing", ge=0, le=150)] = 11.5
    NT_1e10: Annotated[float, quantity("NT_1e10", ge=0.85, le=1)] = 0.85
    pitting_allowed: Annotated[bool, about("a limited amount of pitting is allowed (life curve of Z_NT)")] = False


class StageOverrides(Model, frozen=True, kw_only=True):
    """What a stage states in place of the train's defaults; null takes the train's."""

    method: (
        Annotated[Literal["ISO 6336:2019", "ANSI/AGMA 2101-D04"], about("governing strength method of the stage")]
        | None
    ) = None
    S_Hmin: Annotated[float, quantity("S_Hmin", gt=0, le=10)] | None = None
    S_Fmin: Annotated[float, quantity("S_Fmin", gt=0, le=10)] | None = None
    S_Bmin: Annotated[float, quantity("S_Bmin", gt=0, le=10)] | None = None
    S_intmin: Annotated[float, quantity("S_intmin", gt=0, le=10)] | None = None
    eps_alpha_min: Annotated[float, quantity("eps_alpha_min", ge=1, le=3)] | None = None
    j_min: Annotated[float, quantity("j_min", ge=0, le=50)] | None = None
    theta_gears: Annotated[float, quantity("theta_gears", ge=-60, le=200)] | None = None
    L_h: Annotated[float, quantity("L_h", gt=0, le=1e7)] | None = None
    theta_oil: Annotated[float, quantity("theta_oil", ge=-60, le=200)] | None = None
    lubricant: Annotated[Lubricant | None, about("oil of the stage")] = None

    @property
    def stated(self) -> dict[str, Any]:
        """What is stated, by name."""
        return {n: v for n in fields_of(StageOverrides) if (v := getattr(self, n)) is not None}
