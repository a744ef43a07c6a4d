"""Everything on a shaft is kept on both sides: sleeves, retaining rings, nuts, covers; and the way of the thrust."""

from math import pi

import numpy as np
import pytest
from msgspec.structs import replace

from cooper.demo import demo
from cooper.editing.edit import set_at
from cooper.editing.machine_edits import count_machine, cut_piece, in_machine
from cooper.errors import OutOfRange
from cooper.exchange.machine_dxf import LAYERS
from cooper.machine.assembly import mounted_on, shaft_order
from cooper.machine.check_joint import check_joint
from cooper.machine.covers import screw_designation, screws_of, spigot_of
from cooper.machine.holding import thrust_path
from cooper.machine.hub_ends import hub_ends, hub_mass
from cooper.machine.joint_notches import ring_groove_notch
from cooper.machine.notch_factors import groove_notch
from cooper.machine.shaft_beam import cores_of
from cooper.machine.turned_parts import in_housing, on_shaft
from cooper.results.assembly_steps import assembly_steps
from cooper.results.evaluate import evaluate
from cooper.results.machine_why import why_machine
from cooper.results.parts_list import parts_list
from cooper.stock.fasteners import nut_for, nuts, ring_in, ring_on, rings
from cooper.stock.shaft_joints import key_lengths

GROOVES = {8: 7.6, 10: 9.6, 15: 14.3, 17: 16.2, 20: 19, 25: 23.9, 30: 28.6, 35: 33, 40: 37.5, 50: 47, 60: 57, 100: 96.5}
"""Groove diameters of retaining rings on shafts as workshops know them by heart; mm. DIN 471."""
BORES = {22: 23.0, 26: 27.2, 32: 33.7, 35: 37.0, 42: 44.5, 47: 49.5, 52: 55.0, 62: 65.0, 72: 75.0, 80: 83.5, 100: 103.5}
"""The same in bores. DIN 472."""
NUTS = {10: (0, 0.75, 18), 20: (4, 1.0, 32), 30: (6, 1.5, 45), 50: (10, 1.5, 70), 100: (20, 2.0, 130)}
"""Numbers, pitches and outside diameters of nuts. DIN 981."""
DEMOS = ("winch", "mirror-cover", "focuser", "filter-wheel", "dome-ring", "dome-rack", "battery-lift", "dome-drive")


def machine(name, *changes):
    design = in_machine(demo(name), *changes) if changes else count_machine(demo(name))
    results = evaluate(design)
    assert results.machine is not None
    return design, results


def test_rings_and_nuts_are_those_of_the_trade():
    assert {d: ring_on(d).d_2 for d in GROOVES} == GROOVES
    assert {D: ring_in(D).d_2 for D in BORES} == BORES
    assert {d: (nut_for(d).number, nut_for(d).P, nut_for(d).D) for d in NUTS} == NUTS
    for inside in (False, True):
        own = rings(inside)
        depth = np.array([abs(r.d - r.d_2) / 2 for r in own])
        assert all(np.diff([r.d for r in own]) > 0) and all(np.diff(depth) >= -1e-9)
        # A ring lies loosely in its groove, and the land is some three times as wide as the groove is deep.
        assert all(0.05 <= r.m - r.s <= 0.2 for r in own)
        assert all(1.4 <= r.n / t <= 3.6 for r, t in zip(own, depth, strict=True))
    assert all(np.diff([n.D for n in nuts()]) > 0)
    # Loads that grooves customarily bear at 200 MPa; N.
    assert [round(ring_on(d).load(200.0), -2) for d in (20.0, 30.0)] == pytest.approx([5060, 10700], rel=0.02)


@pytest.mark.parametrize("name", DEMOS)
def test_every_hub_and_ring_of_the_demos_is_kept(name):
    _design, results = machine(name)
    for s in results.machine.shafts:
        holds = s.holding.holds
        assert len(holds) == 2 * sum(p.kind == "seat" for p in s.made.pieces) + 4 * len(s.made.bearings)
        assert all(h.held for h in holds) and results.machine.rules.S_joint <= s.holding.worst.S
        # One bearing alone keeps the shaft in both directions, or two of them in one each.
        outer = [h for h in holds if h.ring == "outer ring" and h.F > 0]
        assert {h.side for h in outer} in ({-1, 1}, set())
        # Whatever stands there does not run into what is beside it.
        for p, ring in s.made.rings:
            assert ring.m - 1e-9 <= p.length and p.d == ring.d_2
        for p in s.made.sleeves:
            assert p.sleeve > p.d + 1 and p.length >= 0.5
        for c in s.holding.covers:
            assert c.seal is None or c.d_1 - 1.5 * c.screw > c.seal.D
            assert c.hole == 0 or c.hole > next(p.d for p in s.made.pieces if p.kind == "end")


