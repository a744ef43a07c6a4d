"""The design document: immutable models with unit, range and meaning for every quantity.

Units in the document are those of `cooper.document.units.KINDS`. A change makes a new document. Fields that this version
does not know are kept and written back.
"""

from __future__ import annotations

from typing import Annotated, Any, Literal, Self

from pydantic import BaseModel, ConfigDict, Field, field_validator, model_validator

from cooper.document.quantities import QUANTITIES
from cooper.document.units import KINDS
from cooper.kinds.kind import Kind
from cooper.kinds.known import kind_of, shapes
from cooper.stock.bearings import bearing_types
from cooper.stock.materials import groups

NO_CONTROLS = r"^[^\x00-\x1f\x7f-\x9f]*$"
"""Names hold no control characters, which would break files and terminals."""
FORMAT = "cooper-design"
VERSION = 2
MOST_NAMES = 200
"""Named values, and formulas, that a design holds at most."""


class Model(BaseModel):
    """Frozen, keeps unknown fields, refuses NaN and infinity."""

    model_config = ConfigDict(frozen=True, extra="allow", allow_inf_nan=False, revalidate_instances="never")


def quantity(symbol: str, default: Any = ..., **limits: float) -> Any:
    """A field that carries its quantity's symbol, unit and meaning into the schema and the screen."""
    q = QUANTITIES[symbol]
    extra: dict[str, Any] = {"symbol": symbol, "unit": KINDS[q.kind].document, "kind": q.kind}
    return Field(default, description=q.meaning, json_schema_extra=extra, **limits)  # type: ignore[call-overload]


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


class Material(Model):
    """Material group and grade of ISO 6336-5 with its hardness."""

    group: str = Field(
        "V", description="material group of ISO 6336-5 (V, Eh, St, GGG …) or one beyond it (POM, brass …)"
    )
    grade: Literal["ML", "MQ", "ME", "typical"] = Field(
        "MQ", description="material quality grade of ISO 6336-5; typical for groups beyond it"
    )
    hardness: float = quantity("hardness", 300.0, ge=50, le=1200)
    R_p02: float | None = quantity("R_p02", None, ge=100, le=3000)
    core: Literal["25 HRC", "30 HRC", "lower hardenability"] = Field(
        "25 HRC",
        description="core of case-hardened teeth of grade MQ: hardness at least, or 25 HRC with the lower hardenability",
    )
    peened: bool = Field(False, description="roots of case-hardened teeth shot peened under control")
    name: str = Field(
        "", max_length=80, pattern=NO_CONTROLS, description="name of an own material; empty for one of the stock"
    )
    sigma_Hlim: float | None = quantity("sigma_Hlim", None, ge=1, le=5000)
    sigma_Flim: float | None = quantity("sigma_Flim", None, ge=1, le=3000)
    E: float | None = quantity("E", None, ge=100, le=1e6)
    density: float | None = quantity("density", None, ge=500, le=2e4)
    price_index: float | None = quantity("price_index", None, ge=0, le=1e4)

    @model_validator(mode="after")
    def _known(self) -> Material:
        if self.group not in groups():
            raise ValueError(f"material group {self.group!r} is not known; known: {', '.join(groups())}")
        if self.grade not in groups()[self.group]["grades"]:
            held = ", ".join(groups()[self.group]["grades"])
            raise ValueError(f"material group {self.group} has no grade {self.grade}; it has {held}")
        return self


