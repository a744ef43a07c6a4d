"""From a duty to a whole machine: what a survey finds gets shafts, bearings and joints that hold and run into
nothing."""

from itertools import pairwise

import numpy as np
import pytest

from cooper.demo import demo
from cooper.document.duty import Duty
from cooper.document.survey_spec import asked
from cooper.editing.edit import set_many
from cooper.editing.machine_edits import count_machine
from cooper.results.evaluate import QUICK, evaluate
from cooper.survey.patterns import from_duty
from cooper.survey.task import at_once, numbers_of


@pytest.mark.parametrize(
    ("arrangement", "u"),
    [("pair", 3.5), ("internal", 4.0), ("two stages", 14.5), ("two stages, coaxial", 12.0), ("three stages", 60.0)],
)
def test_designs_from_a_duty_get_machines_that_hold(arrangement, u):
    duty = Duty(P=4000, n=960, u_wanted=u, u_tol=2.0, L_h=12000, K_A=1.5)
    base = from_duty(duty, "cut")
    result = at_once(asked(process="cut", arrangements=(arrangement,), most=3000), base)
    assert len(result) > 20
    for n in np.linspace(0, len(result) - 1, 5).astype(int):
        r = evaluate(count_machine(result.design(int(n))))
        m = r.machine
        assert m.clashes == ()
        assert [c.label for c in r.checks if c.part and c.margin < 0] == []
        assert not [x.text for x in r.notes if x.counts == "short" and "shaft" in x.text]
        axes = [s.axis for s in m.shafts]
        if "coaxial" in arrangement:
            assert axes[2] == pytest.approx(axes[0], abs=1e-3)
            one, three = m.shafts[0].made, m.shafts[2].made
            assert one.end < three.start
        else:
            a = [float(s.mesh.a_w) for s in r.stages]
            apart = [np.hypot(*np.subtract(q, p)) for p, q in pairwise(axes)]
            assert apart == pytest.approx(a, rel=1e-9)


def test_closing_in_takes_the_face_load_of_the_shafts_as_it_is_now():
    paths = {f"train.meshes.stage{k + 1}.K_Hbeta_method": "shafts" for k in (0, 1)}
    design = set_many(demo("winch"), paths)
    now = evaluate(design)
    worst = min(c.margin for c in now.checks if not c.part)
    assert numbers_of(design)["worst"] == pytest.approx(worst, abs=1e-5)
    result = at_once(asked(most=200, b_m_low=3.0, b_d_high=3.0, widths="stepped", b_steps=1), design, 0)
    for n in range(0, len(result), max(len(result) // 3, 1)):
        near = evaluate(result.design(n), QUICK)
        assert result.values["worst"][n] == pytest.approx(min(c.margin for c in near.checks), abs=1e-9)
