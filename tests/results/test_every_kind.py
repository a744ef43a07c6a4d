"""Random designs of every kind of gear: each is refused in words with its value, or gives finite numbers throughout."""

from math import isfinite

import numpy as np
import pytest

from cooper.editing.edit import give_count, give_kind, set_many
from cooper.errors import OutOfRange
from cooper.gears.outline import gear_outline
from cooper.kinds.straight_rack import RACK
from cooper.results.evaluate import evaluate
from makers import pair

B = "train."


def random_design(rng, kind):
    z1, z2 = int(rng.integers(6, 60)), int(rng.integers(6, 150))
    d = pair(z1, z2, round(rng.normal(0.2, 0.4), 2), 0.0, m=2.0)
    if kind == "rack":
        d = give_kind(d, 0, RACK)
    elif kind == "ring":
        d = give_count(d, 0, 2, -z2 - z1 // 2)
    changes = {
        B + "meshes.stage1.beta": float(rng.choice([0, 0, 12, 30])),
        B + "meshes.stage1.alpha_n": float(rng.choice([14.5, 20, 25])),
    }
    for n in (0, 1):
        member = f"{B}gears.gear{n + 1}."
        changes |= {member + "h_fP": float(rng.uniform(1.0, 1.6)), member + "rho_fP": float(rng.uniform(0, 0.5))}
        if kind == "rack" and n == 1:
            changes[member + "h_back"] = float(rng.uniform(2, 12))
            continue
        if kind == "ring" and n == 1:
            changes |= {
                member + "x": float(rng.normal(-0.2, 0.4)),
                member + "z_0": int(rng.integers(8, 60)),
                member + "tool": str(rng.choice(["pinion cutter", "form"])),
            }
        elif kind != "rack":
            changes |= {
                member + "tool": str(rng.choice(["rack", "pinion cutter", "form"])),
                member + "z_0": int(rng.integers(8, 60)),
            }
        if rng.random() < 0.5:
            changes[member + str(rng.choice(["h_K", "rho_a"]))] = float(rng.uniform(0, 1.2))
        elif "tool" not in changes and rng.random() < 0.5:
            changes |= {member + "pr_P": float(rng.uniform(0, 0.2)), member + "q_P": float(rng.uniform(0, 0.2))}
    return set_many(d, changes)


@pytest.mark.parametrize("kind", ["pair", "ring", "rack"])
def test_any_design_is_refused_in_words_or_finite(kind):
    rng = np.random.default_rng({"pair": 5, "ring": 6, "rack": 7}[kind])
    good, ranges = 0, 0
    for _ in range(130):
        try:
            design = random_design(rng, kind)
            s = evaluate(design).stages[0]
        except OutOfRange as fault:
            text = str(fault)
            assert "cannot be" in text
            assert "nan" not in text
            ranges += fault.low is not None or fault.high is not None
            continue
        good += 1
        numbers = [*s.mesh.values(), *(v for g in s.gears for v in g.values()), *s.power.values()]
        assert all(isfinite(v) for v in numbers)
        assert all(
            v > 0 for g in s.gears for k, v in g.items() if k.startswith(("d_", "S_", "sigma")) and k != "d_bore"
        )
        # Helical teeth may hand over by their helix alone, and are not rated then.
        assert s.mesh["eps_alpha"] >= 1 or (s.mesh["eps_gamma"] >= 1 and not s.rated and "S_F" not in s.gears[0])
        for t in s.teeth[: 1 if kind == "rack" else 2]:
            points = gear_outline(t, 0.0, 0.01)
            assert np.isfinite(points).all()
            radius = np.hypot(*points.T)
            assert radius.min() == pytest.approx(min(abs(t.d_f), abs(t.d_a)) / 2, rel=1e-6)
            assert radius.max() == pytest.approx(max(abs(t.d_f), abs(t.d_a)) / 2, rel=1e-6)
    assert good > 15
    assert ranges > 20


def test_a_range_told_for_tool_or_tip_works_itself():
    d = pair(24, 41, 0.1, 0.0, m=2.0)
    for symbol, wrong, tool in (
        ("rho_fP", 0.7, "form"),
        ("rho_fP", 0.6, "pinion cutter"),
        ("rho_fP", 0.6, "rack"),
        ("h_K", 3.0, "rack"),
        ("rho_a", 3.0, "rack"),
    ):
        base = set_many(d, {B + "gears.gear1.tool": tool})
        with pytest.raises(OutOfRange) as fault:
            evaluate(set_many(base, {f"{B}gears.gear1.{symbol}": wrong}))
        assert fault.value.quantity.startswith(symbol), (symbol, tool, str(fault.value))
        assert fault.value.high is not None, (symbol, tool, str(fault.value))
        evaluate(set_many(base, {f"{B}gears.gear1.{symbol}": fault.value.high}))
        with pytest.raises(OutOfRange):
            evaluate(set_many(base, {f"{B}gears.gear1.{symbol}": fault.value.high * 1.05 + 0.01}))
