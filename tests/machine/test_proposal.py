"""Shafts that propose themselves: they hold, can be put together, and keep what a person fixed."""

from itertools import pairwise

import numpy as np
import pytest
from msgspec.structs import replace

from cooper.demo import demo
from cooper.editing.machine_fields import length_field
from cooper.errors import OutOfRange
from cooper.machine import hub_joints as hub
from cooper.machine.check_joint import check_joint
from cooper.machine.check_shaft import check_shaft
from cooper.machine.face_load import Give, bearing_stiffness, face_load, share_load
from cooper.machine.lay_out import Body, Placement, clashes_of, held_at, housing_of, lay_out
from cooper.machine.propose_joint import joint_of
from cooper.machine.propose_shaft import propose_shaft
from cooper.machine.rolling_life import radial_give
from cooper.machine.shaft_beam import beam_of, loads_of, nodes_of
from cooper.machine.shaft_model import (
    BearingGiven,
    Contact,
    HubSeat,
    JointGiven,
    PieceGiven,
    Rules,
    ShaftRequirements,
    Wall,
)
from cooper.results.evaluate import evaluate
from cooper.results.find_machine import find_machine
from cooper.stock.fits import PRESSED, interference
from cooper.stock.shaft_steel import shaft_steel

RULES = Rules(K_A=1.25, K_AP=2.0, L_h=10000.0, T_rel=(1.25,))


def wish(seed=0, overhung=False, **more):
    """A shaft with one or two gears, its coupling at the left; forces of both directions of rotation."""
    rng = np.random.default_rng(seed)
    T = float(10 ** rng.uniform(0.7, 3))
    r = (2.2 + rng.uniform(0, 2)) * (T * 1000 / 8) ** (1 / 3)
    count = int(rng.integers(1, 3)) if not overhung else 1
    seats, contacts, at = [], [], 0.0
    for n in range(count):
        b = float(rng.uniform(0.8, 1.6) * r)
        own = r * (1 if n == 0 else rng.uniform(0.8, 1.4))
        m_n = own / 12
        at += b / 2
        seats.append(
            HubSeat(
                gear=f"gear{n}",
                name=f"gear {n}",
                at=at,
                b=b,
                d_f=2 * own - 2.5 * m_n,
                d_a=2 * own + 2 * m_n,
                m_n=m_n,
                T=T,
                R_e=600.0,
            )
        )
        F_t, turn = 1000 * T / own, 1 if n == 0 else -1
        e = np.array([np.cos(p := rng.uniform(0, 6.3)), np.sin(p)])
        across = np.array([-e[1], e[0]])
        force = [[*(-0.37 * F_t * e - s * turn * F_t * across), s * 0.2 * F_t] for s in (1, -1)]
        contacts.append(Contact(gear=f"gear{n}", at=at, b=b, point=np.tile(own * e, (2, 1)), force=np.array(force)))
        at += b / 2 + 6
    at -= 6
    walls = (Wall(face=-6.0, outward=-1), Wall(face=at + 6, outward=1))
    if overhung:
        walls = (Wall(face=-6.0 - 2 * r, outward=-1), Wall(face=-6.0, outward=-1))
    return ShaftRequirements(
        key="gear0",
        name="shaft",
        seats=tuple(seats),
        contacts=tuple(contacts),
        walls=walls,
        left_end=count == 1,
        right_end=False,
        n=float(10 ** rng.uniform(1.3, 3.4)),
        T=T,
        T_most=T,
        steel=shaft_steel("42CrMo4+QT"),
        **more,
    )


