"""What a set comes to: speeds, torques, efficiency both ways, planets in place, lost motion; its checks and notes."""

from __future__ import annotations

from math import asin, degrees, pi
from typing import NoReturn

import numpy as np

from cooper.arrays import Mixed as Array
from cooper.document.models import GearSet, Stage, Train
from cooper.errors import OutOfRange
from cooper.i18n.text import join, term, tr
from cooper.results.check_types import make_check
from cooper.results.messages import Keyed, note
from cooper.results.result_tree import Check, Note, SetResults, StageResults
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
    one: GearSet, stages: tuple[Stage, ...], result: tuple[StageResults, ...], T: float, omega: float
) -> tuple[SetResults, SetFlow]:
    """A set with the losses of its meshes; raises `OutOfRange` where friction locks it."""
    losses = tuple(1 - s.mesh.eta_z for s in result)
    flow = solve_set(one, stages, T, omega, losses)
    eta = flow.found.efficiency
    if not eta > 0 or flow.speed_of(one.output) * flow.torque_of(one.output) >= 0:
        raise OutOfRange(
            "output",
            one.output,
            tr(
                "friction locks {name}: of the power at the {input} nothing reaches the {output}; counts "
                "with less circulating power, or less friction, let it turn",
                name=one.name,
                input=term(one.input),
                output=term(one.output),
            ),
        )
    if one.second is not None and flow.speed_of(one.second) * flow.torque_of(one.second) >= 0:
        raise OutOfRange(
            "u_third",
            one.u_third or 0.0,
            tr(
                "so power comes in at the {shaft} of {name}, where it is to be taken off: let it turn the other way",
                shaft=term(one.second),
                name=one.name,
            ),
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
    a_w, even = result[0].mesh.a_w, True
    if one.arranged.around:
        planet = max(result[0].gears[one.arranged.planet].d_a, result[1].gears[0].d_a)
        if one.planets > 1:
            values.c_pl = float(planet_gap(a_w, planet, angles))
            if values.c_pl < 0:
                _refuse_crowded(one, a_w, planet, angles)
        outer = [s.gears[1].get("d_rim", 0.0) for s in result[:2]]
        values.envelope = max(*outer, 2 * a_w + planet)
        even = bool(np.allclose(angles, 2 * pi * np.arange(one.planets) / one.planets))
    else:
        values.envelope = sum(s.mesh.a_w for s in result) + (result[0].gears[0].d_a + result[1].gears[1].d_a) / 2
    low, high = (forward_efficiency(one, stages, tuple(loss * f for loss in losses)) for f in (0.7, 1.3))
    turns = set_speeds(one, stages)
    return SetResults(
        one.name,
        one.kind,
        one.first,
        one.planets,
        None if one.second else one.held,
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
        one.second,
    ), flow


def _refuse_crowded(one: GearSet, a_w: float, planet: float, angles: Array) -> NoReturn:
    """Refuse planets that run into each other, with the number that has room; places that fall together are named."""
    most = most_planets(a_w, planet, 0.0)
    apart = degrees(float(np.min(np.diff(np.append(angles, angles[0] + 2 * pi)))))
    least = degrees(2 * asin(min(planet / 2 / a_w, 1.0)))
    reason = tr(
        "planets would run into each other, {apart:.1f} deg apart where {least:.1f} deg is the least",
        apart=apart,
        least=least,
    )
    if one.planets <= most:
        reason += tr(": with these counts their places fall too close together, other counts let them stand evenly")
    raise OutOfRange("n_planets", one.planets, reason, low=1, high=min(most, one.planets - 1))


def set_checks(s: SetResults, m_n: float) -> list[Check]:
    """The checks of a set; they stand with its first stage."""
    if "c_pl" not in s.values:
        return []
    return [gap_check(s.first, s.values.c_pl, m_n)]


def gap_check(first: int, gap: Array, m_n: Array) -> Check:
    """The check of the gap between the planets of a set whose first stage is ``first``; mm."""
    return make_check("planet_gap", gap, GAP * m_n, stage=first)


def _without_effect(one: GearSet) -> Keyed | None:
    """The note on what is given of the load sharing and does not count; None where all does."""
    if (one.k_pl is None and one.e_pl is None) or one.shares_by_stiffness:
        return None
    if one.K_gamma is not None:
        return "sharing_K_gamma_entered", {}
    if one.planets < 2:
        return "sharing_one_planet", {}
    given, needed = ("k_pl", "e_pl") if one.e_pl is None else ("e_pl", "k_pl")
    return "sharing_incomplete", {"given": given, "needed": needed}


def set_notes(one: GearSet, stages: tuple[Stage, ...], result: tuple[StageResults, ...], s: SetResults) -> list[Note]:
    """What a reader must know about a set."""
    notes: list[Note] = []

    def add_note(key: str, **values: object) -> None:
        notes.append(note(key, one.first, **values))

    v = s.values
    flow = {
        "name": one.name,
        "u": v.u,
        "eta_set": 100 * v.eta_set,
        "output": term(one.output),
        "input": term(one.input),
        "eta_more": 100 * s.friction[1],
        "eta_less": 100 * s.friction[0],
    }
    if one.second is not None:
        out = {name: -100 * s.shafts[name]["P"] / s.shafts[one.input]["P"] for name in (one.output, one.second)}
        add_note(
            "set_two_outputs",
            name=one.name,
            eta_set=100 * v.eta_set,
            output=term(one.output),
            share=out[one.output],
            third=term(one.second),
            share_2=out[one.second],
        )
    elif v.eta_back > 0:
        add_note("set_flow", **flow, eta_back=100 * v.eta_back)
    else:
        add_note("set_flow_locks", **flow)
    if v.circulation > 1.05:
        add_note("power_circulates", name=one.name, circulation=v.circulation)
    if v.eta_set < 0.5:
        add_note("set_loses_half", name=one.name)
    if not one.arranged.around:
        add_note("idler", name=one.name)
        return notes
    counts = counts_of(one, stages)
    places = places_of(one, stages)
    if not s.even:
        worst = max(abs(degrees(a) - 360 * k / one.planets) for k, a in enumerate(s.angles))
        numbers = [n for n in range(2, 13) if places and places % n == 0]
        add_note(
            "planets_uneven",
            planets=one.planets,
            counts=join(", ", map(str, counts)),
            places=places,
            angles=join(", ", (tr("{0:.2f}", degrees(a)) for a in s.angles)),
            worst=worst,
            even=join(", ", map(str, numbers)) or tr("none"),
        )
    if one.arranged.sun_inside:
        step = in_step(counts[0], np.array(s.angles))
        if step < 0.01:
            add_note("planets_in_step")
        else:
            add_note("planets_staggered", share=100 * step)
    if one.free_sun and not one.sun_works:
        add_note("free_sun", name=one.name, sun=s.speeds["sun"])
    if without := _without_effect(one):
        add_note(without[0], name=one.name, **without[1])
    if one.planets > 1:
        planet = max(result[0].gears[one.arranged.planet].d_a, result[1].gears[0].d_a)
        most = most_planets(result[0].mesh.a_w, planet, GAP * result[0].mesh.m_n)
        values = {"most": most, "K_gamma": result[0].mesh.K_gamma}
        if one.K_gamma is not None:
            add_note("planets_room_K_gamma_entered", **values)
        elif one.shares_by_stiffness:
            add_note("planets_room_K_gamma_by_stiffness", **values, e_pl=one.e_pl)
        else:
            key = "planets_room_K_gamma_floating" if one.floating else "planets_room_K_gamma_fixed"
            add_note(key, **values, planets=one.planets)
    return notes


def lost_motion(train: Train, stages: list[StageResults]) -> dict[str, float]:
    """Lost motion at the output from the play of all meshes: mean, worst case, least and root sum of squares;
    degrees.

    What a gap at one mesh does to the output, the input held, follows from the same equations as the speeds. Of planets
    side by side one play counts.
    """
    if not all(s.kind.turns for s in stages):
        return {}
    means, halves = [], []
    # On the way to the main output, from there back: the ratio behind each group.
    at = 1.0
    for group in reversed(train.walk.way_to(train.walk.main)):
        one = train.stages[group.stages[0]].within
        for n in group.stages:
            m = stages[n].mesh
            low, high = m.get("j_op_min", m.j_wt_min), m.get("j_op_max", m.j_wt_max)
            if one is None:
                gain = 2 / stages[n].gears[1].d_w
            else:
                links = links_of(one, tuple(train.stages[m] for m in one.stages))
                gain = abs(play_gain(one, links, n - one.first)) * 2 / stages[n].gears[0].d_w
            means.append(gain / at * (low + high) / 2)
            halves.append(gain / at * (high - low) / 2)
        if one is None:
            at *= abs(stages[group.stages[0]].ratio)
        else:
            w = set_speeds(one, tuple(train.stages[m] for m in one.stages))
            at *= abs(w[one.input] / w[one.output])
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
