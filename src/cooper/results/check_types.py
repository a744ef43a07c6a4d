"""Every check that the results can make: identity, symbols, sense, its label, and what a short one means for the
part.

The code makes a check by its identity and values (`make_check`); screen, reports, JSON, handbook, catalogues and tests
read this table.
"""

from __future__ import annotations

from typing import Any, Literal

import numpy as np
from msgspec import Struct

from cooper.arrays import Mixed as Array
from cooper.document.quantities import QUANTITIES, plain
from cooper.i18n.text import tr

Sense = Literal["at least", "at most"]
Verdict = Literal["holds", "thin", "short"]
THIN = 0.10
"""Margin up to which a check that is met counts as thin."""
MOST = 1e6
"""Safety that stands for any greater one, such as that under a spectrum which bears no load."""


class CheckType(Struct, frozen=True):
    """One row of the table; ``symbols`` are those of the values that it can be made for."""

    key: str
    symbols: tuple[str, ...]
    sense: Sense
    label: str
    means: str


def verdict_of(margin: float) -> Verdict:
    """The verdict of a relative margin.

    >>> verdict_of(0.25), verdict_of(0.1), verdict_of(-0.01)
    ('holds', 'thin', 'short')
    """
    if margin < 0:
        return "short"
    return "thin" if margin <= THIN else "holds"


class Check(Struct, frozen=True):
    """A value against its limit. ``index`` is the gear (1, 2) or None for the mesh or the train.

    ``margin`` is relative to the limit, positive when met; ``type`` is its row in `CHECKS`.
    """

    type: str
    symbol: str
    index: int | None
    stage: int | None
    label: str
    value: float
    limit: float
    margin: float
    means: str
    part: str = ""
    """The part of the machine around the gears that it concerns; empty for gears and the train."""

    @property
    def sense(self) -> Sense:
        """Whether the value must be at least or at most the limit."""
        return CHECKS[self.type].sense

    @property
    def key(self) -> str:
        """Name of the check within its design, the same from one state to the next."""
        if self.part:
            return f"machine.{self.part}.{plain(self.symbol, self.index)}"
        where = "train" if self.stage is None else f"stage{self.stage + 1}"
        return f"{where}.{plain(self.symbol, self.index)}"

    @property
    def verdict(self) -> Verdict:
        return verdict_of(self.margin)

    @property
    def kind(self) -> str:
        return QUANTITIES[self.symbol].kind


def at_least(value: Array, limit: Array, scale: Array = None) -> Array:
    """Relative margin of a value that must reach a limit; a limit of zero is measured on ``scale``."""
    return _bounded((value - limit) / (limit if scale is None else scale))


def at_most(value: Array, limit: Array, scale: Array = None) -> Array:
    """Relative margin of a value that must stay below a limit; ``scale`` is what counts as a margin of 100 % (none:
    the limit)."""
    return _bounded((limit - value) / (limit if scale is None else scale))


def _bounded(margin: Array) -> Array:
    """A margin, `MOST` or `-MOST` for any beyond that, such as against a limit of next to nothing."""
    return min(max(margin, -MOST), MOST) if isinstance(margin, float) else np.clip(margin, -MOST, MOST)


def make_check(
    type_: str,
    value: Array,
    limit: Array,
    *,
    symbol: str = "",
    index: int | None = None,
    stage: int | None = None,
    part: str = "",
    scale: Array = None,
    measured: Array = None,
    **values: Any,
) -> Check:
    """A check of the table: a value against its limit; ``values`` fill the gaps of its texts.

    ``symbol`` is needed where the row has several; ``scale`` is what counts as a margin of 100 % in place of the limit,
    ``measured`` what is held against the limit in place of the value.

    >>> make_check("eps_alpha", 1.5, 1.2, stage=0).verdict
    'holds'
    """
    row = CHECKS[type_]
    margin = (at_least if row.sense == "at least" else at_most)(value if measured is None else measured, limit, scale)
    label, means = tr(row.label, **values), tr(row.means, **values)
    return Check(type_, symbol or row.symbols[0], index, stage, label, value, limit, margin, means, part)


CHECKS: dict[str, CheckType] = {}
"""The checks by identity."""


def _check(key: str, symbols: str, sense: Sense, label: str, means: str) -> None:
    """Add a row."""
    CHECKS[key] = CheckType(key, tuple(symbols.split()), sense, label, means)