@pytest.mark.parametrize("overhung", [False, True])
@pytest.mark.parametrize("seed", range(10))
def test_a_proposed_shaft_holds_and_can_be_put_together(seed, overhung):
    made, result = propose_shaft(wish(seed, overhung), RULES)
    assert result.S_D.min() >= RULES.S_Dmin and result.S_Y.min() >= RULES.S_Ymin
    assert all(b.L_nmh >= RULES.L_h and RULES.S_0min <= b.S_0 for b in result.bearings)
    assert all(RULES.S_joint <= j.S for j in result.joints)
    for one, two in zip(made.pieces, made.pieces[1:], strict=False):
        assert two.start == pytest.approx(one.end) and one.length > 0
    # Towards the thickest piece every hub finds its seat no thinner than what it has slid over.
    loose = [
        p
        for p in made.pieces
        if p.kind != "groove"
        and not (p.kind == "seat" and any(j.gear == p.on and j.kind == "integral" for j in made.joints))
    ]
    d = np.array([p.d for p in loose])
    top = int(np.argmax(d))
    assert np.all(np.diff(d[: top + 1]) >= -1e-9) and np.all(np.diff(d[top:]) <= 1e-9)
    assert all(b.bearing.d == made.piece(b.name).d for b in made.bearings)
    # Bearings and gears hold each other in both senses, about every axis.
    x, _ = nodes_of(made)
    F, M, _, N = loads_of(made, x)
    for plane in (0, 1):
        R = result.reactions[..., plane]
        assert R.sum(-1) == pytest.approx(-F[:, plane].sum(-1), rel=1e-6, abs=1e-5)
        places = np.array([b.at for b in made.bearings])
        turn = (R * places).sum(-1) + (F[:, plane] * x).sum(-1) + M[:, plane].sum(-1)
        assert turn == pytest.approx(0.0, abs=1e-5 * np.abs(F).sum() * (x[-1] - x[0]))
    assert result.reactions[..., 2].max(-1) == pytest.approx(np.abs(N.sum(-1)), rel=1e-9, abs=1e-9)


def test_a_thinner_shaft_would_not_hold():
    """What grew had to grow: a tenth off the pieces that decide falls short somewhere."""
    for seed in range(4):
        made, _ = propose_shaft(wish(seed), RULES)
        thin = replace(made, pieces=tuple(replace(p, d=0.8 * p.d) for p in made.pieces))
        thin = replace(thin, joints=tuple(replace(j, d=0.8 * j.d) for j in made.joints))
        result = check_shaft(thin, RULES)
        soft = max(result.w_gears[s.gear] / s.m_n / RULES.w_rel for s in made.wish.seats)
        slopes = max(f.slope / b.bearing.slope for f, b in zip(result.bearings, made.bearings, strict=True))
        worst = min(
            result.S_D.min() / RULES.S_Dmin, *(j.S / RULES.S_joint for j in result.joints), 1 / soft, 1 / slopes
        )
        assert worst < 1.0


def test_what_is_fixed_stays_and_the_rest_follows():
    plain, _ = propose_shaft(wish(3), RULES)
    given = {
        "pieces": {"bearing 1": PieceGiven(d=60.0), "end left": PieceGiven(length=123.0), "gap 1": PieceGiven(r=1.7)},
        "bearings": {"bearing 2": BearingGiven(type="spherical roller", C=5e5, C_0=6e5)},
        "joints": {"gear0": JointGiven(kind="press fit", length=11.0)},
    }
    made, result = propose_shaft(wish(3, **given), RULES)
    assert made.piece("bearing 1").d == 60.0 and made.bearings[0].bearing.d == 60.0 != plain.bearings[0].bearing.d
    two = made.bearings[1]
    assert (two.bearing.type, two.C, two.C_0, two.typed) == ("spherical roller", 5e5, 6e5, True)
    joint = next(j for j in made.joints if j.gear == "gear0")
    assert (joint.kind, joint.l_tr) == ("press fit", 11.0)
    if any(p.name == "end left" for p in made.pieces):
        assert made.piece("end left").length == 123.0
    assert made.piece("gap 1").r == 1.7
    again, _ = propose_shaft(wish(3, **given), RULES)
    assert again.pieces == made.pieces and result.mass > 0


def test_a_hub_without_room_under_its_roots_is_cut_into_the_shaft():
    w = wish(0)
    small = replace(w, seats=(replace(w.seats[0], d_f=1.12 * 2 * (w.T * 1000 / 12) ** (1 / 3)), *w.seats[1:]))
    made, _ = propose_shaft(small, RULES)
    assert next(j for j in made.joints if j.gear == "gear0").kind == "integral"
    assert made.piece("seat gear0").d == small.seats[0].d_f


