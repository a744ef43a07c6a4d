"""What a set of meshes is, one shape for each arrangement: its members, which of them mesh and what they are called
there, how they stand, and which gears are one."""

from __future__ import annotations

from collections.abc import Mapping

from msgspec import Struct

Place = tuple[int, int]
"""A gear of a set: number of its mesh, and 0 where it drives there, 1 where it is driven."""


class Arrangement(Struct, frozen=True, kw_only=True):
    """``label`` names a new set, ``words`` tell what it is. ``members`` turn, ``meshes`` are numbers of the members
    that each joins (driver, driven; a sun between two rings is the member after those listed) and ``roles`` what these
    are called there; ``between`` is the member that stands in all meshes. ``shafts`` can be driven, held or taken off,
    ``sun_between`` tells whether a third mesh with a sun may be added.

    ``same`` are the places whose gear is that of another place, ``inward`` whose teeth must point inward (True) or
    outward, ``parts`` the gears as they are listed. ``around`` tells whether the members between stand about an axis on
    a ``carrier``, ``fixed`` is a shaft that is held in any case. ``follows`` is the place in each further mesh whose
    shift follows, so that all centre distances agree. ``circulates`` tells whether more power can run within than comes
    in, so that torques are found with the losses, and ``across`` which way the planet is pushed in each mesh.
    """

    label: str
    words: str
    members: tuple[str, ...]
    meshes: tuple[tuple[int, int], ...]
    roles: tuple[tuple[str, str], ...]
    shafts: tuple[str, ...]
    same: Mapping[Place, Place]
    inward: Mapping[Place, bool]
    parts: tuple[tuple[str, Place], ...]
    between: str = "planet"
    around: bool = True
    carrier: str = "carrier"
    fixed: str | None = None
    follows: tuple[int, ...] = (1, 0)
    circulates: bool = False
    sun_between: bool = False
    across: tuple[int, ...] = (1, 1)

    def at(self, mesh: int) -> int:
        """Place of the member between the others in a mesh: 0 drives, 1 is driven."""
        return self.roles[mesh].index(self.between)

    @property
    def planet(self) -> int:
        """Its place in the first mesh."""
        return self.at(0)

    @property
    def one_gear(self) -> bool:
        """Whether one gear stands in both the first and the second mesh, so that their centre distances agree by its
        shift."""
        return (1, 0) in self.same

    @property
    def plain_planets(self) -> bool:
        """Whether planets of one gear go around."""
        return self.around and self.one_gear

    @property
    def sun_inside(self) -> bool:
        """Whether the first mesh is that of a sun."""
        return self.roles[0][0] == "sun"

    @property
    def where(self) -> dict[str, Place]:
        """The gear of each role besides that between the others."""
        return {r: (n, i) for n, pair in enumerate(self.roles) for i, r in enumerate(pair) if r != self.between}

    def shafts_of(self, sun: bool) -> tuple[str, ...]:
        """Shafts that can be driven, held or taken off, with a sun between the planets or without."""
        return tuple(s for s in self.shafts if sun or not self.sun_between or s != "sun")

    def stands_in(self, mesh: int) -> int:
        """The mesh beside whose gears a mesh takes no room of its own, as one of its gears is theirs; itself where
        there is none."""
        return next((of[0] for (n, _i), of in self.same.items() if n == mesh), mesh)


ROUND = ("sun", "planet", "ring", "carrier")
SUN_AND_RING = (("sun", "planet"), ("planet", "ring"))
