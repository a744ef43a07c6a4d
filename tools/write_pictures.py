"""Takes the pictures of docs/screenshots anew from the demos. Run: .venv/bin/python tools/write_pictures.py"""

import os
import sys
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
root = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(root / "src"))

from cooper.demo import demo  # noqa: E402
from cooper.desk.shell.pictures import picture  # noqa: E402
from cooper.exchange.report_pdf import page_png  # noqa: E402
from cooper.results.evaluate import evaluate  # noqa: E402

VIEWS = {
    "mirror-cover": (
        "contact",
        "duty",
        "play",
        "shifts",
        "start",
        "stress",
        "teeth",
        "tooth",
        "why",
    ),
    "winch": ("drawing", "loaded", "losses", "shafts", "survey"),
    "filter-wheel": ("set",),
    "focuser": ("whole set",),
    "dome-drive": ("train",),
}

for name, lenses in VIEWS.items():
    for lens in lenses:
        picture(demo(name), lens, root / "docs" / "screenshots" / f"{lens.replace(' ', '-')}.png")

picture(demo("winch"), "machine", root / "docs" / "screenshots" / "dark.png", theme="dark")

report = page_png(demo(), evaluate(demo()), 4)
(root / "docs" / "screenshots" / "report.png").write_bytes(report)
