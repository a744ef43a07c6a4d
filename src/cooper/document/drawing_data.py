"""What the drawing sheet of a gear says beside the design."""

from typing import Annotated, Literal

from cooper.document.base import NO_CONTROLS, Model, about, quantity

Scale = Literal["what fits", "50:1", "20:1", "10:1", "5:1", "2:1", "1:1", "1:2", "1:5", "1:10", "1:20", "1:50", "1:100"]
"""Scales of ISO 5455, or the greatest that fits."""


class Drawing(Model, frozen=True, kw_only=True):
    """Tolerance grades of bore and tip, general tolerances, surfaces, run-outs (null: by ISO/TR 10064-3 from the
    flank tolerances), scale, paper, names."""

    IT_bore: Annotated[int, quantity("IT_bore", ge=4, le=12)] = 7
    IT_tip: Annotated[int, quantity("IT_tip", ge=4, le=14)] = 11
    Ra_bore: Annotated[float, quantity("Ra_bore", gt=0, le=50)] = 1.6
    Ra_face: Annotated[float, quantity("Ra_face", gt=0, le=50)] = 3.2
    Ra_rest: Annotated[float, quantity("Ra_rest", gt=0, le=50)] = 6.3
    t_tip: Annotated[float, quantity("t_tip", gt=0, le=5)] | None = None
    t_face: Annotated[float, quantity("t_face", gt=0, le=5)] | None = None
    general: Annotated[str, about("general tolerances", max_length=40, pattern=NO_CONTROLS)] = "ISO 2768-mK"
    edges: Annotated[str, about("edges without a mark of their own", max_length=40, pattern=NO_CONTROLS)] = "ISO 13715"
    scale: Annotated[Scale, about("scale of ISO 5455, or the greatest that fits")] = "what fits"
    paper: Annotated[Literal["what fits", "A4", "A3"], about("size of the sheet")] = "what fits"
    part: Annotated[str, about("number of the part", max_length=60, pattern=NO_CONTROLS)] = ""
    drawn: Annotated[str, about("who drew it", max_length=60, pattern=NO_CONTROLS)] = ""
    checked: Annotated[str, about("who checked it", max_length=60, pattern=NO_CONTROLS)] = ""
