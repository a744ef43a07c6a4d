"""The data files are whole, state their source, and agree with formulas where there is one."""

from importlib.resources import files
from itertools import pairwise

import numpy as np
import pytest

from cooper.errors import OutOfRange
from cooper.gears.rack import Rack, greatest_h_fP, greatest_rho_fP
from cooper.stock.allowances import classes, series, thickness_allowances
from cooper.stock.files import load
from cooper.stock.fits import grades, standard_tolerance, symmetric
from cooper.stock.lubricants import oils
from cooper.stock.materials import GRADES, groups, hardness_range, is_standard, material_numbers
from cooper.stock.racks import rack_profiles
from cooper.stock.series import diametral_pitches, modules, neighbour


def test_every_data_file_states_source_and_certainty():
    names = [f.name.removesuffix(".json") for f in (files("cooper.stock") / "data").iterdir()]
    assert len(names) >= 4
    for name in names:
        assert len(load(name)["source"]) > 30
        assert len(load(name)["certainty"]) > 20


def test_standard_racks_fit_their_tools_and_profile_a_has_its_published_limit():
    for r in rack_profiles().values():
        alpha = np.radians(r.alpha_n)
        assert r.rho_fP <= greatest_rho_fP(alpha, r.h_fP)
        assert r.h_fP <= greatest_h_fP(alpha, r.rho_fP)
        # The straight flank reaches at least as deep as the mate's addendum.
        assert float(Rack(alpha, r.h_aP, r.h_fP, r.rho_fP).h_FfP) >= r.h_aP - 0.01 or r.name.startswith("20° stub")
    full = greatest_rho_fP(np.radians(20), 1.25)
    assert greatest_h_fP(np.radians(20), full) == pytest.approx(1.25)


def test_series_ascend_and_stepping_walks_them_both_ways():
    for sizes in (modules(), diametral_pitches()):
        assert all(b > a for a, b in pairwise(sizes))
        for value in sizes[1:-1]:
            assert neighbour(neighbour(value, sizes, 1), sizes, -1) == value
        assert neighbour(sizes[-1], sizes, 1) == sizes[-1]
        assert neighbour(sizes[0] / 2, sizes, -1) == sizes[0]


@pytest.mark.parametrize("group", [g for g in groups() if is_standard(g)])
def test_strength_rises_with_grade_and_hardness_and_arrays_equal_single_values(group):
    for grade in GRADES:
        low, high = hardness_range(group, grade)
        hardness = np.linspace(low, high, 7)
        many = material_numbers(group, grade, hardness)
        assert np.all(np.diff(many.sigma_Hlim) >= 0)
        assert np.all(np.diff(many.sigma_Flim) >= 0)
        for k, h in enumerate(hardness):
            one = material_numbers(group, grade, float(h))
            assert float(one.sigma_Hlim) == pytest.approx(np.broadcast_to(many.sigma_Hlim, (7,))[k])
            assert float(one.rho_slip) == pytest.approx(np.broadcast_to(many.rho_slip, (7,))[k])
    middle = np.mean([hardness_range(group, g) for g in GRADES])
    strengths = [float(material_numbers(group, g, middle).sigma_Hlim) for g in GRADES]
    assert strengths == sorted(strengths)
    for curve in (many.Z_N, many.Z_N_pitting, many.Y_N):
        assert np.all(np.diff(curve[0]) > 0)
        assert np.all(np.diff(curve[1]) < 0)
        assert curve[1, -1] == 1.0


def test_oils_are_of_their_viscosity_grade():
    for name, oil in oils().items():
        assert float(name.split()[-1]) == oil.nu_40
        assert oil.nu_100 < oil.nu_40 / 4


def test_allowances_grow_with_the_diameter_and_thin_the_tooth():
    """Wider ranges of diameter never have a smaller allowance; each tolerance class is coarser than the one before."""
    data = load("allowances")
    for table in (data["E_sns"], data["T_sn"]):
        rows = [np.abs(row) for row in table.values()]
        assert all(len(r) == len(data["up_to"]) for r in rows)
        assert all(np.all(np.diff(r) >= 0) for r in rows)
    steps = np.array([data["T_sn"][str(k)] for k in classes()])
    assert np.all(np.diff(steps, axis=0) > 0)
    assert np.all(np.diff(np.abs([data["E_sns"][k] for k in series()]), axis=0) < 0)
    for d in (10.0, 10.01, 2500.0):
        upper, lower = thickness_allowances(d, "cd", 25)
        assert lower < upper < 0
    for wrong in ((2501.0, "cd", 25), (0.0, "cd", 25), (50.0, "z", 25), (50.0, "cd", 20)):
        with pytest.raises(OutOfRange):
            thickness_allowances(*wrong)


def test_centre_distance_classes_and_oils_are_chosen_from_lists():
    """Standard tolerances at the ends of their ranges, as the table of ISO 286-1 has them."""
    assert [standard_tolerance(d, 7) for d in (3, 3.001, 50, 50.1, 120, 500, 1250)] == [
        0.010,
        0.012,
        0.025,
        0.030,
        0.035,
        0.063,
        0.105,
    ]
    assert [standard_tolerance(100, g) for g in grades()] == [
        *(0.015, 0.022, 0.035, 0.054, 0.087, 0.140, 0.220, 0.350, 0.540),
    ]
    for k, size in enumerate((3, 6, 10, 18, 30, 50, 80, 120, 180, 250, 315, 400, 500, 630, 800, 1000, 1250)):
        # From IT6 on a grade is 1.6 times the one before, the fifth one ten times, within the rounding of the standard.
        assert 8 <= standard_tolerance(size, 11) / standard_tolerance(size, 6) <= 10.2, k
    # Above 500 mm the rule behind the table: grades 5 to 11 are 7, 10, 16 ... times I = 0.004 D + 2.1 at the mean of
    # the range.
    ends = (500, 630, 800, 1000, 1250, 1600, 2000, 2500, 3150)
    for low, high in pairwise(ends):
        unit = 0.004 * (low * high) ** 0.5 + 2.1
        for grade, times in zip(range(5, 12), (7, 10, 16, 25, 40, 64, 100), strict=True):
            assert standard_tolerance(high, grade) == pytest.approx(times * unit / 1000, rel=0.06), (high, grade)
    with pytest.raises(OutOfRange, match="ends there"):
        symmetric(3200.0, 7)
    for name, oil in oils().items():
        assert {"mineral": 1.0, "polyalphaolefin": 0.8, "polyglycol": 0.7}[name.split()[0]] == oil.X_L
        assert str(int(oil.nu_40)) == name.split()[-1]


def test_core_and_shot_peening_of_case_hardened_roots():
    def root(**more):
        m = material_numbers("Eh", more.pop("grade", "MQ"), 700.0, **more)
        return float(m.sigma_Flim), float(m.mean_stress_a), float(m.mean_stress_static)

    assert [root(core=c)[0] for c in ("lower hardenability", "25 HRC", "30 HRC")] == [425.0, 461.0, 500.0]
    assert root(peened=True) == (pytest.approx(1.1 * 461), 0.4, 0.6)
    assert [root(grade=g, peened=True)[0] for g in ("ML", "ME")] == [312.0, pytest.approx(1.05 * 525)]
