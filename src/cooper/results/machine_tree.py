"""The machine as plain data with symbols as keys, as `cooper check --json` prints it, and as rows that a person
reads."""

from __future__ import annotations

from typing import Any

import numpy as np

from cooper.machine.covers import screw_designation
from cooper.machine.holding import Hold
from cooper.results.machine_result import MachineResult, ShaftResult

LONGEST = 1e9
"""Life (h) that stands for any longer one."""


def machine_tree(m: MachineResult) -> dict[str, Any]:
    """Shafts with their pieces, bearings and joints, the housing, what runs into what."""
    return {
        "shafts": [_shaft(s) for s in m.shafts],
        "housing": {
            "L_box": m.housing.length,
            "W_box": m.housing.width,
            "H_box": m.housing.height,
            "s_wall": m.housing.wall,
            "volume": m.housing.volume,
            "mass": m.housing.mass,
        },
        "torsion": None
        if m.torsion is None
        else {"n": list(m.torsion.n), "X_tors": m.torsion.apart, "shaft": m.torsion.shaft},
        "m_box": m.mass,
        "L_sys": min(m.L_sys, LONGEST),
        "pins": [
            {
                "planet": p.key,
                "d": p.pin.d,
                "span": p.pin.span,
                "F": p.pin.F,
                "S_D": p.pin.S_D,
                "S_Y": p.pin.S_Y,
                "bearing": None if p.pin.bearing is None else p.pin.bearing.bearing.name,
                "L_nmh": None if p.pin.checked is None else p.pin.checked.L_nmh,
                "S_0": None if p.pin.checked is None else p.pin.checked.S_0,
            }
            for p in m.pins
        ],
        "clashes": [{"one": c.one, "two": c.two, "by": c.by} for c in m.clashes],
    }


def _shaft(s: ShaftResult) -> dict[str, Any]:
    j = s.checked
    at_D, S_D = j.place(j.S_D)
    at_Y, S_Y = j.place(j.S_Y)
    return {
        "id": s.key,
        "name": s.name,
        "axis": list(s.axis),
        "n": s.made.wish.n,
        "steel": s.made.wish.steel.name,
        "S_D": S_D,
        "at_S_D": at_D,
        "S_Y": S_Y,
        "at_S_Y": at_Y,
        "n_crit": j.n_crit,
        "mass": j.mass,
        "pieces": [{"name": p.name, "start": p.start, "end": p.end, "d": p.d, "r": p.r} for p in s.made.pieces],
        "bearings": [
            {
                "name": b.name,
                "type": b.bearing.type,
                "series": b.bearing.series,
                "designation": b.bearing.designation,
                "d": b.bearing.d,
                "D": b.bearing.D,
                "B": b.bearing.B,
                "at": b.at,
                "fixed": b.fixed,
                "typed": b.typed,
                "C_r": b.C,
                "C_0r": b.C_0,
                "F_r": f.F_r,
                "F_a": f.F_a,
                "P": f.P,
                "L_10h": f.L_10h,
                "L_nmh": f.L_nmh,
                "S_0": f.S_0,
                "theta_sh": float(np.degrees(f.slope)),
            }
            for b, f in zip(s.made.bearings, j.bearings, strict=True)
        ],
        "seals": [{"on": p.name, "d": seal.d, "D": seal.D, "b": seal.b} for p, seal in s.made.seals],
        "holds": [_hold(h) for h in s.holding.holds if h.needed],
        "covers": [
            {"bearing": c.bearing, "D": c.D, "D_2": c.D_2, "flange": c.flange, "screws": screw_designation(c)}
            for c in s.holding.covers
        ],
        "joints": [
            {"on": g.piece, "kind": g.kind, "d": g.d, "l_tr": g.l_tr, "length": g.length, "p": f.p, "S_J": f.S}
            for g, f in zip(s.made.joints, j.joints, strict=True)
        ],
    }


def _hold(h: Hold) -> dict[str, Any]:
    """What keeps a hub or ring on one side (-1 left, 1 right): by what, the thrust that comes there, what it bears."""
    bears = None if np.isinf(h.bears) else h.bears
    return {"thing": h.thing, "ring": h.ring, "side": h.side, "by": h.by, "F": h.F, "bears": bears}