class Gear(Model):
    """One gear of a stage: tooth data, tool, blank, material."""

    id: str = Field("", max_length=40, description="identity within the train; given where it is empty")
    name: str = Field("gear", max_length=80, pattern=NO_CONTROLS, description="what the gear is called")
    shape: str = Field(
        "gear",
        description="a wheel, or a rack, of which z teeth are cut",
        json_schema_extra=lambda schema: schema.update(enum=list(shapes())),
    )
    z: int = quantity("z", ge=-2000, le=2000)
    x: float | None = quantity("x", 0.0, ge=-3, le=3)
    b: float = quantity("b", gt=0, le=5000)
    d_a: float | None = quantity("d_a", None, gt=0, le=1e5)
    h_aP: float = quantity("h_aP", 1.0, ge=0.3, le=1.6)
    h_fP: float = quantity("h_fP", 1.25, ge=0.5, le=2)
    rho_fP: float = quantity("rho_fP", 0.38, ge=0, le=0.8)
    E_sns: float = quantity("E_sns", -0.05, ge=-20, le=5)
    E_sni: float = quantity("E_sni", -0.1, ge=-20, le=5)
    tool: Literal["rack", "pinion cutter", "form"] = Field(
        "rack", description="what makes the root: a rack or hob, a pinion-shaped cutter, or a form with a plain fillet"
    )
    z_0: int = quantity("z_0", 25, ge=6, le=400)
    x_0: float = quantity("x_0", 0.0, ge=-1, le=1)
    pr_P: float = quantity("pr_P", 0.0, ge=0, le=10)
    q_P: float = quantity("q_P", 0.0, ge=0, le=10)
    alpha_prP: float = quantity("alpha_prP", 8.0, ge=0, le=30)
    h_K: float = quantity("h_K", 0.0, ge=0, le=100)
    delta_K: float = quantity("delta_K", 45.0, ge=20, le=75)
    rho_a: float = quantity("rho_a", 0.0, ge=0, le=100)
    d_bore: float = quantity("d_bore", 0.0, ge=0, le=1e5)
    d_i: float | None = quantity("d_i", None, gt=0, le=1e5)
    b_s: float | None = quantity("b_s", None, gt=0, le=5000)
    d_rim: float | None = quantity("d_rim", None, gt=0, le=1e5)
    h_back: float = quantity("h_back", 10.0, gt=0, le=1e4)
    d_s: float | None = quantity("d_s", None, gt=0, le=1e5)
    material: Material = Material()
    treatment: Literal[
        "none", "phosphated", "copper plated", "little retained austenite", "much retained austenite"
    ] = Field("none", description="treatment or structure of the flanks, which counts for scuffing (factor X_W)")
    bending: Literal["one way", "both ways"] = Field(
        "one way", description="teeth loaded on one flank alone, or on both in turn as those of idlers and planets"
    )
    R_bend: float = quantity("R_bend", -1.2, ge=-1.2, le=0)
    swelling: float = quantity("swelling", 0.0, ge=0, le=5)
    CHD: float | None = quantity("CHD", None, gt=0, le=15)
    k_W: float | None = quantity("k_W", None, ge=0, le=1000)
    S_Hmin: float | None = quantity("S_Hmin", None, gt=0, le=10)
    S_Fmin: float | None = quantity("S_Fmin", None, gt=0, le=10)
    t_g: float = quantity("t_g", 0.0, ge=0, le=10)
    rho_g: float = quantity("rho_g", 1.0, gt=0, le=100)
    Q: int = quantity("Q", 7, ge=1, le=12)
    Rz_H: float = quantity("Rz_H", 6.0, gt=0, le=100)
    Rz_F: float = quantity("Rz_F", 16.0, gt=0, le=100)

    @property
    def notch(self) -> float:
        """Depth of the grinding notch (mm): as entered, else what the stock has more than the protuberance takes away before grinding."""
        return self.t_g or round(max(self.q_P - self.pr_P, 0.0), 12)

    @field_validator("shape")
    @classmethod
    def _known(cls, shape: str) -> str:
        if shape not in shapes():
            raise ValueError(f"{shape[:40]!r} is no shape of a gear; there are {', '.join(shapes())}")
        return shape

    @model_validator(mode="after")
    def _allowances(self) -> Gear:
        if self.E_sni > self.E_sns:
            raise ValueError(
                f"the lower tooth thickness allowance E_sni = {self.E_sni:g} mm lies above the upper E_sns = {self.E_sns:g} mm"
            )
        return self

    @model_validator(mode="after")
    def _makeable(self) -> Gear:
        if abs(self.z) < 4:
            raise ValueError(f"a gear has 4 or more teeth, an internal one -4 or fewer; this has z = {self.z}")
        fault = kind_of(self).fault(self)
        if fault:
            raise ValueError(fault)
        if self.d_i is not None and self.d_i <= self.d_bore:
            raise ValueError(
                f"the rim's inner diameter d_i = {self.d_i:g} mm must be greater than the bore of {self.d_bore:g} mm"
            )
        if self.h_K > 0 and self.rho_a > 0:
            raise ValueError(
                f"a tip is chamfered (h_K = {self.h_K:g} mm) or rounded (rho_a = {self.rho_a:g} mm), not both"
            )
        if self.notch > 4 * self.rho_g:
            whence = f"t_g = {self.t_g:g} mm" if self.t_g else f"stock less protuberance, {self.notch:g} mm,"
            raise ValueError(
                f"{whence} is too deep a grinding notch for rho_g = {self.rho_g:g} mm: its stress is known up to {4 * self.rho_g:g} mm"
            )
        if self.tool != "rack" and (self.pr_P > 0 or self.q_P > 0):
            raise ValueError("protuberance and grinding stock belong to a rack or hob")
        return self


