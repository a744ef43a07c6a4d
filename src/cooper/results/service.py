"""Service life of a stage under the duty's load spectrum. ISO 6336-6:2019."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from cooper.arrays import Mixed as Array
from cooper.arrays import either
from cooper.document.duty import Level
from cooper.gears.inputs import PairInput
from cooper.rating.iso6336.life import cycles_to, strength_curve
from cooper.rating.iso6336.spectrum import damage, equivalent_safety
from cooper.results.checks import MOST
from cooper.results.pair_numbers import pair_numbers
from cooper.values import GearValues

LEAST = 1e-6
"""Torque ratio below which a level bears no load."""


class Service(Struct, frozen=True):
    """What a spectrum does to one gear: equivalent safeties, and the damage of each level in the order of the spectrum."""

    S_Heq: Array
    S_Feq: Array
    damage_H: Array
    damage_F: Array


def service_life(pair: PairInput, levels: tuple[Level, ...]) -> tuple[Service, Service]:
    """Both gears under a spectrum; K_A is 1 within it, all other factors are those of each level. ISO 6336-6:2019, 4.

    Of arrays of pairs the levels are the first axis.
    """
    shape = (-1,) + (1,) * np.ndim(pair.T_1)
    T, n, q = (
        np.array([getattr(lv, s) for lv in levels], dtype=float).reshape(shape) for s in ("T_rel", "n_rel", "q_t")
    )
    loaded = T > LEAST
    at = replace(
        pair,
        T_1=pair.T_1 * np.maximum(T, LEAST),
        omega_1=pair.omega_1 * n,
        L_h=pair.L_h * q / np.sum(q),
        K_A=1.0,
        K_AP=1.0,
    )
    numbers = pair_numbers(at)
    return tuple(_of_gear(at, i, numbers.gears[i], loaded) for i in (0, 1))  # type: ignore[return-value]


def add_service(pair: PairInput, levels: tuple[Level, ...], gears: tuple[GearValues[Array], ...]) -> None:
    """The safeties and damage sums under a spectrum into the values of both gears."""
    with np.errstate(all="ignore"):
        for g, service in zip(gears, service_life(pair, levels), strict=True):
            values = {
                "S_Heq": service.S_Heq,
                "S_Feq": service.S_Feq,
                "D_H": np.sum(service.damage_H, axis=0),
                "D_F": np.sum(service.damage_F, axis=0),
            }
            # No load at all, and a level above static strength, have no finite number.
            g.update({k: np.minimum(v, MOST) for k, v in values.items()})


def _of_gear(p: PairInput, i: int, g: GearValues[Array], loaded: Array) -> Service:
    material = p.gears[i].material
    corners_H = material.Z_N_pitting if p.pitting_allowed else material.Z_N
    found = []
    for s, corners, plastic in (("H", corners_H, material.flank_life), ("F", material.Y_N, material.root_life)):
        stress = either(loaded, g[f"sigma_{s}"], 0.0)
        life = _life_of(g, s, corners, plastic if material.plastic > 0 else None, p.NT_1e10)
        found.append((equivalent_safety(stress, g.N_L, life), damage(stress, g.N_L, life)))
    return Service(found[0][0], found[1][0], found[0][1], found[1][1])


def _life_of(
    g: GearValues[Array], s: str, corners: Array, plastic: Array | None, at_1e10: Array
) -> Callable[[Array], Array]:
    """Cycles over stress for the flank (H) or the root (F) of a gear at each level."""
    if plastic is not None:
        base, gain, exponent = plastic
        factors = g[f"sigma_{s}G"] / g[f"sigma_{s}lim"]

        def of_plastic(stress: Array) -> Array:
            above = stress / factors - base
            with np.errstate(divide="ignore", over="ignore", invalid="ignore"):
                N = (np.maximum(above, 1e-300) / gain) ** (-1 / exponent)
            # Its strength is stated from 1e4 cycles on: what would last less has none.
            return either(above <= 0, np.inf, either(N < 1e4 * (1 - 1e-9), 0.0, N))

        return of_plastic
    curve = strength_curve(g[f"sigma_{s}Gst"], g[f"sigma_{s}Gref"], corners, at_1e10)
    return lambda stress: cycles_to(stress, curve)
