"""The view that is looked at leaves as a picture: read back by others than what wrote it."""

import xml.etree.ElementTree as ElementTree

import pytest
from PIL import Image
from PySide6.QtWidgets import QApplication, QFileDialog

from cooper.desk.shell.picture_commands import FINER, view_of
from cooper.desk.shell.pictures import settle


@pytest.mark.parametrize("lens", ["teeth", "stress", "shafts"])
def test_any_view_is_copied_and_saved(window, tmp_path, monkeypatch, lens):
    window.bench.set_lens(lens)
    settle()
    window.run("copy_view")
    size = window.bench.size()
    copied = QApplication.clipboard().image()
    assert (copied.width(), copied.height()) == (size.width() * FINER, size.height() * FINER)
    for suffix in (".png", ".svg", ".pdf", ".bmp"):
        path = tmp_path / f"view{suffix}"
        monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_a, path=path: (str(path), ""))
        window.run("save_view")
        assert path.exists() == (suffix != ".bmp")
    with Image.open(tmp_path / "view.png") as image:
        assert image.size == (size.width() * FINER, size.height() * FINER)
        assert window.session.design.name in image.text["Title"]
        # Something is drawn: more than paper.
        assert len(image.convert("RGB").resize((200, 120)).getcolors(24000)) > 60
    svg = ElementTree.parse(tmp_path / "view.svg").getroot()
    assert svg.get("viewBox").split()[2:] == [str(size.width()), str(size.height())]
    ns = "{http://www.w3.org/2000/svg}"
    assert len(list(svg.iter(f"{ns}path"))) + len(list(svg.iter(f"{ns}polyline"))) > 20
    assert (tmp_path / "view.pdf").read_bytes()[:5] == b"%PDF-"
    assert not list(tmp_path.glob(".cooper-*"))
    window.open_survey()
    settle()
    assert view_of(window) is window.survey_page
