"""The quantities of the machine around the gears as fields: proposed until they are given."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from msgspec.structs import replace

from cooper.document.machine_data import Machine
from cooper.document.models import Design
from cooper.editing.fields import Field, path_field
from cooper.editing.machine_edits import in_machine
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.machine.shaft_model import MadeShaft
from cooper.results.find_machine import NoMachine, machine_of
from cooper.results.machine_plan import angles_of
from cooper.results.machine_result import MachineResult, ShaftResult
from cooper.results.result_tree import Results
from cooper.stock.diameters import STANDARD
from cooper.stock.rolling import bores_of
from cooper.stock.shaft_joints import screw_sizes

Read = Callable[[ShaftResult], float | None]
Path = tuple[str, ...]


def _data(design: Design) -> Machine:
    return design.train.machine or Machine()


def _given(design: Design, path: Path) -> object:
    node: object = _data(design)
    for key in path:
        node = node.get(key) if isinstance(node, dict) else getattr(node, key, None)
        if node is None:
            return None
    return node


def _shaft_found(d: Design, r: Results, key: str) -> ShaftResult | None:
    """The shaft of an identity; None where there is none, or no machine."""
    try:
        return machine_of(d.train, r).shaft(key)
    except NoMachine:
        return None


def _field(shaft: str, path: Path, symbol: str, key: str, proposed: Read, label: str, fine: float) -> Field:
    """A quantity of one shaft that is proposed until it is given; G gives it, or lets it follow again."""
    whole = ("shafts", shaft, *path)

    def read(d: Design, r: Results) -> float | None:
        given = _given(d, whole)
        if isinstance(given, int | float):
            return float(given)
        result = _shaft_found(d, r, shaft)
        return None if result is None else proposed(result)

    def solved(d: Design, _r: Results) -> bool:
        return _given(d, whole) is None

    def give(d: Design, _r: Results, value: float) -> Design:
        try:
            return in_machine(d, (whole, value))
        except OutOfRange as fault:
            raise OutOfRange(key, value, fault.reason, low=fault.low, high=fault.high) from fault

    def swap(d: Design, r: Results) -> Design:
        return in_machine(d, (whole, read(d, r) if solved(d, r) else None))

    return Field(key, symbol, None, read, solved, give, swap, tr("nothing, it follows"), fine=fine, label=label)


def _piece(name: str, value: Callable[[MadeShaft], Callable[[str], float | None]]) -> Read:
    def read(s: ShaftResult) -> float | None:
        return value(s.made)(name) if any(p.name == name for p in s.made.pieces) else None

    return read


def diameter_field(s: ShaftResult, name: str) -> Field:
    """Diameter of a piece of shaft; of a bearing's seat its bore."""
    words = tr("diameter of {name} of the {name_2}", name=name, name_2=s.name)
    read = _piece(name, lambda m: lambda n: m.piece(n).d)
    field = _field(
        s.key, ("pieces", name, "d"), "d_piece", tr("{key} {name} d", key=s.key, name=name), read, words, 1.0
    )
    bearing = next((b.bearing.type for b in s.made.bearings if b.name == name), None)
    series: Callable[[], tuple[float, ...]] = partial(bores_of, bearing) if bearing else lambda: STANDARD
    return replace(field, series=series)


def length_field(s: ShaftResult, name: str) -> Field:
    """Length of a piece of shaft."""
    words = tr("length of {name} of the {name_2}", name=name, name_2=s.name)
    read = _piece(name, lambda m: lambda n: m.piece(n).length)
    return _field(
        s.key, ("pieces", name, "length"), "l_piece", tr("{key} {name} l", key=s.key, name=name), read, words, 1.0
    )


def fillet_field(s: ShaftResult, name: str) -> Field:
    """Fillet radius at the foot of a piece."""
    words = tr("fillet at the foot of {name} of the {name_2}", name=name, name_2=s.name)
    read = _piece(name, lambda m: lambda n: m.piece(n).r)
    return _field(s.key, ("pieces", name, "r"), "r_piece", tr("{key} {name} r", key=s.key, name=name), read, words, 0.1)


def hole_field(s: ShaftResult, name: str) -> Field:
    """Diameter of a hole across a piece; none until it is given."""
    words = tr("hole across {name} of the {name_2}", name=name, name_2=s.name)
    read = _piece(name, lambda m: lambda n: m.piece(n).hole or None)
    field = _field(
        s.key, ("pieces", name, "hole"), "d_hole", tr("{key} {name} hole", key=s.key, name=name), read, words, 0.5
    )
    path = ("shafts", s.key, "pieces", name, "hole")
    return replace(field, swap=None, clear=lambda d: in_machine(d, (path, None)), empty="none")


