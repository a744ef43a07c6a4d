"""Tables of numbers that stand in the code, written down once more from the standards."""

import numpy as np
import pytest

from cooper.editing.edit import set_many
from cooper.rating.iso6336.nominal_load import K1_HELICAL, K1_SPUR
from cooper.rating.iso6336.running_in import KINDS
from cooper.rating.iso6336.uneven_load import ARRANGEMENTS, MODIFICATIONS, STIFFENED
from cooper.rating.micropitting.rate_film import material_factor
from cooper.rating.scuffing.rate_scuffing import TREATMENT, X_S, structural_factor
from cooper.results.evaluate import evaluate
from cooper.running.no_load import seal_loss_1
from cooper.stock.materials import at_temperature, material_numbers, plastic_strength
from cooper.stock.plastic_service import friction
from cooper.trains.counts import PLANETARY_RATIO
from cooper.trains.solve import Link, speeds
from makers import pair

NAMES = ("sun", "planet", "ring", "carrier")


def test_factor_k_1_of_method_c():
    """ISO 6336-1:2006, Table 8, classes 3 to 12."""
    assert list(K1_SPUR) == list(K1_HELICAL) == list(range(3, 13))
    assert list(K1_SPUR.values()) == [2.1, 3.9, 7.5, 14.9, 26.8, 39.1, 52.8, 76.6, 102.6, 146.3]
    assert list(K1_HELICAL.values()) == [1.9, 3.5, 6.7, 13.3, 23.9, 34.8, 47.0, 68.2, 91.4, 130.3]


def test_factors_of_the_pinions_place_and_of_helix_modification():
    """ISO 6336-1, the figure of K' (with and without stiffening, from d_1/d_sh = 1.15 on) and the table of B_1 and
    B_2."""
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


def test_factors_of_flanks_by_material_and_treatment():
    """X_W of ISO/TS 6336-20 and W_W of ISO/TS 6336-22."""
    assert TREATMENT == {
        "phosphated": 1.25,
        "copper plated": 1.5,
        "little retained austenite": 1.15,
        "much retained austenite": 0.85,
    }
    nitrided = ("NT", "NV", "NV nitrocar")
    assert [structural_factor(g, "none") for g in (*nitrided, "Eh", "V")] == [1.5, 1.5, 1.5, 1.0, 1.0]
    assert [material_factor(g, "none") for g in (*nitrided, "Eh", "IF", "V", "V carbon", "GGG")] == [
        *(1.5, 1.5, 1.5, 1.0, 0.65, 0.5, 0.5),
        None,
    ]
    assert material_factor("Eh", "much retained austenite") == 0.95
    assert X_S == {"dip": 1.0, "spray": 1.2, "submerged": 0.2}


def test_the_case_is_held_against_fracture_below_it():
    """U_H = 66 000 MPa of grades MQ and ME, 44 000 of ML (ISO 6336-5, 5.6.2); deeper than 0.4 m_n the tips harden
    through."""
    for grade, U in (("ML", 44000.0), ("MQ", 66000.0), ("ME", 66000.0)):
        at = "train.gears.gear1."
        d = set_many(pair(), {at + "CHD": 0.9, at + "material": {"group": "Eh", "grade": grade, "hardness": 700.0}})
        r = evaluate(d)
        m, g = r.stages[0].mesh, r.stages[0].gears[0]
        radius = g.d_w / 2 * np.sin(np.radians(m.alpha_wt)) * 41 / 58
        assert r.check("stage1.CHD_1").limit == pytest.approx(2 * g.sigma_H * radius / U)
        assert r.check("stage1.CHD_2") is None
    for depth, text in ((0.99, False), (1.01, True)):
        notes = evaluate(set_many(pair(), {at + "CHD": depth})).notes
        assert any("tips harden through" in n.text for n in notes) == text


def test_friction_of_plastics_that_is_remembered_of_the_guideline():
    pairs = [
        ("POM", "V"),
        ("PA 66", "V"),
        ("PBT", "V"),
        ("POM", "POM"),
        ("PA 6", "PA 46"),
        ("POM", "PA 12"),
        ("POM", "PBT"),
    ]
    assert [friction("dry", *two) for two in pairs] == [
        (mu, "remembered") for mu in (0.20, 0.20, 0.18, 0.28, 0.40, 0.18, 0.18)
    ]
    assert [friction(how, "POM", "V")[0] for how in ("greased at assembly", "oil mist", "oil bath")] == [
        0.09,
        0.07,
        0.04,
    ]


def test_strength_of_pa_66_by_temperature_and_cycles():
    """VDI 2736-2: root 30 - 0.22 theta + (4600 - 900 theta^0.3) N^(-1/3), flank 36 - 0.0012 theta^2 + (1000 - 0.025
    theta^2) N^-0.21."""
    m = at_temperature(material_numbers("PA 66", "typical", 78), 70.0, 50.0)
    root, flank = plastic_strength(m.root_life, 1e6), plastic_strength(m.flank_life, 1e6)
    assert float(root) == pytest.approx(30 - 11 + (4600 - 900 * 50**0.3) / 100)
    assert float(flank) == pytest.approx(36 - 5.88 + (1000 - 122.5) * 1e6**-0.21)
