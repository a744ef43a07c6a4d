"""A structured grid over the true section of a few teeth on their rim, fine along the fillet.

Each half of a tooth is one block: rows run along the outline from the middle of the space to the tip, lines run from
the outline to the middle of the tooth or, from the root, to the rim. Nine-node elements follow the curves.
"""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from msgspec import Struct

from cooper.arrays import Array, Index
from cooper.gears.outline import half_tooth
from cooper.gears.rack_gear import is_rack, transverse_pitch
from cooper.gears.root import RootForm
from cooper.gears.tip import tip_form_diameter
from cooper.gears.tooth import Tooth


class Frame(Struct, frozen=True):
    """Half a tooth in its own axes: x across it, y towards its tip, the middle of its space first and the middle of
    its tip last; ``step`` moves points to the k-th next tooth, ``foot`` a point of the rim by the share of the way from
    the middle of the space to the middle of the tooth."""

    half: Array
    corner: int
    """Where the tip's land begins."""
    tip: int
    """Where the involute ends: at the corner, or where a chamfer or rounding begins."""
    fillet: tuple[int, int]
    """Where the fillet begins and ends."""
    pitch: float
    """Angle (rad) from tooth to tooth about the origin, or the pitch of a rack (mm)."""
    straight: bool
    rim: float
    """Radius of the rim's edge, or its height on a rack; mm."""
    inward: bool

    def step(self, points: Array, k: float) -> Array:
        """Points of a tooth moved to the place of the k-th next one to the right."""
        if self.straight:
            return np.asarray(points + np.array([k * self.pitch, 0.0]))
        # Towards +x about the origin, which lies below an external tooth and above an internal one.
        a = k * self.pitch * (1 if self.inward else -1)
        c, s = np.cos(a), np.sin(a)
        return np.asarray(points @ np.array([[c, s], [-s, c]]))

    def foot(self, u: Array) -> Array:
        """Points of the rim's edge."""
        a = (1 - u) * self.pitch / 2
        if self.straight:
            return np.column_stack((a, np.full(len(u), self.rim)))
        y = -np.cos(a) if self.inward else np.cos(a)
        return np.asarray(self.rim * np.column_stack((np.sin(a), y)))


DEPTH = 4.0
"""Modules of body under the root that are part of a section at most."""


def frame_of(tooth: Tooth, form: RootForm, edge: float, tolerance: float = 2e-5) -> Frame:
    """The frame of one gear.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.
    form : RootForm
        Root form of the tooth.
    edge : float
        Diameter of its bore or rim, of a ring's outside, or height of a rack's back under its datum line (mm), 0 for
        none.
    tolerance : float
        Chord error of the outline over the module.

    Returns
    -------
    Frame
        The frame; a solid body is cut off `DEPTH` modules under the root.
    """
    polar = half_tooth(tooth, tolerance * float(tooth.m_n), form)
    m_n, straight, inward = float(tooth.m_n), is_rack(tooth), float(tooth.sign) < 0
    r, a = polar[:, 0], polar[:, 1]
    if straight:
        half = np.column_stack((float(tooth.d) / 2 * a, r - float(tooth.d) / 2))
        rim, pitch = half[0, 1] - DEPTH * m_n, transverse_pitch(tooth)
        if edge > 0:
            rim = max(rim, -edge)
    else:
        half = np.column_stack((r * np.sin(a), -r * np.cos(a) if inward else r * np.cos(a)))
        pitch = 2 * np.pi / abs(float(tooth.z))
        rim = r[0] + DEPTH * m_n if inward else max(r[0] - DEPTH * m_n, 0.15 * r[0])
        if edge > 0:
            rim = min(rim, edge / 2) if inward else max(rim, edge / 2)
    r_tip = r[-1]
    corner = int(np.nonzero(np.abs(r - r_tip) > 1e-9 * abs(r_tip))[0][-1]) + 1
    r_Fa = abs(float(tip_form_diameter(tooth))) / 2
    tip = min(int(np.argmin(np.abs(r[: corner + 1] - r_Fa))), corner)
    r_Ff = abs(float(form.d_Ff)) / 2
    beyond = (r >= r_Ff - 1e-9) if not inward else (r <= r_Ff + 1e-9)
    beyond[: int(np.argmax(np.abs(r - r[0]) > 1e-9 * r[0]))] = False
    end = int(np.argmax(beyond))
    start = max(int(np.argmax(np.abs(r - r[0]) > 1e-9 * r[0])) - 1, 0)
    return Frame(half, corner, max(tip, end + 1), (start, end), pitch, straight, float(rim), inward)


