"""Loaded contact: load sums, rigid teeth, stiffness beside ISO 6336-1, helical beside spur, the reach of a load
along a face."""

import numpy as np
import pytest
from msgspec.structs import replace

from cooper.demo import demo
from cooper.editing.edit import set_many
from cooper.editing.forms import give_relief
from cooper.errors import OutOfRange
from cooper.field.compliance import Compliance
from cooper.field.loaded_contact import REACH, Meshing, coupling, mesh_cycle, orders
from cooper.gears.flank_form import FlankForm
from cooper.rating.scuffing.flash import flash_temperature
from cooper.results.evaluate import evaluate
from cooper.results.flank_forms import form_of, reach_of
from cooper.results.loaded_curves import loaded_curves
from cooper.results.loaded_tooth import cycle_of, loaded_ask
from cooper.results.relief import each_crowning, each_error_map, each_relief, each_sampled, relieved
from cooper.running.friction import loss_along_path
from makers import pair, polyline_distance


def ask_of(design, k=0, counted="nominal"):
    return loaded_ask(design.train, evaluate(design), k, counted, True)


@pytest.mark.parametrize("name", ["mirror-cover", "winch", "dome-ring", "dome-rack", "focuser"])
def test_loads_of_all_pairs_are_the_torque_at_every_position_and_stand_on_the_path(name):
    ask = ask_of(demo(name))
    ask = relieved(ask, 5.0, 0.3 * (ask.E - ask.A))
    c = cycle_of(ask, "usual")
    whole = c.w.sum(axis=(1, 2)) * ask.b / c.w.shape[-1]
    assert whole == pytest.approx(ask.F, rel=1e-9)
    assert (c.g[c.w > 0] >= ask.A - 1e-9).all() and (c.g[c.w > 0] <= ask.E + 1e-9).all()
    assert (c.w >= 0).all()
    # Pressure by Hertz of the line load, in the normal section.
    n = np.unravel_index(int(c.p.argmax()), c.p.shape)
    rho = abs(c.g[n] * (ask.T2 - c.g[n]) / ask.T2) / ask.cos_b
    E, nu = [b.E for b in ask.bodies], [b.nu for b in ask.bodies]
    soft = sum((1 - v**2) / e for e, v in zip(E, nu, strict=True))
    assert c.p.max() == pytest.approx(np.sqrt(c.w[n] / (np.pi * rho * soft)), rel=0.01)


def test_rigid_teeth_without_forms_err_nowhere_and_with_forms_by_these():
    ask = ask_of(demo("mirror-cover"))
    rigid = replace(ask, bodies=tuple(replace(b, E=1e5 * b.E) for b in ask.bodies))
    assert np.ptp(cycle_of(rigid, "coarse").te) < 1e-3
    form = FlankForm(C_a=10.0, l_Ca=0.45 * (ask.E - ask.A))
    shaped = cycle_of(replace(rigid, forms=(form, form)), "coarse")
    # A relief that begins before the middle leaves no place where a whole pair is on its involutes.
    A, E, p = ask.A, ask.E, ask.p_et
    g = A + (shaped.turn[:, None] + np.arange(-1, 3)) * p
    off = np.where(
        (g >= A) & (g <= E),
        ask.__class__.gap(replace(ask, forms=(form, form)), g, np.zeros_like(g), g.astype(int)),
        np.inf,
    )
    assert shaped.te == pytest.approx(off.min(axis=1), abs=2e-3)


def test_the_mesh_is_as_stiff_as_iso_has_it_for_solid_discs():
    """ISO 6336-1, 9: c_gamma holds C_M = 0.8 between measured and computed stiffness, which a computed one has not."""
    rng = np.random.default_rng(7)
    result = []
    for _ in range(24):
        d = pair(
            int(rng.integers(17, 40)),
            int(rng.integers(30, 90)),
            float(rng.uniform(0, 0.4)),
            float(rng.uniform(-0.1, 0.3)),
            P=20000.0,
        )
        r = evaluate(d)
        c = cycle_of(loaded_ask(d.train, r, 0, "nominal", True), "coarse")
        result.append(c.c.mean() * 0.8 / r.stages[0].mesh.c_gamma)
    assert min(result) > 0.9 and max(result) < 1.15 and abs(np.median(result) - 1) < 0.07


