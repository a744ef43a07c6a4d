"""Losses of the whole train, its oil temperature by heat balance, and its efficiency over load and speed.

The power goes from shaft to shaft along the walk of the train, and parts where a shaft drives more than one pair or set
or is an output. Planets and idlers turn on two bearings each, of the type of the shafts'.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from cooper.arrays import Loose as Array
from cooper.arrays import any_, as_float, clip, where
from cooper.document.models import GearSet, Train
from cooper.document.walk import Group
from cooper.errors import OutOfRange
from cooper.gears.inputs import PairInput
from cooper.i18n.text import tr
from cooper.results.pair_numbers import PairNumbers, loss_numbers
from cooper.results.set_flow import efficiencies, members_of, set_flows
from cooper.results.solve_stage import solve_duty
from cooper.running.no_load import bearing_loss, churning_1, churning_2, dip_factor, seal_loss_1, seal_loss_2
from cooper.running.pair_losses import add_losses
from cooper.stock.bearings import bearing

Lost = list[tuple[PairInput, PairNumbers]]
HOTTEST, COLDEST = 250.0, -60.0
"""Oil temperatures between which the heat balance is looked for; degrees C."""


class Around(Struct, frozen=True):
    """What a machine around the gears loses beside them: ``bearings`` from the oil's viscosity (mm2/s) and the load and
    speed over the duty's (W), ``seals`` the diameters on which the seals of input and outputs run, by shaft (mm; none
    without one)."""

    bearings: Callable[[Array, Array, Array], Array]
    seals: dict[str, float]


def train_losses(
    train: Train, lost: Lost, load: Array = 1.0, speed: Array = 1.0, around: Around | None = None
) -> dict[str, Array]:
    """Power lost in meshes, oil, bearings and seals (W) and the efficiency both ways, from the stages' inputs and
    numbers at ``load`` and ``speed`` over the duty's. Bearings and seals are those that are ``around``, else two
    bearings a shaft by their type, and seals on the bores.

    Arrays over loads, speeds or temperatures where the inputs are arrays. ISO/TR 14179-1 and -2.
    """
    at = train.losses
    mu, f_0, mean = bearing(at.bearing)
    first, _ = lost[0]
    P_in = solve_duty(train.duty)[0] * as_float(load) * speed
    nu = lost[0][1].mesh.nu_oil
    by_1 = at.method == "ISO/TR 14179-1"
    churn: Array = 0.0
    for k, (p, n) in enumerate(lost):
        g, omega_2 = n.gears[1], p.omega_1 / np.abs(n.mesh.u)
        # Planets and rings do not stir the sump as a wheel on a fixed axis does.
        if at.h_e <= 0 or not train.stages[k].kind_of_pair.turns or train.stages[k].within is not None:
            continue
        d_a = np.abs(g.d_a)
        v_t = n.mesh.v
        n_2 = omega_2 * 30 / np.pi
        if by_1:
            m_t = p.m_n / np.cos(p.beta)
            churn = churn + churning_1(dip_factor(at.h_e, d_a), nu, n_2, d_a, g.b, m_t, p.beta)
        else:
            churn = churn + churning_2(0.0, at.h_e, g.b, v_t, n_2, d_a / 2, at.l_hyd)
    bearings: Array = 0.0
    seals: Array = 0.0
    bores = shaft_bores(train, lost)
    for key, (turns, force) in _shafts(train, lost).items():
        n_k, d = turns * 30 / np.pi, bores[key]
        if around is None:
            bearings = bearings + 2 * bearing_loss(force / 2, mu, f_0, d, mean * d, nu, n_k)
        if key == train.input or key in train.walk.outputs:
            own = d if around is None else around.seals.get(key)
            if own is None:
                continue
            d = as_float(own)
            each = seal_loss_1(d, n_k, at.seal) if by_1 else seal_loss_2(d, n_k, first.theta_oil, first.nu_40)
            seals = seals + at.seals / 2 * each
    bearings = bearings + planet_bearings(train, lost) if around is None else around.bearings(nu, load, speed)
    P_Vz = P_in * (1 - _through(train, lost))
    free = churn + bearings + seals
    P_V = P_Vz + free
    forward = 1 - P_V / P_in
    # Backwards the same power comes in at the output: what the free losses take is gone before the meshes.
    back = _through(train, lost, backward=True)
    eta_back = where(P_in > free, back * (1 - free / P_in), 0.0)
    zero = np.zeros(np.shape(P_V))
    return {
        "P_V": P_V,
        "P_Vz": P_Vz + zero,
        "P_V0": churn + zero,
        "P_VL": bearings + zero,
        "P_VD": seals + zero,
        "eta_all": forward,
        "eta_back": eta_back + zero,
    }


def all_losses(
    train: Train, lost: Lost, values: Mapping[str, Array], around: Around | None = None, balance: bool = True
) -> dict[str, Array]:
    """The losses of the whole train and what they leave at the output of what ``values`` have there with other
    losses; with ``balance`` the temperature of the heat balance where the housing is known, NaN where there is none."""
    out = train_losses(train, lost, around=around)
    # Where more is lost than comes in the train stands still; a note says so.
    left = np.maximum(out["eta_all"], 0.0)
    out |= {"eta": left, "P_out": solve_duty(train.duty)[0] * left, "theta_oil": as_float(train.duty.theta_oil)}
    share = where(values["eta"] > 0, left / np.maximum(values["eta"], 1e-300), 0.0)
    out |= {s: values[s] * share for s in ("T_out", "F_out") if s in values}
    if balance and train.losses.A_h is not None:
        out["theta_bal"] = oil_temperatures(train, lost, around)
    return out


def _through(train: Train, lost: Lost, backward: bool = False) -> Array:
    """Efficiency of all meshes: what of the power that comes in is taken off at all outputs, found from shaft to shaft;
    ``backward`` with the power going from the main output to the input alone. A set's own is found from its meshes, as
    power that circulates is lost in them many times over."""
    walk = train.walk
    if backward:
        result: Array = np.ones(())
        for group in walk.way_to(walk.main):
            result = result * _efficiency(train, lost, group, True)
        return result
    there = _along(train, np.ones(()), lambda g, end, power: power * g.share * _share_out(train, lost, g, end))
    whole: Array = 0.0
    for shaft, share in walk.outputs.items():
        whole = whole + there[shaft] * share
    return whole


def _share_out(train: Train, lost: Lost, group: Group, end: int) -> Array:
    """Share of the power that comes to a group which goes out at one of its ends."""
    if len(group.ends) == 1:
        return _efficiency(train, lost, group, False)
    one = train.stages[group.stages[0]].within
    assert one is not None and one.second is not None
    found = set_flows(one, _counts(lost, group), [1 - lost[k][1].mesh.eta_z for k in group.stages])
    names = members_of(one)
    power = found.omega * found.torque
    return np.abs(power[..., names.index((one.output, one.second)[end])] / power[..., names.index(one.input)])


def _efficiency(train: Train, lost: Lost, group: Group, backward: bool) -> Array:
    """Efficiency of one pair or set."""
    one = train.stages[group.stages[0]].within
    etas = [lost[k][1].mesh.eta_z for k in group.stages]
    return etas[0] if one is None else efficiencies(one, _counts(lost, group), [1 - e for e in etas], backward)


def _along(train: Train, start: Array, step: Callable[[Group, int, Array], Array]) -> dict[str, Array]:
    """A value by shaft, from that of the input on: ``step`` finds it at an end of a group from that before it."""
    result = {train.input: start}
    for group in train.walk.groups:
        for end, key in enumerate(group.ends):
            result[key] = step(group, end, result[group.comes_in])
    return result


def _counts(lost: Lost, group: Group | GearSet) -> list[tuple[Array, Array]]:
    """Signed counts of the driver and the driven gear of each mesh of a group."""
    return [(lost[k][0].gears[0].z, lost[k][0].gears[1].z) for k in group.stages]


def _turns(one: GearSet, lost: Lost) -> dict[str, Array]:
    """Speed of every member of a set by name, over that of its input."""
    omega = set_flows(one, _counts(lost, one)).omega
    return {name: omega[..., n] for n, name in enumerate(members_of(one))}


def shaft_bores(train: Train, lost: Lost) -> dict[str, Array]:
    """Bearing bore of each shaft from the input on: as given on the gears of pairs there, the driving ones first, else
    from the torque of the duty; mm. A body that does not turn is no shaft."""
    tau = train.losses.tau_sh
    T = _along(train, solve_duty(train.duty)[1], lambda g, end, T: T * g.share * _torque_ratio(train, lost, g, end))
    bores: dict[str, Array] = {}
    for key in _turning(train):
        stages = [(0, g) for g in train.walk.groups if g.comes_in == key]
        stages += [(1, g) for g in train.walk.groups if key in g.ends]
        gears = [train.stages[g.stages[0]].gears[i] for i, g in stages if len(g.stages) == 1]
        given = next((gear.d_s for gear in gears if gear.d_s), None)
        bores[key] = as_float(given) if given else np.cbrt(16000 * T[key] * train.duty.K_A / (np.pi * tau))
    return bores


def _turning(train: Train) -> list[str]:
    """The shafts to which power comes, from the input on, without what moves along a line."""
    groups = [g for g in train.walk.groups if train.stages[g.stages[-1]].kind_of_pair.turns]
    return [train.input, *(end for g in groups for end in g.ends)]


def _torque_ratio(train: Train, lost: Lost, group: Group, end: int) -> Array:
    """Torque at an end of a group over that which comes in, without friction and sign."""
    one = train.stages[group.stages[0]].within
    if one is None or one.second is None:
        return _ratio(train, lost, group, end)
    torque, names = set_flows(one, _counts(lost, group)).torque, members_of(one)
    return np.abs(torque[..., names.index((one.output, one.second)[end])] / torque[..., names.index(one.input)])


def _ratio(train: Train, lost: Lost, group: Group, end: int) -> Array:
    """Speed that comes in over that at an end of a group, without sign."""
    one = train.stages[group.stages[0]].within
    if one is not None:
        w = _turns(one, lost)
        return np.abs(w[one.input] / w[(one.output, one.second or "")[end]])
    (z_1, z_2) = _counts(lost, group)[0]
    return np.abs(as_float(z_2) / z_1)


def _shafts(train: Train, lost: Lost) -> dict[str, tuple[Array, Array]]:
    """Speed (rad/s) of each shaft and the sum of the forces on its gears (N), radial and axial, directions unknown.

    The forces of planets on sun, carrier and ring balance each other.
    """
    first = lost[0][0]
    omega: Array = first.omega_1
    one = train.stages[0].within
    if one is not None and one.arranged.around:
        w = _turns(one, lost)
        omega = first.omega_1 * np.abs(w[one.input] / (w[one.arranged.roles[0][0]] - w[one.arranged.carrier]))
    speeds = _along(train, omega, lambda g, end, omega: omega / _ratio(train, lost, g, end))
    forces: dict[str, Array] = dict.fromkeys(speeds, 0.0)
    for group in train.walk.groups:
        one = train.stages[group.stages[0]].within
        if one is not None and one.arranged.around:
            continue
        for key, k in ((group.comes_in, group.stages[0]), (group.goes_out, group.stages[-1])):
            v = lost[k][1].mesh
            forces[key] = forces[key] + np.sqrt(v["F_t"] ** 2 + v["F_r"] ** 2 + v["F_a"] ** 2)
    return {key: (speeds[key], forces[key]) for key in _turning(train)}


PIN = 0.3
"""Bearing bore of a planet or idler over its reference diameter, where neither shaft nor bore is given."""


def planet_bearings(train: Train, lost: Lost) -> Array:
    """Loss in the bearings of all planets and idlers, two each; W.

    Between sun and ring, or between its two mates, a gear is pushed sideways by both tangential forces, and the radial
    ones oppose; between two rings the tangential ones oppose and the radial ones add. Centrifugal force is left out.
    """
    at = train.losses
    mu, f_0, mean = bearing(at.bearing)
    nu = lost[0][1].mesh.nu_oil
    whole: Array = np.zeros(())
    shafts = _shafts(train, lost)
    for group in train.walk.groups:
        one, omega = train.stages[group.stages[0]].within, shafts[group.comes_in][0]
        if one is None:
            continue
        w = _turns(one, lost)
        turns = (
            np.abs(w[one.arranged.between])
            if not one.arranged.around
            else np.abs(w[one.arranged.between] - w[one.arranged.carrier])
        )
        across, along = pin_forces(one, lost)
        d = pin_bore(train, one, lost)
        n = turns * omega * 30 / np.pi
        whole = whole + 2 * one.planets * bearing_loss(np.hypot(across, along) / 2, mu, f_0, d, mean * d, nu, n)
    return whole


def pin_forces(one: GearSet, lost: Lost) -> tuple[Array, Array]:
    """Force on the bearings of one planet or idler of a set from its meshes, across its arm and along it; N.

    Between two rings the force across is the small difference of two great ones, which friction moves: it follows from
    the carrier's torque.
    """
    across, along = [], []
    group = one.stages
    for _, n in (lost[k] for k in group):
        at_pitch = n.mesh.F_t * np.abs(n.gears[0].d / n.gears[0].d_w)
        across.append(at_pitch)
        along.append(at_pitch * np.tan(n.mesh.alpha_wt))
    if one.arranged.circulates:
        first = lost[group[0]][0]
        z = _counts(lost, one)
        result = set_flows(one, z, [1 - lost[k][1].mesh.eta_z for k in group])
        # A planet's part of the carrier's torque over the load of its first mesh.
        held = np.abs(result.torque[..., members_of(one).index(one.arranged.carrier)])
        load = np.maximum(np.abs(result.mesh_a[..., 0]), np.abs(result.mesh_b[..., 0] * z[0][0] / z[0][1]))
        # A sun pushes the planets out against what the rings push in; a free one does not push.
        return 1000 * held / load * first.T_1 / np.abs(first.a_w), np.abs(
            along[0] + along[1] - (along[2] if one.sun_works else 0.0)
        )
    # A ring pushes its planet inwards, a sun outwards; the mates of an idler stand on both sides of it.
    one_way, other = (np.sign(as_float(lost[k][0].gears[1].z)) for k in group)
    if not one.arranged.around:
        one_way, other = np.ones(()), -np.ones(())
    sense, sense_2 = one.arranged.across[:2]
    return np.abs(sense * across[0] + sense_2 * across[1]), np.abs(one_way * along[0] + other * along[1])


def pin_bore(train: Train, one: GearSet, lost: Lost) -> Array:
    """Bearing bore of a set's planets or idler: its shaft's diameter as given, else its bore, else `PIN` of its
    reference diameter; mm."""
    i = one.arranged.planet
    p, gear = lost[one.first][0], train.stages[one.first].gears[i]
    d = p.gears[i].d_bore
    return as_float(gear.d_s or where(as_float(d) > 0, d, PIN * np.abs(p.gears[i].z) * p.m_n / np.cos(p.beta)))


def varied(train: Train, lost: Lost, load: Array = 1.0, speed: Array = 1.0, theta: Array | None = None) -> Lost:
    """The stages at other loads, speeds (ratios to those given) and oil temperatures, which may be arrays."""
    out: Lost = []
    there = {train.input: load}
    for group in train.walk.groups:
        T_rel = there[group.comes_in]
        for k in group.stages:
            p, n = lost[k]
            warm = p.theta_oil if theta is None else theta
            at = replace(p, T_1=p.T_1 * T_rel, omega_1=p.omega_1 * speed, theta_oil=warm)
            with np.errstate(all="ignore"):
                numbers = loss_numbers(at) if any_(p.warms) else _lost_at(at, n, T_rel, speed)
            out.append((at, numbers))
            # What is lost before does not reach the next stage.
            T_rel = T_rel * numbers.mesh.eta_z / n.mesh.eta_z
        there |= dict.fromkeys(group.ends, T_rel)
    return out


LOADED = ("F_t", "F_bt", "F_r", "F_a")
"""Forces, which grow with the load; of all other values a loss depends on, none changes with load, speed or oil but
v."""


def _lost_at(p: PairInput, n: PairNumbers, load: Array, speed: Array) -> PairNumbers:
    """The numbers of a pair with only those values recalculated that its losses depend on: rating it again would take
    twenty times as long."""
    mesh = n.mesh.copy()
    mesh.update({s: n.mesh[s] * load for s in LOADED if s in n.mesh}, v=n.mesh.v * speed)
    add_losses(p, mesh, n.path)
    return replace(n, mesh=mesh, pair=p)


def heat_balance(train: Train, lost: Lost, around: Around | None = None) -> float:
    """Oil temperature at which the housing gives off what is lost: P_V = k A (theta - theta_air); degrees C.

    ISO/TR 14179-2:2001, 9. Raises `OutOfRange` when it would pass 250 degrees C.
    """
    at = train.losses
    result = float(oil_temperatures(train, lost, around))
    if np.isnan(result):
        needed = float(train_losses(train, varied(train, lost, theta=np.array(90.0)), around=around)["P_V"]) / (
            at.k_h * (90.0 - min(at.theta_air, 80.0))
        )
        raise OutOfRange(
            "A_h",
            at.A_h if at.A_h is not None else tr("not given"),
            tr(
                "the oil would become hotter than {hottest:.0f} degrees C; for 90 degrees C the housing "
                "needs about this area",
                hottest=HOTTEST,
            ),
            low=float(tr("{needed:.3g}", needed=needed)),
            unit="m2",
        )
    return result


def oil_temperatures(train: Train, lost: Lost, around: Around | None = None) -> Array:
    """`heat_balance` for arrays over designs, NaN where it would pass 250 degrees C.

    Found on a grid that is made finer once, half a degree then, and by a straight line between two of its places.
    """
    at = train.losses
    assert at.A_h is not None
    size = np.shape(lost[0][1].mesh.eta_z)
    low, high = np.full(size, max(COLDEST, at.theta_air - 5.0)), np.full(size, HOTTEST)
    good = np.full(size, True)
    for _ in range(2):
        theta = np.linspace(low, high, 25)
        P_V = train_losses(train, varied(train, lost, theta=theta), around=around)["P_V"]
        left = at.k_h * at.A_h * (theta - at.theta_air) - P_V
        good &= (left >= 0).any(axis=0)
        k = np.maximum(np.argmax(left >= 0, axis=0), 1)[None]
        low, high = (np.take_along_axis(theta, n, axis=0)[0] for n in (k - 1, k))
    short, over = (np.take_along_axis(left, n, axis=0)[0] for n in (k - 1, k))
    with np.errstate(all="ignore"):
        share = where(over > short, -short / (over - short), 0.5)
    return where(good, low + (high - low) * clip(share, 0.0, 1.0), np.nan)


LOADS, SPEEDS = np.geomspace(0.05, 1.5, 30), np.geomspace(0.05, 2.0, 30)
"""Ratios to the duty's torque and speed over which efficiency is shown."""


class Curves(Struct, frozen=True):
    """Efficiency over the ratios `LOADS` and `SPEEDS`: with the power going forward and backward."""

    over_load: tuple[Array, Array]
    over_speed: tuple[Array, Array]


def efficiency_curves(train: Train, lost: Lost, around: Around | None = None) -> Curves:
    """Efficiency of the train over load and over speed, all losses counted; negative where they exceed what comes
    in."""
    result = [
        train_losses(train, varied(train, lost, load=LOADS), load=LOADS, around=around),
        train_losses(train, varied(train, lost, speed=SPEEDS), speed=SPEEDS, around=around),
    ]
    return Curves(*((v["eta_all"], v["eta_back"]) for v in result))
