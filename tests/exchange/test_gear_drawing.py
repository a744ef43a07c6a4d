"""Drawing sheets read back by readers that did not write them, and held against the gear."""

import json
import re
from pathlib import Path

import ezdxf
import numpy as np
import pytest
from msgspec.structs import replace
from pypdf import PdfReader
from PySide6.QtCore import QByteArray
from PySide6.QtGui import QImage, QPainter
from PySide6.QtSvg import QSvgRenderer

from cooper.demo import DEMOS, demo
from cooper.desk.shell.app import application
from cooper.document.store import design_text, open_design
from cooper.editing.edit import set_many
from cooper.errors import OutOfRange
from cooper.exchange.gear_drawing import FITTING, SCALES, gear_drawing, key_of, says
from cooper.exchange.gear_section import proposed_run_outs
from cooper.exchange.paper import MEANINGS, Area, Circle, Text, hatch_lines, width_of
from cooper.gears.measure import span
from cooper.results.blank import Blank, blank_of
from cooper.results.evaluate import evaluate
from makers import pair, planet_set, splined_winch

DRAWING = "train.gears.gear2.drawing."


def words(paper):
    return [t.words for t in paper.items if isinstance(t, Text)]


def test_every_gear_of_every_demo_stands_within_its_sheet():
    for design in (*map(demo, DEMOS), pair(), planet_set()):
        results = evaluate(design)
        for k, stage in enumerate(results.stages):
            for i in (1, 2):
                for system in ("mm", "inch"):
                    p = gear_drawing(design, results, k, i, system)
                    scale = SCALES[next(w for w in words(p) if re.match(r"\d+:\d+, A", w)).split(",")[0]]
                    for t in (t for t in p.items if isinstance(t, Text)):
                        wide = width_of(t.words, t.size, t.italic) * {"start": 1.0, "middle": 0.5, "end": 0.0}[t.anchor]
                        if not t.turn:
                            assert t.at[0] > 20 and t.at[0] + wide < p.width - 9, (design.name, k, i, t)
                        assert 10 < t.at[1] < p.height - 10, (design.name, k, i, t)
                    if stage.kinds[i - 1].turns:
                        radii = [round(c.r / scale, 6) for c in p.items if isinstance(c, Circle)]
                        g = stage.gears[i - 1]
                        for d in (g.d_a, g.d_fE, g.d):
                            assert round(abs(float(d)) / 2, 6) in radii
                        assert max(c.middle[0] - c.r for c in p.items if isinstance(c, Circle)) > 20


def test_three_readers_find_the_same_gear(tmp_path):
    design = set_many(demo("winch"), {"train.gears.gear3.drawing.part": "KL-204"})
    results = evaluate(design)
    p = gear_drawing(design, results, 1, 1)
    for suffix in (".dxf", ".pdf", ".svg"):
        p.write(tmp_path / f"sheet{suffix}")
    g, tooth = results.stages[1].gears[0], results.stages[1].teeth[0]
    text = PdfReader(tmp_path / "sheet.pdf").pages[0]
    message = text.extract_text()
    k = next(int(w.split()[2]) for w in words(p) if w.startswith("span over"))
    # The span with its limits, by the teeth themselves.
    low = float(
        span(
            tooth,
            k,
            tooth.x + float(design.train.stages[1].gears[0].E_sni) / (2 * float(tooth.m_n) * np.tan(np.radians(20))),
        )
    )
    for wanted in (
        "KL-204",
        "Toothing",
        f"Ø{g.d_a:.3f} h11",
        "Ø20 H7",
        "6 JS9",
        "ISO 53",
        f"{low:.3f}".rstrip("0"),
        "case-hardened steel, MQ",
    ):
        assert wanted in message, wanted
    assert [round(float(v) / 72 * 25.4) for v in text.mediabox[2:]] == [p.width, p.height]
    doc = ezdxf.readfile(tmp_path / "sheet.dxf")
    assert not doc.audit().errors
    assert {layer.dxf.name for layer in doc.layers} >= set(MEANINGS)
    space = doc.modelspace()
    drawn = {e.dxf.text for e in space.query("TEXT")}
    assert "KL-204" in drawn and all(any(name in t for t in drawn) for name in MEANINGS)
    assert any(np.isclose(c.dxf.radius, g.d_a / 2) for c in space.query("CIRCLE"))
    assert doc.units == ezdxf.units.MM and any("scale 1:1" in t for t in drawn)
    # As pixels: the tip circle is inked all the way round, beside it the paper is white.
    application()
    renderer = QSvgRenderer(QByteArray((tmp_path / "sheet.svg").read_bytes()))
    dots = 8
    image = QImage(int(p.width * dots), int(p.height * dots), QImage.Format.Format_Grayscale8)
    image.fill(255)
    painter = QPainter(image)
    renderer.render(painter)
    painter.end()
    pixels = np.frombuffer(image.constBits(), np.uint8).reshape(image.height(), image.bytesPerLine())
    tip = max((c for c in p.items if isinstance(c, Circle) and c.kind == "edge"), key=lambda c: c.r)
    at = np.linspace(0, 2 * np.pi, 360, endpoint=False)
    for r, dark in ((tip.r, True), (tip.r - 0.9, False)):
        x, y = tip.middle[0] + r * np.cos(at), p.height - tip.middle[1] - r * np.sin(at)
        seen = pixels[(y * dots).astype(int), (x * dots).astype(int)] < 128
        assert seen.mean() > 0.98 if dark else seen.mean() < 0.2


