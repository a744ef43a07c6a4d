"""One design for each arrangement and material that is searched: the pattern that its candidates differ from in
numbers alone."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from msgspec import Struct

from cooper.document.change import with_fields
from cooper.document.duty import Defaults, Duty, Lubricant, Plastics
from cooper.document.gear_data import Gear, Material, Mesh
from cooper.document.models import Design, Losses, Train
from cooper.document.row import in_row, pair_of
from cooper.document.survey_spec import MaterialChoice, SurveySpec
from cooper.editing.edit import give_kind, set_many
from cooper.editing.make_sets import with_free_sun, with_roles, with_set
from cooper.editing.stages import with_row
from cooper.i18n.text import tr
from cooper.i18n.translate import translate
from cooper.kinds.internal_wheel import INTERNAL
from cooper.kinds.known import kind_of
from cooper.stock.lubricants import oils
from cooper.stock.materials import is_plastic
from cooper.stock.processes import Process, processes
from cooper.stock.racks import rack_profiles

START = (20, 50)
"""Counts with which a pattern begins."""


class Pattern(Struct, frozen=True):
    """A design to differ from, the arrangement that it is of, and what its materials and racks are in words."""

    arrangement: str
    design: Design
    materials: str
    rack: str
    label: str


def from_duty(duty: Duty, process: str, name: str = tr("From a duty")) -> Design:
    """A design for a duty with what customarily goes with a process: one pair, that a survey starts from.

    Parameters
    ----------
    duty : Duty
        Power, speeds and life.
    process : str
        Way of making.
    name : str
        Name of the design.

    Returns
    -------
    Design
        The design.

    Notes
    -----
    Its size is a first guess: the module grows with the cube root of the torque.
    """
    from cooper.document.survey_spec import asked
    from cooper.results.solve_stage import solve_duty

    way, choice = processes()[process], asked(process=process).materials[0]
    _, T, _ = solve_duty(duty)
    guess = 0.55 * max(T, 1e-3) ** (1 / 3)
    m_n = min(max(round(guess, 1), way.module[0]), way.module[1])
    u = duty.u_wanted or 1.0
    z_1, z_2 = (
        (START[0], min(max(round(START[0] * u), 17), 150)) if u >= 1 else (max(round(START[0] / u), 17), START[0])
    )
    plastic = is_plastic(choice.pinion.group)
    oil = oils()[way.oil]
    defaults = Defaults(
        lubricant=Lubricant.from_data(
            {n: getattr(oil, n) for n in ("name", "nu_40", "nu_100", "rho_15", "X_L", "kind")}
        ),
        plastics=Plastics(heat="by friction" if plastic else "entered"),
        c_proc=way.c_proc,
        j_min=way.j_min,
    )
    gears = tuple(
        _gear(way, word, z, material, round(10 * m_n, 1), m_n)
        for word, z, material in (("pinion", z_1, choice.pinion), ("wheel", z_2, choice.wheel))
    )
    pair = pair_of(gears[0], gears[1], _mesh(way, m_n, _load_factors(way, T)), translate(tr("Stage 1")))
    return Design(name=name, train=Train(duty=duty, defaults=defaults, losses=Losses(), **in_row([pair])))


def _gear(way: Process, name: str, z: int, material: Material, b: float, m_n: float) -> Gear:
    import numpy as np

    rack = rack_profiles()[way.racks[0]]
    upper, lower = way.allowances(np.asarray(z * m_n), np.asarray(m_n))
    return Gear(
        name=name,
        z=z,
        x=0.0,
        b=b,
        h_aP=rack.h_aP,
        h_fP=rack.h_fP,
        rho_fP=rack.rho_fP,
        E_sns=float(upper),
        E_sni=float(lower),
        tool=way.tools[0],  # type: ignore[arg-type]
        material=material,
        Q=way.Q,
        Rz_H=way.Rz_H,
        Rz_F=way.Rz_F,
    )


LIGHT = 5.0
"""Torque (N m) at the first gear up to which a drive counts as light."""
K_HBETA_LIGHT = 1.3
"""Face load factor that light drives customarily have."""
WHY_LIGHT = tr(
    "Up to {light:g} N m at the input K_Hbeta = {k_hbeta_light:g} is entered in place of method "
    "C, as is customary for light drives: their teeth are crowned or align themselves in the "
    "play of short shafts, while method C sets the whole deviation of manufacture against a line "
    "load of a few N/mm and comes to 6 and more. Have the teeth crowned, or enter another "
    "K_Hbeta.",
    light=LIGHT,
    k_hbeta_light=K_HBETA_LIGHT,
)


def face_factor(process: str, T: float, K_Hbeta: float | None = None) -> float | None:
    """Face load factor that a survey enters for a way of making and a torque.

    Parameters
    ----------
    process : str
        Way of making.
    T : float
        Torque at the input (N m).
    K_Hbeta : float | None
        Face load factor as asked, None for the customary one.

    Returns
    -------
    float | None
        K_Hbeta, None for method C of ISO 6336-1.

    Notes
    -----
    As asked, or as light drives of that way customarily have it.

    Examples
    --------
    >>> face_factor("cut", 0.3), face_factor("cut", 300.0), face_factor("printed", 0.3)
    (1.3, None, 1.4)
    """
    if K_Hbeta is not None:
        return K_Hbeta
    way = processes()[process]
    return K_HBETA_LIGHT if way.K_Hbeta is None and abs(T) <= LIGHT else way.K_Hbeta


def customary_words(process: str, T: float, K_Hbeta: float | None = None) -> str:
    """Why a survey enters the face load factor that it does.

    Parameters
    ----------
    process : str
        Way of making.
    T : float
        Torque at the input (N m).
    K_Hbeta : float | None
        Face load factor as asked.

    Returns
    -------
    str
        Sentence, empty where a method finds it or it was asked.
    """
    return WHY_LIGHT if K_Hbeta is None and processes()[process].K_Hbeta is None and abs(T) <= LIGHT else ""


def _load_factors(way: Process, T: float, K_Hbeta: float | None = None) -> dict[str, object]:
    """Load factors by the methods of ISO 6336-1, or as entered for what is light and coarse."""
    entered = face_factor(way.key, T, K_Hbeta)
    light = entered is not None and way.K_Hbeta is None
    return {
        "K_V_method": "C",
        "K_Hbeta_method": "C" if entered is None else "entered",
        "K_Halpha_method": "B" if way.K_Hbeta is None else "entered",
        "K_Hbeta": 1.25 if entered is None else entered,
        "K_Halpha": 1.0,
        "helix_modification": "crowned" if light else "none",
    }


def _mesh(way: Process, m_n: float, factors: dict[str, object]) -> Mesh:
    half = float(way.distance_allowance(70 * m_n))  # type: ignore[arg-type]
    return Mesh.from_data({"m_n": m_n, "A_as": half, "A_ai": -half, **factors})


def patterns(question: SurveySpec, base: Design) -> Iterator[Pattern]:
    """The patterns of all arrangements, materials, racks and numbers of planets, from the first stage of a design under
    its duty.

    Parameters
    ----------
    question : SurveySpec
        What is asked of the survey.
    base : Design
        The design whose duty and first stage the survey starts from.

    Yields
    ------
    Pattern
        Patterns.
    """
    from cooper.results.solve_stage import solve_duty

    way = processes()[question.process]
    factors = _load_factors(way, solve_duty(base.train.duty)[1], question.K_Hbeta)
    for arrangement in question.arrangements:
        for choice in question.materials:
            for rack in question.racks:
                for Q in question.classes or (way.Q,):
                    plain = _dressed(_one_stage(base), way, choice, rack, Q, factors)
                    of = (
                        choice.words if len(question.classes) < 2 else tr("{words}, class {Q}", words=choice.words, Q=Q)
                    )
                    for label, design in MAKERS[arrangement](plain, question):
                        ring = choice.ring or choice.wheel
                        yield Pattern(arrangement, _rings(design, way, ring), of, rack, label)


def _one_stage(base: Design) -> Design:
    """The duty and what holds for the train, with a plain pair: no sets, no formulas, no survey of its own."""
    stage = base.train.stages[0]
    plain = {"d_a": None, "d_bore": 0.0, "d_i": None, "b_s": None, "d_rim": None, "d_s": None, "shape": "gear"}
    plain |= {"tool": "rack", "bending": "one way", "pr_P": 0.0, "q_P": 0.0, "h_K": 0.0, "rho_a": 0.0}
    one, two = (
        gear.replace_unchecked(id="", name=name, z=z, x=0.0, **plain)
        for gear, z, name in zip(stage.gears, START, ("pinion", "wheel"), strict=True)
    )
    sized = {"m_n": 2.0, "P_nd": None, "d_1": None, "d_2": None, "a_w": None, "beta": 0.0}
    mesh = stage.mesh.replace_unchecked(id="", **sized, double_helix=False, K_gamma=1.0)
    losses = base.train.losses.replace_unchecked(oil_by_balance=False)
    plain_design = base.replace_unchecked(formulas={}, survey=None)
    pair = pair_of(one, two, mesh, translate(tr("Stage 1")))
    return with_fields(plain_design, {"train": with_fields(base.train, {**in_row([pair]), "losses": losses}, "train.")})


def _dressed(
    design: Design, way: Process, choice: MaterialChoice, rack: str, Q: int, factors: dict[str, object]
) -> Design:
    """The pair of the materials, the rack and the ways of a process."""
    profile = rack_profiles()[rack]
    plastic = is_plastic(choice.pinion.group) or is_plastic(choice.wheel.group)
    stage = design.train.stages[0]
    changes: dict[str, object] = {}
    for path, material in zip(stage.paths, (choice.pinion, choice.wheel), strict=True):
        at = f"{path}."
        changes |= {
            at + "material": material.plain(),
            at + "Q": Q,
            at + "Rz_H": way.Rz_H,
            at + "Rz_F": way.Rz_F,
        }
        changes |= {at + "h_aP": profile.h_aP, at + "h_fP": profile.h_fP, at + "rho_fP": profile.rho_fP}
        changes |= {at + "tool": way.tools[0]}
    at = f"{stage.path}."
    changes[at + "alpha_n"] = profile.alpha_n
    changes |= {at + name: value for name, value in factors.items()}
    if plastic:
        changes["train.defaults.plastics.heat"] = "by friction"
    return set_many(design, changes)


def _rings(design: Design, way: Process, material: Material) -> Design:
    """Its rings made of their own material by the process's tool."""
    changes: dict[str, object] = {}
    for key, gear in design.train.gears.items():
        if kind_of(gear).inward:
            at = f"train.gears.{key}."
            tool = way.tools[1]
            changes |= {at + "material": material.plain(), at + "Q": max(way.Q, way.ring_Q), at + "tool": tool}
            changes[at + "rho_fP"] = min(gear.rho_fP, 0.2) if tool == "pinion cutter" else 0.2
    return set_many(design, changes) if changes else design