def test_where_shafts_are_held_and_what_runs_into_what():
    """Two stages: in line all shafts reach through; folded back the first and the last end between the planes."""
    big = (
        Body(key="p1", name="p1", shaft=0, plane=0, lead=0, b=20, r=20),
        Body(key="w1", name="w1", shaft=1, plane=0, lead=0, b=20, r=70),
        Body(key="p2", name="p2", shaft=1, plane=1, lead=0, b=30, r=25),
        Body(key="w2", name="w2", shaft=2, plane=1, lead=0, b=30, r=75),
    )
    line = tuple(Placement(key=str(k), axis=(x, 0.0), r=10) for k, x in enumerate((0.0, 90.0, 190.0)))
    folded = (*line[:2], Placement(key="2", axis=(-10.0, 0.0), r=10))
    B, spans = {(s, k): 15.0 for s in range(3) for k in (0, 1)}, dict.fromkeys(range(3), 40.0)
    assert held_at(big, line, 2, 5.0) == [(0, 2), (0, 2), (0, 2)]
    assert held_at(big, folded, 2, 5.0) == [(0, 1), (0, 2), (1, 2)]
    places = lay_out((20.0, 30.0), big, folded, 5.0, B, spans)
    # Two bearings with clearance on all sides between the planes, each between the lips of its wall, 2 mm thick.
    assert places.planes == ((0.0, 20.0), (73.0, 103.0))
    assert places.walls[0][1] == Wall(face=27.0, outward=1) and places.walls[2][0] == Wall(face=66.0, outward=-1)
    closer = (*line[:2], Placement(key="2", axis=(150.0, 0.0), r=10))
    result = clashes_of(big, closer, (), ((0.0, 20.0), (30.0, 60.0)), frozenset({frozenset(("p1", "w1"))}))
    assert [(c.one, c.two, c.by) for c in result] == [("p2", "w2", pytest.approx(40.0))]
    box = housing_of(big, line, (), (-5.0, 65.0), 5.0, 10.0)
    assert (box.width, box.height, box.length) == pytest.approx((20 + 190 + 75 + 10 + 20, 150 + 10 + 20, 70 + 20))


def give(C, other=None):
    return Give(C, np.zeros(len(C)) if other is None else other)


def test_a_stiff_mesh_without_deviations_bears_evenly_and_a_slope_loads_one_end():
    n, b, c = 21, 40.0, 14.0
    y, none = (np.arange(n) + 0.5) * b / n, np.zeros((n, n))
    common = dict(F=4000.0, stiffness=c, C_beta=0.0, run_in=1.0)
    assert face_load(give(none), give(none), y, b, f_ma=0.0, C_Hbeta=0.0, **common).K_Hbeta == pytest.approx(1.0)
    # Of rigid shafts 1 + F_beta c / (2 F/b) while all of the face bears, sqrt(2 F_beta c / (F/b)) when part of it does.
    for f, K in ((5.0, 1 + 5.0 * c / 200), (30.0, np.sqrt(2 * 30.0 * c / 100))):
        result = face_load(give(none), give(none), y, b, f_ma=f, C_Hbeta=0.0, **common)
        assert result.K_Hbeta == pytest.approx(K, rel=0.04)
        assert result.w.sum(-1) * b / n == pytest.approx([4000.0, 4000.0], rel=1e-9)


def test_the_load_along_a_face_is_what_going_back_and_forth_between_load_and_deflection_ends_at():
    made, result = propose_shaft(wish(5), RULES)
    contact = made.wish.contacts[0]
    n, b = 15, contact.b
    y = (np.arange(n) + 0.5) * b / n
    from cooper.machine.face_load import give_of

    flat = contact.force[0][:2]
    F = float(np.hypot(*flat))
    own = give_of(
        made,
        result,
        RULES,
        gear=contact.gear,
        case=0,
        y=contact.at - b / 2 + y,
        direction=flat / F,
        point=contact.point[0],
        axial=float(contact.force[0][2]) / F,
        r_b=0.94 * float(np.hypot(*contact.point[0])),
        d_body=(40.0, 0.0),
    )
    assert pytest.approx(own.C.T, rel=1e-6, abs=1e-12) == own.C
    stiff = 12.0
    w = share_load(own.C, np.zeros(n), stiff, b / n, F)
    load = np.full(n, F / n)
    for _ in range(4000):
        opened = own.C @ load
        sought = stiff * 1000 * b / n
        # The approach that lets the slices bear F together.
        low, high = opened.min(), opened.max() + F / sought
        for _ in range(60):
            middle = (low + high) / 2
            low, high = (middle, high) if np.maximum(middle - opened, 0).sum() * sought < F else (low, middle)
        load = 0.97 * load + 0.03 * np.maximum(high - opened, 0) * sought
    assert load / (b / n) == pytest.approx(w, rel=2e-3, abs=2e-3 * w.max())


