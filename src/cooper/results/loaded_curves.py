"""A mesh cycle as curves along the path of contact and as a picture over the flank, and what is told of it."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from cooper.arrays import Array, as_float
from cooper.field.loaded_contact import MeshCycle, largest_near, orders
from cooper.rating.scuffing.flash import flash_temperature
from cooper.results.loaded_tooth import LoadedAsk, cycle_of
from cooper.running.friction import local_coefficient

POINTS = 121
"""Places along the path of contact."""
FACE = 40
"""Places along the face of the picture of a flank."""


class LoadedCurves(Struct, frozen=True):
    """Over the path coordinate ``g`` (mm): ``share`` of the load on the pair whose middle is there, largest pressure
    ``p`` and root stresses ``sigma`` (2) of the slices that are there (MPa). Over one pitch, in steps ``turn`` (0 to
    1): transmission error ``te`` (um) and mesh stiffness ``c`` (N/(mm um)), with its mean. ``flank`` (g, y) the
    pressure over the flank at ``y`` (mm); ``ptp`` of the transmission error with the amplitudes of its ``orders`` (um);
    ``lead`` how far before A and after E tip edges would touch (mm).

    Over g also the sliding speed ``v_g`` (m/s), the local coefficient of friction ``mu`` and the ``flash`` temperature
    of the most loaded slice (K; NaN for what is not steel); ``lost`` what friction takes of the power of the mesh;
    ``together`` the transmission error of the meshes at all planets (um, empty without planets)."""

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
    v_g: Array
    mu: Array
    flash: Array
    lost: float
    together: Array


def curves_of(ask: LoadedAsk, fineness: str = "usual") -> LoadedCurves:
    """Curves of what is asked, at once."""
    return loaded_curves(ask, cycle_of(ask, fineness))


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
    v_1, v_2 = g * ask.omega_1 / 1000, np.abs(ask.T2 - g) * ask.omega_1 / 1000 / abs(ask.u)
    v_g = np.abs(v_1 - v_2)
    w = largest_near(g, cycle.g.ravel(), cycle.w.ravel(), reach)
    mu = local_coefficient(w, ask.eta_oil, v_g, v_1 + v_2)
    E, nu = [b.E for b in ask.bodies], [b.nu for b in ask.bodies]
    with np.errstate(all="ignore"):
        hot = flash_temperature(mu, w, g, ask.T2, ask.u, ask.omega_1, np.arccos(ask.cos_b), E[0], E[1], nu[0], nu[1])
    together = np.zeros(0)
    if ask.phases:
        steps = np.arange(len(cycle.turn))
        together = np.mean(
            [np.interp((cycle.turn + q) % 1 * len(steps), steps, cycle.te, period=len(steps)) for q in ask.phases],
            axis=0,
        )
    return LoadedCurves(
        g,
        share,
        p,
        sigma,
        cycle.turn,
        cycle.te,
        cycle.c,
        float(cycle.c.mean()),
        y,
        flank,
        float(np.ptp(cycle.te)),
        orders(cycle.te),
        cycle.early,
        v_g,
        mu,
        hot if ask.steel else np.full(len(g), np.nan),
        _lost(ask, cycle),
        together,
    )


def _lost(ask: LoadedAsk, cycle: MeshCycle) -> float:
    """What friction takes of the power, with the local coefficient and the loads of all slices at every position."""
    g, w = cycle.g, cycle.w
    v_1, v_2 = np.abs(g) * ask.omega_1 / 1000, np.abs(ask.T2 - g) * ask.omega_1 / 1000 / abs(ask.u)
    v_g = np.abs(v_1 - v_2)
    mu = local_coefficient(np.maximum(w, 1e-9), ask.eta_oil, v_g, v_1 + v_2)
    loss = (mu * w * cycle.part * v_g).sum(axis=(1, 2)).mean() * ask.b / g.shape[-1]
    power = ask.F * abs(float(ask.bodies[0].tooth.d_b)) / 2000 * ask.omega_1
    return float(loss / power) if power > 0 else float("nan")


def _interp(g: Array, at: Array, values: Array) -> Array:
    order = np.argsort(at)
    return as_float(np.interp(g, at[order], values[order], left=0.0, right=0.0))