Made = Iterator[tuple[str, Design]]


def _pair(design: Design, question: SurveySpec) -> Made:
    yield "pair", design


def _double(design: Design, question: SurveySpec) -> Made:
    mesh = design.train.stages[0].path
    yield (
        tr("double helix"),
        set_many(design, {f"{mesh}.beta": 20.0, f"{mesh}.double_helix": True}),
    )


def _internal(design: Design, question: SurveySpec) -> Made:
    yield "pinion in a ring", give_kind(design, 0, INTERNAL)


def _stages(n: int, label: str) -> Callable[[Design, SurveySpec], Made]:
    def make(design: Design, question: SurveySpec) -> Made:
        first = design.train.stages[0]
        one, two = (gear.replace_unchecked(id="") for gear in first.gears)
        row = []
        for k in range(n):
            mesh = first.mesh.replace_unchecked(id="", hand="left" if k % 2 else first.mesh.hand)
            row.append(pair_of(one, two, mesh, translate(tr("Stage {value}", value=k + 1))))
        yield label, with_row(design, row)

    return make


def _coaxial(design: Design, question: SurveySpec) -> Made:
    """Two stages, the second at the distance of the first: the shift of its wheel is solved."""
    for label, made in _stages(2, tr("two stages, coaxial"))(design, question):
        first, second = made.train.stages
        a_w = sum(g.z for g in first.gears) * (first.mesh.m_n or 1.0) / 2
        yield label, set_many(made, {f"{second.paths[1]}.x": None, f"{second.path}.a_w": a_w})


