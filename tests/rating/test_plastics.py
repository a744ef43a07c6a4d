"""Plastic gears in service, each step of VDI 2736-2 written out beside the program."""

from math import pi, sqrt

import numpy as np
import pytest
from msgspec.structs import replace

from cooper.document.gear_data import Gear, Material
from cooper.editing.edit import set_many
from cooper.errors import OutOfRange
from cooper.results.evaluate import evaluate
from cooper.results.pair_numbers import pair_numbers
from cooper.results.power_flow import pair_now
from cooper.stock.materials import at_temperature, groups, is_plastic, material_numbers, plastic_strength
from cooper.stock.plastic_service import friction
from makers import pair

PLASTICS = [name for name in groups() if is_plastic(name)]


def plastic_pair(mate="Eh", **at):
    """A plastic wheel with 41 teeth on a pinion with 17, m = 2.5, whose teeth warm themselves."""
    wheel = Gear(
        name="wheel", z=41, x=0.12, b=26, material=Material(group="POM", grade="typical", hardness=80), k_W=2.0
    )
    steel = mate == "Eh"
    pinion = Gear(
        name="pinion",
        z=17,
        x=0.32,
        b=28,
        material=Material(group=mate, grade="MQ" if steel else "typical", hardness=700 if steel else 80),
    )
    design = pair(P=150.0, n=600.0, L_h=500.0)
    values = {"heat": "by friction", "running": "dry", "housing": "open", "ED": 100.0, **at}
    return set_many(
        design,
        {
            "train.losses.A_h": 0.05,
            "train.losses.theta_air": 25.0,
            "train.gears": {"gear1": pinion, "gear2": wheel},
            **{f"train.defaults.plastics.{k}": v for k, v in values.items()},
        },
    )


@pytest.mark.parametrize(
    ("mate", "running", "housing", "ED", "mu", "k", "R"),
    [
        ("Eh", "dry", "open", 100.0, 0.20, (6300, 895), 0.0),
        ("POM", "dry", "closed", 40.0, 0.28, (9000, 2100), 0.06),
        ("Eh", "greased at assembly", "partly open", 100.0, 0.09, (6300, 895), 0.045),
        ("POM", "oil bath", "closed", 100.0, 0.04, (0, 0), 0.0),
    ],
)
def test_teeth_warm_themselves(mate, running, housing, ED, mu, k, R):
    design = plastic_pair(mate, running=running, housing=housing, ED=ED)
    r = evaluate(design)
    m, g = r.stages[0].mesh, r.stages[0].gears[1]
    lost = 150 * mu * m["H_V"]
    assert m["P_VZ"] == pytest.approx(lost)
    assert m["eta_z"] == pytest.approx(1 - mu * m["H_V"])
    # In an oil bath the teeth have its temperature.
    around = design.train.duty.theta_oil if running == "oil bath" else 25 + lost * R / 0.05 * (ED / 100) ** 0.64
    speed = 2 * pi * 10 * 17 * 2.5 / 2000
    for symbol, number in zip(("theta_Fla", "theta_Fuss"), k, strict=True):
        assert g[symbol] == pytest.approx(
            around + lost * number / (26 * 41 * (speed * 2.5) ** 0.75) * (ED / 100) ** 0.64
        )
    root, flank = g["theta_Fuss"], g["theta_Fla"]
    assert g["sigma_Flim"] == pytest.approx(26 - 0.0025 * root**2 + 400 * g["N_L"] ** -0.2)
    assert g["sigma_Hlim"] == pytest.approx(36 - 0.0012 * flank**2 + (1000 - 0.025 * flank**2) * g["N_L"] ** -0.21)
    E = np.interp(flank, [20, 40, 60, 80, 100], [2800, 2250, 1700, 1200, 850])
    mate_soft = (1 - 0.35**2) / E if mate == "POM" else 0.91 / 206e3
    if mate == "Eh":
        assert m["Z_E"] == pytest.approx(sqrt(1 / (pi * ((1 - 0.35**2) / E + mate_soft))))
    body = np.interp(root, [20, 40, 60, 80, 100], [2800, 2250, 1700, 1200, 850])
    if mate == "Eh":
        assert m["lambda_t"] == pytest.approx(7.5 * m["F_t"] / 26 * (1 / body + 1 / 206e3))
    work = 150 * 500 * 3600 * m["H_V"]
    active = (g["d_Na"] ** 2 - g["d_Nf"] ** 2) / (4 * g["d_b"])
    assert g["delta_W"] == pytest.approx(work * 2e-6 / (26 * 41 * active))


