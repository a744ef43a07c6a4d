import csv
import io
import re
from html.parser import HTMLParser
from itertools import pairwise

import ezdxf
import numpy as np
import pytest
from ezdxf.path import make_path
from pypdf import PdfReader
from PySide6.QtCore import QByteArray
from PySide6.QtGui import QImage, QPainter
from PySide6.QtSvg import QSvgRenderer
from scipy.spatial import cKDTree

from cooper.demo import demo
from cooper.desk.shell.app import application
from cooper.editing.edit import set_at
from cooper.exchange.dxf import LAYERS
from cooper.exchange.formats import Options
from cooper.exchange.report import report_text
from cooper.exchange.report_page import report_html
from cooper.exchange.save import export
from cooper.exchange.statement import state_hash
from cooper.results.evaluate import evaluate
from makers import pair


def test_dxf_passes_its_audit_and_holds_both_closed_outlines_in_mesh(tmp_path):
    design = demo()
    results = evaluate(design)
    export(design, results, tmp_path / "pair.dxf", options=Options(curves="polylines"))
    doc = ezdxf.readfile(tmp_path / "pair.dxf")
    audit = doc.audit()
    assert not audit.errors
    assert not audit.fixes
    assert doc.units == ezdxf.units.MM
    assert {e.dxf.layer for e in doc.modelspace()} == {*LAYERS, "LEGEND"}
    outlines = doc.modelspace().query('LWPOLYLINE[layer=="OUTLINE"]')
    assert [o.closed for o in outlines] == [True, True]
    s = results.stages[0]
    for outline, gear, x in zip(outlines, s.gears, (0.0, s.mesh["a_w"]), strict=True):
        points = np.array(outline.get_points("xy")) - [x, 0]
        radii = np.hypot(*points.T)
        assert radii.max() == pytest.approx(gear["d_a"] / 2, abs=1e-9)
        assert radii.min() == pytest.approx(gear["d_fE"] / 2, abs=1e-9)
        # As many teeth as counted by passages through the reference circle.
        crossings = np.sum((radii > gear["d"] / 2) != (np.roll(radii, 1) > gear["d"] / 2))
        assert crossings == 2 * gear["z"]
        area = 0.5 * np.sum(points[:, 0] * np.roll(points[:, 1], -1) - points[:, 1] * np.roll(points[:, 0], -1))
        density = 7850e-9
        blank = area - np.pi / 4 * gear["d_bore"] ** 2
        assert blank * gear["b"] * density == pytest.approx(gear["mass"], rel=2e-4)


def test_flank_points_run_from_the_root_to_beyond_the_tip(tmp_path):
    design = pair(z1=9, x1=0.1)
    results = evaluate(design)
    export(design, results, tmp_path / "flank.csv")
    lines = [line for line in (tmp_path / "flank.csv").read_text().splitlines() if not line.startswith("#")]
    rows = [r for r in csv.DictReader(io.StringIO("\n".join(lines))) if r["gear"] == "1"]
    gear = results.stages[0].gears[0]
    radii = np.array([float(r["radius"]) for r in rows])
    assert radii[0] == pytest.approx(gear["d_fE"] / 2, abs=1e-5)
    assert radii[-1] > gear["d_a"] / 2
    assert list(dict.fromkeys(r["part"] for r in rows)) == ["root arc", "fillet", "involute", "beyond tip"]
    for r in rows:
        x, y, half = float(r["x"]), float(r["y"]), np.radians(float(r["half_angle"]))
        assert np.hypot(x, y) == pytest.approx(float(r["radius"]), abs=2e-6)
        assert np.arctan2(y, x) == pytest.approx(half, abs=1e-6)
        if r["part"] in ("involute", "beyond tip"):
            alpha = np.arccos(gear["d_b"] / 2 / float(r["radius"]))
            tooth = results.stages[0].teeth[0]
            expected = tooth.s_t() / gear["d"] + np.tan(np.radians(20)) - np.radians(20) - np.tan(alpha) + alpha
            assert half == pytest.approx(float(expected), abs=1e-6)


