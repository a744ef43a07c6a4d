"""What a set of meshes is, one shape for each arrangement: its members, which of them mesh and what they are called there, and how they stand."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Arrangement:
    """``members`` that turn, ``meshes`` as numbers of the members that each joins (driver, driven; a sun between two rings is the member after those listed) and their
    ``roles``; ``around`` whether planets go about an axis on a carrier, ``one_gear`` whether what stands in both meshes is one gear, ``planet`` its place in the
    first mesh (0 drives, 1 is driven)."""

    members: tuple[str, ...]
    meshes: tuple[tuple[int, int], ...]
    roles: tuple[tuple[str, str], ...]
    around: bool = True
    one_gear: bool = False
    planet: int = 1


_AROUND = ("sun", "planet", "ring", "carrier")
_SUN_AND_RING = (("sun", "planet"), ("planet", "ring"))
ARRANGED = {
    "planetary": Arrangement(_AROUND, ((0, 1), (1, 2)), _SUN_AND_RING, one_gear=True),
    "stepped": Arrangement(_AROUND, ((0, 1), (1, 2)), _SUN_AND_RING),
    "two rings": Arrangement(
        ("planet", "ring", "ring 2", "carrier"),
        ((0, 1), (0, 2), (4, 0)),
        (("planet", "ring"), ("planet", "ring 2"), ("sun", "planet")),
        planet=0,
    ),
    "idler": Arrangement(
        ("first gear", "idler", "last gear"),
        ((0, 1), (1, 2)),
        (("first gear", "idler"), ("idler", "last gear")),
        around=False,
        one_gear=True,
    ),
}
"""The arrangements by what a set states as its kind."""