class Mesh(Model):
    """Two members in mesh. One of module, diametral pitch and both reference diameters is given, the others are null."""

    driver: int = Field(0, ge=0, description="place of the driving gear in the stage's members")
    driven: int = Field(1, ge=0, description="place of the driven gear in the stage's members")
    alpha_n: float = quantity("alpha_n", 20.0, ge=10, le=35)
    beta: float = quantity("beta", 0.0, ge=0, le=45)
    hand: Literal["right", "left"] = Field(
        "right",
        description="hand of the driving gear's helix; the driven one has the other (no meaning when beta is 0)",
    )
    double_helix: bool = Field(False, description="two halves of opposite hand side by side; b is both without the gap")
    b_gap: float = quantity("b_gap", 0.0, ge=0, le=1000)
    f_ZCa: float = quantity("f_ZCa", 1.2, ge=1, le=1.5)
    m_n: float | None = quantity("m_n", None, ge=0.02, le=100)
    P_nd: float | None = quantity("P_nd", None, ge=0.2, le=1200)
    d_1: float | None = quantity("d", None, gt=0, le=1e5)
    d_2: float | None = quantity("d", None, gt=0, le=1e5)
    a_w: float | None = quantity("a_w", None, gt=0, le=1e5)
    A_as: float = quantity("A_as", 0.02, ge=-10, le=10)
    A_ai: float = quantity("A_ai", -0.02, ge=-10, le=10)
    K_V_method: Literal["B", "C"] = Field(
        "C", description="method of the dynamic factor K_V: B resonance, C simplified"
    )
    K_Hbeta_method: Literal["entered", "C", "f_sh"] = Field(
        "entered",
        description="face load factor: entered, by method C from the shafts and the helix deviations, or from an entered misalignment f_sh of the shafts",
    )
    K_Halpha_method: Literal["entered", "B"] = Field(
        "entered", description="transverse load factors: entered, or by method B from the pitch deviations"
    )
    K_gamma: float = quantity("K_gamma", 1.0, ge=1, le=5)
    load_at: Literal["by quality", "outer single contact", "tip"] = Field(
        "by quality", description="where the load of the root rating acts"
    )
    K_Hbeta: float = quantity("K_Hbeta", 1.2, ge=1, le=10)
    K_Halpha: float = quantity("K_Halpha", 1.0, ge=1, le=10)
    l_sh: float = quantity("l_sh", 60.0, gt=0, le=1e5)
    s_sh: float = quantity("s_sh", 0.0, ge=0, le=1e5)
    d_sh: float = quantity("d_sh", 15.0, gt=0, le=1e5)
    arrangement: Literal["a", "b", "c", "d", "e"] = Field(
        "a", description="place of the pinion on its shaft (ISO 6336-1, factor K')"
    )
    wheel_shaft: Literal["stiff", "counted"] = Field(
        "stiff", description="method C: whether the wheel's shaft bends too"
    )
    l_sh2: float = quantity("l_sh", 60.0, gt=0, le=1e5)
    s_sh2: float = quantity("s_sh", 0.0, ge=0, le=1e5)
    d_sh2: float = quantity("d_sh", 20.0, gt=0, le=1e5)
    arrangement_2: Literal["a", "b", "c", "d", "e"] = Field(
        "a", description="place of the wheel on its shaft (ISO 6336-1, factor K')"
    )
    f_sh: float = quantity("f_sh", 5.0, ge=0, le=1000)
    helix_modification: Literal[
        "none", "crowned", "crowned for manufacture", "corrected", "corrected and crowned", "end relief"
    ] = Field("none", description="helix modification of the pair")
    C_a: float = quantity("C_a", 0.0, ge=0, le=500)
    mounting: Literal["open", "commercial", "precision", "extra precision"] = Field(
        "commercial", description="how the gears are mounted (ANSI/AGMA 2101-D04, mesh alignment)"
    )
    adjusted: bool = Field(False, description="contact adjusted at assembly, lapped or shimmed (ANSI/AGMA 2101-D04)")
    mu_pl: float | None = quantity("mu_pl", None, gt=0, le=1)
    K_s: float = quantity("K_s", 1.0, ge=1, le=3)
    A_v: int | None = quantity("A_v", None, ge=6, le=12)

    @field_validator("helix_modification", mode="before")
    @classmethod
    def _of_older_files(cls, value: object) -> object:
        """A crowning said to match the deformation was counted as one that takes it away whole; the table has no such case, the
        nearest is a correction with crowning."""
        return "corrected and crowned" if value == "crowned to load" else value

    @model_validator(mode="after")
    def _one_size(self) -> Mesh:
        given = [n for n in SIZES if getattr(self, n) is not None]
        if len(given) != 1:
            raise ValueError(
                f"one of {', '.join(SIZES)} sets the size of the teeth; this mesh gives {len(given)} ({', '.join(given) or 'none'})"
            )
        if self.A_ai > self.A_as:
            raise ValueError(
                f"the lower centre distance allowance A_ai = {self.A_ai:g} mm lies above the upper A_as = {self.A_as:g} mm"
            )
        shafts = [("pinion", self.l_sh, self.s_sh, self.arrangement)]
        if self.wheel_shaft == "counted":
            shafts.append(("wheel", self.l_sh2, self.s_sh2, self.arrangement_2))
        for word, l_sh, s_sh, arrangement in shafts:
            if self.K_Hbeta_method == "C" and s_sh > l_sh / 2 and arrangement != "c":
                raise ValueError(
                    f"s_sh = {s_sh:g} mm puts the {word} beyond its bearings, which are l_sh = {l_sh:g} mm apart; that is "
                    "arrangement c (overhung)"
                )
        if self.double_helix and self.beta == 0:
            raise ValueError("a double helix needs a helix angle beta above 0")
        if self.driver == self.driven:
            raise ValueError("a gear cannot mesh with itself: driver and driven name the same member")
        return self


