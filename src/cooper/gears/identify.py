"""A part on the desk to be matched: module, pressure angle, helix and shift from what was measured."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from cooper.errors import OutOfRange
from cooper.gears.involute import inv
from cooper.gears.tooth import transverse_pressure_angle


@dataclass(frozen=True)
class Match:
    """One explanation of the measurements. mm and rad; residuals are measured less computed, ``score`` ranks (least best).

    ``h_a`` is the addendum factor that the outside diameter then asks for.
    """

    m_n: float
    alpha_n: float
    beta: float
    x: float
    h_a: float
    span_residual: float
    tip_residual: float
    score: float


def identify(
    z: int,
    d_a: float,
    spans: dict[int, float],
    modules: tuple[float, ...],
    *,
    alphas_deg: tuple[float, ...] = (14.5, 20.0, 25.0),
    beta: float = 0.0,
    h_aP: tuple[float, ...] = (1.0, 0.8),
    most: int = 8,
) -> list[Match]:
    """Best explanations of an external gear, ranked.

    ``z`` teeth, ``d_a`` outside diameter (mm), ``spans`` base tangent lengths (mm) by number of teeth spanned, one or
    more; ``modules`` the standard ones to try, ``beta`` the helix angle as measured (rad). The shift follows from the
    spans by least squares, the addendum from d_a = m_n (z/cos(beta) + 2 x + 2 h_a).
    """
    if not spans:
        raise OutOfRange("spans", "(none)", "at least one span is needed beside count and outside diameter")
    m = np.array(modules)[:, None, None]
    alpha = np.radians(np.array(alphas_deg))[None, :, None]
    h = np.array(h_aP)[None, None, :]
    alpha_t = transverse_pressure_angle(alpha, beta)
    k = np.array(list(spans))
    W = np.array(list(spans.values()))
    plain = np.cos(alpha)[..., None] * (np.pi * (k - 0.5) + (z * inv(alpha_t))[..., None])
    each = (W / m[..., None] - plain) / (2 * np.sin(alpha)[..., None])
    x = each.mean(axis=-1)
    residual = np.sqrt(
        np.mean((W - m[..., None] * (plain + 2 * x[..., None] * np.sin(alpha)[..., None])) ** 2, axis=-1)
    )
    tip = d_a - m * (z / np.cos(beta) + 2 * x + 2 * h)
    # A shift of 0.3 weighs as much as a tip residual of a tenth of a module: small shifts are more likely.
    score = np.hypot(np.hypot(residual * 10, tip) / m, x / 3) + 0.02 * (h != 1.0)
    order = np.argsort(score, axis=None)
    found: list[Match] = []
    seen = set()
    for flat in order:
        i, j, n = (int(v) for v in np.unravel_index(flat, score.shape))
        # Of one module and angle only the likelier addendum is listed.
        if (i, j) in seen:
            continue
        seen.add((i, j))
        if len(found) == most:
            break
        x_ij = float(x[i, j, 0])
        found.append(
            Match(
                float(m[i, 0, 0]), float(alpha[0, j, 0]), beta, x_ij,
                float((d_a / m[i, 0, 0] - z / np.cos(beta)) / 2 - x_ij),
                float(residual[i, j, 0]), float(tip[i, j, n]), float(score[i, j, n]),
            )
        )  # fmt: skip
    return found
