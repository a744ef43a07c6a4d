"""Sets in the design: kept whole through edits, rated, posed without overlap, their counts searched; nonsense
refused."""

import itertools
import json

import numpy as np
import pytest
from msgspec.structs import replace
from shapely.affinity import rotate
from shapely.geometry import Point, Polygon

from cooper.demo import DEMOS, demo
from cooper.document.models import Design
from cooper.document.plain import get_at
from cooper.document.store import Unusable, design_text, read_design
from cooper.editing.arrangement import added, arrangement_of, exchanged
from cooper.editing.count_search import search, strength_now, subject, take
from cooper.editing.edit import set_many
from cooper.editing.formulas import settled, with_formula
from cooper.editing.make_sets import (
    KIND_WORDS,
    change_count,
    give_counts,
    roles,
    with_free_sun,
    with_roles,
    with_set,
    without_set,
)
from cooper.editing.set_fields import envelope_field
from cooper.editing.sheet_fields import bench_fields
from cooper.editing.stages import add_stage, move_stage, remove_stage, split_stage
from cooper.errors import OutOfRange
from cooper.gears.involute import inv
from cooper.gears.outline import gear_outline
from cooper.gears.phase import contact_positions
from cooper.results.evaluate import evaluate
from cooper.results.pose import mesh_frames, pose
from cooper.results.set_flow import links_of, play_gain, solve_set
from cooper.trains.counts import Bounds, Offer, follow, planetary
from cooper.trains.equal_strength import bears, equal_strength
from cooper.trains.planets import load_share, most_planets, planet_gap, positions, spaced_evenly
from cooper.trains.two_ring_counts import two_ring_efficiency, two_rings
from makers import pair, planet_set


def area(results, g):
    """The gear as it stands."""
    values, tooth = results.stages[g.stage].gears[g.i], results.stages[g.stage].teeth[g.i]
    solid = Polygon(gear_outline(tooth, g.angle, 2e-3) + np.array([g.x, g.y])).buffer(0)
    if values["z"] < 0:
        solid = Point(g.x, g.y).buffer(values["d_rim"] / 2, 128).difference(solid)
    return solid


CASES = [
    ("planetary", (24, 30, 84), 4),
    ("planetary", (25, 29, 83), 4),
    ("planetary", (24, 30, 85), 3),
    ("stepped", (21, 30, 24, 75), 3),
    ("stepped", (20, 31, 24, 75), 3),
    ("two rings", (18, 54, 17, 53), 3),
    ("two rings", (20, 60, 18, 58), 4),
    ("idler", (20, 25, 30), 1),
    ("free sun", (18, 54, 17, 53), 3),
    ("free sun", (20, 61, 18, 59), 4),
]


@pytest.mark.parametrize(("kind", "z", "planets"), CASES)
def test_all_gears_stand_in_phase_over_a_full_turn_wherever_the_counts_let_the_planets_sit(kind, z, planets):
    free = kind == "free sun"
    d = planet_set(kind="two rings" if free else kind, z=z, planets=planets)
    d = with_free_sun(d, 0, True) if free else d
    r = evaluate(d)
    for turn in (0.0, 0.37, 2.9, 11.0, 2 * np.pi * 3):
        at = pose(r, turn)
        solids = [(g, area(r, g)) for g in at.gears]
        touching = 0
        for n, (a, one) in enumerate(solids):
            for b, two in solids[:n]:
                meshed = a.stage == b.stage or kind in ("planetary", "idler") or {a.stage, b.stage} == {0, 2}
                if not meshed or (a.planet is not None and b.planet is not None):
                    continue
                overlap = one.intersection(two).area
                assert overlap < 1e-4, (turn, a.member, b.member, overlap)
                if one.distance(two) < 0.2:
                    touching += 1
                    # Turned by half a pitch it could not stand there: the phase is no accident.
                    if turn == 0 and a.planet is not None:
                        off = rotate(one, 180 / abs(r.stages[a.stage].gears[a.i]["z"]), origin=(a.x, a.y))
                        assert off.intersection(two).area > 0.05
        assert touching >= (3 if free else 2) * planets
        # Where teeth are said to touch, both flanks are within half the backlash.
        for f in mesh_frames(r, at):
            stage, side = r.stages[f.stage], r.side_of(f.stage)
            tooth = stage.teeth[0]
            half = float(tooth.s_t() / tooth.d + inv(tooth.alpha_t))
            m, g = stage.mesh, stage.gears[0]
            places = contact_positions(
                f.roll, int(g["z"]), g["d_b"] / 2, half, np.radians(m["alpha_wt"]), (m["g_A"], m["g_E"]), side
            )
            assert 1 <= len(places) <= 3
            for x, y in (stage.action_point(float(v), side) for v in places):
                c, s = np.cos(f.angle), np.sin(f.angle)
                point = Point(f.x + c * x - s * y, f.y + s * x + c * y)
                mates = [
                    solid
                    for p, solid in solids
                    if (p.stage, p.i)
                    in ((f.stage, 0), (f.stage, 1), (f.stage - 1, 1), (0, 0) if f.stage == 2 else (9, 9))
                ]
                near = sorted(solid.boundary.distance(point) for solid in mates)
                assert near[1] < m["j_wt_max"], (turn, f, near)
    assert len({g.planet for g in at.gears} - {None}) == (planets if kind != "idler" else 0)


