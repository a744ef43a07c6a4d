"""The quantities that a person edits: how each is read, given, swapped with its partner and stepped.

No interface here: the Bench's tags, the duty's fields and the tests all use these.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Collection
from functools import partial
from math import floor, isfinite, log10

from msgspec import Struct
from msgspec.structs import force_setattr, replace

from cooper.document.models import Design
from cooper.document.plain import get_at
from cooper.document.quantities import QUANTITIES, plain
from cooper.editing.edit import give_count, give_shift, give_size, set_at, set_many, shifts_now
from cooper.editing.make_sets import count_in_set, planetary_set
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.kinds.known import kind_of
from cooper.results.result_tree import Results
from cooper.stock.materials import groups, is_plastic
from cooper.stock.series import diametral_pitches, modules, neighbour

GREATEST = 1e12
"""Amount that no quantity of a gear train passes, in any unit of the document."""


class _Checked:
    """What gives a value, for numbers that a design can hold alone: raises `OutOfRange` for others before they reach
    any arithmetic."""

    __slots__ = ("give", "key")

    def __init__(self, key: str, give: Callable[[Design, Results, float], Design]) -> None:
        self.key, self.give = key, give

    def __call__(self, design: Design, results: Results, value: float) -> Design:
        if not isfinite(value):
            raise OutOfRange(self.key, str(value), tr("a finite number is needed"))
        if not abs(value) <= GREATEST:
            raise OutOfRange(
                self.key, value, tr("no quantity of a gear train is greater than {greatest:g}", greatest=GREATEST)
            )
        return self.give(design, results, value)


class Field(Struct, frozen=True):
    """One editable number. ``read`` gives its present value (None when absent), ``give`` the design with a new one.

    ``clear`` takes the value away where the quantity may be absent, which is then shown as ``empty``. ``scale`` names
    what stands in place of a unit, as a hardness scale does. ``swap`` exchanges given and solved with the partner, or
    is None where the quantity has none; ``partner`` says in words what is solved instead once this one is given.
    ``owner`` names what the quantity belongs to where its index does not.
    """

    key: str
    symbol: str
    index: int | None
    read: Callable[[Design, Results], float | None]
    solved: Callable[[Design, Results], bool]
    give: Callable[[Design, Results, float], Design]
    swap: Callable[[Design, Results], Design] | None = None
    partner: str = ""
    fine: float | None = None
    series: Callable[[], tuple[float, ...]] | None = None
    label: str = ""
    kind_override: str = ""
    scale: str = ""
    clear: Callable[[Design], Design] | None = None
    empty: str = "none"
    place: str = ""
    owner: str = ""
    measure: Callable[[str], tuple[Field, str] | None] | None = None
    """Of a text typed in another measure the field of that measure and the rest of the text; None where it is the
    own one."""

    def __post_init__(self) -> None:
        if not isinstance(self.give, _Checked):
            force_setattr(self, "give", _Checked(self.key, self.give))

    @property
    def full_key(self) -> str:
        """The quantity's name in formulas and on the whole design."""
        return f"{self.place}{self.key}"

    @property
    def name(self) -> str:
        """The quantity in plain text, with what it belongs to."""
        symbol = plain(self.symbol, self.index)
        return tr("{owner} {symbol}", owner=self.owner, symbol=symbol) if self.owner else symbol

    @property
    def kind(self) -> str:
        return self.kind_override or QUANTITIES[self.symbol].kind

    @property
    def meaning(self) -> str:
        return self.label or QUANTITIES[self.symbol].meaning

    def stepped(self, value: float, step: int, fine: bool) -> float:
        """The value one step up or down: along its standard series, by one for counts, else by a round step."""
        if self.kind == "count":
            return value + step
        if self.series is not None and not fine:
            return neighbour(value, self.series(), step)
        size = self.fine or 10.0 ** floor(log10(abs(value) or 1.0)) / 10
        if fine:
            size /= 10
        # Land on multiples of the step, so that 28.37 steps to 28.4 and not to 28.47.
        n = value / size
        n = floor(n + 1e-9) + 1 if step > 0 else -(floor(-n + 1e-9) + 1)
        return round(n * size, 12)


