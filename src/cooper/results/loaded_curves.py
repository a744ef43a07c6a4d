"""A mesh cycle as curves along the path of contact and as a picture over the flank, and what is told of it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from cooper.arrays import Array
from cooper.field.loaded_contact import MeshCycle, largest_near, orders
from cooper.results.loaded_tooth import LoadedAsk

POINTS = 121
"""Places along the path of contact."""
FACE = 40
"""Places along the face of the picture of a flank."""


@dataclass(frozen=True)
class LoadedCurves:
    """Over the path coordinate ``g`` (mm): ``share`` of the load on the pair whose middle is there, largest pressure ``p`` and root stresses ``sigma`` (2) of the slices
    that are there (MPa). Over one pitch, in steps ``turn`` (0 to 1): transmission error ``te`` (um) and mesh stiffness ``c`` (N/(mm um)), with its mean. ``flank`` (g, y) the
    pressure over the flank at ``y`` (mm); ``ptp`` of the transmission error with the amplitudes of its ``orders`` (um); ``lead`` how far before A and after E tip edges
    would touch (mm)."""

    g: Array
    share: Array
    p: Array
    sigma: Array
    turn: Array
    te: Array
    c: Array
    c_mean: float
    y: Array
    flank: Array
    ptp: float
    orders: Array
    lead: tuple[float, float]


def loaded_curves(ask: LoadedAsk, cycle: MeshCycle) -> LoadedCurves:
    """Curves of a mesh cycle."""
    g = np.linspace(ask.A, ask.E, POINTS)
    K = cycle.g.shape[-1]
    middle = cycle.g[..., (K - 1) // 2] if K % 2 else (cycle.g[..., K // 2 - 1] + cycle.g[..., K // 2]) / 2
    share = _interp(g, middle.ravel(), cycle.share.ravel())
    reach = ask.p_et / len(cycle.turn)
    p = largest_near(g, cycle.g.ravel(), cycle.p.ravel(), reach)
    sigma = np.stack([largest_near(g, cycle.g.ravel(), s.ravel(), reach) for s in cycle.sigma])
    y = np.linspace(0, ask.b, FACE)
    flank = np.zeros((POINTS, K))
    for k in range(K):
        flank[:, k] = _interp(g, cycle.g[..., k].ravel(), cycle.p[..., k].ravel())
    at = np.clip((y - cycle.y[0]) / (cycle.y[1] - cycle.y[0]), 0, K - 1) if K > 1 else np.zeros(FACE)
    low = np.minimum(at.astype(int), max(K - 2, 0))
    high = np.minimum(low + 1, K - 1)
    flank = flank[:, low] * (1 - (at - low)) + flank[:, high] * (at - low)
    return LoadedCurves(
        g, share, p, sigma, cycle.turn, cycle.te, cycle.c, float(cycle.c.mean()), y, flank,
        float(np.ptp(cycle.te)), orders(cycle.te), cycle.early,
    )  # fmt: skip


def _interp(g: Array, at: Array, values: Array) -> Array:
    order = np.argsort(at)
    return np.asarray(np.interp(g, at[order], values[order], left=0.0, right=0.0))
