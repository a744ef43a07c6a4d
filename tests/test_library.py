"""Cooper as a library: names, units, faults, and the gallery of scripts."""

import os
import subprocess
import sys
from pathlib import Path

import pytest

import cooper
from cooper.errors import OutOfRange
from cooper.results.evaluate import evaluate

ROOT = Path(__file__).parents[1]
EXAMPLES = sorted((ROOT / "examples").glob("*.py"))
SAID = {
    "backlash_monte_carlo": "normal backlash",
    "balance_roots": "S_F2 = 1.48",
    "change_and_compare": "verdict: thin",
    "check_a_folder": "mirror-cover.json",
    "export_everything": "cover.step",
    "optimise_mass": "kg",
    "quiet_mesh": "100 % load",
    "root_of_true_tooth": "ISO 6336-3",
    "survey_two_stages": "designs of",
    "sweep_to_csv": "eps_gamma",
}


@pytest.mark.parametrize("path", EXAMPLES, ids=lambda p: p.stem)
def test_every_script_of_the_gallery_runs(path, tmp_path):
    where = [str(tmp_path)] if path.stem == "export_everything" else []
    done = subprocess.run(
        [sys.executable, str(path), *where],
        capture_output=True,
        text=True,
        cwd=tmp_path,
        env={**os.environ, "PYTHONPATH": str(ROOT / "src")},
        timeout=120,
    )
    assert done.returncode == 0, done.stderr
    assert SAID[path.stem] in done.stdout


def test_names_read_and_give_what_tags_do_and_nothing_of_a_model_changes():
    m = cooper.example("winch")
    before = m.design
    other = m.set({"stage2.b_1": "1.5 in", "P": 2500.0})
    assert other["stage2.b_1"] == pytest.approx(38.1) and m["stage2.b_1"] != 38.1 and m.design is before
    assert other["P"] == 2500 and other["stage2.S_F1"] == pytest.approx(evaluate(other.design).stages[1].gears[0].S_F)
    assert other["eta"] == pytest.approx(evaluate(other.design).train.eta)
    assert {"stage1.C_alphaa1", "stage2.m_n", "u_wanted"} <= set(m.names())
    assert m.set({"C_alphaa1": 8})["stage1.C_alphaa1"] == 8
    assert m.get("nothing", 7.0) == 7.0 and m.unit("stage1.F_a") == "N"
    for name in ("nothing", "stage9.b_1"):
        with pytest.raises(KeyError):
            m[name]
    with pytest.raises(OutOfRange, match="nothing that can be set is called so"):
        m.set({"b_7": 3})
    with pytest.raises(OutOfRange):
        m.set({"stage1.z_1": -3})
    with pytest.raises(OutOfRange):
        m.set({"stage1.b_1": "3 kg"})
    with pytest.raises(OutOfRange, match=r"K_a = 1\.5 cannot be: nothing is called so here; there are P, T, n"):
        cooper.from_duty(2200, 1420, 4.0, K_a=1.5)
    with pytest.raises(OutOfRange, match="m_hihg = 3 cannot be"):
        m.survey(m_hihg=3)


def test_a_model_is_saved_opened_searched_and_taken(tmp_path):
    m = cooper.from_duty(2200, 1420, 4.0, 8000)
    m.save(tmp_path / "m.cooper.json")
    assert cooper.open(tmp_path / "m.cooper.json").design == m.design
    result = m.survey(arrangements=("pair",), most=4)
    best = m.taken(result, 0)
    assert best["u"] == pytest.approx(4.0, rel=0.03) and best["mass_1"] + best["mass_2"] == pytest.approx(
        float(result.values["mass"][0]), rel=0.2
    )
    assert dir(cooper) and not hasattr(cooper, "nothing")
