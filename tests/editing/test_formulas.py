"""Named values and formulas: what they give, what follows them, and what is refused with its place."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cooper.document.store import design_text, read_design
from cooper.editing.edit import give_size, set_at
from cooper.editing.formulas import names_in, order_of, read_formula, settled, value_of, with_formula, with_name
from cooper.errors import OutOfRange
from cooper.results.evaluate import evaluate
from makers import pair


def test_a_width_follows_the_module_and_a_name_through_every_edit():
    d = with_name(pair(), "psi", "10")
    d = with_formula(with_formula(d, "stage1.b_1", "psi*m_n + 2"), "stage1.b_2", "b_1 - 2")
    d, r = settled(d)
    assert (r.stages[0].gears[0]["b"], r.stages[0].gears[1]["b"]) == (27.0, 25.0)
    d, r = settled(give_size(d, 0, "d_1", 34.0))  # the module is solved now: 2 mm
    assert r.stages[0].gears[0]["b"] == pytest.approx(22.0)
    d, r = settled(with_name(d, "psi", "4*3"))
    assert r.stages[0].gears[1]["b"] == pytest.approx(24.0)
    again, results = settled(read_design(design_text(d)))
    assert again == d
    assert results.as_tree() == r.as_tree()
    # The numbers stand in the document, so that evaluating alone gives the same.
    assert evaluate(d).as_tree() == r.as_tree()


@given(
    st.recursive(
        st.integers(-99, 99).map(lambda v: f"({v / 4})"),
        lambda part: st.tuples(part, st.sampled_from("+-*/"), part).map(lambda t: f"({t[0]}{t[1]}{t[2]})"),
        max_leaves=6,
    )
)
def test_arithmetic_agrees_with_plain_python(text):
    try:
        wanted = eval(text)
    except ZeroDivisionError:
        with pytest.raises(OutOfRange, match="worked out"):
            value_of(read_formula(text[:160], "b_1"), lambda _n: 0.0, "b_1", text)
        return
    assert value_of(read_formula(text, "b_1"), lambda _n: 0.0, "b_1", text) == pytest.approx(
        wanted, rel=1e-12, abs=1e-12
    )


def test_functions_powers_and_degrees():
    at = {"m_n": 2.0, "z_1": 17.0}
    for text, value in (
        ("2^3", 8),
        ("sin(30)*4", 2),
        ("max(m_n, z_1)/2", 8.5),
        ("-m_n^2", -4),
        ("round(2.46, 1)", 2.5),
        ("sqrt(z_1 - 1)", 4),
        ("2*pi", 6.283185307),
    ):
        assert value_of(read_formula(text, "x"), at.__getitem__, "x", text) == pytest.approx(value)
    assert names_in(read_formula("stage2.m_n*max(b_1, pi)", "x")) == ["stage2.m_n", "b_1", "pi"]


@pytest.mark.parametrize(
    ("formulas", "names", "word"),
    [
        ({"stage1.b_1": "b_2", "stage1.b_2": "b_1"}, {}, "itself: stage1.b_1 → stage1.b_2 → stage1.b_1"),
        ({"stage1.b_1": "b_1 + 1"}, {}, "depends on itself"),
        ({}, {"p": "q", "q": "p"}, "depends on itself"),
        ({"stage1.b_1": "width*2"}, {}, "width is not known"),
        ({"stage1.nonsense": "2"}, {}, "no quantity"),
        ({"stage1.b_1": "2 +"}, {}, "cannot be read"),
        ({"stage1.b_1": "__import__('os')"}, {}, "functions are"),
        ({"stage1.b_1": "[1][0]"}, {}, "understood"),
        ({"stage1.b_1": "1/(z_1-17)"}, {}, "worked out"),
        ({"stage1.b_1": "9**9**9**9"}, {}, "worked out"),
        ({"stage1.b_1": "sqrt(-1)"}, {}, "worked out"),
        ({"stage1.b_1": "-3"}, {}, "gives this"),
        ({"stage1.m_n": "0.5*b_1/10", "stage1.b_1": "d_1"}, {}, "come to rest|gives this"),
        ({}, {"m_n": "2"}, "has this name already"),
        ({}, {"2x": "2"}, "a name is a letter"),
        ({"stage1.b_1": "x" * 300}, {}, "characters"),
    ],
)
def test_what_cannot_be_is_refused_with_its_place(formulas, names, word):
    d = pair()
    for place, text in formulas.items():
        d = with_formula(d, place, text)
    for name, text in names.items():
        d = with_name(d, name, text)
    with pytest.raises(OutOfRange, match=word) as fault:
        settled(d)
    assert fault.value.quantity in {*formulas, *names}


def test_order_is_by_need_and_other_stages_can_be_named():
    from cooper.demo import demo

    d = with_formula(demo("winch"), "stage2.b_1", "2*stage1.b_1")
    assert order_of(d) == ["stage2.b_1"]
    d, r = settled(d)
    assert r.stages[1].gears[0]["b"] == 2 * r.stages[0].gears[0]["b"]
    d, r = settled(set_at(d, "train.gears.gear1.b", 20.0))
    assert r.stages[1].gears[0]["b"] == 40.0