def pin_field(s: ShaftResult, on: str) -> Field:
    """Diameter of the pin across hub and shaft, by its gear or the end it is on."""

    def read(result: ShaftResult) -> float | None:
        return next((j.d_pin for j in result.made.joints if on in (j.gear, j.piece)), None)

    words = tr("diameter of the pin on the {name}", name=s.name)
    return _field(s.key, ("joints", on, "d_pin"), "d_pin", f"{s.key} {on} d_pin", read, words, 0.5)


def screw_fields(s: ShaftResult, on: str) -> tuple[Field, Field]:
    """Thread and tightening torque of the set screws of a hub, by its gear or the end it is on."""

    def read(symbol: str) -> Read:
        return lambda result: next((getattr(j, symbol) for j in result.made.joints if on in (j.gear, j.piece)), None)

    words = {
        "d_screw": tr("thread of the set screw on the {name}", name=s.name),
        "M_A": tr("torque of the set screw on the {name}", name=s.name),
    }
    thread, torque = (
        _field(
            s.key,
            ("joints", on, symbol),
            symbol,
            tr("{key} {on} {symbol}", key=s.key, on=on, symbol=symbol),
            read(symbol),
            text,
            1.0,
        )
        for symbol, text in words.items()
    )
    return replace(thread, series=lambda: tuple(one.d for one in screw_sizes())), torque


def rating_field(s: ShaftResult, name: str, symbol: str) -> Field:
    """Rating of a bearing: from typical inner dimensions until the maker's is typed."""
    attribute = {"C_r": "C", "C_0r": "C_0"}[symbol]

    def read(result: ShaftResult) -> float | None:
        return next((getattr(b, attribute) for b in result.made.bearings if b.name == name), None)

    words = tr(
        "{value} rating of {name} of the {name_2}, typical or the maker's",
        value="dynamic" if symbol == "C_r" else "static",
        name=name,
        name_2=s.name,
    )
    field = _field(
        s.key,
        ("bearings", name, attribute),
        symbol,
        tr("{key} {name} {attribute}", key=s.key, name=name, attribute=attribute),
        read,
        words,
        100.0,
    )
    path = ("shafts", s.key, "bearings", name)

    def read_typed(d: Design, r: Results) -> float | None:
        # What was typed for another bearing does not count for the one that stands there.
        result = _shaft_found(d, r, s.key)
        return field.read(d, r) if result is None else read(result)

    def give(d: Design, r: Results, value: float) -> Design:
        """With the bearing that it is typed for; the other rating, where it was another's, is let go."""
        result = _shaft_found(d, r, s.key)
        stands = (
            next((b.bearing.name for b in result.made.bearings if b.name == name), None) if result is not None else None
        )
        before = _given(d, (*path, "rated"))
        made = field.give(d, r, value)
        if before not in (None, stands):
            made = in_machine(made, ((*path, "C_0" if attribute == "C" else "C"), None))
        return in_machine(made, ((*path, "rated"), stands))

    return replace(field, read=read_typed, give=give)


def place_field(s: ShaftResult, name: str) -> Field:
    """Where a bearing stands that was set by hand, from the middle of the first."""
    path = ("shafts", s.key, "bearings", name, "at")

    def read(d: Design, _r: Results) -> float | None:
        value = _given(d, path)
        return float(value) if isinstance(value, int | float) else None

    def give(d: Design, _r: Results, value: float) -> Design:
        return in_machine(d, (path, value))

    words = tr("middle of {name} of the {name_2}, from that of bearing 1", name=name, name_2=s.name)
    key = tr("{key} {name} at", key=s.key, name=name)
    return Field(key, "l_bearing", None, read, lambda _d, _r: False, give, fine=1.0, label=words)


def joint_field(s: ShaftResult, on: str) -> Field:
    """Bearing length of a joint, by its gear or the end it is on."""

    def read(result: ShaftResult) -> float | None:
        return next((j.l_tr for j in result.made.joints if on in (j.gear, j.piece)), None)

    words = tr("length that bears of the joint on the {name}", name=s.name)
    return _field(s.key, ("joints", on, "length"), "l_tr", f"{s.key} {on} l_tr", read, words, 1.0)


def end_field(s: ShaftResult, name: str, what: str) -> Field:
    """Radial force on an end of a shaft from outside, its direction in the end view, or the inertia of what is
    coupled."""
    base = ("shafts", s.key, "ends", name)
    other = 0.0

    def read(d: Design, _r: Results) -> float:
        value = _given(d, (*base, what))
        return float(value) if isinstance(value, int | float) else other

    def give(d: Design, _r: Results, value: float) -> Design:
        key = tr("{key} {name} {what}", key=s.key, name=name, what=what)
        try:
            return in_machine(d, ((*base, what), value))
        except OutOfRange as fault:
            raise OutOfRange(key, value, fault.reason, low=fault.low, high=fault.high) from fault

    words = {
        "F": tr("radial force from outside on {name} of the {name_2}", name=name, name_2=s.name),
        "phi": tr("its direction in the end view, {name}", name=name),
        "J": tr("moment of inertia of what is coupled to {name} of the {name_2}", name=name, name_2=s.name),
    }[what]
    symbol = {"F": "F_end", "phi": "phi_ax", "J": "J_end"}[what]
    return Field(
        tr("{key} {name} {what}", key=s.key, name=name, what=what),
        symbol,
        None,
        read,
        lambda _d, _r: False,
        give,
        fine=10.0,
        label=words,
    )


