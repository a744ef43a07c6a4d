"""One shaft judged by the program and written out by hand: statics, stresses, notches, bearings, key."""

import numpy as np
import pytest
from msgspec.structs import replace

from cooper.machine.check_joint import check_joint
from cooper.machine.check_shaft import check_shaft
from cooper.machine.joint_notches import ring_groove_notch
from cooper.machine.notch_factors import groove_notch
from cooper.machine.planet_pin import PinLoad, propose_pin
from cooper.machine.propose_joint import joint_of
from cooper.machine.shaft_beam import nodes_of, notches_of, piece_of
from cooper.machine.shaft_model import (
    Borne,
    Contact,
    HubSeat,
    Joint,
    JointGiven,
    MadeShaft,
    Piece,
    Rules,
    ShaftRequirements,
    Wall,
)
from cooper.stock.rolling import bearing_of, bearings_of, series_of
from cooper.stock.shaft_joints import screw_sizes
from cooper.stock.shaft_steel import shaft_steel


def test_a_shaft_written_out_by_hand():
    """A wheel in the middle of 200 mm between bearings, 1 kN across and 400 N apart, 300 N along at 50 mm; 50 N m
    leave at the right."""
    force = np.array([[-400.0, -1000.0, 300.0], [-400.0, 1000.0, -300.0]])
    contact = Contact(gear="g", at=100.0, b=0.0, point=np.tile([50.0, 0.0], (2, 1)), force=force)
    seat = HubSeat(gear="g", name="wheel", at=100.0, b=40.0, d_f=95.0, d_a=104.0, m_n=2.0, T=50.0, R_e=500.0)
    wish = ShaftRequirements(
        key="g",
        name="shaft",
        seats=(seat,),
        contacts=(contact,),
        walls=(Wall(face=0, outward=-1), Wall(face=0, outward=1)),
        left_end=False,
        right_end=True,
        n=500.0,
        T=50.0,
        T_most=50.0,
        steel=shaft_steel("C45E+QT"),
    )
    rows = (
        ("bearing 1", "bearing", -8, 8, 30),
        ("gap 1", "gap", 8, 80, 36),
        ("seat g", "seat", 80, 120, 40),
        ("gap 2", "gap", 120, 192, 36),
        ("bearing 2", "bearing", 192, 208, 30),
        ("end right", "end", 208, 250, 28),
    )
    pieces = tuple(
        Piece(name=n, kind=k, start=float(a), end=float(b), d=float(d), r=1.0, on="g" if k == "seat" else n)
        for n, k, a, b, d in rows
    )
    ball = bearing_of("deep groove ball", "02", 30.0)
    bearings = tuple(
        Borne(name=f"bearing {k + 1}", bearing=ball, at=200.0 * k, C=19500.0, C_0=11200.0, fixed=k == 1) for k in (0, 1)
    )
    key = Joint(
        piece="seat g",
        gear="g",
        kind="key",
        d=40.0,
        T=50.0,
        R_e=300.0,
        length=36.0,
        l_tr=24.0,
        b=12.0,
        h=8.0,
        t_1=5.0,
        t_2=3.3,
    )
    made = MadeShaft(wish=wish, pieces=pieces, bearings=bearings, joints=(key,))
    rules = Rules(K_A=1.5, K_AP=2.0, T_rel=(1.5,), L_h=5000.0, nu=60.0)
    result = check_shaft(made, rules)
    # Level plane: 400 N, and 15 N m of the thrust on its arm, which lifts the right bearing where it points to the
    # right; across 1000 N.
    assert result.reactions[0, :, 0] == pytest.approx([200 - 75, 200 + 75], rel=1e-9)
    assert result.reactions[1, :, 0] == pytest.approx([200 + 75, 200 - 75], rel=1e-9)
    assert result.reactions[0, :, 1] == pytest.approx([500.0, 500.0], rel=1e-9)
    assert result.reactions[:, 1, 2] == pytest.approx([300.0, 300.0])
    # Just left of the wheel.
    e = int(np.argmin(np.abs(result.ends[:, 1] - 100.0)))
    M = np.hypot(result.reactions[0, 0, 0], 500.0) * 0.1
    assert np.hypot(*result.M[0, :, e, 1]) == pytest.approx(M, rel=1e-6)
    assert result.T[0, e] == pytest.approx(0.0, abs=1e-9) and abs(result.T[0, e + 1]) == pytest.approx(50.0)
    worst_M = max(np.hypot(result.reactions[c, 0, 0], 500.0) for c in (0, 1)) * 100
    sigma = 1.5 * worst_M / (np.pi * 40**3 / 32)
    assert result.sigma[e, 1] == pytest.approx(sigma, rel=1e-6)
    # The keyway there, of a bar of 40 mm: K_1 of its thickest piece.
    B = 700 * (1 - 0.26 * np.log10(40 / 16))
    beta = 3 * (B / 1000) ** 0.38
    K_2 = 1 - 0.2 * np.log10(40 / 7.5) / np.log10(20)
    # Smoother than the surface of 20 um on which keyways were measured: no more than that counts.
    K = beta / K_2
    W = 350 * B / 700 / K
    assert result.S_D[e, 1] == pytest.approx(W / sigma, rel=2e-3)
    # Right of it torsion starts and stops: half of it swings about the other half.
    tau = 1.5 * 50e3 / (np.pi * 40**3 / 16) / 2
    K_t = (0.56 * beta + 0.1) / K_2
    W_t = 210 * B / 700 / K_t
    mean = np.sqrt(3) * tau
    bears_t = W_t / (1 + W_t / (2 * B - W_t) * (mean / np.sqrt(3)) / tau)
    sigma_2 = result.sigma[e + 1, 0]
    bears = W / (1 + W / (2 * B - W) * mean / sigma_2)
    assert result.S_D[e + 1, 0] == pytest.approx(1 / np.hypot(sigma_2 / bears, tau / bears_t), rel=0.02)
    # The bearing with the thrust: f_0 from its balls, e and Y between the rows of the table.
    F_r = max(np.hypot(result.reactions[c, 1, 0], 500.0) for c in (0, 1))
    f = result.bearings[1]
    assert pytest.approx(1.5 * (0.56 * F_r + 1.7985 * 300), rel=2e-3) == f.P
    assert f.L_10h == pytest.approx(1e6 / 30000 * (19500 / f.P) ** 3, rel=1e-9)
    assert f.L_nmh == pytest.approx(f.a_ISO * f.L_10h, rel=1e-9) and pytest.approx(11200 / f.P_0) == f.S_0
    assert pytest.approx(2 * max(F_r, 0.6 * F_r + 150), rel=1e-9) == f.P_0
    assert f.kappa == pytest.approx(60 / (45000 * 500**-0.83 / np.sqrt(46)), rel=1e-9)
    assert (
        result.joints[0].p == pytest.approx(2000 * 100 / (40 * 24 * 3))
        and pytest.approx(270 / result.joints[0].p) == result.joints[0].S
    )
    assert piece_of(made.pieces, 100.0).name == "seat g" and result.n_crit > 5000


