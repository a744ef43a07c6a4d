"""Small builders shared by the tests."""

from __future__ import annotations

import numpy as np

from cooper.demo import demo
from cooper.document.duty import Duty
from cooper.document.gear_data import Gear, Material, Mesh
from cooper.document.models import Design, Train
from cooper.document.row import Part, in_row, pair_of
from cooper.document.sets import SetData
from cooper.document.walk import Stage
from cooper.editing.follow import follow
from cooper.editing.machine_edits import in_machine
from cooper.gears.cutter import PinionCutter
from cooper.gears.rack import Rack
from cooper.gears.tooth import Tooth, tip_diameter


def tooth(z, x=0.0, m=2.0, alpha=20.0, h_fP=1.25, rho=0.38, h_aP=1.0, beta=0.0, x_E=None) -> Tooth:
    rack = Rack(np.radians(alpha), h_aP, h_fP, rho)
    b = np.radians(beta)
    return Tooth(z, m, b, x, x if x_E is None else x_E, rack, tip_diameter(z, m, b, x, h_aP))


def shaped(z, x=0.0, z_0=25.0, x_0=0.0, h=1.25, rho=0.2, m=2.0, beta=0.0) -> Tooth:
    """A gear cut by a pinion cutter; internal for a negative count."""
    rack = Rack(np.radians(20.0), 1.0, h, rho)
    b = np.radians(beta)
    return Tooth(float(z), m, b, x, x, rack, float(tip_diameter(z, m, b, x, 1.0)), PinionCutter(z_0, x_0))


def polyline_distance(points, line):
    """Distance of each point to an open polyline."""
    a, b = line[:-1], line[1:]
    d = b - a
    t = np.clip(((points[:, None] - a) * d).sum(-1) / np.maximum((d * d).sum(-1), 1e-30), 0, 1)
    return np.hypot(*np.moveaxis(points[:, None] - (a + t[..., None] * d), -1, 0)).min(axis=1)


def signed_depth(points, outline):
    """How deep points lie inside a closed outline; negative outside."""
    closed = np.vstack((outline, outline[:1]))
    depth = polyline_distance(points, closed)
    x, y = points[:, 0][:, None], points[:, 1][:, None]
    (x0, y0), (x1, y1) = closed[:-1].T, closed[1:].T
    with np.errstate(divide="ignore", invalid="ignore"):
        crosses = ((y0 > y) != (y1 > y)) & (x < (x1 - x0) * (y - y0) / (y1 - y0) + x0)
    return np.where(crosses.sum(1) % 2 == 1, depth, -depth)


def pair(z1=17, z2=41, x1=0.32, x2=0.12, m=2.5, P=4200.0, n=1400.0, **more) -> Design:
    """A plain design; ``more`` goes to the duty."""
    case = Material(group="Eh", hardness=700)
    one = Gear(name="pinion", z=z1, x=x1, b=28, material=case)
    two = Gear(name="wheel", z=z2, x=x2, b=26)
    return Design(
        name="test pair", train=Train(duty=Duty(P=P, n=n, **more), **in_row([pair_of(one, two, Mesh(m_n=m))]))
    )


def planet_set(kind="planetary", z=(24, 30, 84), planets=3, m=2.0, **duty) -> Design:
    """A set of any kind alone in its train; counts positive, as `cooper.trains.planets.positions` takes them."""
    case = Material(group="Eh", hardness=700)

    def gear(name, count, x=0.0, **more):
        ring = {
            "tool": "pinion cutter",
            "rho_fP": 0.2,
            "d_rim": -count * m + 14 * m,
            "x": None,
            "z_0": min(25, -count // 3),
        }
        return Gear(
            name=name,
            z=count,
            b=20,
            material=case,
            E_sns=-0.06,
            E_sni=-0.1,
            **({"x": x, **more} if count > 0 else {**ring, **more}),
        )

    mesh = Mesh(m_n=m)
    if kind in ("planetary", "idler"):
        middle = gear("planet", z[1], 0.1, bending="both ways", id="gear2")
        last = gear("ring", -z[2]) if kind == "planetary" else gear("last", z[2])
        pairs = ((gear("sun", z[0], 0.2), middle), (middle, last))
    elif kind == "stepped":
        pairs = ((gear("sun", z[0], 0.2), gear("planet", z[1], 0.1)), (gear("small", z[2], 0.1), gear("ring", -z[3])))
    else:
        pairs = ((gear("planet", z[0], 0.2), gear("ring", -z[1])), (gear("upper", z[2], 0.2), gear("ring 2", -z[3])))
    a_w = (z[1] - z[0] if kind == "two rings" else z[0] + z[1]) * m / 2
    first = mesh.replace_unchecked(a_w=a_w) if kind == "two rings" else mesh
    second = mesh if kind == "idler" else mesh.replace_unchecked(a_w=a_w)
    one = {"kind": kind, "planets": planets}
    if kind == "idler":
        one |= {"held": None, "input": "first gear", "output": "last gear"}
    if kind == "two rings":
        one |= {"held": "ring", "input": "carrier", "output": "ring 2"}
    stages = tuple(
        Stage(gears, mesh.replace_unchecked(name=name))
        for gears, mesh, name in zip(pairs, (first, second), ("first", "second"), strict=True)
    )
    row = in_row([Part(stages, SetData(**one))])
    follow(row["sets"], row["gears"], row["meshes"])
    given = {"P": 400.0, "n": 600.0, **duty}
    return Design(name="set", train=Train(duty=Duty(**given), **row))


def splined_winch():
    """The winch with its wheels on splines, as a person may choose."""
    return in_machine(demo("winch"), *((("shafts", k, "joints", k, "kind"), "spline") for k in ("gear2", "gear4")))
