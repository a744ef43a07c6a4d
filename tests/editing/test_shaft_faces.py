"""Faces of shafts come to stand where they are moved to."""

import pytest

from cooper.demo import demo
from cooper.editing.machine_edits import cut_piece
from cooper.editing.shaft_faces import faces_of, move_face, snapped, snaps_of
from cooper.errors import OutOfRange
from cooper.results.evaluate import evaluate
from cooper.results.find_machine import each_machine


@pytest.mark.parametrize("name", ["winch", "dome-drive", "focuser"])
def test_every_face_stands_where_it_is_moved_to(name):
    design = demo(name)
    if name == "winch":
        shaft = evaluate(design).machine.shaft("gear4")
        gap = shaft.made.piece("gap 1")
        design = cut_piece(design, "gear4", shaft.made, gap.start + 3.0)
    results = evaluate(design)
    machine = results.machine or next(iter(each_machine(design.train, results)))
    moved = 0
    for shaft in machine.shafts:
        for face in faces_of(shaft.made):
            for way in (-1.0, 1.0):
                z = face.stepped(face.z + way)
                if abs(z - face.z) < 1e-9:
                    continue
                made = evaluate(move_face(design, shaft.key, face, z)).machine.shaft(shaft.key).made
                if [b.bearing for b in made.bearings] != [b.bearing for b in shaft.made.bearings]:
                    # A bearing of another width moves the planes, and all faces with them.
                    continue
                now = [f.z for f in faces_of(made) if f.path == face.path]
                assert min(abs(one - z) for one in now) < 2e-3, (shaft.key, face.words)
                moved += 1
    assert moved >= 10


def test_a_face_snaps_to_what_is_near_and_is_refused_beyond_its_ends():
    design = demo("winch")
    machine = evaluate(design).machine
    shaft = machine.shaft("gear4")
    there = snaps_of(machine, shaft)
    face = next(f for f in faces_of(shaft.made) if f.words == "from the hub to bearing 1")
    wall, _ = machine.housing.z
    # Near the wall's face ends the second shaft, which has its bearing inside of it.
    assert snapped(face, wall + 0.3, there, 0.5) == (-26.6, "end of shaft 2")
    assert snapped(face, -23.8, there, 0.5) == (-24.0, "bearing 1 of shaft 2")
    there = [s for s in there if not s.words.endswith("shaft 2")]
    assert snapped(face, wall + 0.3, there, 0.5) == (wall, "outer wall")
    z, what = snapped(face, wall - 0.8, there, 0.5)
    assert what == "" and face.length(z) % 0.5 == pytest.approx(0)
    with pytest.raises(OutOfRange) as fault:
        move_face(design, shaft.key, face, face.high + 1.0)
    assert fault.value.high == pytest.approx(face.high, abs=1e-3)
