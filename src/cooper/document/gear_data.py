"""One gear and one mesh as they are entered."""

from __future__ import annotations

from typing import Literal, Self

from pydantic import Field, field_validator, model_validator

from cooper.document.base import NO_CONTROLS, Model, quantity
from cooper.document.drawing_data import Drawing
from cooper.kinds.known import kind_of, shapes
from cooper.stock.materials import groups


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


class Flanks(Model):
    """What is taken off flanks of a gear's teeth on purpose. Reliefs reach over a length of roll from the ends of the contact; null is the long one,
    from where a single pair begins to bear."""

    C_alphaa: float = quantity("C_alphaa", 0.0, ge=0, le=500)
    l_Ca: float | None = quantity("l_Ca", None, gt=0, le=1e4)
    C_alphaf: float = quantity("C_alphaf", 0.0, ge=0, le=500)
    l_Cf: float | None = quantity("l_Cf", None, gt=0, le=1e4)
    relief: Literal["straight", "curved", "circular"] = Field("straight", description="run of tip and root relief")
    C_alpha: float = quantity("C_alpha", 0.0, ge=0, le=200)
    C_Halpha: float = quantity("C_Halpha", 0.0, ge=-200, le=200)
    C_betaI: float = quantity("C_betaI", 0.0, ge=0, le=500)
    l_CI: float = quantity("l_CI", 0.0, ge=0, le=5000)
    C_betaII: float = quantity("C_betaII", 0.0, ge=0, le=500)
    l_CII: float = quantity("l_CII", 0.0, ge=0, le=5000)

    @model_validator(mode="after")
    def _ends(self) -> Self:
        for C, l, side in ((self.C_betaI, self.l_CI, "left"), (self.C_betaII, self.l_CII, "right")):
            if C > 0 and l == 0:
                raise ValueError(f"an end relief of {C:g} um needs a length; that of the {side} end is 0")
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
    tool: Literal["rack", "pinion cutter", "form", "elliptic"] = Field(
        "rack",
        description="what makes the root: a rack or hob, a pinion-shaped cutter, a form with a plain fillet, or one with an arc of an ellipse",
    )
    h_Ff: float = quantity("h_Ff", 1.0, ge=0.2, le=2)
    w_F: float = quantity("w_F", 0.6, ge=0.05, le=0.98)
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
    HV_core: float | None = quantity("HV_core", None, ge=150, le=540)
    k_W: float | None = quantity("k_W", None, ge=0, le=1000)
    S_Hmin: float | None = quantity("S_Hmin", None, gt=0, le=10)
    S_Fmin: float | None = quantity("S_Fmin", None, gt=0, le=10)
    t_g: float = quantity("t_g", 0.0, ge=0, le=10)
    rho_g: float = quantity("rho_g", 1.0, gt=0, le=100)
    flanks: Flanks = Field(
        Flanks(), description="forms of the right flanks, and of the left ones where those have none of their own"
    )
    flanks_left: Flanks | None = Field(
        None,
        description="forms of the left flanks, at the left of a tooth that points up, seen from the front; null: as the right ones",
    )
    drawing: Drawing = Drawing()
    Q: int = quantity("Q", 7, ge=1, le=12)
    Rz_H: float = quantity("Rz_H", 6.0, gt=0, le=100)
    Rz_F: float = quantity("Rz_F", 16.0, gt=0, le=100)

    @property
    def each_flanks(self) -> tuple[Flanks, Flanks]:
        """Forms of the right flanks and of the left ones."""
        return self.flanks, self.flanks_left or self.flanks

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
    K_Hbeta_method: Literal["entered", "C", "f_sh", "shafts"] = Field(
        "entered",
        description="face load factor: entered, by method C from the shafts and the helix deviations, from an entered misalignment f_sh of the shafts, or from the shafts of the machine (Annex E)",
    )
    C_Hbeta: float = quantity("C_Hbeta", 0.0, ge=-1000, le=1000)
    C_beta: float = quantity("C_beta", 0.0, ge=0, le=1000)
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
