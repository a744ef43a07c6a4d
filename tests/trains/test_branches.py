"""Power that parts, comes together or is taken off on the way: by hand, and against trains that have one way."""

import numpy as np
import pytest

from cooper.demo import demo
from cooper.desk.shell.pictures import settle
from cooper.document.change import changed
from cooper.document.row import row_of
from cooper.document.store import design_text, read_design
from cooper.editing.arrangement import exchanged
from cooper.editing.edit import set_many
from cooper.editing.machine_edits import count_machine
from cooper.editing.make_sets import with_roles, with_set
from cooper.editing.stages import add_stage, branch_stage, remove_stage, split_stage, take_off, with_row
from cooper.errors import OutOfRange
from cooper.exchange.save import export
from cooper.results.evaluate import evaluate
from cooper.results.pose import mesh_frames, pose
from makers import pair, planet_set


def branched():
    """The winch with a second drum beside the first, and a tenth taken off between."""
    return take_off(branch_stage(demo("winch"), 1), 0, 0.1)


def countershafts():
    design = set_many(pair(z1=24, z2=50), {"train.duty.u_wanted": None})
    return with_set(design, 0, "countershafts")


def differential(u_third=0.8, **duty):
    design = with_roles(planet_set(z=(24, 30, 84), **duty), 0, ("carrier", "ring", "sun"))
    return set_many(design, {"train.sets.set1.u_third": u_third})


def test_power_parts_at_a_shaft_as_its_shares_say_and_none_is_lost_between():
    for counted in ("mesh", "all"):
        r = evaluate(set_many(branched(), {"train.losses.counted": counted, "train.meshes.stage2.share": 0.6}))
        first, drum, beside = r.stages
        whole = first.power.P_out
        assert [s.power.P_in / whole for s in (drum, beside)] == pytest.approx([0.6, 0.3])
        u = [s.gears[1].z / s.gears[0].z for s in r.stages]
        assert [o.u for o in r.outputs] == pytest.approx([u[0] * u[1], u[0], u[0] * u[2]])
        for o in r.outputs:
            assert pytest.approx(o.T * o.n * np.pi / 30) == o.P and o.n == pytest.approx(r.train.n_in / o.u)
        assert sum(o.P for o in r.outputs) == pytest.approx(r.train.P_out) == r.train.eta * r.train.P_in
        if counted == "mesh":
            left = first.mesh.eta_z * (0.6 * drum.mesh.eta_z + 0.3 * beside.mesh.eta_z + 0.1)
            assert r.train.eta == pytest.approx(left)


def test_a_stage_behind_a_branch_is_rated_as_alone_at_its_torque():
    design = set_many(
        demo("winch"), {"train.losses.counted": "mesh", "train.duty.u_wanted": None, "train.machine": None}
    )
    r = evaluate(set_many(branch_stage(design, 1), {"train.meshes.stage2.share": 0.35}))
    plain = evaluate(set_many(design, {"train.duty.P": 0.35 * design.train.duty.P})).stages[1]
    for here, there in zip(r.stages[1].gears, plain.gears, strict=True):
        # The efficiency of the first stage is another at another load.
        assert pytest.approx(there.S_F, rel=2e-3) == here.S_F and pytest.approx(there.S_H, rel=2e-3) == here.S_H


def driven_by_one():
    """The winch with two drum wheels on one pinion."""
    train = branch_stage(demo("winch"), 1).train
    meshes = train.meshes | {"stage3": train.meshes["stage3"].replace_unchecked(driver="gear3")}
    gears = {k: g for k, g in train.gears.items() if k != "gear5"}
    shafts = train.shafts | {"gear2": train.shafts["gear2"].replace_unchecked(gears=("gear2", "gear3"))}
    return changed(demo("winch"), {"train.meshes": meshes, "train.gears": gears, "train.shafts": shafts})


def test_a_gear_that_drives_two_others_is_loaded_twice_a_turn():
    one, both = (evaluate(d).stages[1].gears for d in (branch_stage(demo("winch"), 1), driven_by_one()))
    assert pytest.approx(2 * one[0].N_L) == both[0].N_L and pytest.approx(one[1].N_L) == both[1].N_L


def test_edits_of_the_train_leave_its_branches_where_they_are():
    design = branched()
    for other, ends in (
        # The stage before becomes a set: both go on from its output.
        (exchanged(design, 0, "planetary"), 3),
        (exchanged(design, 1, "internal pair"), 3),
        (split_stage(design, 2), 3),
        (split_stage(design, 0), 3),
        (add_stage(design, 2), 3),
        (branch_stage(design, 2), 4),
        (remove_stage(design, 1), 2),
    ):
        assert len(other.train.walk.outputs) == ends
        r = evaluate(other)
        assert sum(o.P for o in r.outputs) == pytest.approx(r.train.P_out)
        assert read_design(design_text(other)) == other
    # Without the first stage both are driven by the input, and the tenth is no more.
    left = remove_stage(design, 0).train
    assert {g.comes_in for g in left.walk.groups} == {left.input} and len(left.walk.outputs) == 2
    # A pinion that drives two wheels stays one gear.
    two = driven_by_one()
    assert len(split_stage(two, 0).train.gears) == 7 and len(two.train.gears) == 5
    assert with_row(two, row_of(two.train)).train == two.train