def test_the_report_can_be_checked_by_hand():
    design = demo()
    text = report_text(design, evaluate(design))
    for words in ("S_H1, flank, pinion, factor chain", "Z_NT", "(entered)", "[ISO 6336-3:2019, 6]", "Notes", "margin"):
        assert words in text
    inch = report_text(design, evaluate(design), "inch")
    assert "psi" in inch
    assert "lbf in" in inch
    assert "nan" not in text.lower().split()


class Tags(HTMLParser):
    """Counts tags and holds that every one that opens is closed in its turn."""

    def __init__(self):
        super().__init__()
        self.open, self.seen = [], []

    def handle_starttag(self, tag, attrs):
        self.seen.append(tag)
        if tag != "meta":
            self.open.append(tag)

    def handle_startendtag(self, tag, attrs):
        self.seen.append(tag)

    def handle_endtag(self, tag):
        assert self.open.pop() == tag


def test_the_report_as_a_page_holds_the_same_numbers_with_drawings():
    for name in ("winch", "dome-ring", "dome-rack"):
        design = demo(name)
        results = evaluate(design)
        page, text = report_html(design, results), report_text(design, results)
        tags = Tags()
        tags.feed(page)
        assert not tags.open
        # Train, margins, losses, each mesh, each shaft.
        shafts = 0 if results.machine is None else len(results.machine.shafts)
        assert tags.seen.count("svg") == 3 + len(results.stages) + shafts
        assert tags.seen.count("math") > 60 * len(results.stages)
        assert "http" not in page.replace("http://www.w3.org/2000/svg", "")
        assert "<msub><mi>σ</mi><mtext>Hlim1</mtext></msub>" in page
        for c in results.checks:
            assert f"margin {c.margin:+.1%}" in page
        page, text = (f(design, results, length="all") for f in (report_html, report_text))
        shown = re.sub(r"<[^>]+>", " ", page)
        # Pages have formulas where the text has chains.
        text = re.sub(r"\n[^\n]*factor chain\n-+\n.*?(?=\n\n)", "", text, flags=re.S)
        numbers = set(re.findall(r"\b\d+\.\d{3,}\b", text))
        assert len(numbers) > 100
        assert all(n in shown for n in numbers)


def test_an_unknown_suffix_is_refused_and_names_the_known_ones(tmp_path):
    with pytest.raises(ValueError, match=r"\.dxf"):
        export(demo(), evaluate(demo()), tmp_path / "pair.xyz")


def test_svg_is_well_formed_in_true_size_and_keeps_the_teeth(tmp_path):
    import xml.etree.ElementTree as ET

    design = set_at(pair(), "name", "a < b & c")
    results = evaluate(design)
    export(design, results, tmp_path / "pair.svg")
    root = ET.parse(tmp_path / "pair.svg").getroot()
    s = results.stages[0]
    width = sum(g["d_a"] for g in s.gears) / 2 + s.mesh["a_w"]
    assert float(root.attrib["width"].removesuffix("mm")) == pytest.approx(width + 4, abs=1e-3)
    paths = [e.attrib["d"] for e in root.iter("{http://www.w3.org/2000/svg}path")]
    for d, gear, x in zip(paths, s.gears, (0.0, s.mesh["a_w"]), strict=True):
        points = np.array([[float(v) for v in pair_.split()] for pair_ in d[1:-1].split("L")]) - [x, 0]
        assert np.hypot(*points.T).max() == pytest.approx(gear["d_a"] / 2, abs=1e-3)