def test_the_thrust_goes_from_the_teeth_to_the_housing():
    _design, results = machine("winch")
    m, factor = results.machine, max(results.machine.rules.K_A, results.machine.rules.K_AP)
    for s in m.shafts:
        for case in (0, 1):
            F = sum(c.force[case][2] for c in s.made.wish.contacts)
            holds, points = thrust_path(s.made, s.holding, case)
            hub, inner, outer = holds
            side = 1 if F > 0 else -1
            assert (hub.side, inner.side, outer.side) == (side, -side, side)
            assert inner.thing == outer.thing == next(b.name for b in s.made.bearings if b.fixed)
            assert inner.F == outer.F == pytest.approx(abs(F) * factor)
            # It ends where the outer ring leans on the housing, having passed the bearing.
            at = s.made.piece(outer.thing).at
            assert side * (points[-1][0] - at) > 0 and abs(points[0][0] - at) > abs(points[-1][0] - at)
    # By hand: a groove of a ring of 20 mm in the steel of the shaft over the thrust of the pinion beside it.
    s = m.shaft("gear2")
    hold = s.holding.of("seat gear3", "hub", 1)
    F = max(c.force[n][2] for c in s.made.wish.contacts if c.gear == "gear3" for n in (0, 1))
    assert hold.by == "DIN 471, 20 x 1.2" and pytest.approx(factor * F) == hold.F
    assert pytest.approx(pi / 4 * (20**2 - 19**2) * s.made.wish.steel.sigma_S / 1.2 / (factor * F)) == hold.S
    check = next(c for c in results.checks if c.type == "held_along" and c.part.startswith("gear2"))
    rows = why_machine(m, check.part, "S_ax")
    assert rows[-1][1] == pytest.approx(check.value) == pytest.approx(s.holding.worst.S)
    assert any(v == pytest.approx(hold.bears) for _l, v, _u, _s in rows)


def test_a_groove_notches_and_its_bearing_grows_with_it():
    _design, results = machine("winch")
    s = results.machine.shaft("gear4")
    piece, ring = s.made.rings[0]
    inside = (s.checked.ends[:, 0] > piece.start - 1e-6) & (s.checked.ends[:, 1] < piece.end + 1e-6)
    t = (s.made.piece(piece.holds).d - piece.d) / 2
    own = ring_groove_notch(t, piece.r, piece.length, s.checked.sigma_S)
    assert inside.any() and s.checked.beta[inside] == pytest.approx(
        np.broadcast_to(own, (*s.checked.beta[inside].shape,))
    )
    assert np.all(s.checked.d[inside] == ring.d_2)


@pytest.mark.parametrize(("chosen", "kind"), [("nut", "thread"), ("retaining ring", "groove"), ("nothing", None)])
def test_what_keeps_a_ring_is_chosen(chosen, kind):
    design, results = machine("winch", (("shafts", "gear4", "retention", "bearing 1"), chosen))
    s = results.machine.shaft("gear4")
    assert next((p.kind for p in s.made.pieces if p.holds == "bearing 1" and p.kind != "land"), None) == kind
    assert s.made.retained_by("bearing 1") == (chosen if kind else "nothing")
    notes = {n.key for n in results.notes}
    assert ("not_held" in notes) == (kind is None)
    names = [i.designation for i in parts_list(design, results, results.machine)]
    assert ("DIN 981, KM 7" in names) == (chosen == "nut") == ("DIN 5406, MB 7" in names)
    # The thread weakens the shaft down to its core.
    if chosen == "nut":
        thread = next(p for p in s.made.pieces if p.kind == "thread")
        core = 35 - 1.22687 * 1.5
        inside = (s.checked.ends[:, 0] > thread.start - 1e-6) & (s.checked.ends[:, 1] < thread.end + 1e-6)
        assert thread.d == 35 and cores_of(s.made, s.checked.x, s.checked.d)[inside] == pytest.approx(core)
        assert s.checked.beta[inside].min() > 1.5
    back = evaluate(in_machine(design, (("shafts", "gear4", "retention", "bearing 1"), None)))
    assert back.machine.shaft("gear4").made == machine("winch")[1].machine.shaft("gear4").made


