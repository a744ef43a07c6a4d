"""Writes a design in every form. Run: python examples/export_everything.py [FOLDER]"""

import sys
import tempfile
from pathlib import Path

import cooper

folder = Path(sys.argv[1] if len(sys.argv) > 1 else tempfile.mkdtemp())
model = cooper.example("mirror-cover")
model.save(folder / "cover.cooper.json")
for suffix in ("dxf", "svg", "step", "stl", "3mf", "csv", "xlsx", "html"):
    model.export(folder / f"cover.{suffix}")
for path in sorted(folder.glob("cover.*")):
    print(f"{path.stat().st_size:9,} bytes  {path.name}")