BREAKS = "teeth of the {word} would break at the root before the required life"
PITS = "flanks of the {word} would pit before the required life"
_check("root", "S_F S_FA", "at least", "tooth root, {word}", BREAKS)
_check("root_spectrum", "S_Feq", "at least", "tooth root, {word}, spectrum", BREAKS)
_check("flank", "S_H S_HA", "at least", "flank, {word}", PITS)
_check("flank_spectrum", "S_Heq", "at least", "flank, {word}, spectrum", PITS)
_check(
    "root_static",
    "S_Fst",
    "at least",
    "root, greatest load, {word}",
    "teeth of the {word} would bend or crack under the greatest load",
)
_check(
    "flank_static",
    "S_Hst",
    "at least",
    "flank, greatest load, {word}",
    "flanks of the {word} would be indented under the greatest load",
)
_check(
    "tip_land",
    "s_anE",
    "at least",
    "tip land, {word}",
    "the tip of the {word} is too narrow: it hardens through and breaks away",
)
_check(
    "tip_clearance",
    "c",
    "at least",
    "tip clearance, {word}",
    "tips of the {word} come too near the mate's root: alter the tip diameter or the tool's depth",
)
_check(
    "flank_reach",
    "c_F",
    "at least",
    "flank reach, {word}",
    "the mate's tip meets the {word} below the end of its involute, in the fillet: it will jam or wear; "
    "shorten the mate's "
    "tip (d_a, chamfer), give more shift, or take a tool that cuts deeper",
)
_check(
    "case_depth",
    "CHD",
    "at least",
    "case depth, {word}",
    "the flanks of the {word} would crack from below the case: a deeper case, or less pressure",
)
_check(
    "flank_fracture",
    "S_FF",
    "at least",
    "flank fracture, {word}",
    "the flanks of the {word} would break from below the case: a deeper case, a harder core, or less pressure",
)
_check(
    "flank_temperature",
    "theta_Fla",
    "at most",
    "warmth of the flanks, {word}",
    "teeth of the {word} soften and melt: less load or speed, wider gears, grease, a steel mate, a more open housing",
)
_check(
    "wear",
    "delta_W",
    "at most",
    "wear, {word}",
    "flanks of the {word} wear thin before the required life: grease, a smoother or harder mate, wider gears",
)
_check(
    "tip_deflection",
    "lambda_t",
    "at most",
    "deflection of the tips",
    "the teeth bend so far that the next ones meet edge on: wider gears, larger module, stiffer or cooler plastic",
)
_check(
    "scuffing_flash",
    "S_B",
    "at least",
    "scuffing, flash temperature",
    "the oil film breaks where the teeth are hottest and the flanks tear: thicker or tougher oil, finer "
    "teeth, less sliding",
)
_check(
    "scuffing_integral",
    "S_int",
    "at least",
    "scuffing, integral temperature",
    "the flanks run hot over the whole mesh and scuff: thicker or tougher oil, smoother flanks, less sliding",
)
_check(
    "micropitting",
    "S_lambda",
    "at least",
    "micropitting",
    "the film is thinner than the roughness bears and the flanks turn grey and wear: smoother flanks, "
    "thicker or cooler "
    "oil, an oil of a higher test stage",
)
_check(
    "tips_beyond_mesh",
    "c_tip",
    "at least",
    "tips beyond the mesh",
    "the tips of pinion and ring run into each other beyond the mesh: shorten the ring's teeth, use fewer "
    "pinion teeth or "
    "more shift",
)
_check(
    "eps_alpha",
    "eps_alpha",
    "at least",
    "profile contact ratio",
    "too few teeth share the load: rough running, load taken over at the tip; more teeth, less shift or "
    "taller teeth help",
)
_check(
    "backlash",
    "j_wt_min",
    "at least",
    "least backlash",
    "at the thickest teeth and the nearest centres the flanks jam; thin the teeth (E_sns) or allow the centres more",
)
_check(
    "process_clearance",
    "j_bn_min",
    "at least",
    "process clearance",
    "the flanks come out of the process fused or jammed: thin the teeth or move the centres apart",
)
_check(
    "backlash_in_service",
    "j_op_min",
    "at least",
    "least backlash in service",
    "with run-out and at service temperature the flanks jam: thin the teeth, widen the centres, or keep "
    "gears and housing at "
    "like temperatures",
)
_check(
    "planet_gap",
    "c_pl",
    "at least",
    "gap between planets",
    "neighbouring planets run into each other: fewer planets, or fewer teeth on the planet and more on the sun",
)
_check("ratio", "du", "at most", "ratio against wanted", "the output turns faster or slower than wanted")
_check(
    "oil_temperature",
    "theta_bal",
    "at most",
    "oil temperature of the heat balance",
    "the oil gets hotter than it may: fewer losses, less oil, a larger or cooled housing",
)
_check(
    "torsional_resonance",
    "X_tors",
    "at least",
    "torsion at {n:.4g 1/min}, {shaft}",
    "the train vibrates in torsion in resonance with that shaft: a stiffer or softer shaft or coupling, other inertias",
)
ROOM = "the machine does not go into the room that there is: narrower gears, closer bearings, other angles of the axes"
_check("housing_length", "L_box", "at most", "length of the housing", ROOM)
_check("housing_width", "W_box", "at most", "width of the housing", ROOM)
_check("housing_height", "H_box", "at most", "height of the housing", ROOM)
_check(
    "shaft_fatigue",
    "S_D",
    "at least",
    "fatigue of the {shaft}",
    "cracks begin at {piece} and the shaft breaks: thicker there, a larger fillet, a stronger steel",
)
_check(
    "shaft_yield",
    "S_Y",
    "at least",
    "yield of the {shaft}",
    "the shaft stays bent or twisted at {piece} after the greatest load: thicker there, or a stronger steel",
)
_check(
    "gear_deflection",
    "w_g",
    "at most",
    "deflection at {gear}, {shaft}",
    "the shaft bends under the gear and its teeth bear on one edge: thicker, or bearings closer to the gear",
)
_check(
    "bearing_life",
    "L_nmh",
    "at least",
    "life of {bearing}, {shaft}",
    "the bearing flakes before the required life: a heavier series, a larger bore, cleaner or thicker oil",
)
_check(
    "bearing_static",
    "S_0",
    "at least",
    "static, {bearing}, {shaft}",
    "the bearing's raceways are dented under the greatest load: a heavier series or rollers",
)
_check(
    "bearing_slope",
    "theta_sh",
    "at most",
    "slope in {bearing}, {shaft}",
    "the shaft's slope in the bearing overloads its edges: a thicker shaft or a bearing that swivels",
)
_check(
    "bearing_speed",
    "n_lim",
    "at most",
    "speed of {bearing}, {shaft}",
    "the bearing runs hot above its customary limit of speed: a lighter series, a smaller bore, another type",
)
_check(
    "seal_speed",
    "v_seal",
    "at most",
    "speed at {seal}, {shaft}",
    "the lip of the seal burns: FKM in place of NBR, a thinner end, a seal without contact",
)
_check(
    "held_along",
    "S_ax",
    "at least",
    "{what} of {thing} on the {side}, {shaft}",
    "{thing} shifts along its shaft: a thicker shaft beside it, a nut in place of the ring, more or thicker screws",
)
_check(
    "joint",
    "S_J",
    "at least",
    "{joint} of {on}, {shaft}",
    "the {joint} is crushed or slips: longer, a thicker shaft, or another joint",
)
_check(
    "whirling",
    "n_crit",
    "at least",
    "whirling of the {shaft}",
    "the shaft runs near the speed at which it whirls: thicker, or bearings closer together",
)
_check(
    "pin_fatigue",
    "S_D",
    "at least",
    "fatigue of the pin of {planet}",
    "the pin breaks under the planet: a thicker one, closer walls, a stronger steel",
)
_check(
    "pin_yield",
    "S_Y",
    "at least",
    "yield of the pin of {planet}",
    "the pin stays bent after the greatest load: thicker, closer walls, a stronger steel",
)
_check(
    "pin_in_walls",
    "S_J",
    "at least",
    "pin of {planet} in its walls",
    "the walls of the carrier are crushed around the pin: a thicker pin, thicker walls, a stronger steel",
)
_check(
    "pin_bearing_speed",
    "n_lim",
    "at most",
    "speed of the bearing of {planet}",
    "the planet's bearing runs hot above its customary limit of speed: a slower carrier, a smaller pin",
)
_check(
    "pin_bearing_life",
    "L_nmh",
    "at least",
    "life of the bearing of {planet}",
    "the planet's bearing flakes before the required life: a larger planet or more of them, cleaner or thicker oil",
)
_check(
    "pin_bearing_static",
    "S_0",
    "at least",
    "static of the bearing of {planet}",
    "the planet's bearing is dented under the greatest load: a larger planet, or more of them",
)
_check(
    "goes_first",
    "X_go",
    "at least",
    "{first} goes first, before {nearest}",
    "{nearest} fails before or with the part that is meant to: weaken that one, or strengthen this one",
)
