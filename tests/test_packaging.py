"""What installs the program: desktop entry, file type, software data, man page, completion, package."""

import configparser
import importlib.util
import shutil
import subprocess
import tomllib
import xml.etree.ElementTree as ElementTree
from pathlib import Path

import pytest

from cooper import __version__
from cooper.document.store import SUFFIX

ROOT = Path(__file__).parents[1]
HERE = ROOT / "packaging"
ID = "org.example.Cooper"


def tool(name):
    spec = importlib.util.spec_from_file_location(f"tools_{name}", ROOT / "tools" / f"{name}.py")
    module = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(module)
    return module


def test_a_double_click_on_a_design_opens_the_program():
    entry = configparser.ConfigParser(interpolation=None)
    entry.optionxform = str
    entry.read(HERE / f"{ID}.desktop", encoding="utf-8")
    desktop = entry["Desktop Entry"]
    scripts = tomllib.loads((ROOT / "pyproject.toml").read_text())["project"]["scripts"]
    program, field = desktop["Exec"].split()
    assert program in scripts and field == "%f"
    name = "{http://www.freedesktop.org/standards/shared-mime-info}"
    kind = ElementTree.parse(HERE / f"{ID}.xml").getroot().find(f"{name}mime-type")
    assert desktop["MimeType"] == f"{kind.get('type')};"
    assert kind.find(f"{name}glob").get("pattern") == f"*{SUFFIX}"
    assert desktop["Icon"] == ID and (HERE / f"{ID}.svg").exists()
    text = ElementTree.parse(HERE / f"{ID}.metainfo.xml").getroot()
    assert text.findtext("id") == ID and text.findtext("launchable") == f"{ID}.desktop"
    assert text.find("releases/release").get("version") == __version__
    assert text.findtext("provides/mediatype") == kind.get("type")
    # The edition of the specification that validators know.
    assert desktop["Version"] == "1.0"


def test_what_python_compiled_goes_with_the_package(tmp_path):
    """The script that runs before removal, in a folder in place of the installed one."""
    kept, compiled = tmp_path / "cooper" / "a.py", tmp_path / "cooper" / "deep" / "__pycache__" / "a.pyc"
    compiled.parent.mkdir(parents=True)
    for file in (kept, compiled):
        file.write_text("")
    script = tool("make_deb").PRERM.replace("/usr/lib/cooper", str(tmp_path / "cooper"))
    subprocess.run(["sh", "-c", script], check=True)
    assert kept.exists() and not compiled.parent.exists()


@pytest.mark.skipif(shutil.which("appstreamcli") is None, reason="no appstreamcli here")
def test_the_software_data_validates():
    path = HERE / f"{ID}.metainfo.xml"
    done = subprocess.run(["appstreamcli", "validate", "--no-net", path], capture_output=True, text=True)
    assert done.returncode == 0, done.stdout


def test_man_page_and_completion_are_those_of_the_commands():
    docs = tool("write_docs")
    assert (HERE / "cooper.1").read_text(encoding="utf-8") == docs.man_page()
    assert (HERE / "cooper.bash").read_text(encoding="utf-8") == docs.completion()
    assert all(line for line in docs.man_page().splitlines())


def test_the_package_takes_what_the_program_runs_on_and_nothing_of_the_tests():
    names = tool("make_deb").needed()
    assert {"numpy", "scipy", "pyside6-essentials", "shiboken6", "scikit-fem", "msgspec", "ezdxf"} <= set(names)
    assert not {"pytest", "ruff", "mypy", "hypothesis", "openpyxl", "lib3mf"} & set(names)


def test_the_icon_is_drawn_by_the_program():
    assert (HERE / f"{ID}.svg").read_text(encoding="utf-8") == tool("make_icon").icon()