def test_places_for_planets_are_those_at_which_a_tooth_fits_by_brute_force():
    for kind, z, first, second in (
        ("planetary", (20, 31, 82), (31, 20), (31, -82)),
        ("stepped", (18, 30, 20, 68), (30, 18), (20, -68)),
        ("two rings", (18, 54, 16, 52), (18, -54), (16, -52)),
    ):
        theta = 2 * np.pi * np.arange(200000) / 200000 + 1e-9
        if kind == "planetary":
            s, p, r = z
            # Planet phase that the sun asks for and that the ring asks for differ by a whole pitch of the planet.
            miss = (s * theta + p * (theta + np.pi) - (p * theta - r * theta + np.pi * (p - 0))) / (2 * np.pi)
        else:
            a, b = (z[1], z[2]) if kind == "stepped" else (z[0], z[2])
            one = (z[0] * theta + a * theta) / a if kind == "stepped" else (a * theta - z[1] * theta) / a
            ring = z[3]
            two = (b * theta - ring * theta) / b
            turned = np.stack([(one - two) / (2 * np.pi) + j / a for j in range(a)])
            miss = np.min(np.abs((turned * b + 0.5) % 1 - 0.5), axis=0)
        off = np.abs((miss + 0.5) % 1 - 0.5)
        places = np.sum((off < np.roll(off, 1)) & (off <= np.roll(off, -1)) & (off < 0.02))
        assert places == positions(first, second), (kind, z)


def test_the_least_gap_of_planets_is_looked_for_round_the_whole_turn():
    """Chords of 100 mm across: 2 a sin(half the angle), less the tip diameter."""
    for angles, least in (((0, 150, 300), 60), ((-10, 110, 250), 100), ((0, 90, 180, 270), 90), ((350, 470, 590), 120)):
        gap = 100.0 * np.sin(np.radians(least / 2)) - 64.0
        assert float(planet_gap(50.0, 64.0, np.radians(angles))) == pytest.approx(gap, abs=1e-9)
        assert float(planet_gap(-50.0, -64.0, np.radians(angles))) == pytest.approx(gap, abs=1e-9)
    # Six touch each other exactly where the tip circle is as large as the distance.
    assert [most_planets(50.0, d, 1.0) for d in (48.9, 49.0, 49.1, 99.0)] == [6, 6, 5, 1]
    # What one planet does not hinder, three do: a sun of 17 with planets of 110 teeth.
    one = planetary(
        237 / 17 + 1, ("sun", "carrier", "ring"), Bounds(planets=1, greatest=120, largest=260, tolerance=0.1)
    )
    assert any(o.z[1] >= 100 for o in one)
    for o in planetary(4.5, ("sun", "carrier", "ring"), Bounds(planets=4, tolerance=3.0)):
        assert (o.z[0] + o.z[1]) * np.sin(np.pi / 4) > o.z[1] + 2.5


def test_a_free_sun_turns_with_the_planets_and_carries_no_torque():
    d = planet_set(kind="two rings", z=(18, 54, 17, 53))
    e = with_free_sun(d, 0, True)
    plain, r = evaluate(d), evaluate(e)
    one = r.sets[0]
    # Willis about the carrier, ring 1 held: (n_sun - n_c)/(0 - n_c) = -z_ring/z_sun.
    assert one.speeds["sun"] == pytest.approx(1 + 54 / 18)
    assert one.values["eta_set"] == pytest.approx(plain.sets[0].values["eta_set"])
    assert r.train["phi_lost_max"] == pytest.approx(plain.train["phi_lost_max"])
    assert not [c for c in r.checks if c.stage == 2 and c.symbol.startswith("S_")]
    assert r.stages[2].mesh["a_w"] == pytest.approx(r.stages[0].mesh["a_w"])
    assert any("not rated" in n.text for n in r.notes)
    assert with_free_sun(e, 0, False) == d
    # Its planet is the one of the first ring, from whichever mesh it is edited.
    wide = set_many(e, {"train.gears.gear1.b": 31.0})
    assert wide.train.stages[0].gears[0].b == 31.0
    assert evaluate(give_counts(e, 0, (20, 60, 18, 58))).stages[2].gears[0]["z"] == 20
    with pytest.raises(OutOfRange, match="no room for the sun"):
        give_counts(e, 0, (26, 54, 25, 53))
    with pytest.raises(OutOfRange, match="carries torque"):
        with_free_sun(planet_set(), 0, True)
    rings = (18, -54), (16, -52)
    assert positions(*rings, 18) == np.gcd(positions(*rings), 72)
    whole = read_design(design_text(e))
    assert whole == e
    assert evaluate(add_stage(e, 1)).sets[0].stages == range(3)


