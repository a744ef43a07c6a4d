"""The external wheel, and the pair of two gears side by side: what `kind.Kind` says as it stands."""

from __future__ import annotations

from cooper.kinds.kind import Kind

EXTERNAL = Kind()