def _always_given(_d: Design, _r: Results) -> bool:
    return False


def path_field(
    key: str, symbol: str, index: int | None, path: str, fine: float | None = None, label: str = "", kind: str = ""
) -> Field:
    """A field that is always given and stands at one place of the document."""

    def read(d: Design, _r: Results) -> float | None:
        try:
            value = get_at(d, path)
        except (IndexError, AttributeError):
            # The place has gone with its set or stage; whoever shows the field is about to be made anew.
            return None
        return None if value is None else float(value)

    def give(d: Design, _r: Results, value: float) -> Design:
        whole = (kind or QUANTITIES[symbol].kind) == "count"
        if whole and value != round(value):
            low, high = floor(value), floor(value) + 1
            raise OutOfRange(
                key, value, tr("only whole numbers work: {low} or {high}", low=low, high=high), low=low, high=low
            )
        return _named(lambda: set_at(d, path, int(value) if whole else value), key, value)

    return Field(key, symbol, index, read, _always_given, give, fine=fine, label=label, kind_override=kind)


def optional_field(key: str, symbol: str, index: int | None, path: str, fine: float, empty: str) -> Field:
    """A field that may be absent, then shown as ``empty``."""
    field = path_field(key, symbol, index, path, fine=fine)
    return replace(field, clear=lambda d: set_at(d, path, None), empty=empty)


def _named(make: Callable[[], Design], key: str, value: float) -> Design:
    """Run an edit; a fault found by validation gets the field's own name and the value that was typed."""
    try:
        return make()
    except OutOfRange as fault:
        raise OutOfRange(key, value, fault.reason, low=fault.low, high=fault.high) from fault


def size_field(stage: int, name: str) -> Field:
    """Module, diametral pitch or a reference diameter: one of them is given."""
    symbol, index = ("d", int(name[2])) if name.startswith("d_") else (name, None)

    def read(_d: Design, r: Results) -> float:
        values = r.stages[stage].gears[index - 1] if index else r.stages[stage].mesh
        return values[symbol]

    def solved(d: Design, _r: Results) -> bool:
        return getattr(d.train.stages[stage].meshes[0], name) is None

    def give(d: Design, _r: Results, value: float) -> Design:
        return _named(lambda: give_size(d, stage, name, value), name, value)

    def swap(d: Design, r: Results) -> Design:
        if solved(d, r):
            return give_size(d, stage, name, read(d, r))
        other = "d_1" if name in ("m_n", "P_nd") else "m_n"
        value = r.stages[stage].gears[0].d if other == "d_1" else r.stages[stage].mesh.m_n
        return give_size(d, stage, other, value)

    series = modules if name == "m_n" else diametral_pitches if name == "P_nd" else None
    partner = tr("the reference diameters") if name in ("m_n", "P_nd") else tr("the module")
    return Field(
        name,
        symbol,
        index,
        read,
        solved,
        give,
        swap,
        partner,
        series=series,
        measure=partial(_pitch_or_module, stage, name),
    )


def _pitch_or_module(stage: int, name: str, text: str) -> tuple[Field, str] | None:
    """A diametral pitch typed for a module, or a module for a diametral pitch: what is typed is what is given."""
    pitch = re.fullmatch(r"\s*(.+?)\s*dp\s*", text, re.IGNORECASE)
    if name == "m_n" and pitch:
        return size_field(stage, "P_nd"), pitch[1]
    if name == "P_nd" and pitch:
        return size_field(stage, "P_nd"), pitch[1]
    if name == "P_nd" and re.search(r"\d\s*mm\b", text):
        return size_field(stage, "m_n"), text
    return None