class Fineness(Struct, frozen=True):
    """Elements along root, fillet, flank, and from the outline inwards; teeth to either side."""

    root: int = 2
    fillet: int = 10
    flank: int = 12
    inwards: int = 8
    beside: int = 1


ROUGH, COARSE, USUAL, FINE = Fineness(1, 4, 6, 4), Fineness(1, 6, 7, 5), Fineness(), Fineness(3, 20, 24, 14)
"""From what is seen at once to what a nearly sharp fillet asks for. Convergence: the root stress of the first is within
6 % of that of the usual one."""


class Grid(Struct, frozen=True):
    """Nodes (n, 2; mm) and nine-node elements (m, 9; corners counter-clockwise, middles of the sides from the first
    to the second corner on, middle).

    ``chains`` the nodes of the loaded flank of every tooth from the middle of its space to its tip, by number of tooth
    from the left; ``along`` the length along that outline (mm), ``held`` the nodes that stand still, ``flank`` where in
    a chain the involute begins, ``frame`` what it was made of.
    """

    nodes: Array
    elements: Index
    chains: Index
    along: Array
    held: Index
    flank: int
    mid: int
    frame: Frame

    @property
    def fillet(self) -> Index:
        """The nodes of the loaded side from the middle of the space to where the flank begins, whole elements."""
        return np.asarray(self.chains[self.mid][: self.flank + 1])

    @property
    def corners(self) -> Index:
        """The elements' corners."""
        return np.asarray(self.elements[:, :4])


def along_outline(frame: Frame, f: Fineness) -> tuple[Array, int]:
    """Places of the nodes along half an outline.

    Parameters
    ----------
    frame : Frame
        The frame of the gear.
    f : Fineness
        Fineness of the grid.

    Returns
    -------
    tuple[Array, int]
        Shares of the way from the space to the tip's corner, and how many of them come before the flank.

    Notes
    -----
    The fillet is cut evenly; root and flank towards it ever more finely.
    """
    s = np.concatenate(([0.0], np.cumsum(np.hypot(*np.diff(frame.half[: frame.corner + 1], axis=0).T))))
    s_1, s_2, s_3 = s[frame.fillet[0]], s[frame.fillet[1]], s[frame.tip]
    t = np.linspace(0, 1, 2 * f.flank + 1)
    t_0 = np.linspace(0, 1, 2 * f.root + 1)
    parts = [s_1 * (1 - (1 - t_0) ** 1.3)] if s_1 > 1e-6 * s_3 else [np.zeros(1)]
    first = parts[0][-1]
    # As finely where it turns as its turn asks, and nowhere coarser than twice the even step.
    a, b = frame.fillet
    piece = frame.half[a : b + 1]
    heading = np.unwrap(np.arctan2(*np.diff(piece, axis=0).T))
    turn = np.concatenate(([0.0], np.cumsum(np.abs(np.diff(heading, prepend=heading[0])))))
    length = s[a : b + 1] - s[a]
    both = 0.5 * length / max(length[-1], 1e-12) + 0.5 * turn / max(turn[-1], 1e-12)
    cut = np.interp(np.linspace(0, 1, f.fillet + 1), both, s[a : b + 1])
    cut[0], cut[-1] = first, s_2
    parts.append(np.interp(np.arange(1, 2 * f.fillet + 1) / 2, np.arange(f.fillet + 1), cut))
    parts.append((s_2 + (s_3 - s_2) * t)[1:])
    if s[-1] - s_3 > 1e-6 * s[-1]:
        # A chamfer or rounding begins with a kink, where an element ends.
        parts.append(np.linspace(s_3, s[-1], 2 * f.root + 1)[1:])
    places = np.concatenate(parts)
    return places, len(parts[0]) + len(parts[1]) - 1


