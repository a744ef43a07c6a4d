"""Bearings and seals against what any stockist has: boundary dimensions, chamfers and customary dynamic ratings (kN)
that the program did not produce; ratings from the geometry agree with them within 15 %."""

import itertools

import pytest

from cooper.machine.check_bearing import ratings
from cooper.stock.rolling import bearings_of, rolling_types, series_of
from cooper.stock.seals import seal_for, seals, seals_beside

CUSTOMARY = {
    "608": (8, 22, 7, 0.3, 3.4),
    "606": (6, 17, 6, 0.3, 2.3),
    "6000": (10, 26, 8, 0.3, 4.6),
    "6004": (20, 42, 12, 0.6, 9.4),
    "6006": (30, 55, 13, 1.0, 13.2),
    "6010": (50, 80, 16, 1.0, 21.6),
    "6204": (20, 47, 14, 1.0, 12.8),
    "6206": (30, 62, 16, 1.0, 19.5),
    "6208": (40, 80, 18, 1.1, 29.0),
    "6210": (50, 90, 20, 1.1, 35.1),
    "6304": (20, 52, 15, 1.1, 15.9),
    "6306": (30, 72, 19, 1.1, 28.1),
    "6308": (40, 90, 23, 1.5, 41.0),
    "6310": (50, 110, 27, 2.0, 61.8),
    "6408": (40, 110, 27, 2.0, 63.7),
    "6412": (60, 150, 35, 2.1, 108.0),
    "61906": (30, 47, 9, 0.3, 7.3),
    "61910": (50, 72, 12, 0.6, 14.6),
    "61914": (70, 100, 16, 1.0, 23.8),
    "30206": (30, 62, 17.25, 1.0, 45.0),
    "30210": (50, 90, 21.75, 1.5, 80.0),
    "30306": (30, 72, 20.75, 1.5, 60.0),
    "30310": (50, 110, 29.25, 2.5, 130.0),
    "32006": (30, 55, 17, 1.0, 38.0),
    "32010": (50, 80, 20, 1.0, 65.0),
    "32020": (100, 150, 32, 2.0, 170.0),
    "32206": (30, 62, 21.25, 1.0, 55.0),
    "32210": (50, 90, 24.75, 1.5, 87.0),
    "32220": (100, 180, 49, 3.0, 320.0),
    "32306": (30, 72, 28.75, 1.5, 80.0),
    "32310": (50, 110, 42.25, 2.5, 180.0),
    "32320": (100, 215, 77.5, 4.0, 600.0),
}
"""Designation: d, D, B, r_s (mm) and dynamic rating (kN), as customary."""


def by_designation():
    every = (b for kind in rolling_types() for series in series_of(kind) for b in bearings_of(kind, series))
    return {b.designation: b for b in every}


@pytest.mark.parametrize(("name", "row"), CUSTOMARY.items())
def test_a_bearing_is_that_of_the_standard_and_bears_what_is_customary(name, row):
    d, D, B, r_s, C = row
    b = by_designation()[name]
    assert (b.d, b.D, b.B, b.r_s) == (d, D, B, r_s)
    assert ratings(b)[0] / 1000 == pytest.approx(C, rel=0.15)


SHOULDERS = [
    ("61906", 32.0),
    ("61910", 53.2),
    ("6000", 12.0),
    ("6005", 28.2),
    ("6010", 54.6),
    ("6200", 14.2),
    ("6206", 35.6),
    ("6210", 57.0),
    ("6212", 69.0),
    ("6308", 49.0),
    ("6310", 61.0),
    ("6312", 72.0),
    ("NU 208", 47.0),
]
"""Least diameters of the shoulder, as customary (DIN 5418)."""


@pytest.mark.parametrize(("name", "d_a"), SHOULDERS)
def test_a_shoulder_is_as_high_as_its_chamfer_asks(name, d_a):
    assert by_designation()[name].d_a_min == pytest.approx(d_a, abs=0.05)


def test_within_a_series_bearings_grow_with_their_bore():
    for kind in rolling_types():
        for series in series_of(kind):
            row = bearings_of(kind, series)
            for one, two in itertools.pairwise(row):
                assert one.d < two.d and one.D < two.D and one.B <= two.B, two.designation
                assert one.r_s <= two.r_s, two.designation


def test_heavier_series_of_one_bore_are_larger_and_bear_more():
    for d in (20.0, 30.0, 40.0, 50.0, 60.0):
        row = [next(b for b in bearings_of("deep groove ball", s) if b.d == d) for s in ("19", "10", "02", "03", "04")]
        for one, two in itertools.pairwise(row):
            assert one.D < two.D and one.B <= two.B and ratings(one)[0] < ratings(two)[0]


SEALS = [
    (6, 16, 7),
    (10, 22, 7),
    (12, 24, 7),
    (15, 30, 7),
    (20, 35, 7),
    (25, 40, 7),
    (30, 42, 8),
    (35, 50, 8),
    (40, 55, 8),
    (50, 68, 8),
    (60, 80, 8),
    (70, 90, 10),
    (80, 100, 10),
    (100, 120, 12),
    (120, 150, 12),
    (160, 190, 12),
    (200, 230, 15),
]
"""Shaft, outside and width of the lightest seal of a diameter (mm); ISO 6194-1."""


@pytest.mark.parametrize("row", SEALS)
def test_a_seal_is_that_of_the_standard(row):
    found = seal_for(row[0], row[0])
    assert (found.d, found.D, found.b) == row


def test_the_next_seal_is_found_and_none_is_invented():
    assert seal_for(33.0).d == 35.0 and seal_for(33.0, 34.0) is None and seal_for(400.0) is None
    assert seals_beside(41.0) == (40.0, 42.0)
    row = seals()
    assert all(a.d < b.d and a.D <= b.D and a.b <= b.b for a, b in itertools.pairwise(row))
