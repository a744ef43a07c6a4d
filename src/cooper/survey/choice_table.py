"""The quantities that designs are chosen by, as columns of a rated block."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

import numpy as np

from cooper.arrays import Array
from cooper.i18n.text import tr
from cooper.survey.batch_places import counts
from cooper.survey.rated_designs import Rated


def table_of(rated: Rated) -> dict[str, Array]:
    """The quantities that designs are chosen by, a column each.

    Parameters
    ----------
    rated : Rated
        Rated designs.

    Returns
    -------
    dict[str, Array]
        Values of all designs by quantity.
    """
    n = len(rated.block)
    v = rated.values
    out = {k: np.broadcast_to(v[k], n) for k in ("u", "eta", "mass", "cost", "length", tr("height"), "width", "d_out")}
    if "du" in v:
        out["du"] = np.broadcast_to(v["du"], n)
    if "theta_bal" in v:
        out["theta_bal"] = np.broadcast_to(v["theta_bal"], n)
    out["worst"] = rated.worst
    for symbol in ("S_F", "S_H", "S_B", "S_int"):
        result = [c for c in rated.checks if c.symbol.rstrip("A").removesuffix("eq") == symbol]
        if result:
            out[symbol] = np.min([np.broadcast_to(c.value, n) for c in result], axis=0)
    first, last = rated.stages[0], rated.stages[-1]
    out["a_w"] = np.sum([np.broadcast_to(s.mesh.a_w, n) for s in _in_row(rated)], axis=0)
    for name, value in (("m_n", first.mesh.m_n), ("beta", first.mesh.beta), ("b", first.gears[0].b)):
        out[name] = np.broadcast_to(value, n)
    out["m_last"] = np.broadcast_to(last.mesh.m_n, n)
    out["z_1"] = np.abs(counts(rated.block, 0, 0))
    out["eps_gamma"] = np.min([np.broadcast_to(s.mesh.eps_gamma, n) for s in rated.stages], axis=0)
    slim = [s.gears[0].b / np.minimum(s.gears[0].d, s.gears[1].d) for s in rated.stages]
    out["b_d"] = np.max([np.broadcast_to(v, n) for v in slim], axis=0)
    return {k: np.array(v, dtype=float) for k, v in out.items()}


def _in_row(rated: Rated) -> Iterable[Any]:
    """The meshes whose distances lie one after the other; of a planet set the first one."""
    train = rated.block.design.train
    for k, s in enumerate(rated.stages):
        one = train.stages[k].within
        if one is None or not one.arranged.around or k == one.first:
            yield s