def angle_field(design: Design, stage: int) -> Field:
    """Direction of a stage's line of centres in the end view."""
    name = design.train.stages[stage].id

    def read(d: Design, r: Results) -> float:
        return angles_of(d.train, r, _data(d).angles)[stage] if stage < len(r.stages) else 0.0

    def solved(d: Design, _r: Results) -> bool:
        return name not in _data(d).angles

    def give(d: Design, _r: Results, value: float) -> Design:
        if not -360 <= value <= 360:
            raise OutOfRange(f"phi_{name}", value, tr("a direction within a turn"), low=-360, high=360, unit="deg")
        return in_machine(d, (("angles", name), value))

    def swap(d: Design, r: Results) -> Design:
        return in_machine(d, (("angles", name), read(d, r) if solved(d, r) else None))

    words = tr("direction of the line of centres of {name}", name=design.train.stages[stage].name)
    return Field(
        f"phi_{name}",
        "phi_ax",
        stage + 1,
        read,
        solved,
        give,
        swap,
        tr("nothing, it lies level or folds back"),
        fine=5.0,
        label=words,
    )


def box_field(symbol: str, value: Callable[[MachineResult], float]) -> Field:
    """A side of the housing; typing bounds it."""
    attribute = {"L_box": "L_max", "W_box": "W_max", "H_box": "H_max"}[symbol]

    def read(d: Design, r: Results) -> float | None:
        try:
            return value(machine_of(d.train, r))
        except NoMachine:
            return None

    def give(d: Design, _r: Results, limit: float) -> Design:
        return in_machine(d, ((attribute,), limit))

    return Field(
        symbol,
        symbol,
        None,
        read,
        lambda _d, _r: True,
        give,
        label=tr("{symbol} of the housing; what is typed becomes its bound", symbol=symbol[0]),
    )


def face_fields(design: Design, stage: int) -> list[Field]:
    """What is made on purpose of the helix of a mesh."""
    base = design.train.stages[stage].path
    place = f"{design.train.stages[stage].id}."
    rows = [path_field(s, s, None, f"{base}.{s}", fine=1.0) for s in ("C_Hbeta", "C_beta")]
    return [replace(f, place=place) for f in rows]


def _own_field(attribute: str, symbol: str, fine: float, empty: str = "") -> Field:
    """A quantity of the whole machine; with ``empty`` it may be absent."""

    def read(d: Design, _r: Results) -> float | None:
        value = getattr(_data(d), attribute)
        return None if value is None else float(value)

    def give(d: Design, _r: Results, value: float) -> Design:
        try:
            return in_machine(d, ((attribute,), value))
        except OutOfRange as fault:
            raise OutOfRange(f"machine_{attribute}", value, fault.reason, low=fault.low, high=fault.high) from fault

    path = f"train.machine.{attribute}"
    field = Field(f"machine_{attribute}", symbol, None, read, lambda _d, _r: False, give, fine=fine, path=path)
    if empty:
        field = replace(field, clear=lambda d: in_machine(d, ((attribute,), None)), empty=empty)
    return field


def machine_fields() -> dict[str, dict[str, Field]]:
    """What holds for the whole machine, in groups."""
    groups = {
        "Required of shafts and joints": [
            _own_field("S_Dmin", "S_Dmin", 0.1),
            _own_field("S_Ymin", "S_Ymin", 0.1),
            _own_field("S_Jmin", "S_Jmin", 0.1),
            _own_field("w_rel", "w_rel", 0.001),
        ],
        "Bearings": [_own_field("S_0min", "S_0min", 0.1)],
        "Shafts": [_own_field("Rz", "Rz_sh", 1.0), _own_field("R_e_key", "R_e_key", 10.0)],
        "Room": [
            _own_field("c", "c_ax", 0.5, tr("three modules")),
            _own_field("wall", "s_wall", 1.0, tr("by size")),
            *(_own_field(f"{a}_max", f"{a}_box_max", 5.0, "any") for a in ("L", "W", "H")),
        ],
        "Order of failure": [_own_field("X_gomin", "X_gomin", 0.05)],
    }
    return {name: {f.key: f for f in fields} for name, fields in groups.items()}
