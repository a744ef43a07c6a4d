"""Hubs with keyways and splines: areas by hand, the involute within micrometres, and parts that lie in each other as
they are put together."""

import numpy as np
import pytest

from cooper.exchange.body import bodies
from cooper.exchange.bore_profile import HUB, SHAFT, bore_profile_of, keyed, spaces, spline_section, splined
from cooper.exchange.machine_parts import machine_parts
from cooper.exchange.solid import volume_of
from cooper.machine.hub_ends import hub_ends
from cooper.results.evaluate import evaluate
from makers import polyline_distance, splined_winch


def area_of(profile):
    """Area inside a chain: chords by the shoelace, and the segment between each chord and its arc, by the angle at
    which the arc sees it."""
    ends = np.array([e[0] for e in profile.edges])
    x, y = ends.T
    result = 0.5 * np.sum(x * np.roll(y, -1) - y * np.roll(x, -1))
    for e in (e for e in profile.edges if len(e) == 3):
        a, m, b = e
        chord, to, u, v = b - a, m - (a + b) / 2, a - m, b - m
        seen = np.arctan2(abs(u[0] * v[1] - u[1] * v[0]), u @ v)
        turn, r = 2 * (np.pi - seen), np.hypot(*chord) / (2 * np.sin(seen))
        result += np.sign(chord[1] * to[0] - chord[0] * to[1]) * r**2 / 2 * (turn - np.sin(turn))
    return result


@pytest.fixture(scope="module")
def winch():
    design = splined_winch()
    results = evaluate(design)
    return design, results, {p.name: p for p in machine_parts(design, results, results.machine)}


def joint_of(results, gear):
    return next(j for s in results.machine.shafts for j in s.made.joints if j.gear == gear)


@pytest.mark.parametrize("sides", [(1,), (1, -1)])
def test_a_keyed_bore_is_the_circle_and_what_its_keyways_take(sides):
    d, b, t_2 = 20.0, 6.0, 2.8
    half = np.arcsin(b / d)
    # A keyway up to its ground, less the sliver of the circle that it covers.
    slot = b * (d / 2 + t_2) - (d**2 / 4 * half + b / 2 * np.sqrt(d**2 - b**2) / 2)
    assert area_of(keyed(d, b, t_2, sides)) == pytest.approx(np.pi * d**2 / 4 + len(sides) * slot, rel=1e-9)


def test_a_spline_has_the_circles_of_its_standard_and_flanks_within_two_micrometres(winch):
    """DIN 5480: shaft d_B - 0.2 m over its teeth, hub d_B over its spaces and d_B - 2 m over its teeth; flanks at 30
    degrees."""
    joint = joint_of(winch[1], "gear4")
    assert joint.kind == "spline" and (joint.d, joint.m, joint.z) == (45.0, 2.0, 21)
    shaft, hub = spline_section(joint, SHAFT).tooth, spline_section(joint, HUB).tooth
    assert (float(shaft.d_a), float(hub.d_a), float(hub.d_f)) == pytest.approx((44.6, 45.0, 41.0))
    assert float(shaft.d_f) == pytest.approx(45.0 - 1.1 * 2.0 - 1.2 * 2.0)
    assert float(shaft.d_b) == pytest.approx(42 * np.cos(np.radians(30)))
    true = spline_section(joint, SHAFT).one(1e-5)
    wall = np.vstack(splined(joint).edges[:7])
    mine = np.vstack([e for e in (spaces(joint)[0].edges) if len(e) == 3])
    for points in (wall, mine):
        r = np.hypot(*points.T)
        near = (r > 41.2 / 2) & (r < 44.5 / 2) & (np.abs(np.arctan2(points[:, 1], points[:, 0])) < np.pi / 21)
        assert near.any()
        assert polyline_distance(points[near], true).max() < 1.1e-5
    # Between its three points an arc leaves the involute by less than two micrometres.
    flank = spline_section(joint).curves()[2]
    a, m, b = flank(np.array([0.0, 0.5, 1.0]))
    p, q, s = (complex(*v) for v in (a, m, b))
    w = (s - p) / (q - p)
    middle = p + (q - p) * (w - abs(w) ** 2) / (w - w.conjugate())
    on = flank(np.linspace(0, 1, 101))
    assert np.abs(np.hypot(on[:, 0] - middle.real, on[:, 1] - middle.imag) - abs(p - middle)).max() < 0.002


@pytest.mark.parametrize(("name", "gear", "k", "i"), [("drum pinion", "gear3", 1, 0), ("drum wheel", "gear4", 1, 1)])
def test_a_hub_has_its_opening(winch, name, gear, k, i):
    design, results, parts = winch
    body = bodies(design, results.stages[k], k)[i]
    joint = joint_of(results, gear)
    opening = area_of(bore_profile_of(joint))
    wanted = (body.section.area() + np.pi / 4 * body.edge**2 - opening) * body.b
    shaft = next(s.made for s in results.machine.shafts if any(j.gear == gear for j in s.made.joints))
    wanted += sum((np.pi / 4 * (1.6 * d) ** 2 - opening) * (end - z) for g, z, end, d in hub_ends(shaft) if g == gear)
    assert volume_of(parts[name].solid) == pytest.approx(wanted, rel=5e-5)


def test_keys_and_splines_lie_in_their_hubs(winch):
    """Places just inside the key and beside it, from the shaft's frame into the gear's."""
    from OCP.BRepClass3d import BRepClass3d_SolidClassifier
    from OCP.gp import gp_Pnt
    from OCP.TopAbs import TopAbs_State

    _, results, parts = winch
    shafts = {s.key: s for s in results.machine.shafts}

    def inside(part, place, x, y, z):
        """Whether a point of the machine is in a part."""
        x0, y0, z0, a = place
        u, v = x - x0, y - y0
        at = gp_Pnt(u * np.cos(a) + v * np.sin(a), -u * np.sin(a) + v * np.cos(a), z - z0)
        return BRepClass3d_SolidClassifier(part.solid, at, 1e-6).State() == TopAbs_State.TopAbs_IN

    for name, gear, shaft in (("drum pinion", "gear3", "gear2"), ("drum wheel", "gear4", "gear4")):
        made, joint = shafts[shaft].made, joint_of(results, gear)
        own = parts[shafts[shaft].name].places[0]
        hub, z = parts[name].places[0], made.piece(joint.piece).at
        for turn in (0.0, np.pi) if joint.kind == "two keys" else (0.0,):
            for u, v, free in points_of(joint):
                a = own[3] + turn
                x, y = own[0] + u * np.cos(a) - v * np.sin(a), own[1] + u * np.sin(a) + v * np.cos(a)
                assert inside(parts[name], hub, x, y, z) == (not free), (name, u, v)


def points_of(joint):
    """Points in the frame of the shaft, and whether the hub leaves them free."""
    if joint.kind in ("key", "two keys"):
        top = joint.d / 2 + joint.t_2
        return [(s * (joint.b / 2 - 0.05), top - 0.05, True) for s in (-1, 1)] + [
            (0.0, top + 0.05, False),
            (joint.b / 2 + 0.05, top - 0.05, False),
        ]
    r, pitch = joint.d / 2, 2 * np.pi / joint.z
    return [
        (r - 0.1, 0.0, True),
        (r + 0.1, 0.0, False),
        *(((r - 0.5) * np.cos(a), (r - 0.5) * np.sin(a), False) for a in (pitch / 2, -pitch / 2)),
    ]
