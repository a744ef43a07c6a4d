"""Formulas and named values follow their stages when these change places."""

from __future__ import annotations

import re
from typing import Any

from cooper.design.document import Design


def follow_places(tree: dict[str, Any], design: Design, places: dict[int, int]) -> None:
    """Let formulas and names in a design's plain data follow the stages of ``design``; ``places`` tells where each one went.

    Formulas of stages that are gone go with them.
    """

    def follow(text: str) -> str:
        return re.sub(r"\bstage(\d+)\.", lambda m: f"stage{places.get(int(m[1]) - 1, -1) + 1}.", text)

    kept = {k: v for k, v in design.formulas.items() if not (m := re.match(r"stage(\d+)\.", k)) or int(m[1]) - 1 in places}
    tree["formulas"] = {follow(k): follow(v) for k, v in kept.items()}
    tree["names"] = {k: follow(v) for k, v in design.names.items()}
