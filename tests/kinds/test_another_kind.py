"""A kind that the program does not know, made here of one class for its section and one for itself, is drawn, posed
and listed."""

import numpy as np
import pytest
from msgspec.structs import replace
from PySide6.QtWidgets import QLabel, QPushButton

from cooper.desk.shell.pictures import settle
from cooper.document.change import changed
from cooper.document.row import row_of
from cooper.document.store import design_text, read_design
from cooper.editing.arrangement import arrangement_of, exchanged
from cooper.editing.edit import give_kind
from cooper.editing.shift_map import shift_map
from cooper.editing.stages import with_row
from cooper.errors import OutOfRange
from cooper.exchange.body import bodies
from cooper.exchange.mesh_file import body_mesh
from cooper.exchange.solid import body_solid, volume_of
from cooper.kinds.external_wheel import EXTERNAL
from cooper.kinds.kind import Kind
from cooper.kinds.known import KINDS, register
from cooper.kinds.section import WheelSection
from cooper.results.evaluate import evaluate
from cooper.results.pose import pose
from makers import pair

CUT = 9


class SectorSection(WheelSection, frozen=True):
    """A wheel of which some teeth about motion 0 are left, and the wedge that carries them."""

    @property
    def teeth(self):
        return 2 * np.pi / float(self.tooth.z) * (np.arange(CUT) - (CUT - 1) / 2)

    @property
    def closing(self):
        return np.vstack((self.moved(self.one(0.1)[-1:], self.teeth[-1]), np.zeros((1, 2))))

    def area(self):
        x, y = self.outline(1e-5).T
        return 0.5 * float(np.sum(x * np.roll(y, -1) - y * np.roll(x, -1)))


class Sector(Kind, frozen=True):
    key: str = "sector"
    words: str = "pinion and toothed sector"
    shape: str = "sector"
    name: str = "sector"
    gear_words: tuple[str, str] | None = ("pinion", "sector")
    drives: bool = False
    on_drawing: tuple[str, ...] = ("z", "d", "b")
    data: tuple[str, ...] = ()

    def section(self, tooth, form, values):
        return SectorSection(tooth, form)


@pytest.fixture
def sector(monkeypatch):
    kind = Sector()
    monkeypatch.setitem(KINDS, kind.key, kind)
    with pytest.raises(ValueError, match="already"):
        register(kind)
    return kind


def test_it_is_made_rated_kept_and_left_again(sector):
    whole = pair()
    design = exchanged(whole, 0, "sector")
    assert arrangement_of(design, 0) == "sector"
    assert read_design(design_text(design)) == design
    stage, before = evaluate(design).stages[0], evaluate(whole).stages[0]
    assert stage.kind is sector
    assert stage.gears[1].S_F == before.gears[1].S_F
    assert stage.gears[1].mass < 0.3 * before.gears[1].mass
    assert "sector" in next(c for c in evaluate(design).checks if c.index == 2).means
    assert arrangement_of(give_kind(design, 0, EXTERNAL), 0) == "external pair"
    with pytest.raises(OutOfRange, match="a sector is the driven gear"):
        changed(
            design,
            {
                "train.meshes.stage1.driver": "gear2",
                "train.meshes.stage1.driven": "gear1",
                "train.input": "gear2",
            },
        )


def test_it_is_a_body_in_files(sector):
    design = exchanged(pair(), 0, "sector")
    body = bodies(design, evaluate(design).stages[0], 0)[1]
    assert volume_of(body_solid(body)) == pytest.approx(body.volume, rel=1e-4)
    assert body_mesh(body, 1e-3).volume == pytest.approx(body.volume, rel=1e-3)
    assert body_mesh(replace(body, twist=0.01), 1e-3).is_watertight


def test_it_is_drawn_posed_and_listed(window, sector):
    window.session.edit(lambda _d, _r: exchanged(pair(), 0, "sector"), "")
    settle()
    drawn, whole = (g.path().boundingRect() for g in reversed(window.bench.drawing.gears))
    stage = window.session.results.stages[0]
    assert drawn.height() < 0.8 * stage.gears[1].d_a and whole.height() == pytest.approx(stage.gears[0].d_a, rel=0.01)
    assert set(window.bench.column(2)) == {"z", "d", "b"}
    # It faces the pinion, at rest and in the train.
    gear = pose(window.session.results, 0.0).gears[1]
    assert np.cos(gear.angle) < -0.9
    window.bench.set_lens("train")
    window.bench.set_lens("side")
    window.grab()
    window.open_sheet("arrangement")
    assert window.sheet.findChild(QPushButton.__base__, "kind_sector") is not None
    window.open_more(2)
    assert window.sheet.findChild(QLabel) is not None
    assert any(words == "sector" for words, _ in window.sheet._shapes())


def test_a_pair_that_does_not_turn_ends_a_train(sector):
    design = exchanged(pair(), 0, "rack")
    with pytest.raises(OutOfRange, match="stage 1 ends in a rack"):
        with_row(design, [*row_of(design.train), *row_of(pair().train)])
    with pytest.raises(OutOfRange, match="a rack has no profile shift"):
        shift_map(design, evaluate(design), 0)