def test_a_pair_back_to_back_is_tightened_by_nuts():
    pair = [(("shafts", "gear4", "bearings", f"bearing {k}", "type"), "tapered roller") for k in (1, 2)]
    _d, face = machine("winch", *pair)
    _d, back = machine("winch", *pair, (("shafts", "gear4", "paired"), "back to back"))
    one, two = face.machine.shaft("gear4"), back.machine.shaft("gear4")
    assert not one.made.nuts and not [p for p, _ in one.made.rings if p.holds.startswith("bearing")]
    assert sorted(p.holds for p, _ in two.made.nuts) == ["bearing 1", "bearing 2"]
    # Face to face the covers press the outer rings, back to back the walls do.
    for s, by in ((one, "cover"), (two, "the wall")):
        needed = [h for h in s.holding.holds if h.ring == "outer ring" and h.needed]
        assert [h.by for h in needed] == [by, by] and {h.side for h in needed} == {-1, 1}
        assert all(h.held for h in s.holding.holds)


def test_parts_around_a_shaft_fill_the_room_that_they_are_weighed_for():
    _design, results = machine("winch")
    for s in results.machine.shafts:
        parts = on_shaft(s.made) + in_housing(s.made, s.holding)
        covers = [p for p in parts if p.name.startswith("cover")]
        assert len(covers) == len(s.holding.covers)
        for p, c in zip(covers, s.holding.covers, strict=True):
            z, r = np.array([*p.profile, p.profile[0]]).T
            # Pappus: twice pi the moment of the section about the axis.
            volume = abs(pi * np.sum((z[1:] - z[:-1]) * (r[1:] ** 2 + r[1:] * r[:-1] + r[:-1] ** 2) / 3))
            assert volume * 7.2e-6 == pytest.approx(c.mass, rel=0.05)
        screws = [p for p in parts if p.name.startswith("screw")]
        assert [len(p.places) for p in screws] == [c.screws for c in s.holding.covers]
    assert {"SHAFT_FASTENER", "COVER"} <= set(LAYERS)


def test_what_screws_nuts_walls_and_shoulders_bear_by_hand():
    """Half of the yield points of the screws of class 8.8, half of a thread sheared off, areas of the rest."""
    _d, results = machine("winch", (("shafts", "gear4", "retention", "bearing 1"), "nut"))
    s = results.machine.shaft("gear4")
    cover = s.holding.covers[0]
    assert (cover.screw, cover.screws) == (6, 4) and cover.bears == pytest.approx(0.5 * 4 * 20.1 * 640)
    R_e = s.made.wish.steel.sigma_S
    nut = s.holding.of("bearing 1", "inner ring", -1)
    assert nut.by == "nut KM 7" and nut.bears == pytest.approx(0.577 * R_e * pi * (35 - 1.22687 * 1.5) * 8 / 2)
    wall = s.holding.of("bearing 1", "outer ring", 1)
    assert wall.by == "the wall" and wall.bears == pytest.approx(200 * pi / 4 * 55**2 * (1 - 0.81))
    gap = s.made.piece("gap 1")
    shoulder = s.holding.of("bearing 1", "inner ring", 1)
    assert shoulder.bears == pytest.approx(R_e * pi / 4 * (gap.d**2 - 35.2**2))
    # The root of a thread of 1.5 mm as a groove around its core. DIN 743-2.
    thread = s.made.piece("thread of bearing 1")
    inside = (s.checked.ends[:, 0] > thread.start - 1e-6) & (s.checked.ends[:, 1] < thread.end + 1e-6)
    own = groove_notch(35 - 1.22687 * 1.5, 35.0, 0.144 * 1.5, s.checked.sigma_S)
    assert s.checked.beta[inside] == pytest.approx(np.broadcast_to(own, s.checked.beta[inside].shape))


def test_a_groove_stays_whole():
    design, results = machine("winch")
    made = results.machine.shaft("gear2").made
    groove = made.piece("groove of bearing 1")
    with pytest.raises(OutOfRange, match="retaining ring"):
        cut_piece(design, "gear2", made, groove.at)


def test_bad_choices_are_refused():
    with pytest.raises(ValueError, match="retention"):
        set_at(demo("winch"), "train.machine.shafts", {"gear4": {"retention": {"bearing 1": "glue"}}})