def test_a_helix_that_goes_away_leaves_a_spur_gear():
    d = demo("mirror-cover")
    spur = cycle_of(ask_of(d), "usual")
    almost = ask_of(set_many(d, {"train.meshes.stage1.beta": 0.05}))
    assert almost.tan_beta_b != 0
    c = cycle_of(almost, "usual")
    assert c.w.shape[-1] == 20
    # At the first position the path ends in the middle of the face.
    assert c.te[1:] == pytest.approx(spur.te[::2][1:], rel=0.02)
    assert c.sigma.max(axis=(1, 2, 3)) == pytest.approx(spur.sigma.max(axis=(1, 2, 3)), rel=0.02)


def test_a_load_reaches_along_the_face_as_in_a_plate_that_is_held_at_one_edge():
    """A force at the free edge of an endless plate of length c moves it by 0.168 P c^2 / D (Jaramillo, 1950); a
    strip of it by P c^3 / (3 D) for each width."""
    c, b, n = 1.0, 40.0, 4001
    y = (np.arange(n) + 0.5) * b / n
    d = b / n
    middle = coupling(y, b, REACH * c)[n // 2, n // 2] / d
    assert middle * c**3 / 3 == pytest.approx(0.168 * c**2, rel=0.02)
    assert coupling(y, b, REACH * c).sum(axis=1) == pytest.approx(1.0, abs=1e-9)


def test_flanks_that_give_way_at_the_surface_alone_do_so_by_hertz_in_the_normal_section():
    """One pair on the path: the approach is what both surfaces are pressed in under F/b, along the transverse path."""
    E, nu, h, b, F, cos_b = 206000.0, 0.3, 3.0, 10.0, 2000.0, 0.9
    L = np.linspace(4.0, 11.0, 8)
    bare = Compliance(L, np.zeros((3, 8, 8)), np.full(8, h), np.zeros((8, 2)), np.zeros((2, 2)), E, nu)
    m = Meshing(
        A=5.0,
        E=9.6,
        T2=16.0,
        p_et=4.5,
        b=b,
        tan_beta_b=0.0,
        F=F,
        h=(5.0, 5.0),
        gap=lambda g, y, k: 0 * g,
        tan_alpha_a=(0.5, 0.5),
        cos_b=cos_b,
    )
    c = mesh_cycle(m, bare, bare)
    alone = np.isfinite(np.where(c.p > 0, c.g, np.nan)).any(axis=2).sum(axis=1) == 1
    assert alone.sum() > 20
    g = np.where(c.w[alone] > 0, c.g[alone], 0.0).max(axis=(1, 2))
    rho, soft = g * (16.0 - g) / 16.0 / cos_b, 2 * (1 - nu**2) / E
    a = np.sqrt(4 * F / b * rho * soft / np.pi)
    u = F / b * 2 * 2 * (1 - nu**2) / (np.pi * E) * (np.log(2 * h / a) - nu / (2 * (1 - nu))) / cos_b
    assert c.te[alone] == pytest.approx(1000 * u, rel=1e-6)


def test_helix_slope_and_crowning_move_the_load_where_they_leave_metal():
    d = demo("winch")
    even = cycle_of(ask_of(d), "coarse")
    sloped = cycle_of(ask_of(set_many(d, {"train.meshes.stage1.C_Hbeta": 12.0})), "coarse")
    crowned = cycle_of(ask_of(set_many(d, {"train.meshes.stage1.C_beta": 12.0})), "coarse")
    by_slice = [c.w.sum(axis=(0, 1)) for c in (even, sloped, crowned)]
    assert by_slice[1][0] > 1.4 * by_slice[0][0] and by_slice[1][-1] < 0.7 * by_slice[0][-1]
    assert by_slice[2][len(by_slice[2]) // 2] > 1.1 * by_slice[0][len(by_slice[0]) // 2]
    assert by_slice[2][0] < by_slice[0][0] and by_slice[2][-1] < by_slice[0][-1]


def test_contact_runs_ahead_at_the_end_that_the_helix_leads():
    """A right-hand driver that turns counter-clockwise as seen from the right has its right end ahead: its teeth
    lean that way like a right-hand thread."""
    d = demo("winch")
    r = evaluate(d)
    hand = d.train.stages[0].mesh.hand
    for left in (True, False):
        ask = loaded_ask(d.train, r, 0, "nominal", left)
        c = cycle_of(ask, "coarse")
        ahead = c.g[0, 0, -1] - c.g[0, 0, 0]
        assert (ahead > 0) == ((hand == "right") == left)
        assert abs(ahead) == pytest.approx(abs(ask.tan_beta_b) * (c.y[-1] - c.y[0]))


def test_what_is_proposed_is_better_in_its_sense_than_what_lies_beside_it():
    ask = ask_of(demo("mirror-cover"))
    result = [f for some in each_relief(ask) for f in some]
    assert [(f.aim, f.long) for f in result] == [
        (a, long) for long in (True, False) for a in ("smooth", "range", "between", "bears")
    ]
    smooth = result[0]
    assert smooth.ptp[1] < 0.3 * smooth.ptp[0]
    for other in (0.6, 1.5):
        assert np.ptp(cycle_of(relieved(ask, other * smooth.C_a, smooth.l_Ca), "coarse").te) > smooth.ptp[1]
    bears = result[3]
    assert bears.p[1] <= 1.003 * bears.p[0] and bears.early[1] < bears.early[0]
    assert result[2].C_a == pytest.approx((smooth.C_a + bears.C_a) / 2, abs=0.6)
    over = result[1]

    def worst(C):
        return max(np.ptp(cycle_of(relieved(ask, C, smooth.l_Ca), "coarse", q * ask.F).te) for q in (0.5, 0.75, 1.0))

    assert worst(over.C_a) < worst(smooth.C_a) and over.C_a < smooth.C_a
    rows = list(each_error_map(replace(ask, forms=relieved(ask, 0.0, smooth.l_Ca).forms), 2 * smooth.C_a))
    last = rows[-1]
    assert len(rows) == len(last.loads) and np.isfinite(last.ptp).all()
    # The smoothest relief grows with the load.
    best = last.ptp.argmin(axis=1)
    assert (np.diff(best) >= 0).all() and best[-1] > best[0]
    assert last.ptp[4, best[4]] == pytest.approx(smooth.ptp[1], rel=0.3)


def test_forms_of_the_document_come_where_they_belong():
    d = set_many(
        demo("dome-ring"),
        {
            "train.gears.gear1.flanks.C_alphaa": 12.0,
            "train.gears.gear1.flanks.l_Ca": 2.0,
            "train.gears.gear2.flanks.C_alphaa": 7.0,
            "train.gears.gear2.flanks.l_Ca": 1.5,
        },
    )
    r = evaluate(d)
    ask = loaded_ask(d.train, r, 0, "nominal", True)
    ends = ask.gap(
        np.array([ask.A, ask.A + 1.49, ask.A + 1.51, ask.E - 2.01, ask.E - 1.0, ask.E]),
        np.zeros(6),
        np.zeros(6, dtype=int),
    )
    # The driver's tip meets its mate at the end of the path, the ring's at its beginning.
    assert ends == pytest.approx([7.0, 7 * 0.01 / 1.5, 0.0, 0.0, 6.0, 12.0], abs=1e-9)
    assert form_of(d.train.stages[0].gears[0], r.stages[0]).l_Ca == 2.0
    curves = loaded_curves(ask, cycle_of(ask, "usual"))
    assert curves.share.max() == pytest.approx(1.0, abs=1e-6) and curves.share.min() >= 0
    assert curves.ptp == pytest.approx(np.ptp(curves.te))
    idle = replace(r, stages=(r.stages[0].with_mesh(F_bt=0.0),))
    with pytest.raises(OutOfRange, match="no torque is on this mesh"):
        loaded_ask(d.train, idle, 0, "nominal", True)


def test_a_tooth_that_is_pointed_in_its_normal_section_is_refused_with_the_tip_that_works():
    z, x, d_a = (f"train.gears.gear1.{key}" for key in ("z", "x", "d_a"))
    d = set_many(demo("winch"), {z: 25, x: 1.5017, "train.gears.gear2.x": 0.4827})
    r = evaluate(d)
    with pytest.raises(OutOfRange, match="end in a point in their normal section") as text:
        loaded_ask(d.train, r, 0, "nominal", True)
    cut = set_many(d, {d_a: text.value.high})
    te = cycle_of(loaded_ask(cut.train, evaluate(cut), 0, "nominal", True), "coarse").te
    assert np.all(np.isfinite(te)) and np.all(te > 0)


def test_friction_and_heat_are_those_of_the_losses_and_of_blok_where_sharing_is_the_same():
    d = demo("mirror-cover")
    r = evaluate(d)
    s, ask = r.stages[0], loaded_ask(d.train, r, 0, "nominal", True)
    c = loaded_curves(ask, cycle_of(ask, "usual"))
    m = s.mesh
    path = tuple(np.float64(m[f"g_{p}"]) for p in "ABCDE")
    loss, _ = loss_along_path(path, s.T2, s.ratio, ask.omega_1, float(m.F_bt), float(m.b_H), float(m.eta_oil))
    power = float(m.F_bt) * float(s.gears[0].d_b) / 2000 * ask.omega_1
    # Half and half by the formula; the loaded teeth give the ends of the path, where they slide most, less.
    assert 0.8 * loss / power < c.lost < loss / power
    k = len(c.g) // 2
    w = float(m.F_bt / m.b_H)
    assert c.share[k] == pytest.approx(1.0, abs=1e-9)
    hot = flash_temperature(
        c.mu[k], w, c.g[k], s.T2, s.ratio, ask.omega_1, 0.0, ask.bodies[0].E, ask.bodies[1].E, 0.3, 0.3
    )
    assert c.flash[k] == pytest.approx(float(hot), rel=1e-3)
    assert c.v_g[0] == pytest.approx(abs(float(m.g_C) - c.g[0]) * ask.omega_1 * (1 + 1 / s.ratio) / 1000, rel=1e-9)


def test_planets_in_sequence_take_out_the_orders_that_are_not_multiples_of_their_number():
    d = demo("dome-drive")
    r = evaluate(d)
    ask = loaded_ask(d.train, r, 0, "nominal", True)
    z_s, n = r.stages[0].gears[0].z, r.sets[0].planets
    assert ask.phases == pytest.approx([k * z_s / n % 1 for k in range(n)], abs=1e-6)
    cycle = cycle_of(ask, "coarse")
    for phases, kept in (
        ((0.0, 1 / 3, 2 / 3), [3, 6]),
        ((0.0, 0.25, 0.5, 0.75), [4]),
        ((0.0, 0.0, 0.0), [1, 2, 3, 4, 5, 6]),
    ):
        c = loaded_curves(replace(ask, phases=phases), cycle)
        one, all_of = c.orders, orders(c.together)
        for k in range(1, 7):
            if k not in kept:
                assert all_of[k - 1] < 0.12 * one.max()
        if len(kept) == 6:
            assert c.together == pytest.approx(c.te)


def test_gears_made_within_their_classes_err_more_and_those_made_exactly_as_designed():
    ask = ask_of(demo("mirror-cover"))
    design = cycle_of(ask, "coarse")
    exact = next(each_sampled(replace(ask, tolerances=((0.0, 0.0, 0.0), (0.0, 0.0, 0.0)))))
    assert exact.ptp == pytest.approx(np.ptp(design.te), rel=0.03)
    one, again = (next(each_sampled(ask)) for _ in range(2))
    assert (one.ptp == again.ptp).all() and one.ptp.max() > 1.5 * np.ptp(design.te)
    coarser = next(each_sampled(replace(ask, tolerances=tuple(tuple(2 * v for v in t) for t in ask.tolerances))))
    assert np.median(coarser.ptp) > np.median(one.ptp) and coarser.p.max() > one.p.max()


def test_a_relief_on_one_gear_parts_the_flanks_as_one_on_both():
    d = demo("winch")
    gaps = []
    for on in ("both", "driving", "driven"):
        made = give_relief(d, 0, 8.0, 1.7, on)
        r = evaluate(made)
        ask = loaded_ask(made.train, r, 0, "nominal", True)
        g = np.linspace(ask.A, ask.E, 50)
        gaps.append(ask.gap(g, 0 * g, g.astype(int)))
    assert gaps[1] == pytest.approx(gaps[0], abs=1e-9) and gaps[2] == pytest.approx(gaps[0], abs=1e-9)
    assert gaps[0].max() == pytest.approx(8.0)


@pytest.mark.parametrize("name", ["mirror-cover", "dome-ring", "dome-rack"])
def test_left_flanks_bear_where_the_driving_gear_turns_left(name):
    """What is taken off one flank of one gear, 100 um all over its contact, stands between the drawn outlines where
    those flanks are pressed together, and nothing where the others are; what is asked of the loaded teeth says the
    same."""
    bare = demo(name)
    members = [f"train.gears.gear{i + 1}" for i in (0, 1)]
    bare = set_many(bare, {f"{m}.flanks{end}": {} for m in members for end in ("", "_left")})
    # Thin enough that the flanks behind are farther.
    bare = set_many(bare, {f"{m}.{E}": v for m in members for E, v in (("E_sns", -0.2), ("E_sni", -0.22))})
    length = float(evaluate(bare).stages[0].mesh.g_alpha) - 1e-6
    # Tip and root relief from end to end add up to the same all over.
    even = {"C_alphaa": 100.0, "l_Ca": length, "C_alphaf": 100.0, "l_Cf": length}
    for member in members:
        for end in ("", "_left"):
            made = set_many(bare, {f"{member}.flanks{end}": even})
            r = evaluate(made)
            s = r.stages[0]
            for turns_left in (True, False):
                mine, mate = (
                    section.outline(1e-3, motion)
                    for section, motion in zip(s.sections, s.motions(0.0, 1.0 if turns_left else -1.0), strict=True)
                )
                mate = mate + [s.wheel_x, 0.0]
                where = [float(s.gears[0].d_w) / 2, 0.0]
                mine = mine[np.hypot(*(mine - where).T) < 2 * s.mesh.m_n]
                # Points well within the contact: before it flanks that are not taken off come near as well.
                ends = np.hypot(float(s.teeth[0].d_b) / 2, np.array(reach_of(s, 0)) @ [[0.9, 0.1], [0.1, 0.9]])
                mine = mine[(np.hypot(*mine.T) > ends[0]) & (np.hypot(*mine.T) < ends[1])]
                gap = 1000 * polyline_distance(mine, mate).min()
                ask = loaded_ask(made.train, r, 0, "nominal", turns_left)
                asked = ask.gap(np.linspace(ask.A, ask.E, 9), np.zeros(9), np.zeros(9, dtype=int))
                wanted = 100.0 if turns_left == bool(end) else 0.0
                assert asked == pytest.approx(wanted, abs=0.01)
                assert gap == pytest.approx(wanted, abs=3.0)


def test_the_crowning_that_is_proposed_presses_least_within_the_class():
    ask = ask_of(demo("winch"))
    result = next(each_crowning(ask))
    slope = np.hypot(*(t[2] for t in ask.tolerances))

    def worst(C):
        return max(cycle_of(replace(ask, C_beta=C, C_Hbeta=w * slope), "coarse").p.max() for w in (-1, 0, 1))

    assert result.p == pytest.approx((worst(0.0), worst(result.C_beta)))
    assert result.p[1] < 0.9 * result.p[0]
    for other in (0.4, 2.0):
        assert worst(other * result.C_beta) > result.p[1]


def test_the_lesser_tip_relief_of_both_gears_counts_where_the_mesh_states_none():
    base = "train."
    # Of gears finer than class 7 scuffing counts a relief.
    fine = {f"{base}gears.gear{i + 1}.Q": 5 for i in (0, 1)}
    made = {f"{base}gears.gear1.flanks.C_alphaa": 20.0, f"{base}gears.gear2.flanks.C_alphaa": 2.0}
    ways = (made, {f"{base}meshes.stage1.C_a": 2.0}, {f"{base}gears.gear1.flanks.C_alphaa": 20.0}, {})
    result = [evaluate(set_many(demo("winch"), {**fine, **way})).stages[0].mesh.S_int for way in ways]
    assert result[0] == result[1] and result[2] == result[3] != result[0]
