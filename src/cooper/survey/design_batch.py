"""Designs that differ from one another in numbers alone: one design as the pattern, and columns of numbers by path."""

from __future__ import annotations

from typing import Any

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from cooper.arrays import Array
from cooper.arrays import Mixed as Values
from cooper.document.models import Design, at_stage
from cooper.editing.edit import set_many
from cooper.gears.cutter import PinionCutter
from cooper.gears.inputs import GearInput, PairInput
from cooper.gears.pair import centre_distance, shift_sum
from cooper.results.solve_stage import GREATEST_SHIFT, solve_stage
from cooper.results.to_core import in_train, pair_input

WHOLE = ("z", "z_0", "Q")
"""What stands in the document as a whole number."""
GEAR_NUMBERS = ("h_aP", "h_fP", "rho_fP", "E_sns", "E_sni", "b", "Rz_H", "Rz_F")
MESH_NUMBERS = ("l_sh", "s_sh", "d_sh", "A_as", "A_ai", "K_gamma", "K_Hbeta", "K_Halpha", "C_a", "f_ZCa")
"""Numbers that the core takes as they stand in the document."""
OTHERS = ("z", "x", "z_0", "d_bore", "d_rim", "m_n", "beta", "alpha_n", "a_w")


class DesignBatch(Struct, frozen=True):
    """``columns`` (n,) by path as in `editing.edit`, in the document's units and just as they stand there."""

    design: Design
    columns: dict[str, Array]

    def __post_init__(self) -> None:
        for path in self.columns:
            if path.rpartition(".")[2] not in (*GEAR_NUMBERS, *MESH_NUMBERS, *OTHERS):
                raise ValueError(f"{path} cannot vary within a block")

    def __len__(self) -> int:
        return len(next(iter(self.columns.values()))) if self.columns else 1

    def pick(self, rows: Any) -> DesignBatch:
        """The designs of a mask or of row numbers."""
        return replace(self, columns={p: v[rows] for p, v in self.columns.items()})

    def more(self, columns: dict[str, Array]) -> DesignBatch:
        """The same designs with other or further columns."""
        return replace(self, columns={**self.columns, **columns})

    def design_at(self, row: int) -> Design:
        """One of the designs."""
        return set_many(self.design, {p: self.value(p, row) for p in self.columns})

    def value(self, path: str, row: int) -> float | int:
        """A number of one of the designs as it stands there."""
        result = float(self.columns[path][row])
        return int(result) if path.rpartition(".")[2] in WHOLE else result

    def of_gear(self, k: int, i: int, name: str) -> Array | None:
        """The column of gear i (0 drives, 1 is driven) of stage k; None where it does not vary."""
        return self.columns.get(f"{self.design.train.stages[k].paths[i]}.{name}")

    def width(self, k: int, i: int) -> Any:
        """Width of gear i of stage k in all designs."""
        result = self.of_gear(k, i, "b")
        return self.design.train.stages[k].gears[i].b if result is None else result

    def of_mesh(self, k: int, name: str) -> Array | None:
        """The column of the mesh of stage k; None where it does not vary."""
        return self.columns.get(f"{self.design.train.stages[k].path}.{name}")

    def pair(self, k: int, T: Values, omega: Values, a_w: Array | None = None, P_beside: Values = 0.0) -> PairInput:
        """The meshes of stage k of all designs under their loads, in the core's units; shifts that are solved are
        NaN where none can be.

        ``a_w`` is the measured centre distance where the set gives it.
        """
        train = self.design.train
        stage = train.stages[k]
        mesh, solved = stage.mesh, solve_stage(stage)
        base = in_train(train, k, pair_input(stage, solved, *at_stage(train, k), 1.0, 1.0, train.losses.friction))

        def of(name: str, now: Values) -> Values:
            result = self.of_mesh(k, name)
            return now if result is None else result

        m_n = of("m_n", solved.m_n)
        alpha, beta = (np.radians(of(s, getattr(mesh, s))) for s in ("alpha_n", "beta"))
        gears = [self._gear(k, i, base.gears[i], m_n) for i in (0, 1)]
        z_1, z_2 = gears[0].z, gears[1].z
        given = of("a_w", mesh.a_w) if a_w is None else a_w
        if given is None:
            distance: Values = centre_distance(z_1, z_2, m_n, gears[0].x + gears[1].x, alpha, beta)
        else:
            # A ring's distance is negative in the core.
            distance = np.where(np.asarray(z_2) < 0, -1.0, 1.0) * given
            free = 0 if stage.gears[0].x is None else 1
            rest = shift_sum(z_1, z_2, m_n, distance, alpha, beta) - gears[1 - free].x
            rest = np.where(np.abs(rest) < 1e-12, 0.0, rest)
            gears[free] = replace(gears[free], x=np.where(np.abs(rest) <= GREATEST_SHIFT, rest, np.nan))
        numbers: dict[str, Any] = {s: v for s in MESH_NUMBERS if (v := self.of_mesh(k, s)) is not None}
        return replace(
            base,
            gears=(gears[0], gears[1]),
            m_n=m_n,
            alpha_n=alpha,
            beta=beta,
            a_w=distance,
            T_1=T,
            omega_1=omega,
            P_beside=P_beside,
            **numbers,
        )

    def _gear(self, k: int, i: int, base: GearInput, m_n: Values) -> GearInput:
        kind = self.design.train.stages[k].kinds[i]
        changes: dict[str, Any] = {}
        for name in (*GEAR_NUMBERS, "x", "z"):
            result = self.of_gear(k, i, name)
            if result is not None:
                changes[name] = result
        edge = self.of_gear(k, i, kind.boundary_diameter)
        if edge is not None:
            changes["d_bore"] = -edge if kind.inward else edge
        z_0 = self.of_gear(k, i, "z_0")
        if z_0 is not None and isinstance(base.tool, PinionCutter):
            changes["tool"] = replace(base.tool, z_0=z_0)
        return replace(base, **changes)
