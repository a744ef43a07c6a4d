"""Shafts as they are turned: fillets, undercuts and chamfers of the outline, the solid made of it, and what an
undercut does to the strength."""

import numpy as np
import pytest

from cooper.demo import demo
from cooper.editing.machine_edits import in_machine
from cooper.exchange.machine_parts import shaft_solid
from cooper.exchange.solid import volume_of
from cooper.machine.notch_factors import groove_form, shoulder_form, undercut_form, undercut_notch
from cooper.machine.shaft_beam import nodes_of, notches_of
from cooper.machine.shaft_outline import chamfer_of, shaft_outline, shaft_path
from cooper.results.evaluate import evaluate
from cooper.stock.undercuts import undercut_of


def winch(**undercuts):
    pieces = ("shafts", "gear2", "pieces")
    changes = [((*pieces, name.replace("_", " "), "undercut"), form) for name, form in undercuts.items()]
    return evaluate(in_machine(demo("winch"), *changes) if changes else demo("winch"))


def test_an_undercut_without_depth_is_the_shoulder_and_without_a_shoulder_the_groove():
    d, D, r = 40.0, 52.0, 1.0
    assert undercut_form(d, d + 1e-12, D, r)[:2] == pytest.approx(shoulder_form(d, D, r)[:2], rel=1e-5)
    assert undercut_form(d, D - 1e-9, D, r)[:2] == pytest.approx(groove_form(d, D, r)[:2], rel=1e-4)
    # In torsion 1.04 of the shoulder, whatever the depth. DIN 743-2:2012, 5.3.4.
    assert undercut_form(d, d + 0.6, D, r)[2] == pytest.approx(1.04 * shoulder_form(d, D, r)[2])


def test_the_outline_has_its_fillets_undercuts_and_chamfers():
    made = winch(bearing_1="F", bearing_2="E, stronger").machine.shaft("gear2").made
    z, r = np.array(shaft_outline(made)).T
    first, last, hub = made.piece("bearing 1"), made.piece("bearing 2"), made.piece("seat gear2")
    # Outside of both bearings stand the lands of their retaining rings.
    start, end = made.pieces[0], made.pieces[-1]
    assert (z[0], r[0]) == (start.start, first.d / 2 - 0.5) and z[1] == start.start + 0.5
    assert (z[-1], r[-1]) == (end.end, last.d / 2 - chamfer_of(last.d)) and z[-2] == end.end - chamfer_of(last.d)
    assert [chamfer_of(d) for d in (4.0, 14.0, 29.0, 44.0, 52.0, 70.0, 300.0)] == [0.2, 0.3, 0.8, 1.0, 1.5, 1.5, 3.0]
    # F 0.4 x 0.2: two wide from the shoulder, 0.2 under the seat, 0.1 into the face.
    u = undercut_of("F", first.d)
    assert (u.t_1, u.f, u.t_2) == (0.2, 2.0, 0.1)
    inside = (z > first.end - u.f - 1e-9) & (z < first.end + u.t_2 + 1e-9)
    assert r[inside].min() == pytest.approx(first.d / 2 - u.t_1)
    # It runs out at 15 degrees, and out of the face as steeply.
    k = int(np.flatnonzero(inside)[0])
    assert (z[k + 1] - z[k], r[k] - r[k + 1]) == pytest.approx((0.2 / np.tan(np.radians(15)), 0.2))
    face = int(np.flatnonzero(inside & np.isclose(z, first.end + u.t_2))[-1])
    assert r[face + 1] - r[face] == pytest.approx(0.1 / np.tan(np.radians(15))) and z[face + 1] == first.end
    near = (r < 9) & (np.abs(z - first.end) < 3)
    assert z[inside].min() == pytest.approx(first.end - u.f) and z[near].max() == pytest.approx(first.end + u.t_2)
    # A bearing of 15 is below 18, where a stronger one is the usual: on its left side, and not into the face.
    at = (z < last.start + 2.0 + 1e-9) & (z > last.start - 1e-9)
    assert r[at].min() == pytest.approx(last.d / 2 - 0.2) and last.d == 15
    # A fillet: points of it are its radius from its centre.
    gap = made.piece("gap 1")
    corner = min(gap.r, (hub.d - gap.d) / 2)
    on = (z > gap.end - corner + 1e-9) & (z < gap.end - 1e-9)
    assert on.sum() >= 4
    assert np.hypot(z[on] - (gap.end - corner), r[on] - (gap.d / 2 + corner)) == pytest.approx(corner)


