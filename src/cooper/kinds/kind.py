"""The shape of a kind of toothed body: all that drawings, files, checks, sheets and edits ask of it.

What is said here is true of an external wheel; other kinds say what differs. A pair is of the kind of its driven gear.
"""

from __future__ import annotations

from collections.abc import Mapping
from math import ceil
from pkgutil import resolve_name
from typing import Any, Protocol

import numpy as np
from msgspec import Struct

from cooper.arrays import Array
from cooper.gears.outline import one_tooth
from cooper.gears.phase import MeshPlacement, mesh_placement
from cooper.gears.root import RootForm
from cooper.gears.tooth import Tooth
from cooper.i18n.text import tr
from cooper.kinds.section import Section, WheelSection
from cooper.values import GearValues, MeshValues

Changes = dict[str, Any]
"""New values by the name of what is entered."""


class Entered(Protocol):
    """What is read here of a gear as it is entered (`document.models.Gear`)."""

    @property
    def shape(self) -> str: ...
    @property
    def tool(self) -> str: ...
    @property
    def z(self) -> int: ...
    @property
    def x(self) -> float | None: ...
    @property
    def d_a(self) -> float | None: ...
    @property
    def d_bore(self) -> float: ...
    @property
    def d_i(self) -> float | None: ...
    @property
    def d_rim(self) -> float | None: ...
    @property
    def h_back(self) -> float: ...
    @property
    def h_fP(self) -> float: ...
    @property
    def rho_fP(self) -> float: ...
    @property
    def z_0(self) -> int: ...


def resolve_and_call(name: str, key: str) -> Any:
    """What the function at an import path gives for a key: how one object stands for another process's own of the
    same key."""
    return resolve_name(name)(key)