def bare(*rows, joints=()):
    """A shaft of pieces (kind, length, d, r) from 0 on, without bearings."""
    wish = ShaftRequirements(
        key="g",
        name="shaft",
        seats=(),
        contacts=(),
        walls=(),
        left_end=False,
        right_end=True,
        n=500.0,
        T=50.0,
        T_most=50.0,
        steel=shaft_steel("C45E+QT"),
    )
    pieces, x = [], 0.0
    for n, (kind, length, d, r) in enumerate(rows):
        pieces.append(Piece(name=f"piece {n}", kind=kind, start=x, end=x + length, d=d, r=r, on=f"piece {n}"))
        x += length
    return MadeShaft(wish=wish, pieces=tuple(pieces), bearings=(), joints=joints)


def test_a_groove_is_judged_as_round_or_as_square_by_its_ground():
    for r, wanted in ((1.0, ring_groove_notch(2.0, 1.0, 4.0, 400.0)), (1.8, groove_notch(36.0, 40.0, 1.8, 400.0))):
        made = bare(("gap", 50.0, 40.0, 1.0), ("groove", 4.0, 36.0, r), ("gap", 50.0, 44.0, 1.0))
        x, d = nodes_of(made)
        e = int(np.nonzero(d == 36.0)[0][0])
        assert notches_of(made, x, d, 700.0, 400.0)[0][e] == pytest.approx(np.tile(wanted, (2, 1)), rel=1e-12)


def test_a_pin_through_a_hub_of_unknown_size_presses_its_thin_wall_most():
    """100 N m under K_AP; a hub without a diameter is taken as 1.05 d: 4 T / (8 (31.5^2 - 30^2)) in it, 6 T / (8
    30^2) in the shaft."""
    pin = Joint(piece="piece 0", gear="g", kind="pin", d=30.0, T=50.0, R_e=600.0, length=40.0, l_tr=40.0, d_pin=8.0)
    rules = Rules(K_A=1.5, K_AP=2.0, T_rel=(1.5,), L_h=5000.0)
    assert check_joint(pin, rules).p == pytest.approx(4e5 / (8 * 92.25))
    assert check_joint(replace(pin, d_hub=60.0), rules).p == pytest.approx(6e5 / (8 * 900))
    # Shear 4 T / (pi 8^2 30) = 66.31 MPa against half the yield point governs in the thick hub.
    assert pytest.approx(300 / 66.3146, rel=1e-4) == check_joint(replace(pin, d_hub=60.0), rules).S