def test_reports_come_in_three_lengths_without_noise():
    d = demo("winch")
    r = evaluate(d)
    texts = {length: report_text(d, r, length=length) for length in ("summary", "usual", "all")}
    sizes = [len(t) for t in texts.values()]
    assert sizes[0] < 0.12 * sizes[1] < 0.12 * sizes[2]
    for text in texts.values():
        assert not re.search(r"\b(True|False|None|solved)\b", text)
        for stage in d.train.stages:
            assert f"{stage.name} is governed by" in text
        assert f"Verdict: {r.verdict}" in text and "wanted 12 within 2 %" in text
    worst = min((c for c in r.checks if c.stage == 1 and not c.part), key=lambda c: c.margin)
    assert f"{worst.label}" in texts["summary"] and "factor chain" not in texts["summary"]
    # What stands as in every new design is entered all the same, and all tells it.
    assert (
        "f_ZCa" in texts["all"].split("Motor stage: checks")[0]
        and "f_ZCa" not in texts["usual"].split("Motor stage: checks")[0]
    )
    assert texts["all"].count("teeth under nominal load") == 2 and "field, largest at the root" in texts["all"]
    for symbol in ("x  ", "h_fP", "Q  ", "alpha_n"):
        assert f"\n  {symbol}" in texts["usual"]
    with pytest.raises(ValueError, match="summary, usual, all"):
        report_text(d, r, length="long")


def test_the_report_as_pdf_is_read_by_another_reader(tmp_path):
    design = demo("mirror-cover")
    results = evaluate(design)
    path = tmp_path / "report.pdf"
    sizes = []
    for length in ("summary", "usual", "all"):
        export(design, results, path, "inch", 0, Options(length=length, state="state 3 of 7"))
        pages = PdfReader(path).pages
        text = "\n".join(p.extract_text() for p in pages)
        sizes.append(len(pages))
        assert f"1 of {len(pages)}" in text and f"{len(pages)} of {len(pages)}" in text
        assert "state 3 of 7" in pages[0].extract_text() and state_hash(design) in pages[-1].extract_text()
        assert f"Verdict: {results.verdict}" in pages[0].extract_text() and "What governs" in pages[0].extract_text()
    assert sizes[0] <= 3 < sizes[1] < sizes[2]
    for words in ("ISO 6336-2:2019, 6", "ISO 6336-3:2019", "Notes and assumptions", "psi"):
        assert words in text
    # Numbers put in: the factor of the zone with its angles.
    m = results.stages[0].mesh
    assert f"{m.alpha_wt:.5g}" in text and f"{m.Z_H:.5g}" in text
    with pytest.raises(OSError, match="no"):
        export(design, results, tmp_path / "no" / "report.pdf")


def test_both_drawings_of_a_pair_ink_the_same_lines(tmp_path):
    """The SVG as pixels against the points of the DXF: every curve is inked, and no ink of the outlines lies beside
    one."""
    application()
    d = demo("winch")
    r = evaluate(d)
    for suffix in ("svg", "dxf"):
        export(d, r, tmp_path / f"pair.{suffix}")
    text = (tmp_path / "pair.svg").read_text(encoding="utf-8")
    left, top, width, height = (float(v) for v in re.search(r'viewBox="([^"]+)"', text).group(1).split())
    dots = 8
    image = QImage(int(width * dots), int(height * dots), QImage.Format.Format_Grayscale8)
    image.fill(255)
    painter = QPainter(image)
    QSvgRenderer(QByteArray(text.encode())).render(painter)
    painter.end()
    rows = np.frombuffer(image.constBits(), np.uint8).reshape(image.height(), image.bytesPerLine())
    ink = rows[:, : image.width()] < 200
    curves = {"OUTLINE": [], "OTHER": []}
    for e in ezdxf.readfile(tmp_path / "pair.dxf").modelspace():
        if e.dxftype() in ("SPLINE", "ARC", "CIRCLE", "LINE", "LWPOLYLINE"):
            path = make_path(e)
            points = [[p.x, -p.y] for p in path.flattening(0.005)]
            fine = [a + t * (b - a) for a, b in pairwise(np.array(points)) for t in np.linspace(0, 1, 9)]
            curves["OUTLINE" if e.dxf.layer == "OUTLINE" else "OTHER"].append(fine)
    there = {k: (np.vstack(v) - [left, top]) * dots for k, v in curves.items()}
    y, x = np.nonzero(ink)
    inked = cKDTree(np.column_stack((x, y)) + 0.5)
    assert inked.query(there["OUTLINE"])[0].max() < 1.5
    both = cKDTree(np.vstack(list(there.values())))
    assert np.quantile(both.query(inked.data)[0], 0.999) < 2.5