def test_teeth_of_two_rings_are_rated_for_what_friction_leaves():
    d = planet_set(kind="two rings", z=(18, 54, 17, 53))
    r = evaluate(d)
    m = r.stages[1]
    # Three planets bring to ring 2 what is taken off there; without friction it would be far more.
    reached = 3 * m.power["T_mesh"] * 53 / 17 * m.mesh["eta_z"]
    assert reached == pytest.approx(abs(r.sets[0].shafts["ring 2"]["T"]), rel=0.02)
    assert (
        3 * solve_set(d.train.placed[0], d.train.stages, r.train["T_in"], 1.0).mesh_torque[1] * 53 / 17 > 1.2 * reached
    )
    plain = evaluate(planet_set())
    free = solve_set(planet_set().train.placed[0], planet_set().train.stages, plain.train["T_in"], 1.0)
    assert plain.stages[1].power["T_mesh"] == pytest.approx(free.mesh_torque[1])


def test_the_centre_distances_of_stepped_planets_agree_by_shift_module_or_helix():
    d = planet_set(kind="two rings", z=(18, 54, 17, 52))
    a_w = evaluate(d).stages[0].mesh["a_w"]
    by_module = set_many(d, {"train.sets.set1.agree": "module"})
    m = evaluate(by_module).stages[1]
    assert m.mesh["m_n"] == pytest.approx(2 * a_w / (52 - 17))
    assert m.gears[1]["x"] == pytest.approx(-m.gears[0]["x"], abs=1e-9)
    assert m.mesh["alpha_wt"] == pytest.approx(m.mesh["alpha_n"])
    # The distance moves, the module goes with it.
    wider = evaluate(set_many(by_module, {"train.meshes.stage1.a_w": 36.5}))
    assert wider.stages[1].mesh["m_n"] == pytest.approx(73 / 35)
    by_helix = evaluate(set_many(d, {"train.sets.set1.agree": "helix"})).stages[1].mesh
    assert np.cos(np.radians(by_helix["beta"])) == pytest.approx(35 / 36)
    assert by_helix["a_w"] == pytest.approx(by_helix["a"], abs=1e-9)
    for path, value, words in (
        ("meshes.stage2.m_n", 2.2, "follows from the centre distance"),
        ("gears.gear4.x", 0.1, "agree by module"),
    ):
        with pytest.raises(OutOfRange, match=words):
            set_many(by_module, {f"train.{path}": value})
    with pytest.raises(OutOfRange, match="helix makes"):
        set_many(planet_set(kind="two rings", z=(18, 54, 16, 53)), {"train.sets.set1.agree": "helix"})
    with pytest.raises(OutOfRange, match="share one gear"):
        set_many(planet_set(), {"train.sets.set1.agree": "module"})


def test_a_set_is_scaled_to_an_envelope():
    d = demo("focuser")
    field = envelope_field(0)
    e = field.give(d, evaluate(d), 48.0)
    a, b = (evaluate(x) for x in (d, e))
    assert b.sets[0].values["envelope"] == pytest.approx(48.0)
    for old, new in zip(a.stages, b.stages, strict=True):
        assert new.mesh["m_n"] / old.mesh["m_n"] == pytest.approx(48 / 38) == new.mesh["a_w"] / old.mesh["a_w"]
        assert [g["x"] for g in new.gears] == pytest.approx([g["x"] for g in old.gears], abs=1e-9)
    with pytest.raises(OutOfRange, match="room"):
        field.give(d, evaluate(d), 0.0)


