"""What all models of the document have in common."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel, ConfigDict, Field

from cooper.document.quantities import QUANTITIES
from cooper.document.units import KINDS

NO_CONTROLS = r"^[^\x00-\x1f\x7f-\x9f]*$"
"""Names hold no control characters, which would break files and terminals."""


class Model(BaseModel):
    """Frozen, keeps unknown fields, refuses NaN and infinity."""

    model_config = ConfigDict(frozen=True, extra="allow", allow_inf_nan=False, revalidate_instances="never")


def quantity(symbol: str, default: Any = ..., **limits: float) -> Any:
    """A field that carries its quantity's symbol, unit and meaning into the schema and the screen."""
    q = QUANTITIES[symbol]
    extra: dict[str, Any] = {"symbol": symbol, "unit": KINDS[q.kind].document, "kind": q.kind}
    return Field(default, description=q.meaning, json_schema_extra=extra, **limits)  # type: ignore[call-overload]