def test_a_hub_slips_on_set_screws_where_all_its_contacts_slip():
    """Two points press along x and y; the bore bears the resultant of both. Friction of the three contacts at the
    shaft's radius, by vectors."""
    rules = Rules(K_A=1.5, K_AP=2.0, T_rel=(1.5,), L_h=5000.0)
    given = dict(piece="piece 0", gear="g", d=18.0, T=2.0, R_e=600.0, length=20.0, l_tr=20.0, d_screw=5.0, M_A=4.0)
    F = 4000 / (0.8 / (2 * np.pi) + (5 - 0.6495 * 0.8) * 0.14 / np.sqrt(3) + 2.5 * 0.07)
    for kind, ways in (("set screw", [(1, 0)]), ("two set screws", [(1, 0), (0, 1)])):
        pushes = F * np.array(ways, dtype=float)
        bears = np.hypot(*pushes.sum(axis=0))
        slips = rules.mu_press * (np.hypot(*pushes.T).sum() + bears) * 0.009
        result = check_joint(Joint(kind=kind, **given), rules)
        assert pytest.approx(slips / 4.0) == result.S and result.p == pytest.approx(F / (np.pi / 4 * 2.5**2))


def test_the_thinnest_set_screw_that_holds_is_taken_up_to_a_third_of_the_shaft():
    """0.8 of what each bears in its test; between M4 and M10 on a shaft of 30 by the torque, no thicker than a third
    of it or than the wall."""
    rules = Rules(K_A=1.0, K_AP=1.0, T_rel=(1.0,), L_h=5000.0)

    def proposed(T, d=30.0, d_hub=60.0, **given):
        return joint_of(
            "set screw",
            "p",
            "g",
            JointGiven(**given),
            d,
            T,
            (300.0, 300.0),
            20.0,
            d_hub,
            206000.0,
            11.5e-6,
            500.0,
            rules,
        )

    result = [proposed(T) for T in (2.0, 8.0, 20.0, 500.0)]
    assert [j.d_screw for j in result] == sorted(j.d_screw for j in result) and result[-1].d_screw == 10.0
    for j in result[:-1]:
        thinner = [s for s in screw_sizes() if s.d < j.d_screw]
        assert rules.S_joint <= check_joint(j, rules).S
        assert all(rules.S_joint > check_joint(replace(j, d_screw=s.d, M_A=0.8 * s.M_test), rules).S for s in thinner)
    assert proposed(500.0, d_hub=42.0).d_screw == 6.0 and proposed(500.0, d=24.0).d_screw == 8.0
    # Of ISO 261 and ISO 898-5.
    assert [(s.d, s.P) for s in screw_sizes()[:5]] == [(3, 0.5), (4, 0.7), (5, 0.8), (6, 1.0), (8, 1.25)]
    assert [j.M_A for j in (proposed(500.0), proposed(500.0, d=24.0))] == pytest.approx([32.0, 16.0])
    assert proposed(2.0, M_A=4.0).d_screw == 5.0, "M4 would not bear 4 N m"


def test_a_planet_keeps_two_point_seven_modules_under_its_roots_around_its_bearing():
    """1.2 tooth depths of 2.25 modules on either side: a needle bearing that just fits is taken, and no longer one
    that does not."""
    rules = Rules(K_A=1.5, K_AP=2.0, T_rel=(1.5,), L_h=5000.0)
    sizes = sorted({b.D for s in series_of("needle roller") for b in bearings_of("needle roller", s)})
    D = sizes[len(sizes) // 2]
    # Loads that no bearing bears, so that the largest that fits is taken.
    common = dict(
        m_n=2.0, b=30.0, wall=8.0, loads=(PinLoad(at=0.0, b=30.0, across=1e6, along=0.0),), centrifugal=0.0, n=500.0,
        steel=shaft_steel("C45E+QT"), rules=rules,
    )  # fmt: skip
    for more, wanted in ((1e-3, D), (-1e-3, max(v for v in sizes if v < D))):
        pin = propose_pin(d_f=D + 2 * 2.7 * 2.0 + more, **common)
        assert wanted == pin.bearing.bearing.D
