"""The ring, and the pair of a pinion in a ring: counts, diameters and centre distance are negative in the core."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from cooper.i18n.text import tr
from cooper.kinds.kind import Changes, Entered, Kind, rim_for

ROOM_IN_RING = 12
"""Teeth that a new ring has more than its pinion at least, so that their tips pass."""


class Internal(Kind, frozen=True):
    """A ring with teeth inside."""

    key: str = tr("internal pair")
    words: str = "pinion in a ring"
    name: str = "ring"
    gear_words: tuple[str, str] | None = (tr("pinion"), "ring")
    inward: bool = True
    drives: bool = False
    splits: bool = False
    tools: tuple[str, ...] = ("pinion cutter", "form", "elliptic")
    grows: tuple[str, ...] = ("d_a", "d_rim")
    boundary_diameter: str = "d_rim"
    edge_words: str = tr("outside diameter")
    thinnest: str = tr("1.75 modules")
    data: tuple[str, ...] = ("h_K", "delta_K", "rho_a", "d_rim")
    web: bool = False
    twist: float = 1.0

    def counts(self, z: int) -> bool:
        return z < 0

    def fault(self, gear: Entered) -> str:
        if gear.tool == "rack":
            return tr(
                "z = {z} is an internal gear, which no rack or hob can cut: take a pinion cutter or a form", z=gear.z
            )
        if gear.d_rim is None:
            return tr("an internal gear, and only that, has an outside diameter d_rim")
        if gear.d_i is not None:
            return tr("a rim on a web (d_i) belongs to an external wheel")
        return ""

    def pair_fault(self, driver: Entered, driven: Entered) -> str:
        z_1, z_2 = driver.z, driven.z
        if -z_2 <= z_1:
            return tr(
                "z = {z_2}: the internal wheel must have more teeth than its pinion with {z_1}: {z_1_2} and below",
                z_2=z_2,
                z_1=z_1,
                z_1_2=-z_1 - 1,
            )
        if driven.tool == "pinion cutter" and driven.z_0 >= -z_2:
            return tr(
                "z_0 = {z_0}: the pinion cutter must have fewer teeth than the ring with {z_2}",
                z_0=driven.z_0,
                z_2=-z_2,
            )
        return ""

    def distance(self, a_w: float, m_n: float, beta: float) -> float:
        return -a_w

    def measured(self, a_w: float, m_n: float, beta: float) -> float:
        return -a_w

    def core_edge(self, gear: Entered, m_n: float, beta: float) -> float:
        return -(gear.d_rim or 0.0)

    def measured_edge(self, d_bore: float, d: float) -> float:
        return -d_bore

    def edge_of(self, values: Mapping[str, float]) -> float:
        return values["d_rim"]

    def outside(self, values: Mapping[str, float]) -> float:
        return values["d_rim"]

    def tip_room(self, a_w: float, roots: tuple[float, float], c: float, i: int, mate_h_f: float) -> float:
        return roots[1] - a_w - c if i == 0 else a_w + roots[0] + c

    def place(self, a_w: float) -> float:
        return -a_w

    def under(self, x: float, y: float, a_w: float, r_w1: float) -> bool:
        return float(np.hypot(x, y)) >= r_w1

    def made(self, gear: Entered, m_n: float, beta: float) -> Changes:
        return super().made(gear, m_n, beta) | {
            "z_0": max(6, min(25, abs(gear.z) // 2)),
            "pr_P": 0.0,
            "q_P": 0.0,
            "d_rim": rim_for(gear.z, gear.h_fP, gear.x or 0.0, m_n, beta),
            "rho_fP": min(gear.rho_fP, 0.2),
        }

    def first_count(self, z_1: int, z_2: int) -> int:
        return -max(z_2, z_1 + ROOM_IN_RING)

    def first_shift(self, x_1: float) -> float | None:
        # As much as its pinion's, so that the pair stands at its reference distance.
        return -x_1

    def resized(self, gear: Entered, z: int, m_n: float, beta: float) -> Changes:
        grown = m_n * abs(z) / np.cos(beta) + 11 * m_n
        return {"d_rim": float(np.ceil(grown)), "z_0": max(6, min(gear.z_0, abs(z) // 2))}

    def nearest_counts(self) -> tuple[int, int]:
        return -300, -4


INTERNAL = Internal()