def count_field(stage: int, i: int) -> Field:
    """Tooth count; a negative one makes the gear internal."""
    key = f"z_{i}"

    def read(_d: Design, r: Results) -> float:
        return r.stages[stage].gears[i - 1].z

    def give(d: Design, r: Results, value: float) -> Design:
        if value != round(value):
            low, high = floor(value), floor(value) + 1
            raise OutOfRange(
                key, value, tr("only whole numbers work: {low} or {high}", low=low, high=high), low=low, high=low
            )
        if abs(value) < 4:
            ends = (4.0, 2000.0) if value >= 0 else (-2000.0, -4.0)
            reason = tr("a gear has 4 or more teeth; an internal one, entered as negative, -4 or fewer")
            raise OutOfRange(key, value, reason, low=ends[0], high=ends[1])
        if planetary_set(d, stage) is not None:
            return _named(lambda: count_in_set(d, stage, i, int(value)), key, value)
        return _named(lambda: give_count(d, stage, i, int(value)), key, value)

    return Field(key, "z", i, read, _always_given, give)


def shift_field(stage: int, name: str) -> Field:
    """x_1, x_2 or a_w: two are given, the third is solved without backlash."""
    symbol, index = (name[0], int(name[2])) if name.startswith("x") else ("a_w", None)

    def read(_d: Design, r: Results) -> float:
        return shifts_now(r.stages[stage])[name]

    def solved(_d: Design, r: Results) -> bool:
        return name in r.stages[stage].solved

    def free(r: Results) -> str:
        return next(n for n in ("a_w", "x_2", "x_1") if n in r.stages[stage].solved)

    def freed_when_given(r: Results) -> str:
        present = free(r)
        if present != name:
            return present
        return {"a_w": "x_2" if r.stages[stage].kind.shifts else "x_1", "x_2": "a_w", "x_1": "a_w"}[name]

    def give(d: Design, r: Results, value: float) -> Design:
        def make() -> Design:
            return give_shift(d, stage, name, value, freed_when_given(r), shifts_now(r.stages[stage]))

        return _named(make, name, value)

    def swap(d: Design, r: Results) -> Design:
        now = shifts_now(r.stages[stage])
        if solved(d, r):
            return give_shift(d, stage, name, now[name], freed_when_given(r), now)
        present = free(r)
        return give_shift(d, stage, present, now[present], name, now)

    partner = tr("the shift x_2") if name == "a_w" else tr("the centre distance")
    return Field(name, symbol, index, read, solved, give, swap, partner, fine=0.01 if index else 0.1)


def tip_field(stage: int, i: int) -> Field:
    """Tip diameter: solved from the rack's addendum, or given."""

    def path(d: Design) -> str:
        mesh = d.train.stages[stage].meshes[0]
        return f"train.stages.{stage}.members.{(mesh.driver, mesh.driven)[i - 1]}.d_a"

    def read(_d: Design, r: Results) -> float:
        return r.stages[stage].gears[i - 1].d_a

    def solved(d: Design, _r: Results) -> bool:
        return get_at(d, path(d)) is None

    def give(d: Design, _r: Results, value: float) -> Design:
        return _named(lambda: set_at(d, path(d), value), f"d_a{i}", value)

    def swap(d: Design, r: Results) -> Design:
        return set_at(d, path(d), read(d, r) if solved(d, r) else None)

    return Field(f"d_a{i}", "d_a", i, read, solved, give, swap, tr("the addendum"), fine=0.1)


def duty_field(name: str) -> Field:
    """Power, torque or speed at the input: two are given and give the third."""

    def read(_d: Design, r: Results) -> float:
        return r.train[f"{name}_in"]

    def solved(d: Design, _r: Results) -> bool:
        return getattr(d.train.duty, name) is None

    def give(d: Design, r: Results, value: float) -> Design:
        changes: dict[str, float | None] = {f"train.duty.{name}": value}
        if solved(d, r):
            # What was solved is given now: the power gives way to torque and speed, and the torque to power.
            changes[f"train.duty.{'T' if name == 'P' else 'P' if name == 'T' else 'T'}"] = None
        return _named(lambda: set_many(d, changes), name, value)

    def swap(d: Design, r: Results) -> Design:
        if solved(d, r):
            return give(d, r, read(d, r))
        other = next(n for n in ("P", "T", "n") if getattr(d.train.duty, n) is None)
        return set_many(d, {f"train.duty.{other}": r.train[f"{other}_in"], f"train.duty.{name}": None})

    return Field(name, name, None, read, solved, give, swap, tr("the third of power, torque and speed"))


