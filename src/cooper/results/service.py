"""Service life of a stage under the duty's load spectrum. ISO 6336-6:2019."""

from __future__ import annotations

from collections.abc import Callable, Mapping

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from cooper.arrays import Mixed as Array
from cooper.arrays import where
from cooper.document.duty import Level
from cooper.gears.inputs import PairInput
from cooper.gears.pair_shape import PairShape
from cooper.rating.iso6336.life import cycles_to, strength_curve
from cooper.rating.iso6336.spectrum import damage, equivalent_safety
from cooper.results.checks import MOST
from cooper.results.pair_numbers import PairNumbers, pair_numbers
from cooper.values import GearValues, Values

LEAST = 1e-6
"""Torque ratio below which a level bears no load."""


class Service(Struct, frozen=True):
    """What a spectrum does to one gear: equivalent safeties, and the damage of each level in the order of the
    spectrum."""

    S_Heq: Array
    S_Feq: Array
    damage_H: Array
    damage_F: Array


def service_life(pair: PairInput, levels: tuple[Level, ...]) -> tuple[Service, Service]:
    """Both gears under a spectrum; K_A is 1 within it, all other factors are those of each level. ISO 6336-6:2019,
    4.

    Of arrays of pairs the levels are the first axis.
    """
    return _life(at_levels(pair, levels), levels)


def at_levels(pair: PairInput, levels: tuple[Level, ...]) -> PairNumbers:
    """A pair rated at every level of a spectrum, the first axis: K_A and K_AP are 1, all other factors are those of
    the level."""
    T, n, q = (_column(pair, levels, s) for s in ("T_rel", "n_rel", "q_t"))
    return pair_numbers(
        replace(
            pair,
            T_1=pair.T_1 * np.maximum(T, LEAST),
            omega_1=pair.omega_1 * n,
            L_h=pair.L_h * q / np.sum(q),
            K_A=1.0,
            K_AP=1.0,
        )
    )


def _column(pair: PairInput, levels: tuple[Level, ...], symbol: str) -> Array:
    """A field of all levels as the first axis before those of the pairs."""
    return np.array([getattr(lv, symbol) for lv in levels], dtype=float).reshape((-1,) + (1,) * np.ndim(pair.T_1))


def _life(at: PairNumbers, levels: tuple[Level, ...]) -> tuple[Service, Service]:
    loaded = (
        _column(at.pair, levels, "T_rel").reshape(np.shape(at.pair.T_1)[:1] + (1,) * (np.ndim(at.pair.T_1) - 1)) > LEAST
    )
    return tuple(_of_gear(at.pair, i, at.gears[i], loaded) for i in (0, 1))  # type: ignore[return-value]


def _of_greatest_load(values: Array, T_rel: Array) -> Array:
    """The level of the greatest torque. At lower ones the material exposure is that of the residual stresses, which
    do not come and go."""
    return np.full(np.shape(values)[1:], int(np.argmax(T_rel)))


def _of_least(values: Array, T_rel: Array) -> Array:
    """The loaded level with the least value."""
    return np.argmin(where(_column_of(T_rel, values) > LEAST, values, np.inf), axis=0)


def _of_most(values: Array, T_rel: Array) -> Array:
    """The level with the greatest value."""
    return np.argmax(values, axis=0)


def _column_of(T_rel: Array, values: Array) -> Array:
    return T_rel.reshape(-1, *(1,) * (np.ndim(values) - 1))


FLASH = ("w_Bt", "mu_m", "theta_fl", "g_fl", "theta_M", "theta_B", "theta_S", "X_mp", "S_B")
INTEGRAL = ("mu_mC", "theta_flaint", "theta_int", "theta_Sint", "X_E", "S_int")
FILM = ("lambda_GF", "g_GF", "h_GF", "theta_MGF", "lambda_GFT", "lambda_GFP", "S_lambda")
WORST_OF_MESH = {
    "S_B": ("T_rel_B", FLASH, _of_least),
    "S_int": ("T_rel_int", INTEGRAL, _of_least),
    "S_lambda": ("T_rel_GF", FILM, _of_least),
    "lambda_t": ("", ("lambda_t",), _of_most),
}
"""What the level that is worst for it decides, by the value that tells which one that is: where the torque ratio of
that level is put, the values that are taken from it, and how the worst is found."""
WORST_OF_GEAR = {
    "S_FF": ("T_rel_FF", ("A_FF", "y_FF", "S_FF"), _of_greatest_load),
    "CHD_c": ("", ("CHD_c",), _of_most),
}


