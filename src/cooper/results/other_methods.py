"""The ratings in addition to ISO 6336 or in its place, where the gears and the oil allow it: AGMA, scuffing,
micropitting, flank fracture."""

from __future__ import annotations

import numpy as np

from cooper.document.duty import Defaults, Lubricant
from cooper.document.gear_data import Gear, Mesh
from cooper.errors import OutOfRange
from cooper.gears.inputs import PairInput
from cooper.gears.pair_shape import PairShape
from cooper.i18n.text import tr
from cooper.kinds.known import kind_of
from cooper.rating.agma2101.rate_agma import AgmaInput, rate_agma
from cooper.rating.iso6336.flank_fracture import rate_flank_fracture
from cooper.rating.micropitting.film import Oil
from cooper.rating.micropitting.rate_film import material_factor, rate_film
from cooper.rating.scuffing.rate_scuffing import rate_scuffing, scuffs, structural_factor
from cooper.running.viscosity import density, kinematic_viscosity
from cooper.stock.agma_tables import agma_numbers, table


def no_agma(one: Gear, two: Gear) -> str:
    """Why a pair cannot be rated by AGMA 2101; empty when it can."""
    if kind_of(two).no_agma:
        return kind_of(two).no_agma
    for gear in (one, two):
        if gear.material.sigma_Hlim is not None or gear.material.sigma_Flim is not None:
            return tr(
                "{name}: its own strength numbers are those of ISO 6336, which AGMA's stress numbers are not",
                name=gear.name,
            )
        try:
            agma_numbers(gear.material.group, gear.material.grade, gear.material.hardness)
        except OutOfRange as fault:
            return tr("{name}: {reason}", name=gear.name, reason=fault.reason)
    return ""


def add_agma(p: PairInput, n: PairShape, members: tuple[Gear, Gear], mesh: Mesh, defaults: Defaults) -> None:
    """A pair by AGMA 2101, where it can be rated."""
    if no_agma(*members):
        return
    row = table("mounting")[mesh.mounting]
    one, two = (agma_numbers(g.material.group, g.material.grade, g.material.hardness) for g in members)
    with np.errstate(all="ignore"):
        rate_agma(
            p,
            n,
            AgmaInput(
                A_v=None if mesh.A_v is None else float(mesh.A_v),
                K_s=mesh.K_s,
                alignment=(row["A"], row["B"], row["C"]),
                offset=min(mesh.s_sh / mesh.l_sh, 1.0),
                modified=mesh.helix_modification != "none",
                adjusted=mesh.adjusted,
                Y_Z=table("reliability")[defaults.reliability],
                critical=defaults.critical_service,
                numbers=(one, two),
                both_ways=(members[0].bending == "both ways", members[1].bending == "both ways"),
            ),
        )


def add_scuffing(
    p: PairInput, n: PairShape, members: tuple[Gear, Gear], defaults: Defaults, first_drives: bool
) -> None:
    """Scuffing of a pair, where both gears are of steel."""
    if not scuffs(p):
        return
    X_W = min(structural_factor(g.material.group, g.treatment) for g in members)
    with np.errstate(all="ignore"):
        rate_scuffing(p, n, X_W, defaults.lubrication, defaults.lubricant.S_FZG, defaults.phi_E, first_drives)


def factors_W(members: tuple[Gear, Gear]) -> tuple[float | None, float | None]:
    """Material factors of micropitting of both gears."""
    one, two = members
    return material_factor(one.material.group, one.treatment), material_factor(two.material.group, two.treatment)


def add_micropitting(p: PairInput, n: PairShape, members: tuple[Gear, Gear], defaults: Defaults) -> None:
    """Micropitting of a pair, where its flanks have a material factor and the oil a test stage."""
    oil, W = defaults.lubricant, factors_W(members)
    if not scuffs(p) or W[0] is None or W[1] is None or oil.S_GF is None:
        return
    with np.errstate(all="ignore"):
        rate_film(p, n, min(W[0], W[1]), defaults.lubrication, film_oil(oil), oil.S_GF, oil.theta_GF)


def add_flank_fracture(p: PairInput, n: PairShape) -> None:
    """Flank fracture of gears whose case and core are given, where both gears are of steel."""
    if scuffs(p):
        with np.errstate(all="ignore"):
            rate_flank_fracture(p, n)


def film_oil(oil: Lubricant) -> Oil:
    """The oil as the film thickness asks for it."""
    return Oil(
        lambda theta: kinematic_viscosity(oil.nu_40, oil.nu_100, theta) * density(oil.rho_15, theta) * 1e-6,
        oil.kind,
        oil.X_L,
    )