def member_path(design: Design, stage: int, i: int) -> str:
    """Path of gear i (1 drives, 2 is driven) of a stage."""
    mesh = design.train.stages[stage].meshes[0]
    return f"train.stages.{stage}.members.{(mesh.driver, mesh.driven)[i - 1]}"


def _placed(fields: list[Field], design: Design, stage: int) -> dict[str, Field]:
    return {f.key: replace(f, place=f"{design.train.stages[stage].id}.") for f in fields}


def bench_fields(design: Design, stage: int) -> dict[str, Field]:
    """The fields that stand on the drawing of a stage, by key."""
    mesh = f"train.stages.{stage}.meshes.0"
    size = "P_nd" if design.train.stages[stage].meshes[0].P_nd is not None else "m_n"
    fields = [
        size_field(stage, size),
        path_field("alpha_n", "alpha_n", None, f"{mesh}.alpha_n", fine=0.5),
        path_field("beta", "beta", None, f"{mesh}.beta", fine=1.0),
        shift_field(stage, "a_w"),
    ]
    for i in (1, 2):
        gear = member_path(design, stage, i)
        kind = kind_of(get_at(design, gear))
        count = count_field(stage, i) if kind.turns else path_field(f"z_{i}", "z", i, f"{gear}.z", label=CUT)
        own: dict[str, Callable[[], Field]] = {
            "z": lambda count=count: count,  # type: ignore[misc]
            "x": partial(shift_field, stage, f"x_{i}"),
            "d_a": partial(tip_field, stage, i),
            "d": partial(size_field, stage, f"d_{i}"),
        }
        for symbol in kind.on_drawing:
            plainly = partial(path_field, plain(symbol, i), symbol, i, f"{gear}.{symbol}", fine=1.0)
            fields.append(own.get(symbol, plainly)())
    return _placed(fields, design, stage)


CUT = tr("number of teeth cut")
STEPS = {"h_K": 0.05, "delta_K": 5.0, "rho_a": 0.05, "z_0": None, "x_0": 0.05, "pr_P": 0.01, "q_P": 0.01}
"""Fine steps of what kinds and tools ask for; 1 where none is named."""


def drawing_fields(design: Design, stage: int, i: int, said: Collection[str]) -> dict[str, Field]:
    """What the drawing sheet of a gear says beside its data, as far as it makes use of it."""
    at = f"{member_path(design, stage, i)}.drawing"
    given = (("IT_bore", 1.0), ("IT_tip", 1.0), ("Ra_bore", 0.4), ("Ra_face", 0.4), ("Ra_rest", 0.4))
    fields = [path_field(plain(s, i), s, i, f"{at}.{s}", fine=fine) for s, fine in given if s in said]
    fields += [
        optional_field(plain(s, i), s, i, f"{at}.{s}", 0.005, tr("proposed")) for s in ("t_tip", "t_face") if s in said
    ]
    return {f.key: f for f in fields}


