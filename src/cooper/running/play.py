"""Backlash in service: what each tolerance, run-out and temperature does to it, worst case and statistically.

ISO 21771:2007, 9; ISO/TR 10064-2. Every contribution is found with the exact backlash of the pair, not with a
coefficient.
"""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from cooper.arrays import Array, Real, as_float
from cooper.running.backlash import Slack

REFERENCE = 20.0
"""Temperature at which dimensions hold; degrees C."""
PARTS = ("thickness 1", "thickness 2", "centre distance", "run-out 1", "run-out 2")


class Play(Struct, frozen=True):
    """Circumferential backlash at the working pitch circle; mm.

    ``mean`` with everything at its middle and at service temperature, ``half`` half the range of each of `PARTS`,
    ``by_heat`` the change that temperature makes to the mean. ``worst`` least and greatest when all act together,
    ``statistical`` when they combine as independent normal deviations whose limits are three standard deviations.
    """

    mean: Array
    half: tuple[Array, ...]
    by_heat: Array
    worst: tuple[Array, Array]
    statistical: tuple[Array, Array]


def centre_change_by_heat(
    a_w: Real,
    r_w1: Real,
    r_w2: Real,
    alpha_1: Real,
    alpha_2: Real,
    alpha_h: Real,
    theta_gears: Real,
    theta_housing: Real,
    swelling_1: Real = 0.0,
    swelling_2: Real = 0.0,
) -> Array:
    """Change of the centre distance that acts like the growth of housing and gears.

    Parameters
    ----------
    a_w : Real
        Working centre distance (mm).
    r_w1 : Real
        Working pitch radius of gear 1 (mm).
    r_w2 : Real
        Working pitch radius of gear 2 (mm), negative for a ring.
    alpha_1 : Real
        Coefficient of expansion of gear 1 (1/K).
    alpha_2 : Real
        Coefficient of expansion of gear 2 (1/K).
    alpha_h : Real
        Coefficient of expansion of the housing (1/K).
    theta_gears : Real
        Temperature of the gears (degrees C).
    theta_housing : Real
        Temperature of the housing (degrees C).
    swelling_1 : Real
        Linear growth of gear 1 by moisture (a share).
    swelling_2 : Real
        Linear growth of gear 2 by moisture (a share).

    Returns
    -------
    Array
        Change (mm), signed like a_w.

    Notes
    -----
    A gear that grows evenly keeps its shape, so that its mate sees only a shorter way to the pitch point (the play
    itself grows with it by less than a thousandth, which is left out).

    Examples
    --------
    >>> round(float(centre_change_by_heat(100.0, 30.0, 70.0, 11.5e-6, 11.5e-6, 23e-6, 60.0, 60.0)), 4)
    0.046
    """
    warm, house = as_float(theta_gears) - REFERENCE, as_float(theta_housing) - REFERENCE
    gears = as_float(r_w1) * (alpha_1 * warm + swelling_1) + as_float(r_w2) * (alpha_2 * warm + swelling_2)
    return as_float(a_w) * alpha_h * house - gears


def play(
    z_1: Real,
    z_2: Real,
    m_n: Real,
    alpha_n: Real,
    beta: Real,
    x_1: tuple[Real, Real],
    x_2: tuple[Real, Real],
    a_w: tuple[Real, Real],
    F_r: tuple[Real, Real],
    heat: Real,
) -> Play:
    """Play of a pair from its tolerances.

    Parameters
    ----------
    z_1 : Real
        Tooth count of gear 1.
    z_2 : Real
        Tooth count of gear 2, negative for an internal gear.
    m_n : Real
        Normal module (mm).
    alpha_n : Real
        Normal pressure angle (rad).
    beta : Real
        Helix angle at the reference cylinder (rad).
    x_1 : tuple[Real, Real]
        Limits of the generating profile shift coefficient of gear 1.
    x_2 : tuple[Real, Real]
        Limits of the generating profile shift coefficient of gear 2.
    a_w : tuple[Real, Real]
        Limits of the centre distance (mm), negative for an internal wheel.
    F_r : tuple[Real, Real]
        Run-outs of both gears (mm, peak to valley).
    heat : Real
        Change of the centre distance by `centre_change_by_heat` (mm).

    Returns
    -------
    Play
        Play (mm).

    References
    ----------
    ISO 21771:2007; ISO 1328-1:2013.
    """
    (x_1l, x_1h), (x_2l, x_2h), (a_l, a_h) = (
        (np.minimum(*map(np.asarray, v)), np.maximum(*map(np.asarray, v))) for v in (x_1, x_2, a_w)
    )
    x, a = (x_1l + x_1h + x_2l + x_2h) / 2, (a_l + a_h) / 2
    slack = Slack(as_float(z_1), z_2, m_n, alpha_n, beta)
    warm = a + heat
    cold, mean = slack.j_wt(x, a), slack.j_wt(x, warm)
    fall = np.abs(slack.fall(warm)) / 2
    half = [fall * (x_1h - x_1l), fall * (x_2h - x_2l)]
    half.append(np.abs(slack.j_wt(x, a_h + heat) - slack.j_wt(x, a_l + heat)) / 2)
    for runout in F_r:
        # A gear that runs out by F_r comes nearer and goes away by half of it as it turns.
        e = as_float(runout) / 2
        half.append(np.abs(slack.j_wt(x, warm + e) - slack.j_wt(x, warm - e)) / 2)
    out = (as_float(F_r[0]) + F_r[1]) / 2
    worst = (slack.j_wt(x_1h + x_2h, a_l - out + heat), slack.j_wt(x_1l + x_2l, a_h + out + heat))
    spread = np.sqrt(sum(h**2 for h in half))
    return Play(mean, tuple(half), mean - cold, worst, (mean - spread, mean + spread))


def sampled(p: Play, n: int = 20000, seed: int = 1) -> Array:
    """Backlash of pairs drawn at random.

    Parameters
    ----------
    p : Play
        Play of one pair.
    n : int
        Number of pairs.
    seed : int
        Seed of the draw.

    Returns
    -------
    Array
        Backlash of each (mm).

    Notes
    -----
    Tolerances evenly over their range, run-outs at a random place of their turn. A look at the spread between worst
    case and root sum of squares.
    """
    rng = np.random.default_rng(seed)
    parts = [rng.uniform(-1, 1, n) * float(h) for h in p.half[:3]]
    parts += [np.sin(rng.uniform(0, 2 * np.pi, n)) * float(h) for h in p.half[3:]]
    return as_float(float(p.mean) + np.sum(parts, axis=0))