class Kind(Struct, frozen=True):
    """An external wheel, and the pair of two of them."""

    key: str = tr("external pair")
    words: str = tr("two gears side by side")
    shape: str = "gear"
    """The word for it in the document; kinds that share one are told apart by `is_of`."""
    name: str = tr("wheel")
    """What a gear of it is called."""
    gear_words: tuple[str, str] | None = None
    """What driving and driven gear are called; None where the one with fewer teeth is the pinion."""
    turns: bool = True
    """Whether it turns about an axis, and so hands on torque and speed; else it ends a train with a force and a
    speed."""
    inward: bool = False
    """Whether its teeth point inward: both gears then turn the same way and have the same hand."""
    drives: bool = True
    """Whether it can be the driving gear of a pair."""
    shifts: bool = True
    """Whether it has a profile shift and a tip diameter of its own."""
    splits: bool = True
    """Whether a pair of it can become two stages, or the first mesh of a set."""
    tools: tuple[str, ...] = ("rack", "pinion cutter", "form", "elliptic")
    """What can make its teeth; the first one does unless another is chosen."""
    grows: tuple[str, ...] = ("d_a",)
    """Entered lengths that keep their proportion to the module."""
    boundary_diameter: str = "d_bore"
    """What bounds the body away from the teeth, as entered."""
    edge_words: str = "bore"
    thinnest: str = tr("half the tooth depth")
    """The least rim with which a root can be rated, in words."""
    on_drawing: tuple[str, ...] = ("z", "x", "d_a", "d", "b")
    """What stands on the drawing beside it, from above."""
    data: tuple[str, ...] = ("h_K", "delta_K", "rho_a", "d_bore")
    """What its sheet asks for besides what all gears have."""
    rack_tool_data: tuple[str, ...] = ("pr_P", "q_P", "alpha_prP")
    """The same of a rack or hob that makes it."""
    web: bool = True
    """Whether it can stand on a web."""
    twist: float = -1.0
    """Sense in which its section moves along its width against that of the driving gear."""
    grooves: bool = True
    """Whether a double helix of it can have a groove between its halves."""
    straight: str = ""
    """What is said of flanks that are straight lines; empty for involutes."""
    no_agma: str = ""
    """Why ANSI/AGMA 2101 cannot rate a pair of it; empty where it can."""

    def __reduce__(self) -> tuple[Any, ...]:
        # In another process it is that process's kind of the same key; `known` lists all kinds and imports this file.
        return resolve_and_call, ("cooper.kinds.known:kind_named", self.key)

    # -- as entered

    def is_of(self, gear: Entered) -> bool:
        """Whether a gear is of this kind."""
        return gear.shape == self.shape and self.counts(gear.z)

    def counts(self, z: int) -> bool:
        """Whether a count of this sign belongs to it."""
        return z > 0

    def fault(self, gear: Entered) -> str:
        """What of a gear's data this kind cannot have; empty when all is well."""
        if gear.d_rim is not None:
            return tr("an internal gear, and only that, has an outside diameter d_rim")
        return ""

    def pair_fault(self, driver: Entered, driven: Entered) -> str:
        """What keeps two gears, this one driven, from being a pair; empty when nothing does."""
        return ""

    # -- in the core's numbers

    def count(self, z: int) -> int:
        """The count with which the core computes."""
        return z

    def cut(self, z: int) -> float | None:
        """Number of teeth that are there where the core computes with another count."""
        return None

    def distance(self, a_w: float, m_n: float, beta: float) -> float:
        """A centre distance as measured in the core's sense; mm."""
        return a_w

    def measured(self, a_w: float, m_n: float, beta: float) -> float:
        """Inverse of `distance`: the measured centre distance (mm) for one in the core's sign convention."""
        return a_w

    def core_edge(self, gear: Entered, m_n: float, beta: float) -> float:
        """What bounds the body as the core's bore diameter; mm."""
        return gear.d_bore

    def measured_edge(self, d_bore: float, d: float) -> float:
        """Inverse of `core_edge`: the measured diameter (mm) for the core's bore ``d_bore``; ``d`` is the core's
        reference diameter."""
        return d_bore

    def edge_low(self, tooth: Tooth) -> float | None:
        """The least edge that leaves a rim in closed form; None where it is looked for."""
        return None

    # -- results

    def has_in_mesh(self, symbol: str) -> bool:
        """Whether a value of the core says something of a pair of this kind."""
        return True

    def has(self, symbol: str) -> bool:
        """Whether a value of the core says something of this gear."""
        return True

    def present(
        self, mesh: MeshValues[float], gears: tuple[GearValues[float], GearValues[float]], tooth: Tooth, own: Entered
    ) -> None:
        """Add to what is shown of a pair what this kind, the driven gear, is measured by."""

    def edge_of(self, values: Mapping[str, float]) -> float:
        """Diameter that bounds the body away from its teeth in the results; mm."""
        return values.get("d_bore", 0.0)

    def reaches(self, values: Mapping[str, float]) -> tuple[float, float]:
        """How far it reaches from its axis or datum line to the left and to the right; mm."""
        r = self.outside(values) / 2
        return r, r

    def outside(self, values: Mapping[str, float]) -> float:
        """Outside diameter in the results; mm."""
        return values["d_a"]

    def behind(
        self, T: float, omega: float, mesh: MeshValues[float], gears: tuple[GearValues[float], GearValues[float]]
    ) -> dict[str, float]:
        """What is handed on behind a pair with torque ``T`` (N m) and speed ``omega`` (rad/s) at its driving gear."""
        u = abs(mesh.u)
        return {"T_out": T * u * mesh.eta_z, "n_out": omega / u * 30 / np.pi}

    def tip_room(self, a_w: float, roots: tuple[float, float], c: float, i: int, mate_h_f: float) -> float:
        """Tip radius of gear i (0, 1) of a pair of this kind that leaves a clearance to the mate's root radius; mm."""
        return a_w - roots[1 - i] - c

    # -- in section

    def section(self, tooth: Tooth, form: RootForm, values: Mapping[str, float]) -> Section:
        """The body in transverse section."""
        return WheelSection(tooth, form, self.edge_of(values), self.inward)

    def upright(self, tooth: Tooth, tolerance: float) -> Array:
        """One tooth that points up, about its axis or datum line; (n, 2) in mm."""
        x, y = one_tooth(tooth, tolerance).T
        return float(tooth.sign) * np.column_stack((-y, x))

    def levels(self, values: Mapping[str, float]) -> dict[str, float]:
        """Heights of lines across an upright tooth of what does not turn, by what they are; mm."""
        return {}

    def place(self, a_w: float) -> float:
        """x of its axis or datum line where the driving gear stands at the origin and the mesh on +x; mm."""
        return a_w

    def stand(self, teeth: tuple[Tooth, Tooth], j_wt: float, a_w: float, roll: float, side: float) -> MeshPlacement:
        """How a pair stands in its mesh at the driving gear's roll (rad); ``side`` as in `gears.phase.mesh_placement`.

        ``a_w`` is the measured distance.
        """
        one, two = teeth
        return mesh_placement(float(one.z), float(two.z), j_wt, self.place(a_w), roll, side)

    def motion(self, section: Section, stand: MeshPlacement) -> float:
        """The motion of its section at a stand."""
        return float(stand.phi_2)

    def extent(
        self, gears: tuple[Mapping[str, float], Mapping[str, float]], outer: float, a_w: float
    ) -> tuple[float, float, float]:
        """Least and greatest x and greatest height of a pair of this kind, the driving gear ``outer`` (mm) in
        radius; mm."""
        own, x = self.outside(gears[1]) / 2, self.place(a_w)
        return min(-outer, x - own), max(outer, x + own), max(outer, own)

    def under(self, x: float, y: float, a_w: float, r_w1: float) -> bool:
        """Whether a point of the drawing lies on it rather than on the driving gear."""
        return x >= r_w1

    def pushed(self, a: tuple[float, float], b: tuple[float, float], a_w: float, ratio: float, r_w1: float) -> float:
        """Turn of the driving gear (rad) when this one is pushed from point a to point b; mm."""
        x = self.place(a_w)
        ax, ay, bx, by = a[0] - x, a[1], b[0] - x, b[1]
        arm = max(float(np.hypot(ax, ay)), 0.2 * r_w1)
        return -ratio * (ax * by - ay * bx) / arm**2

    # -- edits

    def made(self, gear: Entered, m_n: float, beta: float) -> Changes:
        """What is entered to make a gear one of this kind, with the count that it has."""
        return {
            "shape": self.shape,
            "d_a": None,
            "d_bore": 0.0,
            "d_i": None,
            "d_rim": None,
            "tool": self.tools[0],
        }

    def first_count(self, z_1: int, z_2: int) -> int:
        """The count with which a driven gear of this kind begins in place of an external one."""
        return z_2

    def first_shift(self, x_1: float) -> float | None:
        """The shift with which it begins; None to keep what it has."""
        return None

    def resized(self, gear: Entered, z: int, m_n: float, beta: float) -> Changes:
        """What else is entered when a fit takes another count and module for it."""
        return {}

    def nearest_counts(self) -> tuple[int, int]:
        """Least and greatest count that is looked at for a range that works."""
        return 4, 300


def rim_for(z: int, h_fP: float, x: float, m_n: float, beta: float) -> float:
    """Outside diameter that leaves a ring a rim of four modules under its roots, rounded up to whole mm.

    >>> rim_for(-60, 1.25, 0.0, 2.0, 0.0)
    141.0
    """
    root = m_n * (abs(z) / np.cos(beta) + 2 * h_fP + abs(x))
    return float(ceil(root + 8 * m_n))
