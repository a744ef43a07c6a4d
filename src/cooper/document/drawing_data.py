"""What the drawing sheet of a gear says beside the design."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from cooper.document.base import NO_CONTROLS, Model, quantity

Scale = Literal["what fits", "50:1", "20:1", "10:1", "5:1", "2:1", "1:1", "1:2", "1:5", "1:10", "1:20", "1:50", "1:100"]
"""Scales of ISO 5455, or the greatest that fits."""


class Drawing(Model):
    """Tolerance grades of bore and tip, general tolerances, surfaces, run-outs (null: by ISO/TR 10064-3 from the flank tolerances), scale, paper, names."""

    IT_bore: int = quantity("IT_bore", 7, ge=4, le=12)
    IT_tip: int = quantity("IT_tip", 11, ge=4, le=14)
    Ra_bore: float = quantity("Ra_bore", 1.6, gt=0, le=50)
    Ra_face: float = quantity("Ra_face", 3.2, gt=0, le=50)
    Ra_rest: float = quantity("Ra_rest", 6.3, gt=0, le=50)
    t_tip: float | None = quantity("t_tip", None, gt=0, le=5)
    t_face: float | None = quantity("t_face", None, gt=0, le=5)
    general: str = Field("ISO 2768-mK", max_length=40, pattern=NO_CONTROLS, description="general tolerances")
    edges: str = Field("ISO 13715", max_length=40, pattern=NO_CONTROLS, description="edges without a mark of their own")
    scale: Scale = Field("what fits", description="scale of ISO 5455, or the greatest that fits")
    paper: Literal["what fits", "A4", "A3"] = Field("what fits", description="size of the sheet")
    part: str = Field("", max_length=60, pattern=NO_CONTROLS, description="number of the part")
    drawn: str = Field("", max_length=60, pattern=NO_CONTROLS, description="who drew it")
    checked: str = Field("", max_length=60, pattern=NO_CONTROLS, description="who checked it")
