"""The pinion is the gear with fewer teeth, whoever drives: the same teeth under the same load have the same
safeties."""

import numpy as np
import pytest
from msgspec.structs import replace

from cooper.document.gear_data import Material
from cooper.document.models import at_stage
from cooper.editing.edit import set_many
from cooper.errors import OutOfRange
from cooper.rating.scuffing.rate_scuffing import scuffs
from cooper.results.evaluate import evaluate
from cooper.results.other_methods import add_agma, add_scuffing, no_agma
from cooper.results.pair_numbers import pair_numbers
from cooper.results.solve_stage import solve_duty, solve_stage
from cooper.results.to_core import among_planets, pair_input
from makers import pair, planet_set

B = "train."
METHODS = {
    B + "meshes.stage1.K_V_method": "B",
    B + "meshes.stage1.K_Hbeta_method": "C",
    B + "meshes.stage1.K_Halpha_method": "B",
}
STEELS = (("Eh", 700.0), ("V", 300.0), ("V", 220.0), ("St", 160.0), ("GGG", 240.0), ("NV", 550.0), ("IF", 550.0))


def numbers(design, k=0, turned=False, first_drives=True):
    """Everything that is rated of a mesh, as it stands or with its two gears named the other way round."""
    train = design.train
    stage = train.stages[k]
    duty, defaults = at_stage(train, k)
    _, T, omega = solve_duty(train.duty)
    p = pair_input(stage, solve_stage(stage), duty, defaults, T, omega)
    one = next((s for s in train.placed if k in s.stages), None)
    if one is not None:
        p = among_planets(one, k - one.first, p)
    members = list(stage.gears)
    if turned:
        u = abs(p.gears[1].z / p.gears[0].z)
        lives = [g.contacts for g in p.gears]
        p = replace(p, gears=p.gears[::-1], T_1=p.T_1 * u, omega_1=p.omega_1 / u)
        assert lives == [g.contacts for g in p.gears[::-1]]
        members = members[::-1]
    with np.errstate(all="ignore"):
        n = pair_numbers(p)
        if scuffs(p):
            new = defaults.replace_unchecked(phi_E=0.0)
            add_scuffing(p, n, tuple(members), new, first_drives != turned)
        if not no_agma(*members):
            add_agma(p, n, tuple(members), stage.mesh, defaults)
    gears = n.gears[::-1] if turned else n.gears
    result = {
        f"{s}{i}": float(g[s])
        for i, g in enumerate(gears)
        for s in ("S_F", "S_H", "S_Fst", "S_Hst", "S_FA", "S_HA")
        if s in g
    }
    return result | {s: float(n.mesh[s]) for s in ("S_B", "S_int", "K_V", "K_Hbeta", "P_VZ") if s in n.mesh}


def random_pair(rng):
    z = rng.integers(14, 60, 2)
    d = pair(
        int(z[0]),
        int(z[1]),
        float(rng.uniform(0, 0.6)),
        float(rng.uniform(0, 0.6)),
        m=float(rng.choice([1.5, 3.0, 6.0])),
    )
    steel = [dict(zip(("group", "hardness"), STEELS[k], strict=True)) for k in rng.integers(0, len(STEELS), 2)]
    return set_many(
        d,
        {
            **METHODS,
            B + "meshes.stage1.beta": float(rng.choice([0.0, 0.0, 8.0, 24.0])),
            B + "meshes.stage1.s_sh": float(rng.uniform(0, 25)),
            **{f"{B}gears.gear{n + 1}.material": Material(**steel[n]).plain() for n in (0, 1)},
            **{f"{B}gears.gear{n + 1}.Rz_H": float(rng.uniform(2, 12)) for n in (0, 1)},
        },
    )


def same(a, b):
    assert a.keys() == b.keys()
    for name, value in a.items():
        assert b[name] == pytest.approx(value, rel=1e-9), name


def test_a_pair_has_the_same_safeties_whichever_of_its_gears_comes_first():
    rng = np.random.default_rng(8)
    done = agma = 0
    while done < 60:
        d = random_pair(rng)
        try:
            evaluate(d)
        except OutOfRange:
            continue
        a = numbers(d)
        same(a, numbers(d, turned=True))
        # Who drives matters to the approach factor of the integral temperature alone.
        b = numbers(d, first_drives=False)
        same(a | {"S_int": 0.0}, b | {"S_int": 0.0})
        done, agma = done + 1, agma + ("S_HA0" in a)
    assert agma > 40


@pytest.mark.parametrize(
    ("kind", "z"), [("planetary", (40, 20, 80)), ("stepped", (40, 24, 30, 94)), ("idler", (40, 18, 30))]
)
def test_a_sun_or_first_gear_with_more_teeth_than_its_mate_is_the_wheel(kind, z):
    d = planet_set(kind=kind, z=z, planets=1 if kind == "idler" else 3, P=4000.0)
    d = set_many(d, {k.replace("stage1", f"stage{n + 1}"): v for k, v in METHODS.items() for n in (0, 1)})
    for k in (0, 1):
        if kind == "idler" or k == 0:
            same(numbers(d, k), numbers(d, k, turned=True))


def test_the_worked_wheel_is_of_steel_and_has_the_harder_pinion():
    """Z_W: steel wheels alone (not cast iron), never for a soft pinion."""
    hard, soft = {"group": "Eh", "hardness": 700.0}, {"group": "V", "hardness": 220.0}

    def Z_W(one, two, z=(20, 50), Rz=3.0):
        d = set_many(
            pair(*z), {f"{B}gears.gear{n + 1}.material": Material(**m).plain() for n, m in enumerate((one, two))}
        )
        r = evaluate(set_many(d, {f"{B}gears.gear{n + 1}.Rz_H": Rz for n in (0, 1)}))
        text = any("rougher than" in n.text for n in r.notes)
        assert text == (Rz > 6)
        return [x["Z_W"] for x in r.stages[0].gears], [x.get("Z_WA") for x in r.stages[0].gears]

    Z_W(hard, soft, Rz=8.0)
    worked, agma = Z_W(hard, soft)
    assert worked[0] == 1 and worked[1] > 1.02 and agma[1] > 1.02
    for one, two, z in (
        (hard, {"group": "GGG", "hardness": 240.0}, (20, 50)),
        (soft, hard, (20, 50)),
        (hard, soft, (50, 20)),
    ):
        result = Z_W(one, two, z)
        assert result[0] == [1.0, 1.0]
        assert all(v in (1.0, None) for v in result[1])