SIZES = ("m_n", "P_nd", "d_1", "d_2")


class StageOwn(Model):
    """What a stage states in place of the train's defaults; null takes the train's."""

    method: Literal["ISO 6336:2019", "ANSI/AGMA 2101-D04"] | None = Field(
        None, description="governing strength method of the stage"
    )
    S_Hmin: float | None = quantity("S_Hmin", None, gt=0, le=10)
    S_Fmin: float | None = quantity("S_Fmin", None, gt=0, le=10)
    S_Bmin: float | None = quantity("S_Bmin", None, gt=0, le=10)
    S_intmin: float | None = quantity("S_intmin", None, gt=0, le=10)
    eps_alpha_min: float | None = quantity("eps_alpha_min", None, ge=1, le=3)
    j_min: float | None = quantity("j_min", None, ge=0, le=50)
    theta_gears: float | None = quantity("theta_gears", None, ge=-60, le=200)
    L_h: float | None = quantity("L_h", None, gt=0, le=1e7)
    theta_oil: float | None = quantity("theta_oil", None, ge=-60, le=200)
    lubricant: Lubricant | None = Field(None, description="oil of the stage")


class Stage(Model):
    """A stage of the train: its members and their meshes. This version knows pairs, external and internal."""

    id: str = Field(
        "",
        max_length=40,
        pattern=r"^([A-Za-z][A-Za-z0-9_]*)?$",
        description="identity, by which formulas name it; given where it is empty",
    )
    name: str = Field("Stage 1", max_length=80, pattern=NO_CONTROLS, description="what the stage is called")
    kind: Literal["pair"] = Field("pair", description="arrangement of the stage")
    members: Annotated[tuple[Gear, ...], Field(min_length=2, max_length=2)]
    meshes: Annotated[tuple[Mesh, ...], Field(min_length=1, max_length=1)]
    own: StageOwn = StageOwn()

    @property
    def kinds(self) -> tuple[Kind, Kind]:
        """The kinds of the driving and the driven gear."""
        mesh = self.meshes[0]
        return kind_of(self.members[mesh.driver]), kind_of(self.members[mesh.driven])

    @property
    def kind_of_pair(self) -> Kind:
        """The kind of the pair, which is that of its driven gear."""
        return self.kinds[1]

    @model_validator(mode="after")
    def _pair(self) -> Stage:
        mesh = self.meshes[0]
        if {mesh.driver, mesh.driven} != {0, 1}:
            raise ValueError("the mesh must join member 0 and member 1")
        one, two = self.members[mesh.driver], self.members[mesh.driven]
        if not kind_of(one).drives:
            raise ValueError(
                f"z = {one.z} of {one.name}: a {kind_of(one).name} is the driven gear of a pair, an external wheel drives it"
            )
        fault = kind_of(two).pair_fault(one, two)
        if fault:
            raise ValueError(fault)
        free = [n for n, v in (("x_1", self.members[0].x), ("x_2", self.members[1].x), ("a_w", mesh.a_w)) if v is None]
        if len(free) != 1:
            raise ValueError(
                f"of x_1, x_2 and a_w two are given and one is null, to be solved; null here: {', '.join(free) or 'none'}"
            )
        return self


