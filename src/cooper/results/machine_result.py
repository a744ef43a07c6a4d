"""What is found of the machine around the gears."""

from __future__ import annotations

from msgspec import Struct

from cooper.machine.assembly import HousingOrder, ShaftOrder
from cooper.machine.check_shaft import ShaftCheck
from cooper.machine.holding import Holding
from cooper.machine.lay_out import Body, Clash, Housing, Placement, Places
from cooper.machine.planet_pin import Pin
from cooper.machine.shaft_model import MadeShaft, Rules


class PinResult(Struct, frozen=True):
    """The pins of one set: identity of the planet, its name, the set's first stage, and one of the pins."""

    key: str
    name: str
    stage: int
    planets: int
    pin: Pin


class Torsion(Struct, frozen=True):
    """The lowest torsional natural frequencies of the whole train (1/min, rising), and how far the nearest of them,
    ``n_near``, lies from the speed of a shaft, over that speed."""

    n: tuple[float, ...]
    apart: float
    n_near: float
    shaft: str


class ShaftResult(Struct, frozen=True):
    """One shaft: ``stage`` is the stage with which its checks stand, ``plane`` and ``axis`` (mm) where it is in the
    machine."""

    key: str
    name: str
    stage: int
    axis: tuple[float, float]
    made: MadeShaft
    checked: ShaftCheck
    holding: Holding
    """What keeps all that stands on it, and the covers of its bearings."""
    order: ShaftOrder
    """How it is put together."""


class MachineResult(Struct, frozen=True):
    """All shafts in the order of the power, what stands on them, where, and what runs into what. ``L_sys`` is the
    life that all bearings together reach (h), ``mass`` that of gears, shafts, bearings and bare walls (kg)."""

    shafts: tuple[ShaftResult, ...]
    bodies: tuple[Body, ...]
    standing: tuple[Placement, ...]
    places: Places
    clashes: tuple[Clash, ...]
    housing: Housing
    rules: Rules
    L_sys: float
    mass: float
    housing_order: HousingOrder
    """How the housing opens, and what follows once the shafts are put together."""
    pins: tuple[PinResult, ...] = ()
    torsion: Torsion | None = None
    """None where a mesh has no stiffness by ISO 6336."""

    def shaft(self, key: str) -> ShaftResult | None:
        """The shaft of an identity."""
        return next((s for s in self.shafts if s.key == key), None)

    def shafts_of(self, stage: int) -> list[ShaftResult]:
        """The shafts that carry a gear of a stage, in the order of the power; else the nearest."""
        return [s for s in self.shafts if s.stage == stage] or list(self.shafts[-1:])
