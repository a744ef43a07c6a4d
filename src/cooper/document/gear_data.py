"""One gear and one mesh as they are entered."""

from typing import Annotated, Any, Literal

from cooper.document.base import NO_CONTROLS, Model, Rule, about, quantity
from cooper.document.drawing_data import Drawing
from cooper.document.duty import StageOverrides
from cooper.i18n.text import tr
from cooper.kinds.known import kind_of, shapes
from cooper.stock.materials import groups


class Material(Model, frozen=True, kw_only=True):
    """Material group and grade of ISO 6336-5 with its hardness."""

    group: Annotated[str, about("material group of ISO 6336-5 (V, Eh, St, GGG …) or one beyond it (POM, brass …)")] = (
        "V"
    )
    grade: Annotated[
        Literal["ML", "MQ", "ME", "typical", "along layers", "across layers"],
        about(
            "material quality grade of ISO 6336-5; typical for groups beyond it; of printed plastics whether the "
            "root is in tension along the layers "
            "(printed lying on its face) or across them (printed standing)"
        ),
    ] = "MQ"
    hardness: Annotated[float, quantity("hardness", ge=50, le=1200)] = 300.0
    R_p02: Annotated[float, quantity("R_p02", ge=100, le=3000)] | None = None
    core: Annotated[
        Literal["25 HRC", "30 HRC", "lower hardenability"],
        about("core of case-hardened teeth of grade MQ: hardness at least, or 25 HRC with the lower hardenability"),
    ] = "25 HRC"
    peened: Annotated[bool, about("roots of case-hardened teeth shot peened under control")] = False
    name: Annotated[
        str, about("name of an own material; empty for one of the stock", max_length=80, pattern=NO_CONTROLS)
    ] = ""
    sigma_Hlim: Annotated[float, quantity("sigma_Hlim", ge=1, le=5000)] | None = None
    sigma_Flim: Annotated[float, quantity("sigma_Flim", ge=1, le=3000)] | None = None
    E: Annotated[float, quantity("E", ge=100, le=1e6)] | None = None
    density: Annotated[float, quantity("density", ge=500, le=2e4)] | None = None
    price_index: Annotated[float, quantity("price_index", ge=0, le=1e4)] | None = None

    def __post_init__(self) -> None:
        if self.group not in groups():
            raise ValueError(
                tr(
                    "material group {group!r} is not known; known: {groups}",
                    group=self.group,
                    groups=", ".join(groups()),
                )
            )
        if self.grade not in groups()[self.group]["grades"]:
            held = ", ".join(groups()[self.group]["grades"])
            raise ValueError(
                tr(
                    "material group {group} has no grade {grade}; it has {held}",
                    group=self.group,
                    grade=self.grade,
                    held=held,
                )
            )


class Flanks(Model, frozen=True, kw_only=True):
    """What is taken off flanks of a gear's teeth on purpose. Reliefs reach over a length of roll from the ends of
    the contact; null is the long one, from where a single pair begins to bear."""

    C_alphaa: Annotated[float, quantity("C_alphaa", ge=0, le=500)] = 0.0
    l_Ca: Annotated[float, quantity("l_Ca", gt=0, le=1e4)] | None = None
    C_alphaf: Annotated[float, quantity("C_alphaf", ge=0, le=500)] = 0.0
    l_Cf: Annotated[float, quantity("l_Cf", gt=0, le=1e4)] | None = None
    relief: Annotated[Literal["straight", "curved", "circular"], about("run of tip and root relief")] = "straight"
    C_alpha: Annotated[float, quantity("C_alpha", ge=0, le=200)] = 0.0
    C_Halpha: Annotated[float, quantity("C_Halpha", ge=-200, le=200)] = 0.0
    C_betaI: Annotated[float, quantity("C_betaI", ge=0, le=500)] = 0.0
    l_CI: Annotated[float, quantity("l_CI", ge=0, le=5000)] = 0.0
    C_betaII: Annotated[float, quantity("C_betaII", ge=0, le=500)] = 0.0
    l_CII: Annotated[float, quantity("l_CII", ge=0, le=5000)] = 0.0

    def __post_init__(self) -> None:
        for C, l, side in ((self.C_betaI, self.l_CI, "left"), (self.C_betaII, self.l_CII, "right")):
            if C > 0 and l == 0:
                raise ValueError(
                    tr("an end relief of {C:g} µm needs a length; that of the {side} end is 0", C=C, side=side)
                )


