"""The load along the face of a mesh from its own shafts, and K_Hbeta from it. ISO 6336-1:2019, Annex E."""

from __future__ import annotations

import numpy as np
from msgspec.structs import replace

from cooper.document.models import Train
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.machine.face_load import SLICES, FaceLoad, Give, face_load, give_of
from cooper.results.machine_result import MachineResult, ShaftResult
from cooper.results.result_tree import Results

BY_SHAFTS = "shafts"


def asks_shafts(train: Train) -> bool:
    """Whether any mesh takes its face load factor from the shafts."""
    return any(s.mesh.K_Hbeta_method == BY_SHAFTS for s in train.stages)


def entered_for_now(train: Train) -> Train:
    """The train whose meshes that ask their shafts take what is entered, with which the shafts are found."""
    return _with_factors(train, {})


def with_factors(train: Train, results: Results) -> tuple[Train, dict[int, FaceLoad]]:
    """The train with K_Hbeta of those meshes from the machine of its results, and the load along their faces."""
    from cooper.results.find_machine import keep_machine, machine_of

    machine = machine_of(train, results)
    faces = {
        k: face_of_mesh(train, results, machine, k)
        for k, s in enumerate(train.stages)
        if s.mesh.K_Hbeta_method == BY_SHAFTS
    }
    result = _with_factors(train, {k: round(f.K_Hbeta, 6) for k, f in faces.items()})
    # Forces and sizes do not change with the factor, nor does the machine.
    keep_machine(result, machine)
    return result, faces


def _with_factors(train: Train, factors: dict[int, float]) -> Train:
    meshes = dict(train.meshes)
    for k, s in enumerate(train.stages):
        if s.mesh.K_Hbeta_method == BY_SHAFTS:
            K = min(factors.get(k, s.mesh.K_Hbeta), 10.0)
            meshes[s.id] = s.mesh.replace_unchecked(K_Hbeta_method="entered", K_Hbeta=K)
    return train.replace_unchecked(meshes=meshes)


def face_of_mesh(train: Train, results: Results, machine: MachineResult, k: int) -> FaceLoad:
    """The load along the face of the mesh of stage k; raises `OutOfRange` for a mesh on planets, whose shafts no
    force is left on."""
    one = train.stages[k].within
    stage, result = train.stages[k], results.stages[k]
    mesh = stage.mesh
    if (one is not None and one.arranged.around) or not result.kind.turns:
        what = (
            tr("the mesh of {name} works on planets", name=stage.name) if one is not None else tr("a rack has no shaft")
        )
        raise OutOfRange(
            "K_Hbeta_method",
            BY_SHAFTS,
            tr("{what}; its face load factor is entered, or found by method C or from f_sh", what=what),
        )
    keys = [g.id for g in stage.gears]
    shafts = [_of_gear(machine, key) for key in keys]
    case = 0 if train.duty.direction == "counter-clockwise" else 1
    b = float(result.mesh.b_H)
    contacts = [next(c for c in s.made.wish.contacts if c.gear == key) for s, key in zip(shafts, keys, strict=True)]
    push = contacts[1].force[case]
    flat = push[:2]
    F_bt = float(np.hypot(*flat))
    direction, axial = flat / F_bt, float(push[2]) / F_bt
    y = (np.arange(SLICES) + 0.5) * b / SLICES
    start = contacts[0].at - b / 2
    gives: list[Give] = []
    for i, (shaft, contact) in enumerate(zip(shafts, contacts, strict=True)):
        g = result.gears[i]
        integral = any(j.gear == keys[i] and j.kind == "integral" for j in shaft.made.joints)
        seat = next(p for p in shaft.made.pieces if p.on == keys[i])
        outer = float(result.kinds[i].outside(g)) if result.kinds[i].inward else float(g.d_fE)
        inner = float(g.d_a) if result.kinds[i].inward else (0.0 if integral else min(seat.d, 0.95 * outer))
        gives.append(
            give_of(
                shaft.made,
                shaft.checked,
                machine.rules,
                gear=keys[i],
                case=case,
                y=start + y,
                direction=direction,
                point=contact.point[case],
                axial=axial,
                r_b=float(g.d_b) / 2,
                d_body=(outer, inner),
            )
        )
    m = result.mesh
    run_in = float(m.F_betay / m.F_betax) if m.get("F_betax", 0.0) else 1.0
    return face_load(
        gives[0],
        gives[1],
        y,
        b,
        F=F_bt * float(m.K_A * m.K_gamma * m.K_V),
        stiffness=0.85 * float(m.c_gamma),
        f_ma=float(m.f_ma),
        C_Hbeta=mesh.C_Hbeta,
        C_beta=mesh.C_beta,
        run_in=run_in,
    )


def _of_gear(machine: MachineResult, key: str) -> ShaftResult:
    return next(s for s in machine.shafts if any(seat.gear == key for seat in s.made.wish.seats))


def named_by_shafts(results: Results, train: Train) -> Results:
    """The results with the method named where K_Hbeta came from the shafts."""
    stages = tuple(
        replace(s, methods={**s.methods, "K_Hbeta": BY_SHAFTS}) if doc.mesh.K_Hbeta_method == BY_SHAFTS else s
        for s, doc in zip(results.stages, train.stages, strict=True)
    )
    return replace(results, stages=stages)
