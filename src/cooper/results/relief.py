"""Relief from the load: what makes a mesh smooth at its load, what lets it bear most, what lies between; and the
transmission error over load and relief.

What is proposed is found by trying: each amount is a whole mesh cycle of the loaded teeth.
"""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from cooper.arrays import Array
from cooper.field.loaded_contact import MeshCycle
from cooper.gears.flank_form import FlankForm, long_relief
from cooper.i18n.text import tr
from cooper.results.loaded_tooth import LoadedAsk, cycle_of

AIMS = {
    "smooth": tr("runs smoothest"),
    "range": tr("runs smooth from half load on"),
    "between": tr("lies between"),
    "bears": tr("bears most"),
}
"""What a relief can be made for, with its words."""
TRIES = 13
"""Amounts that are tried, from none to the greatest."""
MAP_LOADS = np.array([0.1, 0.25, 0.5, 0.75, 1.0, 1.25, 1.5])
MAP_TRIES = 13


class ReliefChoice(Struct, frozen=True):
    """A tip relief for both gears: its aim, whether long, amount (um) and length of roll (mm), peak-to-peak
    transmission error (um), largest pressure (MPa) and how far tip edges touch outside the path (mm), each without
    relief and with it; ``why`` in words."""

    aim: str
    long: bool
    C_a: float
    l_Ca: float
    ptp: tuple[float, float]
    p: tuple[float, float]
    early: tuple[float, float]
    why: str


def relieved(ask: LoadedAsk, C_a: float, l_Ca: float) -> LoadedAsk:
    """The same with a straight tip relief on both gears, and none at the roots."""
    one, two = (replace(f, C_a=C_a, l_Ca=l_Ca, C_f=0.0, shape="straight") for f in ask.forms)
    return replace(ask, forms=(one, two))


def lengths(ask: LoadedAsk) -> tuple[float, float]:
    """A long relief, from where one pair fewer bears, and a short one, half as long; mm."""
    g_alpha = ask.E - ask.A
    long = min(long_relief(g_alpha, ask.p_et), g_alpha / 2)
    return long, long / 2


def each_relief(ask: LoadedAsk) -> Iterator[tuple[ReliefChoice, ...]]:
    """Proposals for a long relief, then for a short one, as they are found."""
    bare = cycle_of(relieved(ask, 0.0, 1.0), "coarse")
    # What the loaded teeth give way together is what a tip must stand back by to enter without touching early.
    most = 2.0 * float(bare.te.max())
    for long, length in zip((True, False), lengths(ask), strict=True):
        tried = {C: cycle_of(relieved(ask, C, length), "coarse") for C in np.linspace(0.0, most, TRIES).tolist()}
        smooth = min(tried, key=lambda C: float(np.ptp(tried[C].te)))
        for C in (smooth + np.linspace(-1, 1, 7)[[1, 2, 4, 5]] * most / (TRIES - 1)).tolist():
            if C > 0:
                tried[C] = cycle_of(relieved(ask, C, length), "coarse")
        smooth = min(tried, key=lambda C: float(np.ptp(tried[C].te)))
        bears = _bears(tried)
        amounts = {
            "smooth": smooth,
            "range": _over_range(ask, tried, length),
            "between": (smooth + bears) / 2,
            "bears": bears,
        }
        yield tuple(_proposal(ask, aim, long, length, amounts[aim], bare, most) for aim in AIMS)


def _bears(tried: dict[float, MeshCycle]) -> float:
    """The amount that presses the flanks least; of those that do so alike the least with which tip edges touch no
    earlier than with any of them."""
    least = min(float(c.p.max()) for c in tried.values())
    alike = {C: max(c.early) for C, c in tried.items() if float(c.p.max()) <= 1.002 * least}
    clear = min(alike.values())
    return min(C for C, early in alike.items() if early <= clear + 1e-9)


PART_LOADS = (0.5, 0.75)
"""Shares of the load beside the whole of it over which a relief shall run smooth."""


def _over_range(ask: LoadedAsk, tried: dict[float, MeshCycle], length: float) -> float:
    """The amount whose largest transmission error from half of the load to all of it is least."""

    def worst(C: float) -> float:
        part = [cycle_of(relieved(ask, C, length), "coarse", share * ask.F) for share in PART_LOADS]
        return max(float(np.ptp(c.te)) for c in (tried[C], *part))

    return min(tried, key=worst)


def _proposal(
    ask: LoadedAsk, aim: str, long: bool, length: float, wanted: float, bare: MeshCycle, most: float
) -> ReliefChoice:
    C = _step(wanted)
    result = cycle_of(relieved(ask, C, length), "coarse")
    ptp, p, early = (
        (f(bare), f(result))
        for f in (lambda c: float(np.ptp(c.te)), lambda c: float(c.p.max()), lambda c: max(c.early))
    )
    text = {
        "smooth": tr("Of all amounts up to {most:.3g} µm this one varies least over the mesh", most=most),
        "range": tr(
            "Of all amounts up to {most:.3g} µm the largest error from half of the load to all of it is "
            "least with this one",
            most=most,
        ),
        "bears": tr("Of all amounts that press the flanks least it is the least with which tip edges touch no earlier"),
        "between": tr("It is the mean of the smoothest and of that which bears most"),
    }[aim]
    why = tr(
        "The unmodified teeth deflect by up to {value:.3g} µm at this load. {told}: transmission "
        "error {ptp:.3g} µm from peak to peak ({ptp_2:.3g} without relief), pressure {p:.4g} MPa "
        "({p_2:.4g}), tip edges {early} ({early_2}).",
        value=float(bare.te.max()),
        told=text,
        ptp=ptp[1],
        ptp_2=ptp[0],
        p=p[1],
        p_2=p[0],
        early=_touch(early[1]),
        early_2=_touch(early[0]),
    )
    return ReliefChoice(aim, long, C, round(length, 3), ptp, p, early, why)