def gear_fields(design: Design, stage: int, i: int) -> dict[str, Field]:
    """The remaining fields of one gear: tool, allowances, blank, surface, material."""
    gear = member_path(design, stage, i)
    rows = [
        ("h_aP", 0.05),
        ("h_fP", 0.05),
        ("rho_fP", 0.01),
        ("E_sns", 0.005),
        ("E_sni", 0.005),
        ("t_g", 0.05),
        ("rho_g", 0.1),
        ("Q", None),
        ("Rz_H", 0.5),
        ("Rz_F", 0.5),
    ]
    now = get_at(design, gear)
    if is_plastic(now.material.group):
        # What is ground is of metal.
        rows = [r for r in rows if r[0] not in ("t_g", "rho_g")]
    kind = kind_of(now)
    by_tool = {"pinion cutter": ("z_0", "x_0"), "rack": kind.rack_tool_data, "elliptic": ("h_Ff", "w_F")}.get(
        now.tool, ()
    )
    rows += [(s, STEPS.get(s, 1.0)) for s in (*kind.data, *by_tool)]
    fields = [path_field(plain(s, i), s, i, f"{gear}.{s}", fine=fine) for s, fine in rows]
    scale = groups()[get_at(design, gear).material.group]["hardness_scale"]
    hardness = path_field(f"hardness_{i}", "hardness", i, f"{gear}.material.hardness", fine=10.0)
    fields.append(replace(hardness, scale=scale))
    material = groups()[now.material.group]
    for s, fine in (("sigma_Hlim", 10.0), ("sigma_Flim", 10.0), ("E", 1000.0), ("density", 10.0), ("price_index", 0.1)):
        fields.append(optional_field(plain(s, i), s, i, f"{gear}.material.{s}", fine, tr("of the stock")))
    fields.append(path_field(plain("swelling", i), "swelling", i, f"{gear}.swelling", fine=0.05))
    if kind.web:
        fields.append(optional_field(plain("d_i", i), "d_i", i, f"{gear}.d_i", 1.0, tr("solid disc")))
        fields.append(optional_field(plain("b_s", i), "b_s", i, f"{gear}.b_s", 1.0, tr("as the teeth")))
    if now.material.group == "Eh":
        fields.append(optional_field(plain("CHD", i), "CHD", i, f"{gear}.CHD", 0.05, tr("not given")))
        core = optional_field(plain("HV_core", i), "HV_core", i, f"{gear}.HV_core", 10.0, tr("not given"))
        fields.append(replace(core, scale="HV"))
    if is_plastic(now.material.group):
        fields.append(optional_field(plain("k_W", i), "k_W", i, f"{gear}.k_W", 0.1, tr("not computed")))
    fields.append(optional_field(plain("d_s", i), "d_s", i, f"{gear}.d_s", 1.0, tr("estimated")))
    for s in ("S_Fmin", "S_Hmin"):
        fields.append(optional_field(plain(s, i), s, i, f"{gear}.{s}", 0.05, tr("of the train")))
    if now.bending == "both ways":
        fields.append(path_field(plain("R_bend", i), "R_bend", i, f"{gear}.R_bend", fine=0.1))
    if "R_p02_per_hardness" in material:
        fields.append(optional_field(f"R_p02{i}", "R_p02", i, f"{gear}.material.R_p02", 10.0, tr("estimated")))
    return _placed(fields, design, stage)


def mesh_fields(design: Design, stage: int) -> dict[str, Field]:
    """The remaining fields of the mesh: centre distance allowances and the entered load factors."""
    mesh = f"train.stages.{stage}.meshes.0"
    rows = [
        ("A_as", 0.005),
        ("A_ai", 0.005),
        ("K_gamma", 0.05),
        ("K_s", 0.05),
        ("K_Hbeta", 0.05),
        ("K_Halpha", 0.05),
        ("f_ZCa", 0.01),
        ("b_gap", 1.0),
        ("l_sh", 5.0),
        ("s_sh", 1.0),
        ("d_sh", 1.0),
        ("C_a", 1.0),
        ("f_sh", 0.5),
    ]
    fields = [path_field(s, s, None, f"{mesh}.{s}", fine=fine) for s, fine in rows]
    fields += [
        path_field(f"{s}2", s, 2, f"{mesh}.{s}2", fine=fine, label=words)
        for s, fine, words in (
            ("l_sh", 5.0, tr("span of the wheel's bearings")),
            ("s_sh", 1.0, tr("distance of the wheel's middle from mid-span")),
            ("d_sh", 1.0, tr("diameter of the wheel's shaft")),
        )
    ]
    own = [
        ("S_Hmin", 0.05),
        ("S_Fmin", 0.05),
        ("S_Bmin", 0.1),
        ("S_intmin", 0.1),
        ("eps_alpha_min", 0.05),
        ("j_min", 0.01),
        ("L_h", 100.0),
        ("theta_oil", 5.0),
        ("theta_gears", 5.0),
    ]
    fields.append(optional_field("mu_pl", "mu_pl", None, f"{mesh}.mu_pl", 0.01, tr("of the table")))
    fields.append(optional_field("A_v", "A_v", None, f"{mesh}.A_v", 1.0, tr("by class")))
    fields += [
        optional_field(f"own_{s}", s, None, f"train.stages.{stage}.own.{s}", fine, tr("of the train"))
        for s, fine in own
    ]
    return _placed(fields, design, stage)