def test_covers_and_their_screws_are_customary():
    """Threads and numbers by the bore as usual; a screw stands one and a half threads in the wall, the next length."""
    assert [screws_of(D) for D in (22, 47, 62, 72, 90, 125, 200, 260)] == [
        (3, 3), (5, 4), (6, 4), (8, 4), (8, 6), (10, 6), (12, 6), (16, 8)
    ]  # fmt: skip
    _design, results = machine("winch")
    for s in results.machine.shafts:
        for c in s.holding.covers:
            assert c.screw_length >= c.screw_in_flange + 1.5 * c.screw and c.flange >= 1.2 * c.screw
            assert screw_designation(c) == f"ISO 4762, M{c.screw} x {c.screw_length}"
            assert c.d_1 - 2 * c.screw > c.D and c.d_1 + 2 * c.screw < c.D_2 + c.screw
            assert spigot_of(c.D) == abs(c.z_2 - c.z_1)


def test_a_hub_is_as_long_as_its_key_asks_for():
    _design, results = machine("winch")
    s = results.machine.shaft("gear4")
    joint = next(j for j in s.made.joints if j.gear == "gear4")
    piece, seat = s.made.piece("seat gear4"), s.made.wish.seats[0]
    assert joint.kind == "key" and piece.length >= joint.length > seat.b and piece.length <= 1.5 * piece.d
    # The next shorter key does not hold.
    shorter = max(v for v in key_lengths() if v < joint.length)
    thin = replace(joint, length=shorter, l_tr=shorter - joint.b)
    rules = results.machine.rules
    assert check_joint(thin, rules).S < rules.S_joint <= check_joint(joint, rules).S
    ends = hub_ends(s.made)
    assert sum(e[2] - e[1] for e in ends) == pytest.approx(piece.length - seat.b)
    volume = pi / 4 * ((1.6 * piece.d) ** 2 - piece.d**2) * (piece.length - seat.b)
    assert hub_mass(s.made) == pytest.approx(7.85e-6 * volume) == hub_mass(s.made, "gear4")
    # A length that is given stays, to both sides alike.
    _d, given = machine("winch", (("shafts", "gear4", "pieces", "seat gear4", "length"), 30.0))
    own = given.machine.shaft("gear4").made
    assert own.piece("seat gear4").length == 30.0 and own.piece("seat gear4").at == pytest.approx(own.wish.seats[0].at)


def test_a_part_that_its_way_does_not_let_through_is_found():
    _design, results = machine("winch")
    for s in results.machine.shafts:
        order = shaft_order(s.made)
        assert not order.blocked and {x.piece for x in order.steps} == {x.piece for x in mounted_on(s.made)}
        # Each passes what stands outside of it, and what is mounted before stands farther inside.
        for side in (-1, 1):
            places = [s.made.piece(x.piece).at for x in order.steps if x.side == side]
            assert list(np.diff(places) * side >= -1e-9) == [True] * max(len(places) - 1, 0)
    made = results.machine.shaft("gear2").made
    # A thicker end piece on each side locks everything in.
    outside = {made.pieces[0].name, made.pieces[-1].name}
    locked = replace(made, pieces=tuple(replace(p, d=90.0) if p.name in outside else p for p in made.pieces))
    names = {b.piece for b in shaft_order(locked).blocked}
    assert {"bearing 1", "bearing 2", "seat gear2", "seat gear3"} <= names
    assert all(b.d > b.bore for b in shaft_order(locked).blocked)


def test_the_housing_opens_where_its_axes_let_it():
    steps = {}
    for name, split in (("winch", False), ("battery-lift", True), ("dome-drive", True)):
        _design, results = machine(name)
        m = results.machine
        assert m.housing_order.split == split and not m.housing_order.stuck
        steps[name] = assembly_steps(m)
        covers = sum(len(s.holding.covers) for s in m.shafts)
        assert len(m.housing_order.covers) == covers
        mounted = sum(len(s.order.steps) for s in m.shafts)
        keys = sum(not j.gear and j.kind == "key" for s in m.shafts for j in s.made.joints)
        assert len(steps[name]) == mounted + covers + keys + len(m.housing_order.before)
    # Without a split, bearings of outer walls come from outside once the lid is on; with one, before.
    words = [s.words for s in steps["winch"]]
    lid = words.index("put on the lid and dowel it")
    assert all(n > lid for n, w in enumerate(words) if "bearing" in w and "from the" in w)
    words = [s.words for s in steps["battery-lift"]]
    halves = words.index("put on the upper half, bolt both and dowel them")
    assert all(n < halves for n, w in enumerate(words) if "bearing" in w and "from the" in w)
