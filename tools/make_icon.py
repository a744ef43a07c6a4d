"""Draws the program's icon from a gear pair of its own: packaging/org.example.Cooper.svg. Run: .venv/bin/python
tools/make_icon.py"""

import sys
from pathlib import Path

root = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(root / "src"))

from cooper.demo import demo  # noqa: E402
from cooper.editing.edit import set_many  # noqa: E402
from cooper.results.evaluate import evaluate  # noqa: E402

SIZE, ROOM = 128.0, 8.0


def icon() -> str:
    """A small pair in mesh on paper, as an SVG picture."""
    base = "train."
    design = set_many(demo(), {f"{base}gears.gear1.z": 12, f"{base}gears.gear2.z": 19, f"{base}gears.gear1.x": 0.3})
    stage = evaluate(design).stages[0]
    first, last, _high = stage.extent
    scale = (SIZE - 2 * ROOM) / (last - first)
    paths = []
    for section, x, motion, fill, line in zip(
        stage.sections,
        (0.0, stage.wheel_x),
        stage.motions(0.12, 1),
        ("#D3E4DD", "#DEE2EA"),
        ("#1F6F63", "#4C5C78"),
        strict=True,
    ):
        points = section.outline(0.02, motion) + [x - (first + last) / 2, 0.0]
        at = [f"{SIZE / 2 + scale * px:.2f},{SIZE / 2 + scale * py:.2f}" for px, py in points.tolist()]
        hole = max(section.edge / 2, 0.0)
        cx = SIZE / 2 + scale * (x - (first + last) / 2)
        paths.append(
            f'<polygon points="{" ".join(at)}" fill="{fill}" stroke="{line}" stroke-width="2" stroke-linejoin="round"/>'
        )
        paths.append(
            f'<circle cx="{cx:.2f}" cy="{SIZE / 2:.2f}" r="{scale * hole:.2f}" fill="#F6F1E7" stroke="{line}" '
            'stroke-width="2"/>'
        )
    body = "\n".join(paths)
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{SIZE:g}" height="{SIZE:g}" viewBox="0 0 {SIZE:g} {SIZE:g}">\n'
        f'<rect width="{SIZE:g}" height="{SIZE:g}" rx="22" fill="#F6F1E7"/>\n{body}\n</svg>\n'
    )


if __name__ == "__main__":
    (root / "packaging" / "org.example.Cooper.svg").write_text(icon(), encoding="utf-8")
