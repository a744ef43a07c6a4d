"""What the meshes of a set have in common is solved as one: who gives, and who follows.

The first mesh gives: its pressure angle, helix and module where the next one shares a gear with it, and its centre
distance where planets go around. What is given at a further mesh is taken as given at the first. There follow: the hand
of the further meshes, their centre distances, and the shift of one gear in each (`Arrangement.follows`), or the module
or helix of the second mesh of stepped planets; K_gamma of all loaded meshes; the bending of teeth that drive in one
mesh and are driven in another.
"""

from __future__ import annotations

from collections.abc import Collection
from math import acos, cos, degrees, radians
from typing import Any

from cooper.document.gear_data import SIZES, Gear, Mesh
from cooper.document.models import SHARED_MESH
from cooper.document.sets import SetData
from cooper.document.walk import Stage
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.results.solve_stage import normal_module, solve_stage
from cooper.trains.planets import mesh_load_factor

BOTH_WAYS = "both ways"


def follow(
    sets: dict[str, SetData], gears: dict[str, Gear], meshes: dict[str, Mesh], given: Collection[str] = ()
) -> None:
    """Let the gears and meshes of sets meet, in place; ``given`` are the paths that an edit gave. Raises `OutOfRange`
    where what follows is to be given another value, or where nothing meets."""
    for key in list(sets):
        one = sets[key]
        if len(one.meshes) == (3 if one.free_sun else 2) and all(name in meshes for name in one.meshes):
            _Set(key, sets, gears, meshes, given).meet()
    idle = {name for one in sets.values() if not one.sun_works for name in one.meshes[2:]}
    loaded = [mesh for name, mesh in meshes.items() if name not in idle]
    for key in {m.driver for m in loaded} & {m.driven for m in loaded}:
        if f"train.gears.{key}.bending" in given and gears[key].bending != BOTH_WAYS:
            raise OutOfRange(
                "bending",
                "one way",
                tr("a gear with two meshes is loaded on both flanks, so that its teeth are bent both ways"),
            )
        if gears[key].bending != BOTH_WAYS:
            gears[key] = gears[key].replace_unchecked(bending=BOTH_WAYS)