def add_service(numbers: PairShape, at: PairNumbers, levels: tuple[Level, ...], K_AP_entered: bool) -> None:
    """What a spectrum does to a rated pair, into its values: equivalent safeties and damage sums; scuffing,
    micropitting, flank fracture and the deflection of plastic tips at the level that is worst for each; static strength
    at the greatest load.

    ``at`` the pair rated at the levels with all methods (`at_levels`). The greatest load is that of the levels, with
    the load factors of the level, and K_AP times the nominal one where it is entered. ISO 6336-6:2019, 4; ISO 6336-2
    and -3:2019, 5.
    """
    T_rel = np.array([lv.T_rel for lv in levels])
    with np.errstate(all="ignore"):
        for g, service in zip(numbers.gears, _life(at, levels), strict=True):
            values = {
                "S_Heq": service.S_Heq,
                "S_Feq": service.S_Feq,
                "D_H": np.sum(service.damage_H, axis=0),
                "D_F": np.sum(service.damage_F, axis=0),
            }
            # No load at all, and a level above static strength, have no finite number.
            g.update({k: np.minimum(v, MOST) for k, v in values.items()})
        _take_worst(numbers.mesh, at.mesh, T_rel, WORST_OF_MESH)
        for g, g_at in zip(numbers.gears, at.gears, strict=True):
            _take_worst(g, g_at, T_rel, WORST_OF_GEAR)
            for s in ("H", "F"):
                _greatest_load(g, g_at, s, T_rel, K_AP_entered)


def _take_worst(
    values: Values, at: Values, T_rel: Array, table: Mapping[str, tuple[str, tuple[str, ...], Callable[..., Array]]]
) -> None:
    for symbol, (text, group, worst) in table.items():
        if symbol not in at:
            continue
        level = worst(np.asarray(at[symbol]), T_rel)
        for name in group:
            by_level = np.broadcast_to(at[name], np.shape(at[symbol]))
            values[name] = np.take_along_axis(by_level, np.asarray(level)[None], 0)[0]
        if text:
            values[text] = T_rel[level]


def _greatest_load(g: GearValues[Array], at: GearValues[Array], s: str, T_rel: Array, K_AP_entered: bool) -> None:
    """Stress at the greatest load and the static safety of flank (H) or root (F); T_rel_H and T_rel_F tell the
    level, 0 where K_AP governs."""
    stress = at[f"sigma_{s}"]
    top = np.argmax(stress, axis=0)
    peak = np.max(stress, axis=0)
    level = T_rel[top]
    if K_AP_entered:
        entered = g[f"sigma_{s}pk"]
        level, peak = where(entered > peak, 0.0, level), np.maximum(entered, peak)
    g[f"sigma_{s}pk"], g[f"T_rel_{s}"] = peak, level
    g[f"S_{s}st"] = g[f"sigma_{s}Gst"] / peak


def _of_gear(p: PairInput, i: int, g: GearValues[Array], loaded: Array) -> Service:
    material = p.gears[i].material
    corners_H = material.Z_N_pitting if p.pitting_allowed else material.Z_N
    result = []
    for s, corners, plastic in (("H", corners_H, material.flank_life), ("F", material.Y_N, material.root_life)):
        stress = where(loaded, g[f"sigma_{s}"], 0.0)
        life = _life_of(g, s, corners, plastic if material.plastic > 0 else None, p.NT_1e10)
        result.append((equivalent_safety(stress, g.N_L, life), damage(stress, g.N_L, life)))
    return Service(result[0][0], result[1][0], result[0][1], result[1][1])


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
            return where(above <= 0, np.inf, where(N < 1e4 * (1 - 1e-9), 0.0, N))

        return of_plastic
    curve = strength_curve(g[f"sigma_{s}Gst"], g[f"sigma_{s}Gref"], corners, at_1e10)
    return lambda stress: cycles_to(stress, curve)
