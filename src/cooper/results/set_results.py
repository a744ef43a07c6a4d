"""What a set comes to: speeds, torques, efficiency both ways, planets in place, lost motion; its checks and notes."""

from __future__ import annotations

from math import asin, degrees, pi
from typing import NoReturn

import numpy as np

from cooper.arrays import Mixed as Array
from cooper.document.models import GearSet, Stage, Train, set_of
from cooper.errors import OutOfRange
from cooper.results.checks import at_least
from cooper.results.result_tree import Check, Note, SetResults, StageResults, note
from cooper.results.set_flow import (
    SetFlow,
    counts_of,
    drives_back,
    forward_efficiency,
    links_of,
    places_of,
    planet_angles,
    play_gain,
    set_speeds,
    solve_set,
)
from cooper.trains.planets import in_step, most_planets, planet_gap
from cooper.values import SetValues

GAP = 1.0
"""Gap between neighbouring planets that is asked for; modules."""


def set_results(
    one: GearSet, stages: tuple[Stage, ...], found: tuple[StageResults, ...], T: float, omega: float
) -> tuple[SetResults, SetFlow]:
    """A set with the losses of its meshes; raises `OutOfRange` where friction locks it."""
    losses = tuple(1 - s.mesh.eta_z for s in found)
    flow = solve_set(one, stages, T, omega, losses)
    eta = flow.found.efficiency
    if not eta > 0 or flow.speed_of(one.output) * flow.torque_of(one.output) >= 0:
        raise OutOfRange(
            "output",
            one.output,
            f"friction locks {one.name}: of the power at the {one.input} nothing reaches the {one.output}; "
            "counts with less circulating power, or less friction, let it turn",
        )
    shafts = {}
    for name in dict.fromkeys(n for n in (one.input, one.held, one.output) if n):
        # Adding zero makes a member at rest turn by 0 and not by -0.
        w, t = flow.speed_of(name) + 0.0, flow.torque_of(name) + 0.0
        shafts[name] = {"n": w * 30 / pi, "T": t, "P": w * t}
    angles = planet_angles(one, stages)
    values = SetValues(
        u=flow.ratio, eta_set=eta, eta_back=drives_back(one, stages, losses), circulation=flow.found.circulating
    )
    a_w, even = found[0].mesh.a_w, True
    if one.arranged.around:
        planet = max(found[0].gears[one.arranged.planet].d_a, found[1].gears[0].d_a)
        if one.planets > 1:
            values.c_pl = float(planet_gap(a_w, planet, angles))
            if values.c_pl < 0:
                _refuse_crowded(one, a_w, planet, angles)
        outer = [s.gears[1].get("d_rim", 0.0) for s in found[:2]]
        values.envelope = max(*outer, 2 * a_w + planet)
        even = bool(np.allclose(angles, 2 * pi * np.arange(one.planets) / one.planets))
    else:
        values.envelope = sum(s.mesh.a_w for s in found) + (found[0].gears[0].d_a + found[1].gears[1].d_a) / 2
    low, high = (forward_efficiency(one, stages, tuple(loss * f for loss in losses)) for f in (0.7, 1.3))
    turns = set_speeds(one, stages)
    return SetResults(
        one.name,
        one.kind,
        one.first,
        one.planets,
        one.held,
        one.input,
        one.output,
        values,
        shafts,
        turns,
        tuple(float(a) for a in angles),
        even,
        (low, high),
        tuple(-1 if t > 1e-9 * T else 1 for t in flow.found.mesh_a),
        one.stages,
    ), flow


def _refuse_crowded(one: GearSet, a_w: float, planet: float, angles: Array) -> NoReturn:
    """Refuse planets that run into each other, with the number that has room; places that fall together are named."""
    most = most_planets(a_w, planet, 0.0)
    apart = degrees(float(np.min(np.diff(np.append(angles, angles[0] + 2 * pi)))))
    least = degrees(2 * asin(min(planet / 2 / a_w, 1.0)))
    reason = f"planets would run into each other, {apart:.1f} deg apart where {least:.1f} deg is the least"
    if one.planets <= most:
        reason += ": with these counts their places fall too close together, other counts let them stand evenly"
    raise OutOfRange("n_planets", one.planets, reason, low=1, high=min(most, one.planets - 1))


def set_checks(s: SetResults, m_n: float) -> list[Check]:
    """The checks of a set; they stand with its first stage."""
    if "c_pl" not in s.values:
        return []
    return [gap_check(s.first, s.values.c_pl, m_n)]


def gap_check(first: int, gap: Array, m_n: Array) -> Check:
    """The check of the gap between the planets of a set whose first stage is ``first``; mm."""
    limit = GAP * m_n
    means = "neighbouring planets run into each other: fewer planets, or fewer teeth on the planet and more on the sun"
    return Check("c_pl", None, first, "gap between planets", gap, limit, "at least", at_least(gap, limit), means)


def _without_effect(one: GearSet) -> str:
    """What is given of the load sharing and does not count; empty where all does."""
    if (one.k_pl is None and one.e_pl is None) or one.shares_by_stiffness:
        return ""
    if one.K_gamma is not None:
        return "its entered K_gamma goes before the stiffness and the places of its planets, which do not count."
    if one.planets < 2:
        return "one planet shares its load with no other, so that stiffness and place do not count."
    return f"{'k_pl' if one.e_pl is None else 'e_pl'} alone does not tell how planets share: {'e_pl' if one.e_pl is None else 'k_pl'} is needed, too."


