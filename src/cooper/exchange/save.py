"""One door for every export: the kind by the file's suffix."""

from __future__ import annotations

import os
import tempfile
from pathlib import Path

from cooper.design.document import Design
from cooper.design.results import Results
from cooper.design.store import write_atomically
from cooper.exchange.dxf import write_dxf
from cooper.exchange.flank_csv import flank_csv
from cooper.exchange.report import report_text
from cooper.exchange.svg import pair_svg

KINDS = {
    ".dxf": "both gears in mesh as DXF",
    ".svg": "both gears in mesh as SVG",
    ".csv": "flank points as CSV",
    ".txt": "the report as text",
}


def export(design: Design, results: Results, path: Path, system: str = "mm", stage: int = 0) -> None:
    """Write one export; raises ValueError for an unknown suffix and OSError when the disk refuses."""
    kind = path.suffix.lower()
    if kind == ".dxf":
        handle, temporary = tempfile.mkstemp(prefix=f".{path.name}.", suffix=".part", dir=path.parent)
        os.close(handle)
        try:
            write_dxf(results.stages[stage], temporary)
            os.chmod(temporary, 0o644)
            os.replace(temporary, path)
        finally:
            Path(temporary).unlink(missing_ok=True)
    elif kind == ".svg":
        write_atomically(path, pair_svg(results.stages[stage]))
    elif kind == ".csv":
        write_atomically(path, flank_csv(results.stages[stage]))
    elif kind == ".txt":
        write_atomically(path, report_text(design, results, system))
    else:
        known = ", ".join(f"{k} ({w})" for k, w in KINDS.items())
        raise ValueError(f"{path.name}: the suffix {kind or '(none)'} is not known; known are {known}")
