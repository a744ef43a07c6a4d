"""Bearings beyond the two of every shaft: set by a person onto a free piece, where they hold the shaft a third time."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from msgspec.structs import replace

from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.machine.choose_bearing import borne
from cooper.machine.shaft_model import BearingGiven, Borne, Piece, ShaftRequirements
from cooper.stock.rolling import Bearing

FREE = ("gap", "collar")
"""Kinds of pieces that a bearing can be set on."""


def more_names(wish: ShaftRequirements) -> list[str]:
    """Names of the bearings that are set by hand, in their order.

    Parameters
    ----------
    wish : ShaftRequirements
        What the shaft has to carry, with what a person fixed of it.

    Returns
    -------
    list[str]
        Names.

    Notes
    -----
    A shaft has ``bearing 1`` and ``bearing 2`` of its own; others stand where ``at`` is given.
    """
    return sorted(k for k, v in wish.bearings.items() if v.at is not None and k not in ("bearing 1", "bearing 2"))


def set_more(
    wish: ShaftRequirements,
    pieces: tuple[Piece, ...],
    bearings: list[Borne],
    choose: Callable[[int, str, float, float], Bearing],
) -> tuple[tuple[Piece, ...], list[Borne]]:
    """Pieces and bearings with those that are set by hand.

    Parameters
    ----------
    wish : ShaftRequirements
        What the shaft has to carry, with what a person fixed of it.
    pieces : tuple[Piece, ...]
        Pieces of the shaft from left to right.
    bearings : list[Borne]
        The shaft's own bearings.
    choose : Callable[[int, str, float, float], Bearing]
        Finds the bearing of a number and name from a bore on and up to a width (mm).

    Returns
    -------
    tuple[tuple[Piece, ...], list[Borne]]
        Pieces and bearings.

    Raises
    ------
    OutOfRange
        Where no free piece has room for one, with the places that have.
    """
    first = next(b for b in bearings if b.name == "bearing 1").at
    for k, name in enumerate(more_names(wish), 2):
        at = first + (wish.bearings[name].at or 0.0)
        n = next((n for n, p in enumerate(pieces) if p.start <= at <= p.end), -1)
        piece = pieces[n] if n >= 0 and pieces[n].kind in FREE else None
        b = None if piece is None else choose(k, name, piece.d, 2 * min(at - piece.start, piece.end - at))
        if piece is None or b is None or at - b.B / 2 < piece.start - 1e-9 or at + b.B / 2 > piece.end + 1e-9:
            raise _no_room(wish, pieces, name, at - first, first, partial(choose, k, name))
        start, stop = at - b.B / 2, at + b.B / 2
        given = wish.pieces.get(name)
        own = Piece(
            name=name,
            kind="bearing",
            start=start,
            end=stop,
            d=(given.d if given is not None else None) or b.d,
            r=0.6 * b.r_s,
            on=name,
        )
        parts = [replace(piece, end=start)] if start - piece.start > 1e-6 else []
        rest = (
            [replace(piece, name=tr("{name}, after {name_2}", name=piece.name, name_2=name), start=stop)]
            if piece.end - stop > 1e-6
            else []
        )
        pieces = (*pieces[:n], *parts, own, *rest, *pieces[n + 1 :])
        bearings = [*bearings, borne(name, b, at, False, wish.bearings.get(name, BearingGiven()))]
    return pieces, bearings


def _no_room(
    wish: ShaftRequirements,
    pieces: tuple[Piece, ...],
    name: str,
    place: float,
    first: float,
    choose: Callable[[float, float], Bearing],
) -> OutOfRange:
    half = {p.name: choose(p.d, 0.0).B / 2 for p in pieces if p.kind in FREE}
    rooms = [(p.start + half[p.name] - first, p.end - half[p.name] - first, p.name) for p in pieces if p.kind in FREE]
    rooms = [r for r in rooms if r[1] > r[0]]
    where = tr("{key} {name} at", key=wish.key, name=name)
    if not rooms:
        wide = max((p.length for p in pieces if p.kind in FREE), default=0.0)
        what = tr(
            "no free piece of the shaft is wide enough for {name}; the widest has {wide:.4g} mm", name=name, wide=wide
        )
        return OutOfRange(where, place, what, unit="mm")
    low, high, piece = min(rooms, key=lambda r: abs(min(max(place, r[0]), r[1]) - place))
    what = tr("{name} stands on a seat, a bearing or beside the shaft; it fits on {piece}", name=name, piece=piece)
    return OutOfRange(where, place, what, low=low, high=high, unit="mm")