def set_notes(one: GearSet, stages: tuple[Stage, ...], found: tuple[StageResults, ...], s: SetResults) -> list[Note]:
    """What a reader must know about a set."""
    notes: list[Note] = []

    def say(level: str, text: str) -> None:
        notes.append(note(level, one.first, text))

    v = s.values
    back = f"{100 * v.eta_back:.1f} %" if v.eta_back > 0 else "nothing: it locks"
    say(
        "assumed",
        f"{one.name}: ratio {v.u:.5g}, efficiency {100 * v.eta_set:.2f} % forward; of power at the {one.output} {back} comes "
        f"back to the {one.input}. With 30 % more friction {100 * s.friction[1]:.1f} %, with 30 % less {100 * s.friction[0]:.1f} %.",
    )
    if v.circulation > 1.05:
        say(
            "warning",
            f"{one.name}: {v.circulation:.2f} times the power that comes in goes through a mesh: power circulates, and the "
            "teeth are loaded for it.",
        )
    if v.eta_set < 0.5:
        say(
            "warning",
            f"{one.name}: less than half of the power comes out; its efficiency hangs on the friction of the teeth.",
        )
    if not one.arranged.around:
        say("assumed", f"The idler of {one.name} does not change the ratio's size; its teeth are bent both ways.")
        return notes
    counts = counts_of(one, stages)
    places = places_of(one, stages)
    if not s.even:
        worst = max(abs(degrees(a) - 360 * k / one.planets) for k, a in enumerate(s.angles))
        numbers = [n for n in range(2, 13) if places and places % n == 0]
        say(
            "warning:thin@n_planets z_1 z_2",
            f"{one.planets} planets cannot stand evenly: the counts {', '.join(map(str, counts))} leave {places} places, which {one.planets} "
            f"does not divide. They stand at {', '.join(f'{degrees(a):.2f}' for a in s.angles)} deg, up to {worst:.2f} deg off. Evenly "
            f"can: {', '.join(map(str, numbers)) or 'none'}.",
        )
    if one.arranged.sun_inside:
        step = in_step(counts[0], np.array(s.angles))
        say(
            "assumed",
            f"The planets mesh with the sun {'all in step' if step < 0.01 else f'staggered ({100 * step:.0f} % of evenly)'}.",
        )
    if one.free_sun and not one.sun_works:
        say(
            "assumed",
            f"The free sun of {one.name} bears the planets inwards and carries no torque: its teeth are checked for form and play "
            f"and not rated. It turns at {s.speeds['sun']:.4g} times the input's speed.",
        )
    if idle := _without_effect(one):
        say("warning@k_pl e_pl", f"{one.name}: {idle}")
    if one.planets > 1:
        planet = max(found[0].gears[one.arranged.planet].d_a, found[1].gears[0].d_a)
        most = most_planets(found[0].mesh.a_w, planet, GAP * found[0].mesh.m_n)
        say(
            "assumed",
            f"Up to {most} planets stand clear of each other; K_gamma = {found[0].mesh.K_gamma:.4g}, "
            + (
                "as entered."
                if one.K_gamma is not None
                else f"by their stiffness with one of them {one.e_pl:g} um ahead."
                if one.shares_by_stiffness
                else f"a customary value for {one.planets} with {'a' if one.floating else 'no'} "
                "floating member, not from a standard; by application epicyclic practice takes 1.08 to 1.25 for four and 1.12 to 1.35 for five planets."
            )
            + " Lost motion counts one play for planets side by side.",
        )
    return notes


def lost_motion(train: Train, stages: list[StageResults]) -> dict[str, float]:
    """Lost motion at the output from the play of all meshes: mean, worst case, least and root sum of squares; degrees.

    What a gap at one mesh does to the output, the input held, follows from the same equations as the speeds. Of planets side
    by side one play counts.
    """
    if not all(s.kind.turns for s in stages):
        return {}
    means, halves = [], []
    k = 0
    after = [1.0] * len(stages)
    ratio = 1.0
    for n in reversed(range(len(stages))):
        after[n] = ratio
        one = set_of(train, n)
        if one is None:
            ratio *= abs(stages[n].ratio)
        elif n == one.first:
            w = set_speeds(one, tuple(train.stages[m] for m in one.stages))
            ratio *= abs(w[one.input] / w[one.output])
    while k < len(stages):
        one = set_of(train, k)
        group = [k] if one is None else list(one.stages)
        for n in group:
            m = stages[n].mesh
            low, high = m.get("j_op_min", m.j_wt_min), m.get("j_op_max", m.j_wt_max)
            at = after[group[-1]]
            if one is None:
                gain = 2 / stages[n].gears[1].d_w
            else:
                links = links_of(one, tuple(train.stages[m] for m in one.stages))
                gain = abs(play_gain(one, links, n - one.first)) * 2 / stages[n].gears[0].d_w
            means.append(gain / at * (low + high) / 2)
            halves.append(gain / at * (high - low) / 2)
        k += len(group)
    mean, spread = sum(means), sum(halves)
    rss = float(np.sqrt(sum(h * h for h in halves)))
    return {
        name: degrees(v)
        for name, v in (
            ("phi_lost", mean),
            ("phi_lost_min", mean - spread),
            ("phi_lost_max", mean + spread),
            ("phi_lost_rss", mean + rss),
        )
    }