def test_what_the_sheet_says_can_be_chosen_and_is_kept(tmp_path):
    design = set_many(
        splined_winch(),
        {
            DRAWING + k: v
            for k, v in {
                "IT_tip": 9,
                "Ra_bore": 0.8,
                "t_tip": 0.02,
                "scale": "1:5",
                "paper": "A3",
                "drawn": "Ida",
            }.items()
        },
    )
    results = evaluate(design)
    text = words(gear_drawing(design, results, 0, 2))
    for wanted in ("Ø123.454 h9", "Ø27.5 H11", "Ra 0.8", "0.02", "1:5, A3", "Ida"):
        assert wanted in text
    assert any(t.startswith("spline DIN 5480 – N 30 x 1.25 x 22 x 9H") for t in text)
    keyed = set_many(design, {"train.gears.gear3.drawing.IT_bore": 6})
    text = words(gear_drawing(keyed, evaluate(keyed), 1, 1))
    assert "Ø20 H6" in text and "+0.013" in text
    path = tmp_path / "design.json"
    path.write_text(design_text(design), encoding="utf-8")
    assert open_design(path).train.stages[0].gears[1].drawing.drawn == "Ida"
    # A file from before there were drawing sheets.
    plain = json.loads(design_text(demo("winch")))
    assert all(gear.pop("drawing") for gear in plain["train"]["gears"].values())
    path.write_text(json.dumps(plain), encoding="utf-8")
    assert open_design(path).train.stages[0].gears[1].drawing.scale == FITTING
    for bad in ({"IT_bore": 3}, {"scale": "1:3"}, {"part": "a\nb"}, {"t_tip": 0.0}):
        with pytest.raises(OutOfRange):
            set_many(design, {DRAWING + k: v for k, v in bad.items()})
    with pytest.raises(ValueError, match=r"\.pdf, \.dxf or \.svg"):
        gear_drawing(design, results, 0, 1).write(Path("sheet.png"))


def test_blanks_and_hatching_are_what_is_cut():
    # A web: the face that is cut is what lies between bore and roots, less both recesses.
    web = Blank(104.0, 95.0, 20.0, 30.0, web=(48.0, 80.0, 8.0))
    x, r = np.array(web.cut()).T
    area = 0.5 * abs(np.dot(x, np.roll(r, 1)) - np.dot(r, np.roll(x, 1)))
    assert area == pytest.approx(20 * (47.5 - 15) - 12 * (40 - 24))
    design = demo("dome-ring")
    ring = blank_of(design, evaluate(design), 0, 1)
    assert ring.outside > ring.d_f > ring.d_a and min(v for _, v in ring.cut()) == ring.d_f / 2
    square = Area(((0, 0), (40, 0), (40, 40), (0, 40)))
    length = sum(np.hypot(b[0] - a[0], b[1] - a[1]) for a, b in hatch_lines(square))
    # Lines at a distance fill an area: their length times it.
    assert length * 2.2 == pytest.approx(1600, rel=0.02)


