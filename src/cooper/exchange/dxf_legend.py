"""The legend of a drawing's layers, and what the file says of itself."""

from __future__ import annotations

from typing import Any

LAYER = "LEGEND"


def dxf_words(words: str) -> str:
    """A text as it is read: of DXF's own signs, which begin with %%, none is taken for one.

    >>> dxf_words("50 %%c"), dxf_words("5 %")
    ('50 %%%%%%c', '5 %')
    """
    return words.replace("%%", "%%%%%%")


def add_legend(doc: Any, space: Any, meanings: dict[str, str], text: str, at: tuple[float, float], size: float) -> None:
    """Say what lies on each layer, downwards from ``at`` (mm) in letters of a size (mm), with what the file says of
    itself at its end; each layer is described, too."""
    doc.layers.add(LAYER, color=8)
    lines = ["Layers"]
    for name, meaning in meanings.items():
        if name in doc.layers:
            doc.layers.get(name).description = meaning
        lines.append(f"{name}: {meaning}")
    for n, words in enumerate([*lines, "", text]):
        if words:
            space.add_text(dxf_words(words), height=size, dxfattribs={"layer": LAYER}).set_placement(
                (at[0], at[1] - 1.8 * size * n)
            )
