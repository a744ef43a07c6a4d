"""What the Stress lens says: its chips, the numbers of the moment."""

from __future__ import annotations

from typing import TYPE_CHECKING

from cooper.desk.lenses.loaded_source import LOADS
from cooper.desk.lenses.stress_drawing import KINDS
from cooper.document.units import number_with_unit
from cooper.gears.virtual import virtual_tooth_count
from cooper.i18n.text import term, tr
from cooper.i18n.translate import translate

if TYPE_CHECKING:
    from cooper.desk.lenses.stress_lens import StressLens

ON_OFF = {True: "●", False: "○"}
"""The mark before what is shown, or not."""
SHARED, WHOLE = tr("load as the pairs share it"), tr("one pair bears all")


ROWS = (
    (
        *((name, "chosen") for name in ("gear", "shown", "load", "share", "magnify")),
        *((name, "shown") for name in ("strokes", "lines")),
    ),
    tuple((name, "done") for name in ("ellipse", "hob", "fit")),
)
"""The words above the drawing in their order: what is chosen, what is shown or not, what is done."""


def place_chips(lens: StressLens) -> int:
    """Put the words above the drawing in their rows; returns where the drawing begins, px."""
    y = 48
    for row in ROWS:
        x, before = 14, row[0][1]
        for name, does in row:
            chip = lens.chips[name]
            chip.adjustSize()
            if chip.isHidden():
                continue
            x, before = x + (14 if does != before else 0), does
            if x > 14 and x + chip.width() > lens.width() - 12:
                x, y = 14, y + chip.height() + 2
            chip.move(x, y)
            x += chip.width() + 4
        y += lens.chips["gear"].height() + 4
    return y + 14


def moment_sentences(lens: StressLens, L: float, w: float) -> list[str]:
    """The numbers of the moment, in words."""
    b, system, s = lens._drawn.basis if lens._drawn else None, lens.session.system, lens.stage
    assert b is not None
    top, node, low, _ = b.root(L)
    error = tr(" ± {error:.1f} %", error=100 * b.error)
    lines = [
        tr(
            "{top}{error} at the root, {low} behind",
            top=number_with_unit(top * w, "stress", system),
            error=error,
            low=number_with_unit(low * w, "stress", system),
        )
    ]
    tooth = s.teeth[lens.gear]
    where = tr("largest where the fillet's tangent is at {node:.0f}°", node=b.tangent_angle(node))
    if b.cos_b < 1:
        z_n = float(virtual_tooth_count(tooth.z, tooth.beta, tooth.beta_b))
        where += tr("; normal section, virtual spur gear with z_n = {z_n:.1f}", z_n=abs(z_n))
    lines.append(where)
    grid = tr("{elements} elements, {fineness} grid", elements=len(b.elements), fineness=term(lens.source.fineness)) + (
        tr(", a finer one is coming") if lens.source.busy else ""
    )
    lines.append(
        tr(
            "plane strain, {grid}; a model beside the rating, which counts in no check. The load is a "
            "patch 0.24 modules wide.",
            grid=grid,
        )
    )
    if not b.solid:
        rim = number_with_unit(b.rim, "length", system)
        lines.append(
            tr(
                "The rim of {rim} under the root is held at the sides of the section alone: it bends as a "
                "ring that other teeth hold.",
                rim=rim,
            )
        )
    lines += [text for text in (lens.source.fault, lens.told) if text]
    return lines


def name_chips(lens: StressLens) -> None:
    stage = lens.session.design.train.stages[lens.session.stage]
    name = stage.gears[lens.gear].name
    look = lens.look
    message = {
        "gear": name,
        "shown": KINDS[look.shown],
        "load": LOADS[lens.source.counted],
        "share": SHARED if lens.shared else WHOLE,
        "magnify": tr("deflection × {magnified:g}", magnified=look.magnified)
        if look.magnified
        else tr("no deflection"),
        "strokes": tr("{on} directions", on=ON_OFF[look.strokes]),
        "lines": tr("{on} lines of equal stress", on=ON_OFF[look.lines]),
        "fit": tr("show all"),
        "ellipse": tr("elliptic root of least stress"),
        "hob": tr("hob tip of least stress"),
    }
    for key, text in message.items():
        chip = lens.chips[key]
        if key == "hob":
            gear = stage.gears[lens.gear]
            chip.setVisible(gear.tool == "rack" and lens.stage.kinds[lens.gear].turns)
        if key == "ellipse":
            chip.setVisible(all(kind.turns for kind in lens.stage.kinds))
        if chip.text() != text:
            chip.setText(translate(text))
            chip.setAccessibleName(translate(text))
            chip.adjustSize()