def test_loads_beyond_the_end_of_a_shaft_act_with_their_arm():
    w = wish(2, overhung=True)
    far = replace(w, contacts=tuple(replace(c, at=c.at + 3 * c.b) for c in w.contacts))
    made, _ = propose_shaft(w, RULES)
    off = replace(made, wish=far)
    x, d = nodes_of(off)
    F, M, _, _ = loads_of(off, x)
    c = far.contacts[0]
    whole = M[:, 0].sum(-1) + (F[:, 0] * x).sum(-1)
    assert whole == pytest.approx(c.force[:, 0] * c.at - c.point[:, 0] * c.force[:, 2], rel=1e-9)
    assert beam_of(off, x, d).supports


def test_bearings_are_as_stiff_as_their_loads_make_them():
    made, checked = propose_shaft(wish(1), RULES)
    plain, hard = (bearing_stiffness(made, checked, replace(RULES, K_A=k)) for k in (1.0, 2.0))
    doubled = replace(checked, bearings=tuple(replace(b, F_r=2 * b.F_r) for b in checked.bearings))
    assert bearing_stiffness(made, doubled, replace(RULES, K_A=1.0)) == pytest.approx(hard)
    for b, f, k in zip(made.bearings, checked.bearings, plain, strict=True):
        own = b.bearing
        assert k == pytest.approx(f.F_r / float(radial_give(own.D_w, own.Z, own.alpha, own.L_we, f.F_r)))
        # Palmgren: balls give by F^(2/3), rollers by F^0.9.
        assert hard[made.bearings.index(b)] / k == pytest.approx(2 ** (0.1 if own.L_we else 1 / 3), rel=1e-6)


def test_between_sizes_that_no_fit_has_a_press_fit_slips_and_yields_alike():
    fit = joint_of(
        "press fit",
        "seat",
        "gear0",
        JointGiven(),
        1200.0,
        9e5,
        (300.0, 300.0),
        900.0,
        2000.0,
        206000.0,
        11.5e-6,
        0.0,
        RULES,
    )
    assert fit is not None and not fit.fit and fit.U == fit.U_max > 0
    result = hub.press_fit(U=fit.U, d=fit.d, d_hub=fit.d_hub, length=fit.l_tr, mu=RULES.mu_press, E_hub=fit.E_hub)
    T = fit.T * max(RULES.K_A, RULES.K_AP)
    assert float(result.T) / T == pytest.approx(fit.R_e / float(result.sigma_hub), rel=1e-6)


def test_a_press_fit_is_the_lightest_that_does_not_slip():
    given = {"joints": {"gear0": JointGiven(kind="press fit")}}
    for seed in range(6):
        w = wish(seed, **given)
        made, _ = propose_shaft(w, RULES)
        j = next(j for j in made.joints if j.gear == "gear0")
        if not j.fit:
            continue
        letter = j.fit[3]
        least, most = interference(j.d, letter)
        assert (j.U, j.U_max) == pytest.approx((least - 1.6 * RULES.Rz / 1000, most))
        if RULES.S_joint > check_joint(j, RULES).S:
            continue
        for lighter in PRESSED[: PRESSED.index(letter)]:
            result = interference(j.d, lighter)
            if result is None or result[0] <= 1.6 * RULES.Rz / 1000:
                continue
            slips = replace(j, U=result[0] - 1.6 * RULES.Rz / 1000, U_max=result[1])
            assert RULES.S_joint > check_joint(slips, RULES).S
        # A softer hub is pressed less and yields at a smaller stress.
        soft = replace(j, E_hub=3000.0)
        assert check_joint(soft, RULES).p < check_joint(j, RULES).p


@pytest.mark.parametrize(
    ("key", "piece", "length", "works", "text"),
    [("gear1", "end left", 1e-9, 0.01, "0.01 mm or more"), ("gear2", "gap 1", 431.8, 60.0, "beyond its neighbour")],
)
def test_a_length_that_no_shaft_can_have_is_refused(key, piece, length, works, text):
    design = demo("dome-ring")
    results = evaluate(design)
    shaft = find_machine(design.train, results).shaft(key)
    field = length_field(shaft, piece)
    with pytest.raises(OutOfRange, match=text):
        find_machine(field.give(design, results, length).train, results)
    made = find_machine(field.give(design, results, works).train, results)
    pieces = next(s for s in made.shafts if s.key == shaft.key).made.pieces
    assert all(b.start == pytest.approx(a.end) for a, b in pairwise(pieces))