class Losses(Model):
    """How losses are counted, and what they need of housing, bearings and seals."""

    counted: Literal["mesh", "all"] = Field("mesh", description="losses in the efficiency: of the meshes alone, or all")
    method: Literal["ISO/TR 14179-1", "ISO/TR 14179-2"] = Field(
        "ISO/TR 14179-2", description="method of churning and seals"
    )
    friction: Literal["ISO/TR 14179-2", "ISO/TR 14179-1", "along the path"] = Field(
        "ISO/TR 14179-2", description="friction of the mesh: mean coefficient of either report, or local along the path"
    )
    bearing: str = Field("deep groove ball", description="type of the shafts' rolling bearings, two a shaft")
    tau_sh: float = quantity("tau_sh", 15.0, ge=1, le=200)
    seals: int = quantity("seals", 2, ge=0, le=4)
    seal: Literal["FKM", "NBR"] = Field("FKM", description="material of the rubbing seals at input and output")
    h_e: float = quantity("h_e", 0.0, ge=0, le=1e4)
    l_hyd: float = quantity("l_hyd", 200.0, gt=0, le=1e5)
    A_h: float | None = quantity("A_h", None, gt=0, le=1e4)
    k_h: float = quantity("k_h", 15.0, gt=0, le=500)
    theta_air: float = quantity("theta_air", 20.0, ge=-60, le=80)
    oil_by_balance: bool = Field(False, description="oil temperature from the heat balance in place of the duty's")

    @model_validator(mode="after")
    def _known(self) -> Losses:
        if self.bearing not in bearing_types():
            raise ValueError(f"bearing {self.bearing!r} is not known; known: {', '.join(bearing_types())}")
        if self.oil_by_balance and (self.A_h is None or self.counted != "all"):
            raise ValueError(
                "the oil temperature from the heat balance needs the housing's area A_h, and all losses counted"
            )
        return self