def test_edits_keep_a_set_whole_from_either_mesh():
    d = planet_set()
    for path in ("train.gears.gear2.", "train.gears.gear2."):
        e = set_many(d, {path + "x": 0.33, path + "b": 21.5})
        assert e.train.stages[0].gears[1] == e.train.stages[1].gears[0]
        assert e.train.stages[1].gears[0].x == 0.33
        a = [evaluate(e).stages[k].mesh["a_w"] for k in (0, 1)]
        assert a[0] == pytest.approx(a[1], abs=1e-9)
    e = set_many(d, {"train.meshes.stage2.a_w": 55.0})
    r = evaluate(e)
    assert r.stages[0].mesh["a_w"] == pytest.approx(55.0) == r.stages[1].mesh["a_w"]
    assert "x_1" in r.stages[0].solved
    finer = set_many(d, {"train.meshes.stage2.m_n": 2.5})
    assert finer.train.stages[0].mesh.m_n == 2.5
    assert finer.train.stages[1].gears[0].bending == "both ways"
    # As the ring's tag gives it: its shift typed, the centre distance follows and with it the sun's shift.
    moved = evaluate(bench_fields(d, 1)["x_2"].give(d, evaluate(d), -0.05))
    assert moved.stages[1].gears[1]["x"] == pytest.approx(-0.05, abs=1e-9)
    assert moved.stages[0].mesh["a_w"] == pytest.approx(moved.stages[1].mesh["a_w"], abs=1e-9)
    assert moved.stages[0].gears[1]["x"] == 0.1 == moved.stages[1].gears[0]["x"]
    with pytest.raises(OutOfRange, match="both flanks"):
        set_many(d, {"train.gears.gear2.bending": "one way"})
    left = set_many(d, {"train.meshes.stage2.hand": "right"})
    assert left.train.stages[0].mesh.hand == "left"
    own = set_many(d, {"train.meshes.stage2.K_gamma": 1.3})
    assert own.train.placed[0].K_gamma == 1.3 == own.train.stages[0].mesh.K_gamma
    assert set_many(own, {"train.sets.set1.K_gamma": None}).train.stages[1].mesh.K_gamma == 1
    # Counts typed on the drawing: the ring follows sun and planet, the planet follows the ring.
    for k, i, z, expected in (
        (0, 1, 26, (26, 30, 86)),
        (0, 2, 31, (24, 31, 86)),
        (1, 1, 31, (24, 31, 86)),
        (1, 2, -87, (24, 31, 87)),
    ):
        e = bench_fields(d, k)[f"z_{i}"].give(d, evaluate(d), z)
        assert (
            e.train.stages[0].gears[0].z,
            e.train.stages[0].gears[1].z,
            -e.train.stages[1].gears[1].z,
        ) == expected
        assert evaluate(e).sets[0].values["u"] == pytest.approx(1 + expected[2] / expected[0])
    with pytest.raises(OutOfRange, match="external teeth"):
        bench_fields(d, 0)["z_1"].give(d, evaluate(d), -26)
    loaded = set_many(d, {"train.sets.set1.planets": 5, "train.sets.set1.floating": False})
    assert loaded.train.stages[0].mesh.K_gamma == pytest.approx(1.4)
    assert read_design(design_text(loaded)) == loaded


def test_files_edited_into_contradictions_are_refused_with_the_reason():
    tree = json.loads(design_text(planet_set()))

    def broken(change, words):
        copy = json.loads(json.dumps(tree))
        change(copy["train"])
        with pytest.raises(Unusable, match=words):
            read_design(json.dumps(copy))

    broken(lambda t: t["meshes"]["stage2"].update(m_n=2.5), "one m_n")
    broken(lambda t: t["sets"]["set1"].update(held="sun", input="sun"), "three different")
    broken(lambda t: t["sets"]["set1"].update(output="wheel"), "no shaft of a set")
    broken(
        lambda t: t["sets"]["set1"].update(kind="idler", held=None, input="first gear", output="last gear"),
        "planets is 1",
    )
    broken(
        lambda t: t["sets"]["set1"].update(kind="two rings", held="ring", input="carrier", output="ring 2"),
        "internal teeth belongs",
    )
    assert isinstance(read_design(json.dumps(tree)), Design)
    broken(lambda t: t["sets"].update(set2=t["sets"]["set1"]), "belongs to another set")
    broken(lambda t: t["sets"]["set1"].update(meshes=["stage2"]), "not all there")
    broken(lambda t: t["sets"]["set1"].update(meshes=["stage1", "stage3"]), "there is no mesh 'stage3'")
    broken(lambda t: t["meshes"]["stage2"].update(driver="gear1"), "one gear must stand in meshes stage1 and stage2")


@pytest.mark.parametrize("kind", list(KIND_WORDS))
def test_a_stage_becomes_each_kind_of_set_turns_by_every_shaft_and_comes_apart(kind):
    d = with_set(demo("winch"), 0, kind)
    assert len(d.train.stages) == 3
    assert d.train.placed[0].first == 0
    r = evaluate(d)
    assert r.train["u"] == pytest.approx(abs(r.sets[0].values["u"]) * abs(r.stages[2].ratio), rel=1e-9)
    for role in roles(d.train.placed[0]):
        try:
            turned = evaluate(with_roles(d, 0, role))
        except OutOfRange:
            # Two rings may lock by friction; planets alone never do.
            assert kind == "two rings"
            continue
        s = turned.sets[0]
        assert sum(v["P"] for v in s.shafts.values()) == pytest.approx(
            s.shafts[s.input]["P"] * (1 - s.values["eta_set"]), rel=1e-6
        )
    behind = add_stage(d, 0)
    assert [x.first for x in behind.train.placed] == [0]
    assert len(behind.train.stages) == 4
    before = with_set(demo("winch"), 1, kind)
    assert remove_stage(before, 0).train.placed[0].first == 0
    assert len(remove_stage(before, 2).train.stages) == 1
    for act in (
        lambda: split_stage(d, 1),
        lambda: move_stage(d, 1, 1),
        lambda: with_set(d, 1, kind),
        lambda: remove_stage(remove_stage(before, 0), 0),
    ):
        with pytest.raises(OutOfRange):
            act()
    assert evaluate(without_set(d, 0)).sets == ()
    assert evaluate(without_set(remove_stage(before, 0), 0)).sets == ()


