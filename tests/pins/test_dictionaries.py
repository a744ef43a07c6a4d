"""Tables of numbers that stand in the code, written down once more from the standards."""

import numpy as np
import pytest

from cooper.rating.iso6336.nominal_load import K1_HELICAL, K1_SPUR
from cooper.rating.iso6336.running_in import KINDS
from cooper.rating.iso6336.uneven_load import ARRANGEMENTS, MODIFICATIONS, STIFFENED
from cooper.running.no_load import seal_loss_1
from cooper.trains.counts import PLANETARY_RATIO
from cooper.trains.solve import Link, speeds

NAMES = ("sun", "planet", "ring", "carrier")


def test_factor_k_1_of_method_c():
    """ISO 6336-1:2006, Table 8, classes 3 to 12."""
    assert list(K1_SPUR) == list(K1_HELICAL) == list(range(3, 13))
    assert list(K1_SPUR.values()) == [2.1, 3.9, 7.5, 14.9, 26.8, 39.1, 52.8, 76.6, 102.6, 146.3]
    assert list(K1_HELICAL.values()) == [1.9, 3.5, 6.7, 13.3, 23.9, 34.8, 47.0, 68.2, 91.4, 130.3]


def test_factors_of_the_pinions_place_and_of_helix_modification():
    """ISO 6336-1, the figure of K' (with and without stiffening, from d_1/d_sh = 1.15 on) and the table of B_1 and B_2."""
    assert {k: v[:2] for k, v in ARRANGEMENTS.items()} == {
        "a": (0.48, 0.8),
        "b": (-0.48, -0.8),
        "c": (1.33, 1.33),
        "d": (-0.36, -0.6),
        "e": (-0.6, -1.0),
    }
    assert STIFFENED == 1.15
    assert [v[:2] for v in MODIFICATIONS.values()] == [(1, 1), (0.5, 0.5), (1, 0.5), (0.1, 1), (0.1, 0.5), (0.7, 0.7)]
    assert KINDS == {"through": 0, "cast": 1, "hard": 2, "none": 3}
    assert float(seal_loss_1(1.0, 30 / np.pi, "FKM")) == pytest.approx(0.003737)


@pytest.mark.parametrize("roles", list(PLANETARY_RATIO))
def test_the_ratios_of_a_planet_set_by_its_shafts(roles):
    """Against the equations of its meshes, for every shaft driven, taken off and held."""
    z_s, z_p, z_r = 24.0, 30.0, 84.0
    links = [Link(0, 1, z_s, z_p, 3), Link(1, 2, z_p, -z_r, 3)]
    source, output, held = (NAMES.index(r) for r in roles)
    w = speeds(NAMES, links, [held], {source: 1.0})
    assert PLANETARY_RATIO[roles](z_r / z_s) == pytest.approx(1 / w[output])