SET_ROLES = {
    "planetary": ("sun", "carrier", "ring"),
    "stepped": ("sun", "carrier", "ring"),
    "two rings": ("carrier", "ring", "ring 2", "sun"),
    "idler": ("first gear", "last gear"),
}
"""The shafts of each kind of set that can be driven, held or taken off; of two rings the sun where there is one."""


class SetData(Model):
    """Meshes that work as one: neighbouring stages of the train whose gears share planets, or an idler.

    planetary: sun with planet, planet with ring. stepped: sun with planet, second gear of the planet with ring. two rings:
    planet with ring, second gear of the planet with ring 2, and where a sun stands between the planets a third stage, sun with
    planet; it is free, and bears the planets alone, unless it is driven, held or taken off. idler: first gear with idler, idler with last gear.
    """

    name: str = Field("Planet set", max_length=80, pattern=NO_CONTROLS, description="what the set is called")
    kind: Literal["planetary", "stepped", "two rings", "idler"] = Field("planetary", description="arrangement")
    planets: int = quantity("n_planets", 3, ge=1, le=24)
    held: str | None = Field("ring", description="shaft that is held; null for an idler")
    input: str = Field("sun", description="shaft at which power comes in")
    output: str = Field("carrier", description="shaft at which power is taken")
    floating: bool = Field(True, description="a member floats between the planets, so that they share the load evenly")
    K_gamma: float | None = quantity("K_gamma", None, ge=1, le=5)
    free_sun: bool = Field(
        False,
        description="two rings: a sun stands between the planets; free, and without torque, unless it is driven, held or taken off",
    )
    agree: Literal["shift", "module", "helix"] = Field(
        "shift", description="what makes the second mesh of stepped planets agree with the first one's centre distance"
    )

    @property
    def sun_works(self) -> bool:
        """Whether the sun between the planets of two rings bears torque."""
        return self.free_sun and "sun" in (self.input, self.output, self.held)

    @model_validator(mode="after")
    def _roles(self) -> Self:
        shafts = tuple(s for s in SET_ROLES[self.kind] if self.kind != "two rings" or self.free_sun or s != "sun")
        wanted = [self.input, self.output] + ([] if self.kind == "idler" else [self.held])
        for role in wanted:
            if role not in shafts:
                raise ValueError(f"{role!r} is no shaft of a set of kind {self.kind}: it has {', '.join(shafts)}")
        if len(set(wanted)) != len(wanted):
            told = ", ".join(str(w) for w in wanted)
            raise ValueError(f"input, output and held shaft must be three different ones; these are {told}")
        if self.kind == "idler" and (self.planets != 1 or self.held is not None):
            raise ValueError("an idler is one gear between two others: planets is 1 and nothing is held")
        if self.free_sun and self.kind != "two rings":
            raise ValueError(f"a free sun supports the planets of two rings; this set is of kind {self.kind}")
        if self.agree != "shift" and self.kind not in ("stepped", "two rings"):
            raise ValueError(
                f"the meshes of a set of kind {self.kind} share one gear, so that their centre distances agree by shift alone"
            )
        return self


class GearSet(SetData):
    """A set at its place in the train."""

    first: int = Field(0, ge=0, description="place of the set's first stage in the train; the second follows it")

    @property
    def stages(self) -> range:
        """Places of the set's stages in the train."""
        return range(self.first, self.first + (3 if self.free_sun else 2))


