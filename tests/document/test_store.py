import json
import os
from pathlib import Path

import pytest

from cooper.demo import demo
from cooper.document.store import Unusable, design_text, open_design, read_design, save_design
from cooper.editing.edit import set_many
from cooper.editing.stages import add_stage, move_stage
from cooper.results.evaluate import evaluate
from cooper.results.pages import pages
from makers import pair, planet_set

PLANETS_1 = "dome-drive-version-1.cooper.json"
V2 = (Path(__file__).parent / "files/winch-version-2.cooper.json").read_text()
TEXT = (Path(__file__).parents[2] / "src/cooper/demo/mirror-cover.json").read_text()


def test_a_saved_design_opens_the_same_and_keeps_what_it_does_not_know(tmp_path):
    tree = json.loads(TEXT)
    tree["measured"] = {"later": [1, 2]}
    tree["train"]["gears"]["gear2"]["colour of the paint"] = "grey"
    first = read_design(json.dumps(tree))
    save_design(first, tmp_path / "a.json")
    again = open_design(tmp_path / "a.json")
    assert again == first
    assert json.loads((tmp_path / "a.json").read_text())["measured"] == {"later": [1, 2]}
    assert "grey" in (tmp_path / "a.json").read_text()


def broken(change) -> str:
    tree = json.loads(TEXT)
    change(tree)
    return json.dumps(tree)


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "empty"),
        (TEXT[:900], "truncated"),
        (TEXT.replace('"z": 17', '"z": 17,,'), "line"),
        ('{"format": "something-else"}', "no Cooper design"),
        ("[1, 2, 3]", "no Cooper design"),
        ("[" * 100_000, ":"),
        (broken(lambda t: t.update(version=99)), "newer"),
        (broken(lambda t: t.update(version="one")), "version"),
        (TEXT.replace("240.0", "NaN"), "NaN"),
        (TEXT.replace("240.0", "1e999"), "n"),
        (broken(lambda t: t["train"]["gears"]["gear1"].update(z=16.5)), "train.gears.gear1.z"),
        (broken(lambda t: t["train"]["meshes"]["stage1"].update(beta=99)), "train.meshes.stage1.beta"),
        (broken(lambda t: t["train"]["gears"]["gear1"].update(z=-3)), "4 or more"),
        (broken(lambda t: t["train"]["duty"].update(T=5.0)), "two of power"),
        (broken(lambda t: t["train"]["meshes"]["stage1"].update(a_w=40.0)), "null"),
        (broken(lambda t: t["train"]["meshes"]["stage1"].update(P_nd=20.0)), "size of the teeth"),
        (broken(lambda t: t["train"].update(meshes={})), "train.meshes"),
        (broken(lambda t: t["train"]["meshes"]["stage1"].update(driven="gear9")), "gear9"),
        (broken(lambda t: t["train"].pop("gears")), "it is missing"),
        (broken(lambda t: t["train"].update(meshes=[1])), "named values"),
        (broken(lambda t: t["train"].update(shafts={})), "shafts"),
        (broken(lambda t: t["train"]["shafts"].pop("gear2")), "on no shaft"),
        (broken(lambda t: t["train"]["shafts"]["gear2"].update(gears=["gear1"])), "on two shafts"),
        (V2.replace('"groups"', '"grups"'), "hang together"),
        (broken(lambda t: t["train"]["gears"]["gear1"]["material"].update(group="Unobtainium")), "not known"),
    ],
)
def test_unusable_files_say_where_and_why(text, words):
    with pytest.raises(Unusable) as fault:
        read_design(text, "winch.json")
    assert "winch.json" in str(fault.value)
    assert words in str(fault.value)


def test_a_binary_file_and_a_missing_one(tmp_path):
    (tmp_path / "b.json").write_bytes(b"\x89PNG\xff\xfe")
    with pytest.raises(Unusable, match="not text"):
        open_design(tmp_path / "b.json")
    with pytest.raises(Unusable, match="No such file"):
        open_design(tmp_path / "none.json")