class Gear(Model, frozen=True, kw_only=True):
    """One gear of a stage: tooth data, tool, blank, material."""

    id: Annotated[
        str, about("identity within the train; given where it is empty", max_length=40, pattern=NO_CONTROLS)
    ] = ""
    name: Annotated[str, about("what the gear is called", max_length=80, pattern=NO_CONTROLS)] = "gear"
    shape: Annotated[
        str, about("a wheel, or a rack, of which z teeth are cut", extra_json_schema={"enum": list(shapes())})
    ] = "gear"
    z: Annotated[int, quantity("z", ge=-2000, le=2000)]
    x: Annotated[float, quantity("x", ge=-3, le=3)] | None = 0.0
    b: Annotated[float, quantity("b", gt=0, le=5000)]
    d_a: Annotated[float, quantity("d_a", gt=0, le=1e5)] | None = None
    h_aP: Annotated[float, quantity("h_aP", ge=0.3, le=1.6)] = 1.0
    h_fP: Annotated[float, quantity("h_fP", ge=0.5, le=2)] = 1.25
    rho_fP: Annotated[float, quantity("rho_fP", ge=0, le=0.8)] = 0.38
    E_sns: Annotated[float, quantity("E_sns", ge=-20, le=5)] = -0.05
    E_sni: Annotated[float, quantity("E_sni", ge=-20, le=5)] = -0.1
    tool: Annotated[
        Literal["rack", "pinion cutter", "form", "elliptic"],
        about(
            "what makes the root: a rack or hob, a pinion-shaped cutter, a form with a plain fillet, or one with "
            "an arc of an ellipse"
        ),
    ] = "rack"
    h_Ff: Annotated[float, quantity("h_Ff", ge=0.2, le=2)] = 1.0
    w_F: Annotated[float, quantity("w_F", ge=0.05, le=0.98)] = 0.6
    z_0: Annotated[int, quantity("z_0", ge=6, le=400)] = 25
    x_0: Annotated[float, quantity("x_0", ge=-1, le=1)] = 0.0
    pr_P: Annotated[float, quantity("pr_P", ge=0, le=10)] = 0.0
    q_P: Annotated[float, quantity("q_P", ge=0, le=10)] = 0.0
    alpha_prP: Annotated[float, quantity("alpha_prP", ge=0, le=30)] = 8.0
    h_K: Annotated[float, quantity("h_K", ge=0, le=100)] = 0.0
    delta_K: Annotated[float, quantity("delta_K", ge=20, le=75)] = 45.0
    rho_a: Annotated[float, quantity("rho_a", ge=0, le=100)] = 0.0
    d_bore: Annotated[float, quantity("d_bore", ge=0, le=1e5)] = 0.0
    d_i: Annotated[float, quantity("d_i", gt=0, le=1e5)] | None = None
    b_s: Annotated[float, quantity("b_s", gt=0, le=5000)] | None = None
    d_rim: Annotated[float, quantity("d_rim", gt=0, le=1e5)] | None = None
    h_back: Annotated[float, quantity("h_back", gt=0, le=1e4)] = 10.0
    d_s: Annotated[float, quantity("d_s", gt=0, le=1e5)] | None = None
    material: Material = Material()
    treatment: Annotated[
        Literal["none", "phosphated", "copper plated", "little retained austenite", "much retained austenite"],
        about("treatment or structure of the flanks, which counts for scuffing (factor X_W)"),
    ] = "none"
    bending: Annotated[
        Literal["one way", "both ways"],
        about("teeth loaded on one flank alone, or on both in turn as those of idlers and planets"),
    ] = "one way"
    R_bend: Annotated[float, quantity("R_bend", ge=-1.2, le=0)] = -1.2
    swelling: Annotated[float, quantity("swelling", ge=0, le=5)] = 0.0
    CHD: Annotated[float, quantity("CHD", gt=0, le=15)] | None = None
    HV_core: Annotated[float, quantity("HV_core", ge=150, le=540)] | None = None
    k_W: Annotated[float, quantity("k_W", ge=0, le=1000)] | None = None
    S_Hmin: Annotated[float, quantity("S_Hmin", gt=0, le=10)] | None = None
    S_Fmin: Annotated[float, quantity("S_Fmin", gt=0, le=10)] | None = None
    t_g: Annotated[float, quantity("t_g", ge=0, le=10)] = 0.0
    rho_g: Annotated[float, quantity("rho_g", gt=0, le=100)] = 1.0
    flanks: Annotated[
        Flanks, about("forms of the right flanks, and of the left ones where those have none of their own")
    ] = Flanks()
    flanks_left: Annotated[
        Flanks | None,
        about(
            "forms of the left flanks, at the left of a tooth that points up, seen from the front; null: as the "
            "right ones"
        ),
    ] = None
    drawing: Drawing = Drawing()
    Q: Annotated[int, quantity("Q", ge=1, le=12)] = 7
    Rz_H: Annotated[float, quantity("Rz_H", gt=0, le=100)] = 6.0
    Rz_F: Annotated[float, quantity("Rz_F", gt=0, le=100)] = 16.0

    @property
    def each_flanks(self) -> tuple[Flanks, Flanks]:
        """Forms of the right flanks and of the left ones."""
        return self.flanks, self.flanks_left or self.flanks

    @property
    def notch(self) -> float:
        """Depth of the grinding notch (mm): as entered, else what the stock has more than the protuberance takes
        away before grinding."""
        return self.t_g or round(max(self.q_P - self.pr_P, 0.0), 12)

    def __post_init__(self) -> None:
        if self.shape not in shapes():
            raise Rule(
                "shape",
                tr(
                    "{shape!r} is no shape of a gear; there are {shapes}",
                    shape=self.shape[:40],
                    shapes=", ".join(shapes()),
                ),
            )
        if self.E_sni > self.E_sns:
            raise ValueError(
                tr(
                    "the lower tooth thickness allowance E_sni = {E_sni:g} mm lies above the upper E_sns = "
                    "{E_sns:g} mm",
                    E_sni=self.E_sni,
                    E_sns=self.E_sns,
                )
            )
        self._makeable()

    def _makeable(self) -> None:
        if abs(self.z) < 4:
            raise ValueError(tr("a gear has 4 or more teeth, an internal one -4 or fewer; this has z = {z}", z=self.z))
        fault = kind_of(self).fault(self)
        if fault:
            raise ValueError(fault)
        if self.d_i is not None and self.d_i <= self.d_bore:
            raise ValueError(
                tr(
                    "the rim's inner diameter d_i = {d_i:g} mm must be greater than the bore of {d_bore:g} mm",
                    d_i=self.d_i,
                    d_bore=self.d_bore,
                )
            )
        if self.h_K > 0 and self.rho_a > 0:
            raise ValueError(
                tr(
                    "a tip is chamfered (h_K = {h_K:g} mm) or rounded (rho_a = {rho_a:g} mm), not both",
                    h_K=self.h_K,
                    rho_a=self.rho_a,
                )
            )
        if self.notch > 4 * self.rho_g:
            whence = (
                tr("t_g = {t_g:g} mm", t_g=self.t_g)
                if self.t_g
                else tr("stock less protuberance, {notch:g} mm,", notch=self.notch)
            )
            raise ValueError(
                tr(
                    "{whence} is too deep a grinding notch for rho_g = {rho_g:g} mm: its stress is known up to "
                    "{rho_g_2:g} mm",
                    whence=whence,
                    rho_g=self.rho_g,
                    rho_g_2=4 * self.rho_g,
                )
            )
        if self.tool != "rack" and (self.pr_P > 0 or self.q_P > 0):
            raise ValueError(tr("protuberance and grinding stock belong to a rack or hob"))


