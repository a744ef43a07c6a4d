"""The file: a design's plain data, in which a part does not repeat the identity that it stands under."""

from __future__ import annotations

from typing import Any

Tree = dict[str, Any]
BY_IDENTITY = ("gears", "meshes", "sets")


def to_file(design: Tree) -> Tree:
    """The file's data from a design's (`Model.plain`)."""
    train = dict(design["train"])
    for name in BY_IDENTITY:
        train[name] = {key: {k: v for k, v in part.items() if k != "id"} for key, part in train[name].items()}
    return {**design, "train": train}