class Train(Model):
    """Duty, defaults and the stages in the order in which power flows."""

    duty: Duty
    defaults: Defaults = Defaults()
    losses: Losses = Losses()
    stages: Annotated[tuple[Stage, ...], Field(min_length=1, max_length=12)]
    sets: Annotated[tuple[GearSet, ...], Field(max_length=6)] = Field((), description="stages that work as one")

    @field_validator("sets")
    @classmethod
    def _in_order(cls, sets: tuple[GearSet, ...]) -> tuple[GearSet, ...]:
        """In the order of their stages, as the results have them."""
        return tuple(sorted(sets, key=lambda s: s.first))

    @model_validator(mode="after")
    def _identities(self) -> Train:
        """Every stage and gear has an identity of its own, kept from state to state; a gear in two meshes is one object."""
        if (stages := identified(self.stages, self.sets)) is not self.stages:
            self.__dict__["stages"] = stages
        return self

    @model_validator(mode="after")
    def _gives_off_heat(self) -> Train:
        plastics = self.defaults.plastics
        if (
            plastics.heat == "by friction"
            and plastics.running != "oil bath"
            and plastics.housing != "open"
            and self.losses.A_h is None
        ):
            raise ValueError(
                f"the warmth of plastic teeth in a {plastics.housing} housing needs its area A_h, which is not given"
            )
        return self

    @model_validator(mode="after")
    def _sets_fit(self) -> Train:
        taken: set[int] = set()
        for one in self.sets:
            told = " and ".join(str(k + 1) for k in one.stages)
            if one.stages[-1] >= len(self.stages):
                raise ValueError(f"{one.name}: its stages {told} are not all there")
            if taken & set(one.stages):
                raise ValueError(f"{one.name}: one of its stages {told} belongs to another set already")
            taken |= set(one.stages)
            fault = set_fault(one, tuple(self.stages[k] for k in one.stages))
            if fault:
                raise ValueError(f"{one.name}: {fault}")
        return self

    @model_validator(mode="after")
    def _turning(self) -> Train:
        for k, stage in enumerate(self.stages[:-1], 1):
            kind = stage.kind_of_pair
            if not kind.turns:
                raise ValueError(
                    f"stage {k} ends in a {kind.name}, which cannot turn the next stage: a {kind.name} comes last"
                )
        return self


def one_gear(one: GearSet) -> dict[tuple[int, int], tuple[int, int]]:
    """Places (stage, member) of a set whose gear is that of another place."""
    k = one.first
    same = {(k + 1, 0): (k, 1)} if one.kind in ("planetary", "idler") else {}
    return same | ({(k + 2, 1): (k, 0)} if one.free_sun else {})


def identified(stages: tuple[Stage, ...], sets: tuple[GearSet, ...]) -> tuple[Stage, ...]:
    """The stages with an identity each, and so their gears; what has one keeps it, of two with the same the first.

    The very same stages where nothing is to be done.
    """
    same = {place: other for one in sets for place, other in one_gear(one).items()}
    taken: set[str] = set()

    def name(wanted: str, word: str) -> str:
        if not wanted or wanted in taken:
            everything = taken | {s.id for s in stages} | {g.id for s in stages for g in s.members}
            wanted = next(f"{word}{n}" for n in range(1, 999) if f"{word}{n}" not in everything)
        taken.add(wanted)
        return wanted

    gears: dict[tuple[int, int], Gear] = {}
    found: list[Stage] = []
    for k, stage in enumerate(stages):
        for i, gear in enumerate(stage.members):
            twin = gears.get(same.get((k, i), (-1, -1)))
            if twin is not None and twin == gear.model_copy(update={"id": twin.id}):
                gears[k, i] = twin
            elif twin is not None:
                # What makes them two is told by `set_fault`.
                gears[k, i] = gear
            else:
                own = name(gear.id, "gear")
                gears[k, i] = gear if own == gear.id else gear.model_copy(update={"id": own})
        members = tuple(gears[k, i] for i in range(len(stage.members)))
        own = name(stage.id, "stage")
        kept = own == stage.id and all(a is b for a, b in zip(members, stage.members, strict=True))
        found.append(stage if kept else stage.model_copy(update={"id": own, "members": members}))
    return stages if all(a is b for a, b in zip(found, stages, strict=True)) else tuple(found)