def test_a_failed_save_leaves_the_file_and_no_litter(tmp_path, monkeypatch):
    target = tmp_path / "a.json"
    save_design(demo(), target)
    before = target.read_bytes()

    def full(*_args):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(os, "fsync", full)
    with pytest.raises(OSError, match="No space"):
        save_design(pair(), target)
    assert target.read_bytes() == before
    assert os.listdir(tmp_path) == ["a.json"]


def test_the_published_pages_are_those_of_the_program():
    docs = Path(__file__).parents[2] / "docs"
    for name, text in pages(evaluate(demo())).items():
        assert (docs / name).read_text(encoding="utf-8") == text, f"run tools/write_docs.py for docs/{name}"


@pytest.mark.parametrize("file", sorted((Path(__file__).parent / "files").glob("*.json")), ids=lambda f: f.name)
def test_files_of_older_programs_open_and_come_to_the_same_teeth(file, tmp_path):
    """Written before gears had identities; some before suns of two rings could be driven and least safeties stood at
    gears; some before a survey could be kept."""
    d = open_design(file)
    r = evaluate(d)
    old = json.loads(file.read_text(encoding="utf-8"))
    if old["version"] == 1:
        teeth = [[g["z"] for g in stage["members"]] for stage in old["train"]["stages"]]
    else:
        gears, meshes = old["train"]["gears"], old["train"]["meshes"]
        named = [meshes[s["mesh"]] for group in old["train"]["groups"] for s in group["stages"]]
        teeth = [[gears[m["driver"]]["z"], gears[m["driven"]]["z"]] for m in named]
    for counts, s in zip(teeth, r.stages, strict=True):
        assert counts == [g["z"] for g in s.gears]
        assert all(g["S_F"] > 0 for g in s.gears)
    save_design(d, tmp_path / "again.cooper.json")
    assert open_design(tmp_path / "again.cooper.json") == d


def test_a_gear_in_two_meshes_stands_once_in_the_file_and_is_one_object(tmp_path):
    for kind in ("planetary", "idler"):
        d = planet_set(kind=kind, planets=3 if kind == "planetary" else 1)
        tree = json.loads(design_text(d))["train"]
        (first,) = tree["sets"].values()
        assert len(tree["gears"]) == 3
        assert tree["meshes"][first["meshes"][0]]["driven"] == tree["meshes"][first["meshes"][1]]["driver"]
        assert d.train.stages[0].gears[1] is d.train.stages[1].gears[0]
        for path in (d.train.stages[0].paths[1], d.train.stages[1].paths[0]):
            edited = set_many(d, {f"{path}.b": 17.5})
            assert [edited.train.stages[0].gears[1].b, edited.train.stages[1].gears[0].b] == [17.5, 17.5]
            assert edited.train.stages[0].gears[1].id == d.train.stages[0].gears[1].id


def test_identities_stay_with_their_gears_and_stages():
    d = demo("winch")
    ids = [(s.id, *(g.id for g in s.gears)) for s in d.train.stages]
    assert len({n for row in ids for n in row}) == 6
    assert [(s.id, *(g.id for g in s.gears)) for s in move_stage(d, 1, -1).train.stages] == ids[::-1]
    longer = add_stage(d, 0)
    assert [longer.train.stages[k].id for k in (0, 2)] == ["stage1", "stage2"]
    assert len({g.id for s in longer.train.stages for g in s.gears}) == 6
    one = demo("dome-drive")
    assert len({g.id for s in one.train.stages for g in s.gears}) == 5


def test_version_1_with_one_gear_that_is_two_is_refused():
    old = json.loads((Path(__file__).parent / "files" / PLANETS_1).read_text())
    assert read_design(json.dumps(old)).train.placed
    old["train"]["stages"][1]["members"][0]["z"] += 1
    with pytest.raises(Unusable, match="one and the same; its z is"):
        read_design(json.dumps(old))
