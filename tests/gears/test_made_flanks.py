"""Flanks with forms and elliptic roots: what is drawn is what was meant, and the mate has room."""

import numpy as np
import pytest
from msgspec.structs import replace

from cooper.demo import demo
from cooper.editing.edit import set_many
from cooper.exchange.flank_csv import flank_csv
from cooper.gears.cutter import ConicCut
from cooper.gears.fillets import fillet
from cooper.gears.flank_form import profile_form
from cooper.gears.outline import gear_outline, one_tooth
from cooper.gears.root import root_form
from cooper.gears.tip_path import tip_path, tip_room
from cooper.results.evaluate import evaluate
from cooper.results.flank_forms import form_of, reach_of
from makers import polyline_distance, signed_depth


@pytest.mark.parametrize(("name", "i"), [("mirror-cover", 0), ("winch", 1), ("dome-ring", 1), ("dome-rack", 1)])
def test_outlines_and_exact_curves_stand_back_by_what_is_taken_off(name, i):
    path = f"train.gears.gear{i + 1}.flanks"
    made = {f"{path}.C_alphaa": 30.0, f"{path}.C_alphaf": 20.0, f"{path}.C_alpha": 5.0, f"{path}.relief": "circular"}
    d = set_many(demo(name), made)
    s, plain = evaluate(d).stages[0], evaluate(demo(name)).stages[0]
    base = plain.sections[i].one(1e-6)
    L_f, L_a = reach_of(s, i)
    tooth = s.teeth[i]
    r_b = abs(float(tooth.d_b)) / 2
    for points in (s.sections[i].one(1e-4), np.concatenate([c(np.linspace(0, 1, 60)) for c in s.sections[i].curves()])):
        if name == "dome-rack":
            r = float(tooth.d) / 2 - points[:, 0]
        else:
            r = np.hypot(*points.T)
        L = np.sqrt(np.maximum(r**2 - r_b**2, 0))
        low, high = sorted((L_f, L_a))
        # Beside the tip its land is nearer than the flank.
        on = (low + 1e-3 < L) & (high - 1e-3 > L) & (r > r_b) & (np.abs(r - abs(float(tooth.d_a)) / 2) > 0.06)
        wanted = profile_form(form_of(d.train.stages[0].gears[i], s), L[on], L_f, L_a) / 1000
        # Normal to the flank, in the transverse section.
        assert polyline_distance(points[on], base) == pytest.approx(wanted, abs=3e-4)
        assert on.sum() > 20
    # Nothing else of the tooth moves.
    assert np.ptp(points, axis=0) == pytest.approx(np.ptp(base, axis=0), abs=1e-3)


@pytest.mark.parametrize(("name", "i"), [("mirror-cover", 1), ("dome-ring", 1), ("focuser", 0)])
def test_an_elliptic_root_is_an_ellipse_that_leaves_the_flank_and_meets_the_root_circle_smoothly(name, i):
    tooth = replace(evaluate(demo(name)).stages[0].teeth[i], tool=ConicCut(0.9, 0.55))
    t = np.linspace(0, 1, 400)
    r, psi = fillet(tooth, t)
    x, y = r * np.sin(psi), r * np.cos(psi)
    middle = y.mean()
    rows = np.column_stack((x**2, x * (y - middle), (y - middle) ** 2, x, y - middle, np.ones_like(x)))
    _, size, v = np.linalg.svd(rows / np.abs(rows).max(axis=0))
    assert size[-1] < 1e-8 * size[0]
    a, b, c = v[-1][:3] / np.abs(rows).max(axis=0)[:3]
    assert b**2 - 4 * a * c < 0
    form = root_form(tooth)
    assert r[0] == pytest.approx(abs(float(form.d_Ff)) / 2) and r[-1] == pytest.approx(abs(float(tooth.d_f)) / 2)
    assert psi[-1] == pytest.approx(0, abs=1e-12)
    assert (y[-1] - y[-2]) == pytest.approx(0, abs=5e-3 * abs(x[-2]))
    # The outline has no corner where flank and root join.
    line = one_tooth(tooth, 1e-5, form)
    step = np.diff(line, axis=0)
    step = step[np.hypot(*step.T) > 1e-9]
    turn = np.abs(np.diff(np.unwrap(np.arctan2(step[:, 1], step[:, 0]))))
    corners = np.sort(turn)[-4:]
    assert corners[1] < 0.2


@pytest.mark.parametrize("w", [0.3, 0.9])
def test_room_for_the_mates_tips_is_what_outlines_leave_in_every_position(w):
    s = evaluate(demo("mirror-cover")).stages[0]
    own = replace(s.teeth[0], tool=ConicCut(0.95, w))
    form = root_form(own)
    a_w, mate = float(s.mesh.a_w), s.teeth[1]
    text = tip_room(own, form, mate, a_w)
    wheel = gear_outline(own, np.pi / float(own.z), 1e-4)
    r_F = float(form.d_Ff) / 2
    least = np.inf
    for phi in np.linspace(-0.35, 0.35, 141):
        # In the space on +x, the mate's tooth in its middle.
        psi = np.pi - phi * float(own.z) / float(mate.z)
        land = np.linspace(-1, 1, 9) * float(tip_half(mate))
        tips = a_w * np.array([1.0, 0.0]) + float(mate.d_a) / 2 * np.column_stack(
            (np.cos(psi + land), np.sin(psi + land))
        )
        c, q = np.cos(-phi), np.sin(-phi)
        tips = tips @ np.array([[c, q], [-q, c]])
        near = tips[np.hypot(*tips.T) < r_F]
        if len(near):
            depth = signed_depth(near, wheel)
            least = min(least, float(np.where(depth > 0, -depth, -depth).min()))
    assert text == pytest.approx(least, abs=2e-3)
    assert tip_path(own, mate, a_w).shape[-1] == 2


def tip_half(mate):
    from cooper.gears.tip import land_half_angle

    return land_half_angle(mate)


@pytest.mark.parametrize("name", ["mirror-cover", "dome-ring"])
def test_flank_points_of_two_forms_stand_each_on_its_side_of_the_drawn_tooth(name):
    """Written points of right and left flanks lie on the outline that is drawn, and the mirror image of either does
    not."""
    path = "train.gears.gear2."
    d = set_many(demo(name), {path + "flanks.C_alphaa": 40.0, path + "flanks_left": {"C_alphaf": 25.0}})
    s = evaluate(d).stages[0]
    outline = s.sections[1].one(1e-5)
    rows = [r.split(",") for r in flank_csv(s, 1e-3).splitlines() if r[:2] == "2,"]
    for side in ("right", "left"):
        points = np.array([[float(r[4]), float(r[5])] for r in rows if r[1] == f"{side} involute"])
        assert len(points) > 5
        assert polyline_distance(points, outline).max() < 2e-5
        assert polyline_distance(points * [1, -1], outline).max() > 0.02
    assert not any(r.split(",")[1].startswith(("right", "left")) for r in flank_csv(s).splitlines() if r[:2] == "1,")