def test_counts_change_together_or_are_refused_with_the_nearest_that_work():
    d = planet_set(z=(24, 30, 84))
    assert evaluate(change_count(d, 0, 0, 26, 1)).sets[0].values["u"] == pytest.approx(1 + 86 / 26)
    with pytest.raises(OutOfRange, match="half a tooth") as fault:
        change_count(d, 0, 2, 85, 0)
    assert "ring 84" in str(fault.value)
    assert "ring 86" in str(fault.value)
    for z in ((20, 30, 80), (17, 23, 63)):
        for changed in range(3):
            for kept in set(range(3)) - {changed}:
                for value in range(12, 100, 7):
                    result, near = follow(z, changed, value, kept)
                    for s, p, r in [result, *near] if result else near:
                        assert r == s + 2 * p
                        assert min(s, p, r) > 0


def test_searches_hold_what_they_promise_by_looking_at_every_combination():
    at = Bounds(least=15, greatest=40, tolerance=0.5, planets=4, largest=110)
    offers = planetary(4.2, ("sun", "carrier", "ring"), at)
    brute = {
        (s, (r - s) // 2, r)
        for s in range(15, 41)
        for r in range(15, 111)
        if abs((1 + r / s) / 4.2 - 1) <= 0.005
        and 15 <= (r - s) // 2 <= 40
        and (s + (r - s) // 2) * np.sin(np.pi / 4) > (r - s) // 2 + 2.5
    }
    assert {o.z for o in offers} == brute
    assert all(o.even == bool(spaced_evenly(o.z[0] + o.z[2], 4)) for o in offers)
    rings = two_rings(40.0, Bounds(least=15, greatest=40, tolerance=1.0, planets=3, largest=120))
    for o in rings[:20]:
        d = planet_set(kind="two rings", z=o.z)
        r = evaluate(d)
        assert r.sets[0].values["u"] == pytest.approx(o.ratio, rel=1e-9)
        assert r.sets[0].even == o.even
    # With another module too: the distances of both meshes agree as they are, and the offer is what it says.
    filter_wheel = with_free_sun(demo("filter-wheel"), 0, False)
    both = search(filter_wheel, 0, 40.0, Bounds(least=15, greatest=40, tolerance=0.2, largest=120), other_modules=True)
    other = [o for o in both if o.more["m_2"] != 0.8][:4]
    assert other
    for o in other:
        assert (o.z[1] - o.z[0]) * 0.8 == pytest.approx((o.z[3] - o.z[2]) * o.more["m_2"])
        r = evaluate(take(filter_wheel, 0, o))
        assert abs(r.sets[0].values["u"]) == pytest.approx(abs(o.ratio), rel=1e-9)
        assert r.stages[1].mesh["m_n"] == pytest.approx(o.more["m_2"])
        assert r.sets[0].values["envelope"] == pytest.approx(o.d, abs=0.02)
        # One module again: the next offer of the plain search brings it back.
        again = take(take(filter_wheel, 0, o), 0, next(p for p in both if p.more["m_2"] == 0.8))
        assert again.train.stages[1].mesh.m_n == 0.8
    losses = (0.01, 0.01 / 0.99)
    assert two_ring_efficiency(rings[0].ratio ** -1 * -1 + 1, (1 - losses[0]) * (1 - losses[1])) > 0


def test_offers_are_sized_as_they_turn_out_and_kept_within_sizes():
    for name, u in (("winch", 12.0), ("focuser", 4.8), ("filter-wheel", 142.0), ("mirror-cover", 2.5)):
        d = set_many(demo(name), {"train.duty.u_wanted": None})
        at = Bounds(least=15, greatest=80, planets=3 if d.train.placed else 1, largest=200)
        offers = search(d, 0, u, at)
        for o in offers[:3]:
            r = evaluate(take(d, 0, o))
            a = r.stages[0].mesh["a"] if r.sets else sum(s.mesh["a"] for s in r.stages)
            assert o.a == pytest.approx(a, rel=1e-9)
            if r.sets:
                assert o.d == pytest.approx(r.sets[0].values["envelope"], rel=1e-9)
        a_most, d_most = np.median([o.a for o in offers]), np.median([o.d for o in offers])
        small = search(d, 0, u, replace(at, a_most=a_most, d_most=d_most))
        assert small
        assert all(o.a <= a_most and o.d <= d_most for o in small)
        with pytest.raises(OutOfRange, match="centre distance is greater at this module"):
            search(d, 0, u, replace(at, a_most=1.0))
        with pytest.raises(OutOfRange, match="outside diameter is greater at this module") as fault:
            search(d, 0, u, replace(at, d_most=1.0))
        assert search(d, 0, u, replace(at, d_most=fault.value.low + 1e-3))


def test_an_equal_split_makes_the_stages_bear_alike_in_the_whole_evaluation():
    # A last stage that is far too strong: the split gives it the greater ratio's torque.
    d = set_many(
        demo("winch"),
        {"train.duty.u_wanted": None, "train.gears.gear3.b": 60.0, "train.gears.gear4.b": 60.0},
    )
    now = strength_now(evaluate(d))
    wanted = equal_strength(12.0, now)
    assert np.ptp(bears(now, np.array(wanted))) < 1e-6
    z = [s.gears[0]["z"] for s in evaluate(d).stages]
    counts = tuple(int(v) for a, u in zip(z, wanted, strict=True) for v in (a, round(a * u)))
    after = strength_now(evaluate(take(d, 0, Offer(counts, 12.0, 0.0))))

    def spread(s):
        least = [min(f, r) for f, r in zip(s.flank, s.root, strict=True)]
        return max(least) / min(least)

    assert spread(now) > 1.25
    assert spread(after) < 1 + 0.4 * (spread(now) - 1)
    offers = search(d, 0, 12.0, Bounds(least=15, greatest=110), "strength")
    assert all(abs(o.z[1] / o.z[0] / wanted[0] - 1) <= 0.18 for o in offers)
    for u in (0.5, 1.0, 144.5):
        with pytest.raises(OutOfRange, match="split lies between 1 and 144"):
            equal_strength(u, now)
    # Stages that are very unlike end at the greatest ratio, even at the very end of what both can have.
    assert equal_strength(144.0, now) == pytest.approx((12.0, 12.0), rel=2e-3)
    unlike = replace(now, flank=(1.0, 60.0), root=(1.0, 60.0))
    assert max(equal_strength(20.0, unlike)) == pytest.approx(12.0)


@pytest.mark.parametrize(
    ("name", "u"), [("mirror-cover", 3.2), ("winch", 14.0), ("focuser", 5.1), ("filter-wheel", 120.0)]
)
def test_an_offer_that_is_taken_gives_its_ratio(name, u):
    d = set_many(demo(name), {"train.duty.u_wanted": None})
    offers = search(
        d, 0, u, Bounds(least=15, greatest=90, tolerance=1.0, planets=3 if d.train.placed else 1, largest=200)
    )
    r = evaluate(take(d, 0, offers[0]))
    got = r.sets[0].values["u"] if r.sets else r.train["u"]
    assert abs(got) == pytest.approx(abs(offers[0].ratio), rel=1e-9)
    assert abs(abs(got) / u - 1) <= 0.0101
    for wrong in (0.0, 1e9, 5000.0):
        with pytest.raises(OutOfRange):
            search(d, 0, wrong, Bounds(least=15, greatest=90))
    assert subject(demo("battery-lift"), 0) == subject(demo("dome-ring"), 0) == ""


def test_formulas_follow_their_stages_as_arrangements_change():
    d = with_formula(demo("winch"), "stage2.b_1", "8*stage2.m_n")
    d, _ = settled(with_formula(d, "stage1.b_2", "stage2.b_1-2"))
    e, r = settled(exchanged(d, 0, "planetary"))
    assert e.formulas == d.formulas
    assert r.stages[1].gears[0]["b"] == r.stages[0].gears[1]["b"] == r.stages[2].gears[0]["b"] - 2
    assert without_set(e, 0).formulas == d.formulas
    rings, _ = settled(set_many(exchanged(d, 1, "free sun"), {"train.losses.counted": "all"}))
    assert rings.formulas == d.formulas
    ring = with_formula(demo("dome-ring"), "stage1.d_rim2", "stage1.d_2+40")
    with pytest.raises(OutOfRange, match="no quantity of this design has that name"):
        settled(exchanged(ring, 0, "external pair"))


def test_several_sets_keep_their_order_wherever_one_is_put_in():
    d, _ = added(planet_set(kind="two rings", z=(18, 54, 17, 53)), 0, "planetary")
    e = with_set(add_stage(pair(), 0), 1, "planetary")
    e = with_set(e, 0, "idler")
    for design in (d, e):
        r = evaluate(design)
        assert [s.kind for s in r.sets] == [s.kind for s in design.train.placed]
        assert [s.first for s in design.train.placed] == [0, 2]
    assert [s.kind for s in e.train.placed] == ["idler", "planetary"]


def test_planets_that_collide_are_refused_near_ones_are_short_and_uneven_ones_told():
    with pytest.raises(OutOfRange, match="run into each other") as fault:
        evaluate(planet_set(z=(15, 33, 81), planets=5))
    assert fault.value.high == 3
    r = evaluate(planet_set(z=(26, 22, 70), planets=6))
    assert r.check("stage1.c_pl").verdict == "short"
    uneven = evaluate(planet_set(z=(36, 18, 72), planets=5))
    note = next(n.text for n in uneven.notes if "cannot stand evenly" in n.text)
    assert "108 places" in note
    assert not uneven.sets[0].even


def test_planets_are_loaded_both_ways_and_sun_and_ring_by_each_planet():
    one, three = (evaluate(planet_set(planets=n, P=4000.0)) for n in (1, 3))
    for k, i in ((0, 0), (1, 1)):
        assert three.stages[k].gears[i]["N_L"] == pytest.approx(3 * one.stages[k].gears[i]["N_L"])
        assert three.stages[k].mesh["F_t"] == pytest.approx(one.stages[k].mesh["F_t"] / 3)
    assert three.stages[0].gears[1]["Y_M"] < 1
    assert three.stages[0].gears[0]["Y_M"] == 1
    relative = three.sets[0].shafts["sun"]["n"] - three.sets[0].shafts["carrier"]["n"]
    assert three.stages[0].power["n_mesh"] == pytest.approx(relative)
    assert get_at(planet_set(), "train.sets.set1.planets") == 3


def test_lost_motion_is_the_turn_that_the_gaps_of_all_meshes_allow():
    """A pair: the wheel's own angle. A set: output turned by hand through each mesh's gap in turn, by small
    rotations."""
    r = evaluate(pair())
    assert r.train["phi_lost_max"] == pytest.approx(
        np.degrees(2 * r.stages[0].mesh["j_op_max"] / r.stages[0].gears[1]["d_w"]), rel=1e-9
    )
    d = planet_set()
    one, stages = d.train.placed[0], d.train.stages[:2]
    # Sun held, ring held: the carrier turns by what the sun's gap lets the sun turn, geared down.
    assert abs(play_gain(one, links_of(one, stages), 0)) == pytest.approx(24 / (24 + 84))
    assert abs(play_gain(one, links_of(one, stages), 1)) == pytest.approx(30 / (24 + 84), abs=1e-9)
    two = evaluate(demo("winch"))
    own = [np.degrees(2 * s.mesh["j_op_max"] / s.gears[1]["d_w"]) for s in two.stages]
    assert two.train["phi_lost_max"] == pytest.approx(own[0] / two.stages[1].ratio + own[1], rel=1e-9)
    assert two.train["phi_lost_min"] < two.train["phi_lost"] < two.train["phi_lost_rss"] < two.train["phi_lost_max"]


@pytest.mark.parametrize("name", list(DEMOS))
def test_every_demo_is_whole_and_mixed(name):
    d = demo(name)
    r = evaluate(d)
    assert read_design(design_text(d)) == d
    assert all(np.isfinite(c.margin) for c in r.checks)
    assert json.dumps(r.as_tree())
    if d.train.placed and d.train.placed[0].kind == "planetary":
        same = give_counts(
            d,
            0,
            tuple(
                abs(v)
                for v in (
                    d.train.stages[0].gears[0].z,
                    d.train.stages[0].gears[1].z,
                    d.train.stages[1].gears[1].z,
                )
            ),
        )
        assert evaluate(same).sets[0].values["u"] == pytest.approx(r.sets[0].values["u"])


def test_two_rings_driven_at_the_sun_have_their_ratio_are_rated_and_found_by_the_search():
    """The form that is built most: i = (1 + z_r1/z_s) / (1 - z_r1 z_p2/(z_p1 z_r2)), every mesh loaded, efficiency
    by power in and out."""
    d = planet_set(kind="two rings", z=(18, 54, 17, 53), planets=3, n=3000.0, P=60.0)
    d = with_roles(with_free_sun(d, 0, True), 0, ("sun", "ring 2", "ring"))
    assert arrangement_of(d, 0) == "sun driven"
    one, r = d.train.placed[0], evaluate(d)
    s = r.sets[0]
    assert one.sun_works and d.train.stages[2].gears[0].z == 18
    base = 54 * 17 / (18 * 53)
    assert s.values["u"] == pytest.approx((1 + 54 / 18) / (1 - base))
    assert 0 < s.values["eta_set"] < 0.8
    power = {name: v["P"] for name, v in s.shafts.items()}
    assert -power["ring 2"] / power["sun"] == pytest.approx(s.values["eta_set"])
    # The sun's teeth bear the input torque, a third of it at each planet, and are rated for it.
    sun = r.stages[2]
    assert sun.rated and sun.power["T_mesh"] * 3 == pytest.approx(r.train["T_in"], rel=0.02)
    assert {c.symbol for c in r.checks if c.stage == 2} >= {"S_F", "S_H", "S_int"}
    assert d.train.stages[0].gears[0].bending == d.train.stages[2].gears[1].bending == "both ways"
    assert sun.gears[0]["N_L"] == pytest.approx(60 * 3000 * 1e4 * (1 - s.speeds["carrier"]) * 3)
    # Nothing holds the carrier: no torque acts on it, and planets push neither way along its path.
    assert s.values["eta_back"] == 0 or s.values["eta_back"] < s.values["eta_set"]
    with pytest.raises(OutOfRange, match="both ways"):
        set_many(d, {"train.gears.gear1.bending": "one way"})
    again = read_design(design_text(d))
    assert evaluate(again).sets[0].values == s.values
    assert not with_free_sun(d, 0, False).train.placed[0].free_sun

    offers = search(d, 0, -148.0, Bounds(12, 24, 5.0, 3, 90))
    every = {}
    for a, b in itertools.product(range(12, 25), repeat=2):
        for step in range(12, 79):
            z_s = step - a
            if (
                max(a, b) + step > 90
                or z_s < 8
                or step * np.sin(np.pi / 3) <= max(a, b) + 2.5
                or (a + step) * b == a * (b + step)
            ):
                continue
            u = (1 + (a + step) / z_s) / (1 - (a + step) * b / (a * (b + step)))
            if abs(abs(u) / 148 - 1) <= 0.05:
                every[a, a + step, b, b + step, z_s] = u
    assert len(offers) == min(len(every), 400)
    for o in offers[:3] + offers[-1:]:
        assert every[o.z] == pytest.approx(o.ratio)
        taken = evaluate(take(d, 0, o))
        assert taken.sets[0].values["u"] == pytest.approx(o.ratio)
        assert [abs(g["z"]) for k in (0, 1) for g in taken.stages[k].gears] + [taken.stages[2].gears[0]["z"]] == list(
            o.z
        )
        assert bool(taken.sets[0].even) == o.even


@pytest.mark.parametrize("floating", [False, True])
@pytest.mark.parametrize("n", [2, 3, 4, 6])
def test_planets_on_springs_share_the_load_as_their_balance_says(n, floating):
    """Planets on springs, one of them ahead: what turns, and floats, moves until the forces balance; solved as
    equations."""
    c, e, F = 30.0, 4.0, 2000.0
    angle = 2 * np.pi * np.arange(n) / n
    ahead = np.where(np.arange(n) == 0, e, 0.0)
    ways = np.column_stack((np.ones(n), np.cos(angle), np.sin(angle)) if floating else (np.ones(n),))
    # Spring forces c (ways q + ahead) give the torque, and no force to any side.
    wanted = np.zeros(ways.shape[1])
    wanted[0] = n * F
    q = np.linalg.lstsq(c * ways.T @ ways, wanted - c * ways.T @ ahead, rcond=None)[0]
    forces = c * (ways @ q + ahead)
    assert float(load_share(n, floating, c, e, F)) == pytest.approx(forces.max() / F)
    assert float(load_share(n, floating, c, 1e6, F)) == (1 if floating and n <= 3 else n)


def test_a_set_takes_its_load_sharing_from_the_stiffness_of_its_planets():
    plain = planet_set("planetary", planets=4)
    given = set_many(
        plain, {"train.sets.set1.k_pl": 25.0, "train.sets.set1.e_pl": 3.0, "train.sets.set1.floating": False}
    )
    result = evaluate(given)
    s = result.sets[0]
    # Of a carrier that turns the output, what its torque without losses leaves to each planet.
    F = 1000 * result.train.T_in * s.values["u"] / (4 * result.stages[0].mesh.a_w)
    K = 1 + 0.75 * 25.0 * 3.0 / F
    assert result.stages[0].mesh.K_gamma == pytest.approx(K, rel=1e-9) and result.stages[
        1
    ].mesh.K_gamma == pytest.approx(K)
    same = evaluate(set_many(given, {"train.sets.set1.K_gamma": K}))
    assert pytest.approx(result.stages[0].gears[0].S_F, rel=1e-12) == same.stages[0].gears[0].S_F
    assert any("stiffness" in n.text for n in result.notes) and not any(
        "customary value" in n.text for n in result.notes
    )
    assert read_design(design_text(given)).train.placed[0].k_pl == 25.0
    with pytest.raises(OutOfRange):
        set_many(given, {"train.sets.set1.k_pl": 0.0})
    # What does not count is said where it stands.
    for changes, text in (
        ({"K_gamma": 1.3}, "takes precedence"),
        ({"e_pl": None}, "e_pl is needed"),
        ({"k_pl": None}, "k_pl is needed"),
    ):
        other = evaluate(set_many(given, {f"train.sets.set1.{k}": v for k, v in changes.items()}))
        assert any(text in n.text and "k_pl" in n.fields for n in other.warnings())
    assert not any("k_pl" in n.fields for n in result.notes)