def _touch(early: float) -> str:
    return tr("touch {early:.2f} mm early", early=early) if early > 0.005 else "free"


def _step(C: float) -> float:
    """An amount as it is asked of a shop: whole micrometres, of small teeth tenths."""
    return round(C) if C >= 3 else round(C, 1)


class CrowningChoice(Struct, frozen=True):
    """A crowning of the helix (um) that presses the flanks least when the helices lie anywhere in their class, the
    largest pressure without and with it (MPa), and why."""

    C_beta: float
    p: tuple[float, float]
    why: str


CROWNINGS = 9


def each_crowning(ask: LoadedAsk) -> Iterator[CrowningChoice]:
    """The crowning of the pair whose largest pressure, with both helix slopes at either limit of their classes or
    right, is least."""
    slope = float(np.sqrt(sum(t[2] ** 2 for t in ask.tolerances)))
    most = 2.0 * slope + 1.5 * float(cycle_of(ask, "coarse").te.max())

    def worst(C: float) -> float:
        ways = (replace(ask, C_beta=C, C_Hbeta=ask.C_Hbeta + way * slope) for way in (-1.0, 0.0, 1.0))
        return max(float(cycle_of(one, "coarse").p.max()) for one in ways)

    pressed = {float(C): worst(float(C)) for C in np.linspace(0.0, most, CROWNINGS)}
    C = _step(min(pressed, key=lambda one: pressed[one]))
    least = worst(C)
    yield CrowningChoice(
        C,
        (pressed[0.0], least),
        tr(
            "With the helices up to {slope:.3g} µm apart at the ends, as their classes let them, a "
            "crowning of {C:g} µm presses the flanks by {least:.4g} MPa at most, none by {pressed:.4g} "
            "MPa; {crownings} amounts up to {most:.3g} µm were tried.",
            slope=slope,
            C=C,
            least=least,
            pressed=pressed[0.0],
            crownings=CROWNINGS,
            most=most,
        ),
    )


class ErrorMap(Struct, frozen=True):
    """Peak-to-peak transmission error (loads, amounts; um, NaN where it is still to come) over the load as a share
    of that asked and the amount of tip relief (um) on both gears over the length ``l_Ca`` (mm)."""

    loads: Array
    amounts: Array
    ptp: Array
    l_Ca: float


def each_error_map(ask: LoadedAsk, most: float) -> Iterator[ErrorMap]:
    """The map row by row, for the relief's length as it is on the first gear and amounts up to ``most`` (um)."""
    length = ask.forms[0].l_Ca
    amounts = np.linspace(0.0, most, MAP_TRIES)
    ptp = np.full((len(MAP_LOADS), MAP_TRIES), np.nan)
    asks = [_only_tips(ask, float(C)) for C in amounts]
    for i, share in enumerate(MAP_LOADS):
        for j, one in enumerate(asks):
            ptp[i, j] = float(np.ptp(cycle_of(one, "coarse", share * ask.F).te))
        yield ErrorMap(MAP_LOADS, amounts, ptp.copy(), length)


def _only_tips(ask: LoadedAsk, C_a: float) -> LoadedAsk:
    """The same with another amount of tip relief on both gears, its length and all else as it is."""
    forms: list[FlankForm] = [replace(f, C_a=C_a) for f in ask.forms]
    return replace(ask, forms=(forms[0], forms[1]))


SAMPLES = 24
SEED = 1328


class Sampled(Struct, frozen=True):
    """What the deviations of the tolerance classes do: peak-to-peak transmission error (um), largest pressure and
    root stresses of both gears (MPa) of each sample."""

    ptp: Array
    p: Array
    sigma: Array


def each_sampled(ask: LoadedAsk) -> Iterator[Sampled]:
    """A mesh cycle for each of `SAMPLES` pairs made within their classes: pitch deviations of each pair of teeth
    with twice their standard deviation at f_pT, slopes of profile and helix anywhere within f_HalphaT and f_HbetaT,
    equal on all teeth of a gear. The same samples every time."""
    rng = np.random.default_rng(SEED)
    (p_1, a_1, h_1), (p_2, a_2, h_2) = ask.tolerances
    result = []
    for _ in range(SAMPLES):
        pitch = rng.normal(0.0, np.hypot(p_1, p_2) / 2, 8)
        slopes = rng.uniform(-1, 1, 3) * [a_1, a_2, float(np.hypot(h_1, h_2))]
        one, two = (replace(f, C_Halpha=f.C_Halpha + float(c)) for f, c in zip(ask.forms, slopes[:2], strict=True))
        made = replace(ask, forms=(one, two), C_Hbeta=ask.C_Hbeta + float(slopes[2]), pitch=tuple(pitch.tolist()))
        c = cycle_of(made, "coarse")
        result.append((float(np.ptp(c.te)), float(c.p.max()), *c.sigma.max(axis=(1, 2, 3)).tolist()))
    rows = np.array(result)
    yield Sampled(rows[:, 0], rows[:, 1], rows[:, 2:])
