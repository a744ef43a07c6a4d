"""Builds a Debian package that needs no network: the program with all it runs on, desktop entry, file type, icon,
man page, completion.

Run: .venv/bin/python tools/make_deb.py [FOLDER]   (the package is written there; here by default)
"""

import gzip
import re
import shutil
import subprocess
import sys
import tempfile
from importlib.metadata import distribution
from pathlib import Path

root = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(root / "src"))

from cooper import __version__  # noqa: E402

HERE = root / "packaging"
ID = "org.example.Cooper"
PLACES = {
    f"{ID}.desktop": "usr/share/applications",
    f"{ID}.metainfo.xml": "usr/share/metainfo",
    f"{ID}.xml": "usr/share/mime/packages",
    f"{ID}.svg": "usr/share/icons/hicolor/scalable/apps",
    "cooper.bash": "usr/share/bash-completion/completions",
}
"""Where each file of packaging/ goes."""
START = """#!/bin/sh
PYTHONPATH=/usr/lib/cooper exec python3 -P -m cooper "$@"
"""


def needed() -> list[str]:
    """Names of the packages that the program runs on, with what these need, as they are installed here."""
    text = (root / "pyproject.toml").read_text(encoding="utf-8").split("[project.optional-dependencies]")[0]
    todo = re.findall(r'^\s+"([A-Za-z0-9_.-]+)', text.split("dependencies = [")[1], re.MULTILINE)
    result: list[str] = []
    while todo:
        name = todo.pop()
        key = re.sub(r"[-_.]+", "-", name).lower()
        if key in result:
            continue
        result.append(key)
        for line in distribution(name).requires or []:
            requirement, _, marker = line.partition(";")
            if "extra" in marker or ("python_version" in marker and "<" in marker) or "win32" in marker:
                continue
            part = re.match(r"[A-Za-z0-9_.-]+", requirement.strip())
            if part is not None:
                try:
                    distribution(part[0])
                except ModuleNotFoundError:
                    continue
                todo.append(part[0])
    return sorted(result)


PRERM = """#!/bin/sh
set -e
find /usr/lib/cooper -name __pycache__ -type d -prune -exec rm -rf {} +
"""


def stage(folder: Path) -> None:
    """Lay the package's files out in a folder."""
    library = folder / "usr/lib/cooper"
    shutil.copytree(root / "src" / "cooper", library / "cooper", ignore=shutil.ignore_patterns("__pycache__"))
    for name in needed():
        one = distribution(name)
        for file in one.files or []:
            source = Path(str(one.locate_file(file)))
            if ".." in file.parts or file.suffix == ".pyc" or not source.is_file():
                continue
            target = library / file
            target.parent.mkdir(parents=True, exist_ok=True)
            shutil.copy2(source, target)
    for name, place in PLACES.items():
        target = folder / place / (name if name != "cooper.bash" else "cooper")
        target.parent.mkdir(parents=True, exist_ok=True)
        shutil.copy(HERE / name, target)
    man = folder / "usr/share/man/man1/cooper.1.gz"
    man.parent.mkdir(parents=True)
    man.write_bytes(gzip.compress((HERE / "cooper.1").read_bytes(), mtime=0))
    start = folder / "usr/bin/cooper"
    start.parent.mkdir(parents=True)
    start.write_text(START, encoding="utf-8")
    start.chmod(0o755)


def control(folder: Path) -> None:
    """What the package is and needs of the system."""
    text = (root / "tools" / "environment.sh").read_text(encoding="utf-8")
    system = re.findall(r'SYSTEM_PACKAGES="(.*?)"', text)[0].split()
    major, minor = sys.version_info[:2]
    size = sum(f.stat().st_size for f in folder.rglob("*") if f.is_file()) // 1024
    machine = subprocess.run(
        ["dpkg", "--print-architecture"], capture_output=True, text=True, check=True
    ).stdout.strip()
    lines = {
        "Package": "cooper",
        "Version": __version__,
        "Architecture": machine,
        "Maintainer": "The founders of Cooper <cooper@example.org>",
        "Installed-Size": str(size),
        # What is compiled runs with the Python that it was compiled for.
        "Depends": ", ".join([f"python3 (>= {major}.{minor})", f"python3 (<< {major}.{minor + 1})", *system]),
        "Section": "science",
        "Priority": "optional",
        "Description": "design and check gear trains on a drawing\n Spur, helical and planetary trains with their "
        "true teeth, rated by ISO and AGMA, with shafts and bearings.",
    }
    place = folder / "DEBIAN"
    place.mkdir()
    (place / "control").write_text("".join(f"{k}: {v}\n" for k, v in lines.items()), encoding="utf-8")
    # Bytecode that Python wrote next to the sources when root ran it is removed with the package.
    prerm = place / "prerm"
    prerm.write_text(PRERM, encoding="utf-8")
    prerm.chmod(0o755)


def main() -> None:
    out = Path(sys.argv[1] if len(sys.argv) > 1 else ".")
    with tempfile.TemporaryDirectory() as work:
        folder = Path(work) / "cooper"
        folder.mkdir(mode=0o755)
        stage(folder)
        control(folder)
        subprocess.run(
            ["dpkg-deb", "--root-owner-group", "-Zgzip", "-z6", "--build", str(folder), str(out)], check=True
        )


if __name__ == "__main__":
    main()