def test_run_outs_are_shares_of_the_flank_tolerances():
    # ISO 1328-1:2013 at d 125, m 4, class 6: F_p 0.026 mm by its table of rounded values, F_beta at b 40 0.013 to
    # 0.014.
    tip, face = proposed_run_outs(125.0, 4.0, 40.0, 6, 160.0)
    assert tip == 0.005 and face == 0.005
    assert proposed_run_outs(125.0, 4.0, 40.0, 9, 400.0)[1] > face
    assert proposed_run_outs(2.0, 0.2, 3.0, 6, 2.0) is None


@pytest.mark.parametrize(
    ("name", "k", "i"),
    [("winch", 0, 2), ("winch", 0, 1), ("dome-ring", 0, 2), ("dome-rack", 0, 2), ("mirror-cover", 0, 1)],
)
def test_every_field_of_the_sheet_changes_what_is_drawn_and_no_other_does(name, k, i):
    design = demo(name)
    before = gear_drawing(design, evaluate(design), k, i).items
    at = f"{design.train.stages[k].paths[i - 1]}.drawing."
    other = {"IT_bore": 9, "IT_tip": 8, "Ra_bore": 0.8, "Ra_face": 1.1, "Ra_rest": 12.5, "t_tip": 0.3, "t_face": 0.4}
    drawn = set()
    for field, value in other.items():
        changed = set_many(design, {at + field: value})
        if gear_drawing(changed, evaluate(changed), k, i).items != before:
            drawn.add(field)
    assert drawn == says(design, evaluate(design), k, i)


def test_words_of_the_title_block_are_set_smaller_not_cut():
    part = "W" * 20 + " part number of a wheel 0123456789 to be read"
    design = set_many(demo("winch"), {DRAWING + "part": part[:60]})
    paper = gear_drawing(design, evaluate(design), 0, 2)
    assert part[:60] in words(paper)


def test_run_outs_proposed_are_those_worked_out_by_hand():
    """d 150, class 9: F_p = 4 (0.002 d + 0.55 sqrt d + 0.7 m + 12) is 83.1 um at m 2.5 and 84.0 at m 2.8, F_beta at
    b 40 41.2 um, each just on its side of a step."""
    assert proposed_run_outs(150.0, 2.5, 40.0, 9, 150.0) == (0.02, 0.015)
    assert proposed_run_outs(150.0, 2.8, 40.0, 9, 240.0) == (0.025, 0.02)


@pytest.mark.parametrize(
    ("kind", "b", "t_2", "wanted"),
    [
        ("key", 6, 2.8, ("6 JS9", "+0.015", "22.8", "+0.1")),
        ("key", 8, 3.3, ("8 JS9", "+0.018", "23.3", "+0.2")),
        ("two keys", 36, 8.0, ("36 JS9", "+0.031", "36", "+0.6")),
    ],
)
def test_keyways_carry_the_limits_of_their_table(kind, b, t_2, wanted, monkeypatch):
    """DIN 6885-1: depth in the hub +0.1 up to a key of 6, +0.2 up to 32, then +0.3; JS9 of 6 is 30 um wide, of 8 36,
    of 36 62."""
    design = demo("winch")
    results = evaluate(design)
    joint = key_of(results, 1, 1, design.train.stages[1].gears[0].id)
    monkeypatch.setattr("cooper.exchange.gear_drawing.key_of", lambda *_: replace(joint, kind=kind, b=b, t_2=t_2))
    shown = words(gear_drawing(design, results, 1, 1))
    assert set(wanted) <= set(shown)
    assert f"Rz {design.train.stages[1].gears[0].Rz_H:g}" in shown


def test_a_hub_is_drawn_1_6_bores_thick():
    design = set_many(pair(), {"train.gears.gear2.d_bore": 20.0, "train.gears.gear2.d_i": 60.0})
    blank = blank_of(design, evaluate(design), 0, 1)
    assert blank.web is not None and blank.web[0] == pytest.approx(32.0)