@pytest.mark.parametrize(
    ("form", "d", "sizes"),
    [
        ("F", 2.5, (0.2, 0.1, 1.0, 0.9, 0.1)),
        ("F", 17.0, (0.4, 0.2, 2.0, 1.1, 0.1)),
        ("F", 79.0, (0.6, 0.3, 2.5, 2.1, 0.2)),
        ("E", 81.0, (1.0, 0.4, 4.0, 3.2, 0.0)),
        ("F, stronger", 49.0, (1.0, 0.2, 2.5, 1.8, 0.1)),
        ("F, stronger", 79.0, (1.6, 0.3, 4.0, 3.1, 0.2)),
        ("F, stronger", 124.0, (2.5, 0.4, 5.0, 4.8, 0.3)),
        ("F, stronger", 126.0, (4.0, 0.5, 7.0, 6.4, 0.3)),
        ("F, stronger", 17.0, (0.4, 0.2, 2.0, 1.1, 0.1)),
    ],
)
def test_undercuts_have_the_sizes_of_their_table(form, d, sizes):
    """DIN 509: r, t_1, f, g, t_2, from knowledge of it."""
    u = undercut_of(form, d)
    assert (u.r, u.t_1, u.f, u.g, u.t_2) == sizes


@pytest.mark.parametrize("form", ["", "F"])
def test_the_solid_is_the_outline_turned(form):
    """By Pappus: pi r^2 along the outline, keyways taken off by hand."""
    result = winch(**({"bearing_1": form} if form else {})).machine.shaft("gear1")
    made = result.made
    core = {j.piece: 0.8 * made.piece(j.piece).d for j in made.joints if j.kind == "integral"}
    z, r = np.array(shaft_outline(made, core)).T
    turned = np.pi * np.sum((r[1:] ** 2 + r[1:] * r[:-1] + r[:-1] ** 2) / 3 * np.diff(z))
    key = next(j for j in made.joints if j.kind == "key")
    R, b, t = made.piece(key.piece).d / 2, key.b, key.t_1
    x = np.linspace(-b / 2, b / 2, 2001)
    slot = key.length * np.trapezoid(np.sqrt(R**2 - x**2) - (R - t), x)
    assert volume_of(shaft_solid(made)) == pytest.approx(turned - slot, rel=2e-4)
    assert any(leg.through for leg in shaft_path(made, core)[1])


def test_an_undercut_weakens_its_shoulder_by_its_own_factors_and_is_told_where_it_is_too_wide():
    plain, cut = winch().machine.shaft("gear2"), winch(gap_1="F").machine.shaft("gear2")
    made = cut.made
    x, d = nodes_of(made)
    beta, _, forms = notches_of(made, x, d, 700.0, 500.0)
    gap, hub = made.piece("gap 1"), made.piece("seat gear2")
    u = undercut_of("F", gap.d)
    k = int(np.searchsorted(x, gap.end)) - 1
    ground = gap.d - 2 * u.t_1
    left = (ground / gap.d) ** np.array([2.0, 3.0, 3.0])
    assert beta[k, 1] == pytest.approx(undercut_notch(ground, gap.d, hub.d, u.r, 500.0) / left)
    assert forms[k, 1] == pytest.approx(undercut_form(ground, gap.d, hub.d, u.r) / left)
    before, _, _ = notches_of(plain.made, *nodes_of(plain.made), 700.0, 500.0)
    assert (np.delete(beta, k, axis=0) == np.delete(before, k, axis=0)).all()
    results = winch(gap_1="F")
    notes = [n.text for n in results.notes]
    short = 2 * undercut_of("F", gap.d).f > results.machine.shaft("gear2").made.piece("gap 1").length
    assert any("the undercut F" in n and "gap 1" in n for n in notes) == short
    # Where there is one, that its sizes are from knowledge is said.
    assert any("DIN 509" in n for n in notes) and not any("DIN 509" in n.text for n in winch().notes)
    pieces = ("shafts", "gear2", "pieces", "gap 1")
    short = evaluate(in_machine(demo("winch"), ((*pieces, "undercut"), "F"), ((*pieces, "length"), 3.0)))
    assert any("the undercut F" in n.text and "half of that" in n.text for n in short.notes)
