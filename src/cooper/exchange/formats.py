"""The ways out of the program: kinds of file, and what can be chosen for them. Loaded with the window; what writes
them is loaded when it writes."""

from __future__ import annotations

from msgspec import Struct

from cooper.i18n.text import tr

KINDS = {
    ".dxf": tr("both gears in mesh as DXF"),
    ".svg": tr("both gears in mesh as SVG"),
    ".csv": tr("flank points as CSV"),
    ".txt": tr("the report as text"),
    ".html": tr("the report as a page with drawings"),
    ".pdf": tr("the report as PDF"),
    ".xlsx": tr("the whole design as a spreadsheet"),
    ".step": tr("both gears as STEP solids in place and phase"),
    ".stl": tr("both gears as an STL mesh"),
    ".3mf": tr("both gears as 3MF meshes for printing"),
}
REPORTS = (".pdf", ".html")
SLOW = (".step", ".stl", ".3mf", ".dxf")
"""Kinds that take seconds, each written by a process of its own."""
MOVING = {
    ".gif": tr("the moving train as GIF"),
    ".mp4": tr("the moving train as MP4"),
    ".webm": tr("the moving train as WebM"),
}
"""Kinds of moving pictures, by suffix, in words."""
WHOLE = -1
"""Stage that stands for the whole train."""
LOADED_TABLES = ("curves", "cycle", "pressure", "topography", "map")
"""What of a loaded tooth leaves as a table."""
CURVES = ("splines", "polylines")


class Options(Struct, frozen=True):
    """``tolerance`` chord error (mm; None for the kind's own), ``compensation`` growth of the outline along its
    normal (mm), ``curves`` how a DXF draws flanks, ``gear`` 1 or 2 for one gear alone (0 both; solids, meshes and DXF),
    ``length`` of a report: summary, usual or all; ``state`` in words of the design that a report tells of; ``loaded``
    tables of the loaded tooth that a CSV or a spreadsheet has (`exchange.loaded_tables.TABLES`; none in a CSV: the
    flank points); ``digits`` shown beyond the usual decimals (None: as on the screen)."""

    tolerance: float | None = None
    compensation: float = 0.0
    curves: str = "splines"
    gear: int = 0
    length: str = tr("usual")
    state: str = ""
    digits: int | None = None
    loaded: tuple[str, ...] = ()
