"""Takes the pictures of docs/screenshots anew from the demos. Run: .venv/bin/python tools/write_pictures.py

The page of the report is taken from its PDF and is left as it is.
"""

import os
import sys
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
root = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(root / "src"))

from cooper.demo import demo  # noqa: E402
from cooper.desk.widgets import pictures  # noqa: E402
from cooper.desk.widgets.pictures import picture  # noqa: E402
from cooper.editing.edit import set_many  # noqa: E402

VIEWS = {
    "mirror-cover": ("arrangements", "contact", "gear", "play", "shifts", "start", "teeth", "tooth", "why"),
    "winch": ("duty", "losses", "side"),
    "filter-wheel": ("set",),
    "focuser": ("whole set",),
    "dome-ring": ("spectrum",),
    "dome-drive": ("train",),
}

for name, lenses in VIEWS.items():
    for lens in lenses:
        picture(demo(name), lens, root / "docs" / "screenshots" / f"{lens.replace(' ', '-')}.png")


def compared(window: object) -> None:
    """Two edits, laid beside the start."""
    session = window.session  # type: ignore[attr-defined]
    session.edit(lambda d, _r: set_many(d, {"train.stages.0.meshes.0.m_n": 1.375}), "m_n 1.375")
    session.edit(lambda d, _r: set_many(d, {"train.stages.0.members.0.z": 19}), "z_1 19")
    window.open_sheet("compare")  # type: ignore[attr-defined]


pictures.LENSES["compare"] = compared
picture(demo(), "compare", root / "docs" / "screenshots" / "compare.png")
picture(demo("winch"), "solid", root / "docs" / "screenshots" / "dark.png", theme="dark")