INWARD: dict[str, tuple[bool | None, ...]] = {
    "planetary": (False, False, True),
    "stepped": (False, False, True),
    "two rings": (False, True, True),
    "idler": (False, False, None),
}
"""Which gears of a set, in the order in which its meshes name them, have teeth that point inward; None for either."""
SHARED_MESH = ("alpha_n", "beta", "m_n", "P_nd")
"""What both meshes of a gear that stands in them have in common."""


def set_fault(one: GearSet, stages: tuple[Stage, ...]) -> str:
    """What keeps stages from being such a set; empty when they are."""
    first, second = stages[:2]
    (sun, planet), (again, ring) = first.members, second.members
    if any((s.meshes[0].driver, s.meshes[0].driven) != (0, 1) for s in stages):
        return "in its stages member 0 drives member 1"
    for s in stages:
        if not s.kind_of_pair.turns:
            return f"a {s.kind_of_pair.name} is no member of a set"
    if one.free_sun:
        free, at_sun = stages[2].members
        if at_sun.model_copy(update={"id": first.members[0].id}) != first.members[0]:
            return "the gear of the planets that meets the free sun must be the one that meets the first ring"
        if kind_of(free).inward:
            return f"z = {free.z} of {free.name}: the free sun has external teeth"
    if one.kind in ("planetary", "idler") and planet != again.model_copy(update={"id": planet.id}):
        for n in type(planet).model_fields:
            a, b = getattr(planet, n), getattr(again, n)
            if n != "id" and a != b:
                return f"the gear in both meshes must be one and the same; its {n} is {a} and {b}"
        return "the gear in both meshes must be one and the same; what this version does not know of it differs"
    if one.kind in ("planetary", "idler"):
        for n in SHARED_MESH:
            a, b = (getattr(s.meshes[0], n) for s in (first, second))
            if a != b:
                return f"both meshes of one gear have one {n}; these have {a} and {b}"
    for gear, inward in zip((sun, planet, ring), INWARD[one.kind], strict=True):
        if inward is not None and kind_of(gear).inward != inward:
            return (
                f"z = {gear.z} of {gear.name}: a gear with {'internal' if inward else 'external'} teeth belongs there"
            )
    return ""


class Design(Model):
    """The whole document."""

    format: Literal["cooper-design"] = Field("cooper-design", description="says that this file is a Cooper design")
    version: Literal[2] = Field(2, description="version of the format")
    name: str = Field("Untitled train", max_length=120, pattern=NO_CONTROLS, description="name of the design")
    place: str = Field("", max_length=120, pattern=NO_CONTROLS, description="where the machine stands or is made")
    train: Train
    names: dict[str, str] = Field({}, max_length=MOST_NAMES, description="named values: name and number or formula")
    formulas: dict[str, str] = Field(
        {}, max_length=MOST_NAMES, description="formulas: full name of a quantity, as stage1.b_1, and its formula"
    )


def at_stage(train: Train, k: int) -> tuple[Duty, Defaults]:
    """Duty and defaults that hold for stage k: the train's, with what the stage states of its own."""
    own = {n: v for n, v in train.stages[k].own if v is not None and n in StageOwn.model_fields}
    if not own:
        return train.duty, train.defaults
    duty = {n: v for n, v in own.items() if n in Duty.model_fields}
    return train.duty.model_copy(update=duty), train.defaults.model_copy(
        update={n: v for n, v in own.items() if n not in duty}
    )


def set_of(train: Train, k: int) -> GearSet | None:
    """The set that stage k belongs to."""
    return next((s for s in train.sets if k in s.stages), None)