def test_active_flank_is_as_long_as_the_drawn_involute():
    g = evaluate(plastic_pair()).stages[0].gears[1]
    r = np.linspace(g["d_Nf"] / 2, g["d_Na"] / 2, 20001)
    r_b = g["d_b"] / 2
    angle = np.sqrt((r / r_b) ** 2 - 1) - np.arccos(r_b / r)
    points = np.stack((r * np.cos(angle), r * np.sin(angle)))
    assert np.sum(np.hypot(*np.diff(points))) == pytest.approx(g["l_Fl"], rel=1e-7)


def test_rows_of_pairs_are_rated_as_each_alone():
    pairs = [pair_now(d.train, evaluate(d), 0) for d in (plastic_pair(), plastic_pair(ED=10.0))]
    both = pair_numbers(replace(pairs[0], ED=np.array([1.0, 0.1])))
    for n, one in enumerate(pairs):
        alone = pair_numbers(one)
        for symbol in ("theta_Fla", "S_F", "S_H", "delta_W"):
            assert np.broadcast_to(both.gears[1][symbol], 2)[n] == pytest.approx(float(alone.gears[1][symbol]))


def test_own_least_safeties_and_limits_of_plastics():
    checks = {c.key: c for c in evaluate(plastic_pair()).checks}
    assert checks["stage1.S_F2"].limit == 2.0
    assert checks["stage1.S_F1"].limit == 1.4
    assert checks["stage1.theta_Fla2"].limit == 100.0
    assert checks["stage1.delta_W2"].limit == pytest.approx(0.25)
    hot = evaluate(set_many(plastic_pair("POM", housing="closed"), {"train.duty.P": 2500.0}))
    assert hot.check("stage1.theta_Fla2").margin < 0
    with pytest.raises(OutOfRange, match="A_h"):
        set_many(plastic_pair(housing="closed"), {"train.losses.A_h": None})


@pytest.mark.parametrize(("group", "grade"), [(g, grade) for g in PLASTICS for grade in groups()[g]["grades"]])
def test_a_plastic_weakens_and_softens_as_it_warms(group, grade):
    low, high = groups()[group]["theta_range"]
    theta = np.linspace(max(low, 0), high, 60)
    m = at_temperature(material_numbers(group, grade, groups()[group]["hardness_default"]), theta, theta)
    for life in (m.root_life, m.flank_life):
        for N in (1e5, 1e7):
            strength = plastic_strength(life, N)
            assert np.all(np.diff(strength) <= 1e-9)
            assert strength[-1] > 1.5
    assert np.all(np.diff(m.E) < 0)
    mu = [friction("dry", group, other)[0] for other in [*PLASTICS, "V"]]
    assert 0.1 < min(mu) <= max(mu) < 0.5


@pytest.mark.parametrize("group", [g for g in PLASTICS if groups()[g].get("printed")])
def test_printed_teeth_bear_a_half_of_moulded_ones_and_less_across_their_layers(group):
    """Practice has printed teeth at a third to two thirds of moulded ones, and the bond between layers at 30 to 90 %
    of that."""
    strength = {}
    for grade in ("along layers", "across layers"):
        m = material_numbers(group, grade, groups()[group]["hardness_default"])
        strength[grade] = float(plastic_strength(m.root_life, 1e6))
    moulded = float(plastic_strength(material_numbers("POM", "typical", 80).root_life, 1e6))
    assert 0.25 * moulded < strength["along layers"] < 0.9 * moulded
    assert 0.3 <= strength["across layers"] / strength["along layers"] <= 0.9
    design = plastic_pair()
    printed = set_many(
        design,
        {
            "train.gears.gear2.material.group": group,
            "train.gears.gear2.material.grade": "across layers",
            "train.gears.gear2.material.hardness": groups()[group]["hardness_default"],
        },
    )
    result = evaluate(printed)
    assert result.stages[0].gears[1].S_F < evaluate(design).stages[0].gears[1].S_F
    assert any("is printed" in n.text and "across the layers" in n.text for n in result.notes)
