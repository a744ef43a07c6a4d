"""What the Stress lens says: its chips, the numbers of the moment."""

from __future__ import annotations

from typing import TYPE_CHECKING

from cooper.desk.base import theme as th
from cooper.desk.lenses.loaded_source import LOADS
from cooper.desk.lenses.stress_drawing import KINDS
from cooper.document.units import number_with_unit
from cooper.gears.virtual import virtual_tooth_count
from cooper.i18n.text import term, tr
from cooper.i18n.translate import translate

if TYPE_CHECKING:
    from cooper.desk.lenses.stress_lens import StressLens

SHARED, WHOLE = tr("load as the pairs share it"), tr("one pair bears all")


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
    mesh = stage.meshes[0]
    name = stage.members[(mesh.driver, mesh.driven)[lens.gear]].name
    look = lens.look
    message = {
        "gear": name,
        "shown": KINDS[look.shown],
        "load": LOADS[lens.source.counted],
        "share": SHARED if lens.shared else WHOLE,
        "magnify": tr("deflection × {magnified:g}", magnified=look.magnified)
        if look.magnified
        else tr("no deflection"),
        "strokes": tr("directions shown") if look.strokes else tr("directions hidden"),
        "lines": tr("equal stress lined") if look.lines else tr("equal stress not lined"),
        "fit": tr("show all"),
        "ellipse": tr("elliptic root of least stress"),
        "hob": tr("hob tip of least stress"),
    }
    for key, text in message.items():
        chip = lens.chips[key]
        th.set_text_role(chip, "copper" if key == "gear" else "muted", bold=key == "gear")
        if key == "hob":
            gear = stage.members[(mesh.driver, mesh.driven)[lens.gear]]
            chip.setVisible(gear.tool == "rack" and lens.stage.kinds[lens.gear].turns)
        if key == "ellipse":
            chip.setVisible(all(kind.turns for kind in lens.stage.kinds))
        if chip.text() != text:
            chip.setText(translate(text))
            chip.setAccessibleName(translate(text))
            chip.adjustSize()