class Mesh(Model, frozen=True, kw_only=True):
    """Two gears in mesh, a stage of the train. One of module, diametral pitch and both reference diameters is given,
    the others are null."""

    id: Annotated[
        str,
        about(
            "identity, by which formulas name it; given where it is empty",
            max_length=40,
            pattern=r"^([A-Za-z][A-Za-z0-9_]*)?$(?!\n)",
        ),
    ] = ""
    name: Annotated[str, about("what the stage is called", max_length=80, pattern=NO_CONTROLS)] = "Stage 1"
    driver: Annotated[str, about("identity of the driving gear", max_length=40, pattern=NO_CONTROLS)] = ""
    driven: Annotated[str, about("identity of the driven gear", max_length=40, pattern=NO_CONTROLS)] = ""
    share: Annotated[float, quantity("P_share", gt=0, le=1)] | None = None
    own: StageOverrides = StageOverrides()
    alpha_n: Annotated[float, quantity("alpha_n", ge=10, le=35)] = 20.0
    beta: Annotated[float, quantity("beta", ge=0, le=45)] = 0.0
    hand: Annotated[
        Literal["right", "left"],
        about("hand of the driving gear's helix; the driven one has the other (no meaning when beta is 0)"),
    ] = "right"
    double_helix: Annotated[bool, about("two halves of opposite hand side by side; b is both without the gap")] = False
    b_gap: Annotated[float, quantity("b_gap", ge=0, le=1000)] = 0.0
    f_ZCa: Annotated[float, quantity("f_ZCa", ge=1, le=1.5)] = 1.2
    m_n: Annotated[float, quantity("m_n", ge=0.02, le=100)] | None = None
    P_nd: Annotated[float, quantity("P_nd", ge=0.2, le=1200)] | None = None
    d_1: Annotated[float, quantity("d", gt=0, le=1e5)] | None = None
    d_2: Annotated[float, quantity("d", gt=0, le=1e5)] | None = None
    a_w: Annotated[float, quantity("a_w", gt=0, le=1e5)] | None = None
    A_as: Annotated[float, quantity("A_as", ge=-10, le=10)] = 0.02
    A_ai: Annotated[float, quantity("A_ai", ge=-10, le=10)] = -0.02
    K_V_method: Annotated[Literal["B", "C"], about("method of the dynamic factor K_V: B resonance, C simplified")] = "C"
    K_Hbeta_method: Annotated[
        Literal["entered", "C", "f_sh", "shafts"],
        about(
            "face load factor: entered, by method C from the shafts and the helix deviations, from an entered "
            "misalignment f_sh of the shafts, or from the shafts of the machine (Annex E)"
        ),
    ] = "entered"
    C_Hbeta: Annotated[float, quantity("C_Hbeta", ge=-1000, le=1000)] = 0.0
    C_beta: Annotated[float, quantity("C_beta", ge=0, le=1000)] = 0.0
    K_Halpha_method: Annotated[
        Literal["entered", "B"], about("transverse load factors: entered, or by method B from the pitch deviations")
    ] = "entered"
    K_gamma: Annotated[float, quantity("K_gamma", ge=1, le=5)] = 1.0
    load_at: Annotated[
        Literal["by quality", "outer single contact", "tip"], about("where the load of the root rating acts")
    ] = "by quality"
    K_Hbeta: Annotated[float, quantity("K_Hbeta", ge=1, le=10)] = 1.2
    K_Halpha: Annotated[float, quantity("K_Halpha", ge=1, le=10)] = 1.0
    l_sh: Annotated[float, quantity("l_sh", gt=0, le=1e5)] = 60.0
    s_sh: Annotated[float, quantity("s_sh", ge=0, le=1e5)] = 0.0
    d_sh: Annotated[float, quantity("d_sh", gt=0, le=1e5)] = 15.0
    arrangement: Annotated[
        Literal["a", "b", "c", "d", "e"], about("place of the pinion on its shaft (ISO 6336-1, factor K')")
    ] = "a"
    wheel_shaft: Annotated[Literal["stiff", "counted"], about("method C: whether the wheel's shaft bends too")] = (
        "stiff"
    )
    l_sh2: Annotated[float, quantity("l_sh", gt=0, le=1e5)] = 60.0
    s_sh2: Annotated[float, quantity("s_sh", ge=0, le=1e5)] = 0.0
    d_sh2: Annotated[float, quantity("d_sh", gt=0, le=1e5)] = 20.0
    arrangement_2: Annotated[
        Literal["a", "b", "c", "d", "e"], about("place of the wheel on its shaft (ISO 6336-1, factor K')")
    ] = "a"
    f_sh: Annotated[float, quantity("f_sh", ge=0, le=1000)] = 5.0
    helix_modification: Annotated[
        Literal["none", "crowned", "crowned for manufacture", "corrected", "corrected and crowned", "end relief"],
        about("helix modification of the pair"),
    ] = "none"
    C_a: Annotated[float, quantity("C_a", ge=0, le=500)] = 0.0
    mounting: Annotated[
        Literal["open", "commercial", "precision", "extra precision"],
        about("how the gears are mounted (ANSI/AGMA 2101-D04, mesh alignment)"),
    ] = "commercial"
    adjusted: Annotated[bool, about("contact adjusted at assembly, lapped or shimmed (ANSI/AGMA 2101-D04)")] = False
    mu_pl: Annotated[float, quantity("mu_pl", gt=0, le=1)] | None = None
    K_s: Annotated[float, quantity("K_s", ge=1, le=3)] = 1.0
    A_v: Annotated[int, quantity("A_v", ge=6, le=12)] | None = None

    @classmethod
    def older(cls, data: dict[str, Any]) -> dict[str, Any]:
        """A crowning said to match the deformation was counted as one that takes it away whole; the table has no
        such case, the nearest is a correction with crowning."""
        there = data.get("helix_modification")
        return {**data, "helix_modification": "corrected and crowned"} if there == "crowned to load" else data

    def __post_init__(self) -> None:
        given = [n for n in SIZES if getattr(self, n) is not None]
        if len(given) != 1:
            raise ValueError(
                tr(
                    "one of {sizes} sets the size of the teeth; this mesh gives {given} ({value})",
                    sizes=", ".join(SIZES),
                    given=len(given),
                    value=", ".join(given) or "none",
                )
            )
        if self.A_ai > self.A_as:
            raise ValueError(
                tr(
                    "the lower centre distance allowance A_ai = {A_ai:g} mm lies above the upper A_as = {A_as:g} mm",
                    A_ai=self.A_ai,
                    A_as=self.A_as,
                )
            )
        shafts = [("pinion", self.l_sh, self.s_sh, self.arrangement)]
        if self.wheel_shaft == "counted":
            shafts.append(("wheel", self.l_sh2, self.s_sh2, self.arrangement_2))
        for word, l_sh, s_sh, arrangement in shafts:
            if self.K_Hbeta_method == "C" and s_sh > l_sh / 2 and arrangement != "c":
                raise ValueError(
                    tr(
                        "s_sh = {s_sh:g} mm puts the {word} beyond its bearings, which are l_sh = {l_sh:g} mm apart; "
                        "that is arrangement c (overhung)",
                        s_sh=s_sh,
                        word=word,
                        l_sh=l_sh,
                    )
                )
        if self.double_helix and self.beta == 0:
            raise ValueError(tr("a double helix needs a helix angle beta above 0"))
        if self.driver and self.driver == self.driven:
            raise ValueError(tr("a gear cannot mesh with itself: driver and driven name the same gear"))


SIZES = ("m_n", "P_nd", "d_1", "d_2")
