"""Backlash of pairs at rest and in service, as arrays over designs."""

from __future__ import annotations

from cooper.arrays import Array, Real, as_float, where
from cooper.gears.inputs import GearInput, PairInput
from cooper.gears.tooth import shift_of_allowance
from cooper.running.backlash import Backlash, Slack
from cooper.running.play import Play, centre_change_by_heat, play
from cooper.values import GearValues, MeshValues


def add_play(p: PairInput, mesh: MeshValues[Array], gears: tuple[GearValues[Array], ...]) -> None:
    """Add allowances, backlash and its limits to the values.

    Parameters
    ----------
    p : PairInput
        The pairs as entered, arrays of any shape.
    mesh : MeshValues[Array]
        Values of the mesh by symbol; the results are added to them.
    gears : tuple[GearValues[Array], ...]
        Values of both gears by symbol; the results are added to them.

    References
    ----------
    ISO 21771:2007.
    """
    one, two = p.gears
    slack = Slack(one.z, two.z, p.m_n, p.alpha_n, p.beta)

    def at(e: tuple[Real, Real], a_w: Real) -> Backlash:
        x = [g.x + shift_of_allowance(s, p.m_n, p.alpha_n) for g, s in zip(p.gears, e, strict=True)]
        return slack.all(x[0] + x[1], a_w)

    # An internal pair has least play at its greatest centre distance.
    inside = as_float(p.a_w) < 0
    least = at((one.E_sns, two.E_sns), p.a_w + where(inside, -as_float(p.A_as), p.A_ai))
    most = at((one.E_sni, two.E_sni), p.a_w + where(inside, -as_float(p.A_ai), p.A_as))
    mean = at(((one.E_sns + one.E_sni) / 2, (two.E_sns + two.E_sni) / 2), p.a_w)
    for end, result in (("min", least), ("max", most)):
        mesh[f"j_wt_{end}"], mesh[f"j_bn_{end}"] = result.j_wt, result.j_bn
        gears[0][f"j_phi_{end}"], gears[1][f"j_phi_{end}"] = result.phi_1, result.phi_2
    mesh.j_wt = mean.j_wt


def service_play(p: PairInput, mesh: MeshValues[Array], gears: tuple[GearValues[Array], ...]) -> Play:
    """Play in service of arrays of pairs: tolerances, run-out by flank class, temperature.

    Parameters
    ----------
    p : PairInput
        The pairs as entered, arrays of any shape.
    mesh : MeshValues[Array]
        Values of the mesh by symbol; the results are added to them.
    gears : tuple[GearValues[Array], ...]
        Values of both gears by symbol; the results are added to them.

    Returns
    -------
    Play
        Play of the pairs (mm).
    """
    one, two = p.gears

    def limits(g: GearInput) -> tuple[Array, Array]:
        low, high = (g.x + shift_of_allowance(e, p.m_n, p.alpha_n) for e in (g.E_sni, g.E_sns))
        return low, high

    inside = as_float(p.a_w) < 0
    ends = [p.a_w + where(inside, -as_float(A), A) for A in (p.A_ai, p.A_as)]
    heat = centre_change_by_heat(
        p.a_w,
        gears[0].d_w / 2,
        gears[1].d_w / 2,
        one.material.expansion,
        two.material.expansion,
        p.alpha_housing,
        p.theta_gears,
        p.theta_housing,
        one.swelling,
        two.swelling,
    )
    return play(
        one.z,
        two.z,
        p.m_n,
        p.alpha_n,
        p.beta,
        limits(one),
        limits(two),
        (ends[0], ends[1]),
        (gears[0].F_rT, gears[1].F_rT),
        heat,
    )


def add_service_play(p: PairInput, mesh: MeshValues[Array], gears: tuple[GearValues[Array], ...]) -> None:
    """Add play in service to the values; not of a rack, whose own warmth is unknown.

    Parameters
    ----------
    p : PairInput
        The pairs as entered, arrays of any shape.
    mesh : MeshValues[Array]
        Values of the mesh by symbol; the results are added to them.
    gears : tuple[GearValues[Array], ...]
        Values of both gears by symbol; the results are added to them.
    """
    if p.gears[1].teeth_cut is not None:
        return
    service = service_play(p, mesh, gears)
    mesh.update(
        j_op=service.mean,
        j_heat=service.by_heat,
        j_op_min=service.worst[0],
        j_op_max=service.worst[1],
        j_rss_min=service.statistical[0],
        j_rss_max=service.statistical[1],
    )