def duty_fields() -> dict[str, dict[str, Field]]:
    """The fields of the duty in groups: what comes in, what is wanted, surroundings, what is required."""
    duty, defaults, oil = "train.duty", "train.defaults", "train.defaults.lubricant"

    def at(base: str, *rows: tuple[str, float | None]) -> list[Field]:
        return [path_field(s, s, None, f"{base}.{s}", fine=fine) for s, fine in rows]

    wanted = at(duty, ("u_wanted", 0.1), ("u_tol", 0.1), ("L_h", 100.0))
    wanted[0] = replace(wanted[0], clear=lambda d: set_at(d, f"{duty}.u_wanted", None), empty="any")
    groups = {
        "What comes in": [
            duty_field("P"),
            duty_field("T"),
            duty_field("n"),
            *at(duty, ("K_A", 0.05)),
            optional_field("K_AP", "K_AP", None, f"{duty}.K_AP", 0.1, "none"),
        ],
        "What is wanted": wanted,
        "Oil": at(oil, ("nu_40", 10.0), ("nu_100", 1.0), ("rho_15", 5.0), ("X_L", 0.05), ("S_FZG", None))
        + at(defaults, ("phi_E", 0.1))
        + at(duty, ("theta_oil", 5.0))
        + [optional_field("S_GF", "S_GF", None, f"{oil}.S_GF", 1.0, tr("not given")), *at(oil, ("theta_GF", 5.0))],
        "Required of every stage": at(
            defaults,
            ("S_Hmin", 0.05),
            ("S_Fmin", 0.05),
            ("S_Bmin", 0.1),
            ("S_intmin", 0.1),
            ("S_FFmin", 0.1),
            ("S_lambda_min", 0.1),
            ("eps_alpha_min", 0.05),
            ("s_an_min", 0.05),
            ("c_min", 0.05),
            ("j_min", 0.01),
            ("c_proc", 0.05),
            ("NT_1e10", 0.01),
        )
        + [
            optional_field(s, s, None, f"{defaults}.{s}", 0.05, words)
            for s, words in (("S_Hstmin", tr("as pitting")), ("S_Fstmin", tr("as breakage")))
        ],
        "Temperatures in service": at(
            defaults,
            ("theta_gears", 5.0),
            ("theta_housing", 5.0),
            ("alpha_housing", 0.5),
        ),
    }
    return {name: {f.key: f for f in fields} for name, fields in groups.items()}


def plastic_fields() -> dict[str, Field]:
    """The fields that hold for all plastic gears of the train."""
    base = "train.defaults.plastics"
    rows = [("ED", 5.0), ("S_Hmin", 0.05), ("S_Fmin", 0.05), ("delta_Wmax", 0.01)]
    fields = [path_field(f"plastic_{s}", s, None, f"{base}.{s}", fine=fine) for s, fine in rows]
    fields += [
        optional_field("plastic_A_h", "A_h", None, "train.losses.A_h", 0.05, tr("not given")),
        path_field("plastic_theta_air", "theta_air", None, "train.losses.theta_air", fine=5.0),
    ]
    return {f.key: f for f in fields}


def loss_fields() -> dict[str, dict[str, Field]]:
    """The fields of the losses in groups: bearings and seals, oil, housing."""
    base = "train.losses"

    def at(*rows: tuple[str, float | None]) -> list[Field]:
        return [path_field(s, s, None, f"{base}.{s}", fine=fine) for s, fine in rows]

    groups = {
        "Bearings and seals": at(("tau_sh", 1.0), ("seals", None)),
        "Oil": at(("h_e", 1.0), ("l_hyd", 10.0)),
        "Housing": [
            optional_field("A_h", "A_h", None, f"{base}.A_h", 0.05, tr("not given")),
            *at(("k_h", 1.0), ("theta_air", 5.0)),
            optional_field("theta_max", "theta_max", None, f"{base}.theta_max", 5.0, tr("not checked")),
        ],
    }
    return {name: {f.key: f for f in fields} for name, fields in groups.items()}
