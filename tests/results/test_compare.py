"""Two states side by side: all that differs is listed, nothing that does not, and the arrows point the right way."""

from cooper.demo import demo
from cooper.editing.edit import give_size, set_many
from cooper.results.compare import compare
from cooper.results.evaluate import evaluate


def test_inputs_checks_and_results_are_compared_with_their_direction():
    a = demo()
    b = set_many(
        give_size(a, 0, "d_1", 25.0),
        {"train.gears.gear1.b": 14.0, "train.gears.gear2.material.grade": "ME"},
    )
    lines = compare((a, evaluate(a)), (b, evaluate(b)))
    inputs = {line.name: line for line in lines if line.group == "Inputs that differ"}
    assert set(inputs) == {"stage 1, gear 1, b", "stage 1, gear 2, material, grade", "stage 1, m_n", "stage 1, d_1"}
    assert (inputs["stage 1, m_n"].first, inputs["stage 1, m_n"].second) == (1.25, "solved")
    assert inputs["stage 1, gear 1, b"].moved == "rose"
    assert inputs["stage 1, gear 2, material, grade"].kind is None
    checks = [line for line in lines if line.group == "Checks"]
    assert len(checks) == len(evaluate(a).checks)
    by_name = {line.name: line for line in lines if line.group == "Results"}
    assert by_name["d_1"].second == 25.0
    assert by_name["u"].same
    assert by_name["sigma_H1"].moved == "fell"
    same = compare((a, evaluate(a)), (a, evaluate(a)))
    assert all(line.same for line in same)
    assert not [line for line in same if line.group == "Inputs that differ"]
    two = demo("winch")
    assert any(line.first is None for line in compare((a, evaluate(a)), (two, evaluate(two))))