def grid_of(frame: Frame, f: Fineness = USUAL, solid: bool = True) -> Grid:
    """The grid over a tooth and its neighbours.

    Parameters
    ----------
    frame : Frame
        The frame of the gear.
    f : Fineness
        Fineness of the grid.
    solid : bool
        Whether the rim is held as well as the sides of the section.

    Returns
    -------
    Grid
        The grid.
    """
    places, flank = along_outline(frame, f)
    line = frame.half[: frame.corner + 1]
    s = np.concatenate(([0.0], np.cumsum(np.hypot(*np.diff(line, axis=0).T))))
    outer = np.column_stack([np.interp(places, s, line[:, k]) for k in (0, 1)])
    n = len(places)
    # Lines from below the middle of the fillet run to the rim, all above to the middle of the tooth.
    turn = 2 * (np.searchsorted(places, 0.5 * (places[flank] + s[frame.fillet[0]])) // 2)
    turn = int(min(max(turn, 2), n - 5))
    low = np.linspace(0, 1, turn + 1)
    inner = np.empty_like(outer)
    inner[: turn + 1] = frame.foot(low)
    tip, foot = frame.half[-1], frame.foot(np.ones(1))[0]
    # Along the tooth lines run across it; towards the fillet they lead down into the body.
    left = 1 - (places[turn:] - places[turn]) / (places[-1] - places[turn])
    height = outer[turn:, 1] - (outer[turn, 1] - foot[1]) * left**3 + (tip[1] - outer[-1, 1]) * (1 - left)
    inner[turn:] = np.column_stack((np.zeros(n - turn), height))
    t = np.linspace(0, 1, 2 * f.inwards + 1)
    grade = 0.12 * t + 0.88 * t**2
    block = outer[:, None, :] + grade[None, :, None] * (inner - outer)[:, None, :]
    # The last line is the tip's land.
    block[-1] = outer[-1] + grade[:, None] * (tip - outer[-1])
    beside = f.beside
    numbers = range(-beside, beside + 1)
    blocks = []
    for k in numbers:
        for side in (1.0, -1.0):
            blocks.append(frame.step(block.reshape(-1, 2) * [side, 1.0], float(k)).reshape(block.shape))
    every = np.concatenate([b.reshape(-1, 2) for b in blocks])
    woven = weave(n, block.shape[1], turn, len(numbers))
    index = woven.index
    # The section ends in the space right of the last tooth and in that left of the first.
    held = [index[2 * len(numbers) - 2][0], index[1][0]]
    if solid:
        held += [b[: turn + 1, -1] for b in index]
    chains = np.stack([index[2 * k][:, 0] for k in range(len(numbers))])
    return Grid(
        every[woven.first], woven.elements, chains, places, np.unique(np.concatenate(held)), flank, beside, frame
    )


class Weave(Struct, frozen=True):
    """How the nodes of a grid hang together, whatever its shape: ``first`` of the blocks' places that is each
    node's, ``index`` the node of every place (blocks, rows, columns), and the elements."""

    first: Index
    index: Index
    elements: Index


@lru_cache(maxsize=16)
def weave(rows: int, columns: int, turn: int, teeth: int) -> Weave:
    """The nodes of teeth beside each other, each of two blocks: the right half and its mirror image.

    Parameters
    ----------
    rows : int
        Lines of nodes along half a tooth.
    columns : int
        Nodes across.
    turn : int
        Number of the line from which on the middle of the tooth is shared.
    teeth : int
        Number of teeth.

    Returns
    -------
    Weave
        Numbers of the nodes.

    Notes
    -----
    Neighbours share the middle of their space, the first line.
    """
    place = np.arange(2 * teeth * rows * columns).reshape(2 * teeth, rows, columns)
    for k in range(teeth):
        place[2 * k + 1, turn:, -1] = place[2 * k, turn:, -1]
        if k + 1 < teeth:
            place[2 * k + 3, 0] = place[2 * k, 0]
    first, number = np.unique(place, return_inverse=True)
    index = number.reshape(place.shape)
    elements = []
    for n, b in enumerate(index):
        c = b[::2, ::2]
        q = np.stack(
            (
                c[:-1, :-1],
                c[1:, :-1],
                c[1:, 1:],
                c[:-1, 1:],
                b[1::2, :-2:2],
                b[2::2, 1::2],
                b[1::2, 2::2],
                b[:-2:2, 1::2],
                b[1::2, 1::2],
            ),
            axis=-1,
        ).reshape(-1, 9)
        # The left half is a mirror image, whose elements turn the other way round.
        elements.append(q[:, [0, 3, 2, 1, 7, 6, 5, 4, 8]] if n % 2 else q)
    return Weave(first, index, np.concatenate(elements))
