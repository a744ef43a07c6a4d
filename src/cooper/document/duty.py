"""Duty, lubricant and what is required: what holds for a whole train."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from cooper.document.base import NO_CONTROLS, Model, quantity


class Lubricant(Model):
    """The oil, by the numbers that the methods need."""

    name: str = Field("mineral ISO VG 220", max_length=80, pattern=NO_CONTROLS, description="name of the oil")
    nu_40: float = quantity("nu_40", 220.0, ge=2, le=5000)
    nu_100: float = quantity("nu_100", 18.9, ge=1.5, le=500)
    rho_15: float = quantity("rho_15", 895.0, ge=600, le=1300)
    X_L: float = quantity("X_L", 1.0, ge=0.3, le=2)
    S_FZG: int = quantity("S_FZG", 12, ge=1, le=14)
    kind: Literal["mineral", "polyalphaolefin", "polyglycol"] = Field(
        "mineral", description="kind of the oil, which its film under pressure goes by"
    )
    S_GF: int | None = quantity("S_GF", None, ge=5, le=10)
    theta_GF: float = quantity("theta_GF", 90.0, ge=40, le=120)

    @model_validator(mode="before")
    @classmethod
    def _kind_of_older_files(cls, value: Any) -> Any:
        """Older files tell the kind of the oil by its name alone."""
        if isinstance(value, dict) and "kind" not in value:
            name = str(value.get("name", ""))
            return {
                **value,
                "kind": next((k for k in ("polyalphaolefin", "polyglycol") if name.startswith(k)), "mineral"),
            }
        return value

    @model_validator(mode="after")
    def _thins_with_heat(self) -> Lubricant:
        if self.nu_100 >= self.nu_40:
            raise ValueError(
                f"nu_100 = {self.nu_100:g} mm2/s must be below nu_40 = {self.nu_40:g} mm2/s: oil thins as it warms"
            )
        return self


class Level(Model):
    """One level of a load spectrum: torque and speed over the nominal ones, and its share of the life."""

    T_rel: float = quantity("T_rel", ge=0, le=20)
    n_rel: float = quantity("n_rel", 1.0, gt=0, le=20)
    q_t: float = quantity("q_t", gt=0, le=1e9)


class Duty(Model):
    """What comes in, what is wanted out, for how long. Two of power, torque and speed are given, the third is null."""

    P: float | None = quantity("P", None, gt=0, le=1e9)
    T: float | None = quantity("T", None, gt=0, le=1e9)
    n: float | None = quantity("n", None, gt=0, le=1e6)
    direction: Literal["counter-clockwise", "clockwise"] = Field(
        "counter-clockwise", description="sense in which the input turns, seen as drawn"
    )
    L_h: float = quantity("L_h", 10000.0, gt=0, le=1e7)
    K_A: float = quantity("K_A", 1.0, ge=0.5, le=10)
    K_AP: float | None = quantity("K_AP", None, ge=0.5, le=20)
    spectrum: Annotated[tuple[Level, ...], Field(max_length=200)] = Field(
        (), description="load spectrum by ISO 6336-6; empty for a steady load with K_A"
    )
    u_wanted: float | None = quantity("u_wanted", None, gt=0, le=1e6)
    u_tol: float = quantity("u_tol", 1.0, ge=0, le=100)
    theta_oil: float = quantity("theta_oil", 60.0, ge=-60, le=200)

    @model_validator(mode="after")
    def _two_of_three(self) -> Duty:
        given = [name for name in ("P", "T", "n") if getattr(self, name) is not None]
        if len(given) != 2:
            raise ValueError(
                f"two of power P, torque T and speed n must be given; this has {len(given)} ({', '.join(given) or 'none'})"
            )
        return self


class Plastics(Model):
    """What holds for the plastic gears of the train. VDI 2736-2."""

    heat: Literal["entered", "by friction"] = Field(
        "entered",
        description="temperature of plastic teeth: theta_gears as entered, or from their friction by VDI 2736-2",
    )
    running: Literal["dry", "greased at assembly", "oil mist", "oil bath"] = Field(
        "dry", description="how plastic gears are lubricated"
    )
    housing: Literal["open", "partly open", "closed"] = Field(
        "open", description="kind of housing, which holds the warmth of plastic gears"
    )
    ED: float = quantity("ED", 100.0, ge=0.1, le=100)
    S_Hmin: float = quantity("S_Hmin", 1.0, gt=0, le=10)
    S_Fmin: float = quantity("S_Fmin", 2.0, gt=0, le=10)
    delta_Wmax: float = quantity("delta_Wmax", 0.1, gt=0, le=0.5)


class Defaults(Model):
    """What holds for the whole train: method, lubricant and what is required of every check."""

    method: Literal["ISO 6336:2019", "ANSI/AGMA 2101-D04"] = Field(
        "ISO 6336:2019", description="governing strength method"
    )
    reliability: Literal["0.9", "0.99", "0.999", "0.9999"] = Field(
        "0.99", description="reliability that ANSI/AGMA 2101-D04 rates for"
    )
    critical_service: bool = Field(False, description="ANSI/AGMA 2101-D04: lower life curves, for critical service")
    lubricant: Lubricant = Lubricant()
    plastics: Plastics = Plastics()
    S_Hmin: float = quantity("S_Hmin", 1.0, gt=0, le=10)
    S_Fmin: float = quantity("S_Fmin", 1.4, gt=0, le=10)
    S_Hstmin: float | None = quantity("S_Hstmin", None, gt=0, le=10)
    S_Fstmin: float | None = quantity("S_Fstmin", None, gt=0, le=10)
    S_Bmin: float = quantity("S_Bmin", 1.5, gt=0, le=10)
    S_intmin: float = quantity("S_intmin", 1.5, gt=0, le=10)
    S_FFmin: float = quantity("S_FFmin", 1.0, gt=0, le=10)
    S_lambda_min: float = quantity("S_lambda_min", 1.0, gt=0, le=10)
    phi_E: float = quantity("phi_E", 1.0, ge=0, le=1)
    lubrication: Literal["dip", "spray", "submerged"] = Field("dip", description="how the oil reaches the teeth")
    eps_alpha_min: float = quantity("eps_alpha_min", 1.2, ge=1, le=3)
    s_an_min: float = quantity("s_an_min", 0.3, ge=0, le=1.5)
    c_min: float = quantity("c_min", 0.15, ge=0, le=1)
    j_min: float = quantity("j_min", 0.02, ge=0, le=50)
    c_proc: float = quantity("c_proc", 0.0, ge=0, le=10)
    theta_gears: float = quantity("theta_gears", 20.0, ge=-60, le=200)
    theta_housing: float = quantity("theta_housing", 20.0, ge=-60, le=200)
    alpha_housing: float = quantity("alpha_housing", 11.5, ge=0, le=150)
    NT_1e10: float = quantity("NT_1e10", 0.85, ge=0.85, le=1)
    pitting_allowed: bool = Field(False, description="a limited amount of pitting is allowed (life curve of Z_NT)")
