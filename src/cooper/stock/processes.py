"""Ways of making gears, and what customarily goes with each: the start of a survey."""

from __future__ import annotations

from functools import cache
from typing import Any

import numpy as np
from msgspec import Struct

from cooper.arrays import Array, as_float
from cooper.stock.files import load


class Process(Struct, frozen=True):
    """One way: materials of pinion and wheel, of rings with their class, class and roughness (um), basic racks,
    tools of external and internal gears, modules (mm) and helix angles (degrees) from and to, clearances of the process
    (mm), grade of the centre distance, face load factor that is entered (None: by method C)."""

    key: str
    words: str
    materials: tuple[tuple[tuple[str, str, float], tuple[str, str, float]], ...]
    ring: tuple[str, str, float]
    ring_Q: int
    Q: int
    Rz_H: float
    Rz_F: float
    racks: tuple[str, ...]
    allowance: dict[str, Any]
    js: int
    K_Hbeta: float | None
    tools: tuple[str, str]
    module: tuple[float, float]
    beta: tuple[float, float]
    c_proc: float
    j_min: float
    oil: str

    def allowances(self, d: Array, m_n: Array) -> tuple[Array, Array]:
        """Upper and lower tooth thickness allowance (mm) of gears by reference diameter and module (mm); beyond the
        tables their end.

        >>> processes()["ground"].allowances(np.array(100.0), np.array(2.0))
        (np.float64(-0.07), np.float64(-0.11))
        """
        d, m_n = np.broadcast_arrays(as_float(d), as_float(m_n))
        if "series" in self.allowance:
            data = load("allowances")
            row = np.minimum(np.searchsorted(data["up_to"], d), len(data["up_to"]) - 1)
            upper = as_float(data["E_sns"][self.allowance["series"]])[row] / 1000
            width = as_float(data["T_sn"][str(self.allowance["class"])])[row] / 1000
        else:
            (a, b), (c, e) = self.allowance["upper"], self.allowance["width"]
            upper, width = a + b * m_n, c + e * m_n
        return as_float(np.round(upper, 4)), as_float(np.round(upper - width, 4))

    def distance_allowance(self, a_w: Array) -> Array:
        """Half the tolerance of the centre distance (mm), class js of ISO 286; beyond the table its end.

        >>> float(processes()["ground"].distance_allowance(np.array(73.5)))
        0.015
        """
        data = load("it_grades")
        row = np.minimum(np.searchsorted(data["up_to"], a_w), len(data["up_to"]) - 1)
        return np.round(as_float(data["IT"][str(self.js)])[row] / 2000, 5)


@cache
def processes() -> dict[str, Process]:
    """All ways by key.

    >>> list(processes())
    ['cut', 'ground', 'sintered', 'moulded', 'printed', 'sheet']
    """
    result = {}
    for key, row in load("processes")["processes"].items():
        materials = tuple(((a, b, float(c)), (d, e, float(f))) for a, b, c, d, e, f in row["materials"])
        group, grade, hardness, Q = row["ring"]
        rest = {k: v for k, v in row.items() if k not in ("materials", "ring", "racks", "tools", "module", "beta")}
        result[key] = Process(
            key=key,
            materials=materials,
            ring=(group, grade, float(hardness)),
            ring_Q=Q,
            racks=tuple(row["racks"]),
            tools=(row["tools"][0], row["tools"][1]),
            module=(row["module"][0], row["module"][1]),
            beta=(row["beta"][0], row["beta"][1]),
            **rest,
        )
    return result
