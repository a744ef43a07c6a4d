"""Blocks of designs rated as arrays against `evaluate` of each of them as a design of its own."""

import numpy as np
import pytest

from cooper.demo import DEMOS, demo
from cooper.editing.edit import set_many
from cooper.errors import OutOfRange
from cooper.kinds.known import kind_of
from cooper.results.checks import MOST
from cooper.results.evaluate import QUICK, evaluate
from cooper.survey.design_batch import DesignBatch
from cooper.survey.rated import rate_block

N = 24
RACKS = {"dome-rack"}
HEAT = {"train.losses.counted": "all", "train.losses.A_h": 0.1, "train.losses.theta_max": 60.0}
WARM = {
    "train.defaults.plastics.heat": "by friction",
    "train.defaults.plastics.housing": "closed",
    "train.losses.A_h": 0.02,
}


def around(design, seed):
    """A block about a design: counts, shifts, widths, module, helix, shafts at random; half of them cannot be."""
    rng = np.random.default_rng(seed)
    columns = {}
    seen = set()
    for k, stage in enumerate(design.train.stages):
        mesh = stage.mesh
        # A given distance leaves little room for other modules and counts.
        fixed = any(s.mesh.a_w is not None for s in design.train.stages)
        if mesh.m_n is not None and k == 0:
            spread = (0.996, 1.004) if fixed and not design.train.placed else (0.8, 1.3)
            columns[f"{stage.path}.m_n"] = np.round(mesh.m_n * rng.uniform(*spread, N), 4)
        for name in ("l_sh", "d_sh"):
            columns[f"{stage.path}.{name}"] = np.round(getattr(mesh, name) * rng.uniform(0.9, 1.4, N), 1)
        for path, gear in zip(stage.paths, stage.gears, strict=True):
            if gear.id in seen:
                continue
            seen.add(gear.id)
            at = f"{path}."
            columns[at + "b"] = np.round(gear.b * rng.uniform(0.6, 2.0, N), 2)
            if gear.x is not None:
                columns[at + "x"] = np.round(gear.x + rng.uniform(-0.3, 0.4, N), 3)
            if not design.train.placed and not fixed:
                columns[at + "z"] = (gear.z + rng.integers(-3, 6, N)).astype(float)
            if kind_of(gear).inward:
                columns[at + "d_rim"] = np.round(gear.d_rim * rng.uniform(1.25, 1.5, N), 1)
    for one in design.train.placed:
        step = rng.integers(0, 4, N).astype(float)
        k = one.first
        if one.kind == "planetary":
            first, second = design.train.stages[k : k + 2]
            sun, planet = (g.z for g in first.gears)
            columns |= {
                f"{first.paths[0]}.z": sun + step,
                f"{first.paths[1]}.z": planet + step,
                f"{second.paths[1]}.z": -(sun + step + 2 * (planet + step)),
            }
        common = columns.get(f"train.meshes.{one.meshes[0]}.m_n")
        for name in one.meshes[1:]:
            columns.pop(f"train.meshes.{name}.m_n", None)
            if common is not None:
                columns[f"train.meshes.{name}.m_n"] = common
    return DesignBatch(design, columns)


@pytest.mark.parametrize(
    ("name", "changes"),
    [(n, {}) for n in DEMOS if n not in RACKS]
    + [
        ("mirror-cover", {"train.defaults.method": "ANSI/AGMA 2101-D04"}),
        ("winch", {"train.defaults.lubricant.S_GF": 8, "train.meshes.stage1.K_Hbeta_method": "C"}),
        (
            "mirror-cover",
            {f"train.gears.gear{i + 1}.{s}": v for i in (0, 1) for s, v in (("CHD", 0.4), ("HV_core", 310.0))},
        ),
        ("filter-wheel", WARM),
        ("winch", {**HEAT, "train.losses.h_e": 15.0}),
        ("filter-wheel", {**WARM, **HEAT, "train.losses.method": "ISO/TR 14179-1", "train.losses.h_e": 4.0}),
        *((name, HEAT) for name in ("dome-ring", "dome-drive", "focuser", "battery-lift")),
        ("dome-drive", {"train.sets.set1.k_pl": 60.0, "train.sets.set1.e_pl": 8.0, "train.sets.set1.floating": False}),
    ],
)
def test_arrays_give_the_numbers_of_each_design(name, changes):
    design = demo(name)
    if name == "dome-ring":
        changes = {**changes, "train.gears.gear2.d_a": None}
    if changes:
        design = set_many(design, changes)
    block = around(design, seed=len(name))
    rated = rate_block(block)
    alive = refused = 0
    for row in range(N):
        try:
            result = evaluate(block.design_at(row), QUICK)
        except OutOfRange:
            refused += 1
            result = None
        if result is None or not all(s.rated for s in result.stages):
            assert not rated.alive[row], (name, row)
            continue
        alive += 1
        assert rated.alive[row], (name, row)
        for check in rated.checks:
            wanted = result.check(check.key)
            margin, value = (float(np.broadcast_to(v, N)[row]) for v in (check.margin, check.value))
            if wanted is None:
                assert check.symbol == "c_F" and margin == MOST
                continue
            assert value == pytest.approx(wanted.value, rel=1e-9, abs=1e-12), (name, check.key)
            assert margin == pytest.approx(wanted.margin, rel=1e-9, abs=1e-9), (name, check.key)
        assert {c.key for c in result.checks} <= {c.key for c in rated.checks}
        mass, seen = 0.0, set()
        for k, s in enumerate(result.stages):
            one = result.within[k]
            for i, gear in enumerate(block.design.train.stages[k].gears):
                around_it = one is not None and one.kind != "idler" and s.roles[i] == "planet"
                if gear.id not in seen:
                    seen.add(gear.id)
                    mass += s.gears[i].mass * (one.planets if around_it else 1)
        assert rated.values["mass"][row] == pytest.approx(mass, rel=1e-9)
        assert np.broadcast_to(rated.values["u"], N)[row] == pytest.approx(result.train.u, rel=1e-9)
        for symbol in ("eta", "T_out", "P_out", "theta_bal"):
            assert (symbol in result.train) == bool(symbol in rated.values and np.isfinite(rated.values[symbol][row]))
            if symbol in result.train:
                assert rated.values[symbol][row] == pytest.approx(result.train[symbol], rel=1e-9), symbol
    assert alive >= 3, (name, alive, refused)
