"""The demo designs, set in the workshop of Larkfell observatory."""

from __future__ import annotations

from importlib.resources import files

from cooper.design.document import Design


def demo(name: str = "mirror-cover") -> Design:
    """One demo design by its file name.

    >>> demo().name
    'Mirror-cover actuator'
    """
    return Design.model_validate_json((files("cooper.demo") / f"{name}.json").read_text(encoding="utf-8"))