def test_countershafts_share_the_power_and_bring_it_together_again():
    design = countershafts()
    r = evaluate(design)
    (a, b), (c, d) = ((g.z for g in s.gears) for s in r.stages)
    assert r.train.u == pytest.approx(b * d / (a * c))
    assert r.stages[0].power.T_mesh == pytest.approx(r.train.T_in / 2)
    assert r.stages[0].mesh.a_w == pytest.approx(r.stages[1].mesh.a_w)
    assert r.train.eta == pytest.approx(r.stages[0].mesh.eta_z * r.stages[1].mesh.eta_z, rel=1e-6)
    four = evaluate(set_many(design, {"train.sets.set1.planets": 4, "train.sets.set1.K_gamma": 1.1}))
    half = evaluate(set_many(design, {"train.duty.P": design.train.duty.P / 2, "train.sets.set1.K_gamma": 1.1}))
    # The gear in the middle is loaded by each; those about it see the same load.
    assert pytest.approx(half.stages[0].gears[1].S_F, rel=1e-9) == four.stages[0].gears[1].S_F
    assert pytest.approx(2 * r.stages[0].gears[0].N_L) == four.stages[0].gears[0].N_L
    with pytest.raises(OutOfRange, match="stands still in any case"):
        set_many(design, {"train.sets.set1.held": "first gear"})
    machine = evaluate(count_machine(design)).machine
    assert [s.axis for s in machine.shafts] == [(0.0, 0.0)] * 2 and machine.pins[0].planets == 2


def test_both_outputs_of_a_differential_have_the_torques_of_willis():
    r = evaluate(differential())
    one = r.sets[0]
    n, T = ({name: s[key] for name, s in one.shafts.items()} for key in ("n", "T"))
    assert 24 * n["sun"] + 84 * n["ring"] == pytest.approx(108 * n["carrier"])
    assert n["sun"] == pytest.approx(0.8 * n["ring"])
    assert sum(T.values()) == pytest.approx(0.0, abs=1e-9)
    # Without friction as 84 to 24; it takes from the slower one.
    assert T["ring"] / T["sun"] == pytest.approx(84 / 24, rel=0.04)
    assert sum(o.P for o in r.outputs) == pytest.approx(r.train.P_out)
    assert r.train.P_in - r.train.P_out == pytest.approx(sum(s.mesh.P_VZ for s in r.stages), rel=1e-6)
    assert [o["name"] for o in r.as_tree()["outputs"]] == ["Planet set: ring", "Planet set: sun"]
    for u_third, words in ((1.0, "standing still"), (-0.5, "power comes in at the sun"), (0.0, "not at speed 0")):
        with pytest.raises(OutOfRange, match=words):
            evaluate(differential(u_third))
    # Its machine is not laid out, and says so; the gears are rated.
    counted = evaluate(count_machine(differential()))
    assert "three shafts" in counted.no_machine.reason and counted.machine is None


def test_power_goes_on_from_either_output_and_what_cannot_be_is_refused():
    design = differential(P=4000.0)
    longer = add_stage(design, 0)
    assert len(longer.train.walk.outputs) == 2
    assert sum(o.P for o in evaluate(longer).outputs) == pytest.approx(evaluate(longer).train.P_out)
    for changes, words in (
        ({"train.meshes.stage2.share": 0.7, "train.meshes.stage3.share": 0.7}, "add up to 1.5 and not to 1"),
        ({"train.meshes.stage2.share": 0.2, "train.meshes.stage3.share": 0.2}, "add up to 0.5 and not to 1"),
        ({"train.meshes.stage3.driven": "gear4"}, "gear6.*on no shaft|two ways"),
        ({"train.input": "gear9"}, "there is no shaft"),
    ):
        with pytest.raises(OutOfRange, match=words):
            set_many(branched(), changes)
    with pytest.raises(OutOfRange, match="nothing goes on"):
        take_off(demo("winch"), 1, 0.5)


def test_every_output_stands_in_the_report_and_on_the_power_line(window, tmp_path):
    design = branched()
    export(design, evaluate(design), tmp_path / "r.html")
    text = (tmp_path / "r.html").read_text()
    assert all(f"out: {o.name}" in text for o in evaluate(design).outputs)
    window.session.restart(demo("winch"), None)
    for n, (act, outputs) in enumerate((("branch_stage", 2), ("take_off", 3))):
        window.session.select_stage(1 - n)
        window.run(act)
        settle()
        assert len(window.session.results.outputs) == outputs
    window.grab()
    window.open_sheet("mesh")
    settle()
    assert {"P_taken"} <= set(window.sheet.fields)
    window.session.select_stage(1)
    window.run("take_off")
    assert "Nothing goes on behind it" in window.notice.text.text()


def test_branches_are_kept_edited_laid_out_and_drawn():
    design = branched()
    assert read_design(design_text(design)) == design
    assert remove_stage(design, 2).train.walk.outputs == {"gear4": 1.0, "gear2": 0.1}
    behind = add_stage(design, 1)
    assert [g.comes_in for g in behind.train.walk.groups][1:3] == ["gear2", "gear4"]
    r = evaluate(design)
    assert [s.name for s in r.machine.shafts if s.made.wish.right_end] and not r.machine.clashes
    # Every mesh in its phase: the teeth of both gears lie opposite at the line of centres.
    at = pose(r, 0.4)
    centres = {(g.stage, g.i): (g.x, g.y) for g in at.gears}
    for frame in mesh_frames(r, at):
        a, b = (np.array(centres[frame.stage, i]) for i in (0, 1))
        assert np.hypot(*(b - a)) == pytest.approx(r.stages[frame.stage].mesh.a_w)
        stand = r.stages[frame.stage].motions(frame.roll, 0.0)[1]
        there = next(g.angle for g in at.gears if (g.stage, g.i) == (frame.stage, 1))
        pitches = (there - frame.angle - stand) * r.stages[frame.stage].gears[1].z / (2 * np.pi)
        assert pitches == pytest.approx(round(pitches), abs=1e-6)