class _Set:
    """One set while its parts meet."""

    def __init__(
        self,
        key: str,
        sets: dict[str, SetData],
        gears: dict[str, Gear],
        meshes: dict[str, Mesh],
        given: Collection[str],
    ) -> None:
        self.key, self.sets, self.gears, self.meshes, self.given = key, sets, gears, meshes, given
        self.of = sets[key].arranged

    @property
    def one(self) -> SetData:
        return self.sets[self.key]

    def stage(self, n: int) -> Stage:
        mesh = self.meshes[self.one.meshes[n]]
        return Stage((self.gears[mesh.driver], self.gears[mesh.driven]), mesh)

    def give(self, n: int, i: int | None, **values: Any) -> None:
        """Other values of gear i of mesh n, or of the mesh itself."""
        mesh = self.meshes[self.one.meshes[n]]
        if i is None:
            self.meshes[mesh.id] = mesh.replace_unchecked(**values)
        else:
            key = mesh.driven if i else mesh.driver
            self.gears[key] = self.gears[key].replace_unchecked(**values)

    def is_given(self, n: int, i: int | None, *names: str) -> bool:
        stage = self.stage(n)
        path = stage.path if i is None else stage.paths[i]
        return any(f"{path}.{name}" in self.given for name in names)

    def meet(self) -> None:
        """All that follows, in the order in which one comes of the other."""
        self._refuse_what_follows()
        self._distance_given()
        if self.of.one_gear:
            self._one_gear()
        if not self.of.around:
            return
        self._load_shared()
        first = self.stage(0)
        if self.one.free_sun and first.gears[0].x is None:
            # Of a gear in two meshes the shift is a number: the solved one is written down.
            self.give(0, 0, x=solve_stage(first).x[0])
        a_w = _distance(self.stage(0))
        for n in range(1, len(self.one.meshes)):
            free = self.of.follows[n - 1]
            if self.stage(n).gears[1 - free].x is None:
                self.give(n, 1 - free, x=0.0)
            self.give(n, free, x=None)
            self.give(n, None, a_w=a_w)
        self._agree()
        if self.one.free_sun:
            self._like_first(2)

    def _refuse_what_follows(self) -> None:
        agree = self.one.agree
        for size, mode in (*((s, "module") for s in SIZES), ("beta", "helix")):
            value = getattr(self.stage(1).mesh, size)
            if agree == mode and self.is_given(1, None, size) and value is not None:
                raise OutOfRange(
                    size,
                    value,
                    tr(
                        "the {mode} of the second mesh follows from the centre distance: let the meshes agree by shift "
                        "first",
                        mode=mode,
                    ),
                )

    def _distance_given(self) -> None:
        """A centre distance, or the shift that follows, given at the second mesh: the first one's distance, to which
        the shift of its first gear gives way, so that the planet stays one gear; that of a first ring is solved
        anyway."""
        second, free = self.stage(1), self.of.follows[0]
        if not self.of.around:
            return
        a_w = second.mesh.a_w if self.is_given(1, None, "a_w") else None
        shift = second.gears[free].x
        if self.is_given(1, free, "x") and shift is not None:
            if self.one.agree != "shift":
                raise OutOfRange(
                    "x_2",
                    shift,
                    tr(
                        "the meshes of the set agree by {agree}: let them agree by shift to give a ring's shift",
                        agree=self.one.agree,
                    ),
                )
            a_w = _distance(Stage(second.gears, second.mesh.replace_unchecked(a_w=None)))
        if a_w is not None and abs(a_w - _distance(self.stage(0))) > 1e-9 * a_w:
            self.give(0, None, a_w=a_w)
            if self.stage(0).gears[1].x is not None:
                self.give(0, 0, x=None)

    def _one_gear(self) -> None:
        """The gear in both meshes has a shift that is a number; what its meshes share is given at the first, or at
        the second where an edit gave it there."""
        first = self.stage(0)
        if first.gears[1].x is None:
            self.give(0, 1, x=solve_stage(first).x[1])
            if first.mesh.a_w is not None and first.gears[0].x is not None:
                self.give(0, None, a_w=None)
        leads = 1 if self.is_given(1, None, *SHARED_MESH, "d_1", "d_2") else 0
        mesh = self.stage(leads).mesh
        if mesh.m_n is None and mesh.P_nd is None:
            self.give(leads, None, **dict.fromkeys(SIZES) | {"m_n": normal_module(self.stage(leads))})
            mesh = self.stage(leads).mesh
        shared = {n: getattr(mesh, n) for n in SHARED_MESH}
        self.give(1 - leads, None, **shared, d_1=None, d_2=None)
        turned = 1 if self.is_given(1, None, "hand") else 0
        self.give(1 - turned, None, hand=_other(self.stage(turned).mesh.hand))

    def _like_first(self, n: int) -> None:
        """A further mesh of a gear of the first: of its size and angles, and of the other hand."""
        first = self.stage(0)
        mesh = first.mesh
        sized = mesh.m_n is not None or mesh.P_nd is not None
        self.give(
            n,
            None,
            alpha_n=mesh.alpha_n,
            beta=mesh.beta,
            m_n=mesh.m_n if sized else normal_module(first),
            P_nd=mesh.P_nd,
            d_1=None,
            d_2=None,
            hand=_other(mesh.hand),
            K_gamma=mesh.K_gamma if self.one.sun_works else 1.0,
        )

    def _load_shared(self) -> None:
        """K_gamma of the loaded meshes: as given at either of them or for the set, else by the number of planets."""
        for n in (0, 1):
            if self.is_given(n, None, "K_gamma"):
                self.sets[self.key] = self.one.replace_unchecked(K_gamma=self.stage(n).mesh.K_gamma)
        one = self.one
        load = one.K_gamma if one.K_gamma is not None else mesh_load_factor(one.planets, one.floating)
        for n in (0, 1):
            self.give(n, None, K_gamma=load)

    def _agree(self) -> None:
        """Module or helix of the second mesh of stepped planets, so that its reference centre distance is the one
        that is given."""
        by, second = self.one.agree, self.stage(1)
        mesh, teeth = second.mesh, abs(second.gears[1].z) - second.gears[0].z
        assert mesh.a_w is not None
        if by == "module":
            size = 2 * mesh.a_w * cos(radians(mesh.beta)) / teeth
            self.give(1, None, **dict.fromkeys(SIZES) | {"m_n": size})
        elif by == "helix":
            m_n = normal_module(second)
            cosine = m_n * teeth / (2 * mesh.a_w)
            if not cos(radians(45.0)) <= cosine <= 1 + 1e-12:
                raise OutOfRange(
                    "agree",
                    "helix",
                    tr(
                        "with m_n = {m_n:g} mm a helix makes the second mesh's centre distance {m_n_2:.3f} mm or "
                        "more, up to {m_n_3:.3f} mm at 45 degrees; the first one's is {a_w:.3f} mm. Take another "
                        "module, or let them agree by module or shift",
                        m_n=m_n,
                        m_n_2=m_n * teeth / 2,
                        m_n_3=m_n * teeth / 2**0.5,
                        a_w=mesh.a_w,
                    ),
                )
            beta = degrees(acos(min(cosine, 1.0)))
            self.give(1, None, **dict.fromkeys(SIZES) | {"m_n": m_n, "beta": beta})


def _other(hand: str) -> str:
    return "left" if hand == "right" else "right"


def _distance(stage: Stage) -> float:
    """Centre distance of a stage as its shifts or its given distance make it; mm."""
    return abs(float(solve_stage(stage).a_w))