def _idler(design: Design, question: SurveySpec) -> Made:
    yield "idler", with_set(design, 0, "idler")


ROLES: tuple[tuple[str, str, str], ...] = (
    ("sun", "carrier", "ring"),
    ("sun", "ring", "carrier"),
    ("ring", "carrier", "sun"),
    ("carrier", "sun", "ring"),
    ("ring", "sun", "carrier"),
    ("carrier", "ring", "sun"),
)
"""Input, output and held member of planet sets, those that gear down first."""


def _planets(kind: str, label: str) -> Callable[[Design, SurveySpec], Made]:
    def make(design: Design, question: SurveySpec) -> Made:
        made = with_set(design, 0, kind)
        for role in ROLES:
            turned = with_roles(made, 0, role)
            for n in question.planets:
                words = tr("{label}, {role} to {role_2}, {n} planets", label=label, role=role[0], role_2=role[1], n=n)
                yield words, set_many(turned, {f"{made.train.placed[0].path}.planets": n})

    return make


def _two_rings(sun: bool) -> Callable[[Design, SurveySpec], Made]:
    def make(design: Design, question: SurveySpec) -> Made:
        made = with_set(design, 0, tr("two rings"))
        if sun:
            made = with_roles(with_free_sun(made, 0, True), 0, ("sun", "ring 2", "ring"))
        for n in question.planets:
            yield (
                tr("two rings, {sun} driven, {n} planets", sun="sun" if sun else "carrier", n=n),
                set_many(made, {f"{made.train.placed[0].path}.planets": n}),
            )

    return make


MAKERS: dict[str, Callable[[Design, SurveySpec], Made]] = {
    "pair": _pair,
    "double helix": _double,
    "internal": _internal,
    "two stages": _stages(2, tr("two stages")),
    "two stages, coaxial": _coaxial,
    "three stages": _stages(3, tr("three stages")),
    "idler": _idler,
    "planet set": _planets("planetary", tr("planet set")),
    "stepped planets": _planets("stepped", tr("stepped planets")),
    "two rings": _two_rings(False),
    "two rings, sun": _two_rings(True),
}
