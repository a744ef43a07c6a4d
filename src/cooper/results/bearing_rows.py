"""All bearings for a place on a shaft, under the loads that are there: what one chooses from."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from msgspec import Struct

from cooper.arrays import Loose as Array
from cooper.arrays import any_, as_float
from cooper.machine.check_bearing import lives_of, ratings, static_factor_of
from cooper.machine.shaft_model import Rules
from cooper.results.machine_result import MachineResult, ShaftResult
from cooper.results.train_losses import Around
from cooper.running.no_load import bearing_loss
from cooper.stock.bearings import bearing as friction_of
from cooper.stock.rolling import Bearing, bearings_of, rolling_types, series_of

SIZES = 3
"""Bores to either side of the present one that are listed."""


class BearingRow(Struct, frozen=True):
    """One bearing at the place: its ratings (N), life (h), static safety, loss (W) at nominal load, whether it holds
    all that is asked for."""

    bearing: Bearing
    C: float
    C_0: float
    L_nmh: float
    S_0: float
    P_loss: float
    holds: bool


def bearing_rows(m: MachineResult, shaft: ShaftResult, name: str) -> list[BearingRow]:
    """Bearings of the bores about the present one at a place, those that hold first, the lightest first."""
    k = next(n for n, b in enumerate(shaft.made.bearings) if b.name == name)
    now = shaft.made.bearings[k]
    R = shaft.checked.reactions[:, k]
    F_r, F_a = np.hypot(R[:, 0], R[:, 1]), np.abs(R[:, 2])
    n, result = shaft.made.wish.n, []
    for kind in rolling_types():
        for series in series_of(kind):
            row = bearings_of(kind, series)
            here = sum(b.d < now.bearing.d for b in row)
            some = row[max(here - SIZES, 0) : here + SIZES + 1]
            if not some or ((now.fixed or any_(F_a > 0)) and not some[0].thrust):
                continue
            C, C_0 = (np.array(v) for v in zip(*(ratings(b) for b in some), strict=True))
            D_pw, f_0 = np.array([b.D_pw for b in some]), np.array([static_factor_of(b) for b in some])
            f = lives_of(some[0], C, C_0, D_pw, f_0, F_r, F_a, n, m.rules)
            result += [
                BearingRow(
                    b,
                    float(C[i]),
                    float(C_0[i]),
                    float(f.L_nmh[i]),
                    float(f.S_0[i]),
                    loss_of(b, float(F_r.max()), n, m.rules),
                    bool(f.L_nmh[i] >= m.rules.L_h and f.S_0[i] >= m.rules.S_0min and n <= b.n_limit),
                )
                for i, b in enumerate(some)
            ]
    return sorted(result, key=lambda r: (not r.holds, r.bearing.mass))


def each_bearing(m: MachineResult, key: str, name: str) -> Iterator[list[BearingRow]]:
    """The same, as it is asked for beside the window."""
    shaft = m.shaft(key)
    if shaft is not None:
        yield bearing_rows(m, shaft, name)


def loss_of(b: Bearing, F: float, n: float, rules: Rules) -> float:
    """Loss (W) of a bearing at its nominal load by the simple model of ISO/TR 14179-1, as losses are counted."""
    mu, f_0, _ = friction_of(b.type)
    return float(bearing_loss(F, mu, f_0, b.d, b.D_pw, rules.nu, n))


def losses_around(m: MachineResult) -> Around:
    """What bearings and seals of a machine lose, those of planets among them (`train_losses`)."""
    held = [
        (b.bearing, f.F_r, f.n, 1) for s in m.shafts for b, f in zip(s.made.bearings, s.checked.bearings, strict=True)
    ]
    held += [
        (p.pin.bearing.bearing, p.pin.checked.F_r, p.pin.checked.n, p.planets)
        for p in m.pins
        if p.pin.bearing is not None and p.pin.checked is not None
    ]

    def lost(nu: Array, load: Array, speed: Array) -> Array:
        whole: Array = np.zeros(())
        for b, F, n, many in held:
            mu, f_0, _ = friction_of(b.type)
            whole = whole + many * bearing_loss(F * as_float(load), mu, f_0, b.d, b.D_pw, nu, n * as_float(speed))
        return whole

    ends = [s for s in m.shafts if s.made.wish.left_end or s.made.wish.right_end]
    return Around(lost, {s.key: s.made.seals[0][1].d for s in ends if s.made.seals})


def machine_loss(m: MachineResult) -> float:
    """Loss (W) of all bearings at nominal load."""
    return float(losses_around(m).bearings(m.rules.nu, 1.0, 1.0))
