"""Sets of the train are kept whole as they are edited: their meshes agree in distance, size and hand."""

from __future__ import annotations

from typing import Any

import numpy as np

from cooper.document.gear_data import SIZES
from cooper.document.models import SHARED_MESH, Design, Stage
from cooper.document.plain import plain_data
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.kinds.known import ARRANGED
from cooper.results.solve_stage import module_of, solve_stage
from cooper.trains.planets import mesh_load_factor


def enforce_set_constraints(tree: dict[str, Any], changed: set[str]) -> dict[str, Any]:
    """Plain data of a design after an edit, its sets made consistent: a gear in two meshes is one, both centre
    distances agree.

    ``changed`` are the paths that the edit touched: where it touched the second mesh's view of a shared gear, the first
    follows. The planets are bent both ways where they stand in two meshes; the last ring's shift is solved.
    """
    stages = tree["train"]["stages"]
    for one in tree["train"].get("sets") or []:
        k, of = one["first"], ARRANGED[one["kind"]]
        if k + (2 if one.get("free_sun") else 1) >= len(stages):
            continue
        first, second = stages[k], stages[k + 1]
        _refuse_what_follows(changed, k, one, first, second)
        a_w = second["meshes"][0]["a_w"]
        moved = f"train.stages.{k + 1}.meshes.0.a_w" in changed and a_w is not None and of.around
        ring = second["members"][1]["x"]
        if f"train.stages.{k + 1}.members.1.x" in changed and ring is not None and of.around:
            # The last ring's shift given: the centre distance that it asks for, to which the other meshes turn.
            if one.get("agree", "shift") != "shift":
                raise OutOfRange(
                    "x_2",
                    ring,
                    tr(
                        "the meshes of the set agree by {agree}: let them agree by shift to give a ring's shift",
                        agree=one["agree"],
                    ),
                )
            a_w = second["meshes"][0]["a_w"] = abs(_centre_distance(_free_to_move(second)))
            moved = True
        if moved and abs(a_w - abs(_centre_distance(first))) > 1e-9 * a_w:
            # The first gear's shift gives way, so that the planet stays one gear; that of a first ring is solved
            # anyway.
            first["meshes"][0]["a_w"] = a_w
            if first["members"][1]["x"] is not None:
                first["members"][0]["x"] = None
        if of.one_gear:
            _one_gear(first, second, changed, k)
        if not of.around:
            continue
        _load_shared(changed, k, one, first, second)
        second["members"][1]["x"] = None
        second["members"][0]["x"] = second["members"][0]["x"] or 0.0
        second["meshes"][0]["a_w"] = abs(_centre_distance(first))
        _agree(one.get("agree", "shift"), second)
        if one.get("free_sun"):
            if _sun_works(one):
                first["members"][0]["bending"] = "both ways"
            _free_sun(first, stages[k + 2], _sun_works(one))
    return tree


def _sun_works(one: dict[str, Any]) -> bool:
    """Whether the sun between two rings bears torque, from a set's plain data."""
    return bool(one.get("free_sun")) and "sun" in (one["input"], one["output"], one["held"])


def _refuse_what_follows(
    changed: set[str], k: int, one: dict[str, Any], first: dict[str, Any], second: dict[str, Any]
) -> None:
    """Refuse to be told what follows from the set itself."""
    agree = one.get("agree", "shift")
    for size, mode in (("m_n", "module"), ("P_nd", "module"), ("d_1", "module"), ("d_2", "module"), ("beta", "helix")):
        value = second["meshes"][0][size]
        if agree == mode and f"train.stages.{k + 1}.meshes.0.{size}" in changed and value is not None:
            raise OutOfRange(
                size,
                value,
                tr(
                    "the {mode} of the second mesh follows from the centre distance: let the meshes agree by shift "
                    "first",
                    mode=mode,
                ),
            )
    one_gear = ARRANGED[one["kind"]].one_gear
    twice = ((first, 1), (second, 0)) if one_gear else ((first, 0),) if _sun_works(one) else ()
    for stage, n in twice:
        path = f"train.stages.{k if stage is first else k + 1}.members.{n}.bending"
        if path in changed and stage["members"][n]["bending"] != "both ways":
            raise OutOfRange(
                "bending",
                "one way",
                tr("a gear with two meshes is loaded on both flanks, so that its teeth are bent both ways"),
            )


def _load_shared(changed: set[str], k: int, one: dict[str, Any], first: dict[str, Any], second: dict[str, Any]) -> None:
    """K_gamma of both loaded meshes: as entered at either of them or for the set, else by the number of planets."""
    for stage, n in ((first, k), (second, k + 1)):
        if f"train.stages.{n}.meshes.0.K_gamma" in changed:
            one["K_gamma"] = stage["meshes"][0]["K_gamma"]
    load = one["K_gamma"] if one["K_gamma"] is not None else mesh_load_factor(one["planets"], one["floating"])
    first["meshes"][0]["K_gamma"] = second["meshes"][0]["K_gamma"] = load


def _free_to_move(stage: dict[str, Any]) -> dict[str, Any]:
    """The stage with its centre distance to be solved from its shifts."""
    return stage | {"meshes": [stage["meshes"][0] | {"a_w": None}]}


def _agree(by: str, second: dict[str, Any]) -> None:
    """Module or helix of the second mesh of stepped planets, so that its reference centre distance is the one that
    is given."""
    mesh = second["meshes"][0]
    teeth = abs(second["members"][1]["z"]) - second["members"][0]["z"]
    if by == "module":
        mesh |= dict.fromkeys(SIZES) | {"m_n": 2 * mesh["a_w"] * float(np.cos(np.radians(mesh["beta"]))) / teeth}
    elif by == "helix":
        m_n = _module(second)
        cosine = m_n * teeth / (2 * mesh["a_w"])
        if not np.cos(np.radians(45.0)) <= cosine <= 1 + 1e-12:
            raise OutOfRange(
                "agree",
                "helix",
                tr(
                    "with m_n = {m_n:g} mm a helix makes the second mesh's centre distance {m_n_2:.3f} mm or "
                    "more, up to {m_n_3:.3f} mm at 45 degrees; the first one's is {a_w:.3f} mm. Take another "
                    "module, or let them agree by module or shift",
                    m_n=m_n,
                    m_n_2=m_n * teeth / 2,
                    m_n_3=m_n * teeth / 2**0.5,
                    a_w=mesh["a_w"],
                ),
            )
        mesh |= dict.fromkeys(SIZES) | {"m_n": m_n, "beta": float(np.degrees(np.arccos(min(cosine, 1.0))))}


def _free_sun(first: dict[str, Any], third: dict[str, Any], works: bool) -> None:
    """The sun's mesh in two rings: its planet is that of the first ring, its shift follows from the centre distance."""
    mesh = third["meshes"][0]
    planet = first["members"][0]
    if planet["x"] is None:
        planet["x"] = _solved(first).x[0]
    third["members"][0]["x"] = None
    source = first["meshes"][0]
    m_n = source["m_n"] if source["m_n"] is not None or source["P_nd"] is not None else _module(first)
    mesh |= {
        "alpha_n": source["alpha_n"],
        "beta": source["beta"],
        "m_n": m_n,
        "P_nd": source["P_nd"],
        "d_1": None,
        "d_2": None,
    }
    mesh |= {"hand": "left" if source["hand"] == "right" else "right", "a_w": abs(_centre_distance(first))}
    mesh["K_gamma"] = source["K_gamma"] if works else 1.0


def _one_gear(first: dict[str, Any], second: dict[str, Any], changed: set[str], k: int) -> None:
    """The gear in both meshes, and what their meshes share, made one."""
    planet = first["members"][1]
    mesh = first["meshes"][0]
    if planet["x"] is None:
        # Of a gear in two meshes the shift is a number: the solved one is written down.
        planet["x"] = _solved(first).x[1]
        if mesh["a_w"] is not None and first["members"][0]["x"] is not None:
            mesh["a_w"] = None
    planet["bending"] = "both ways"
    mesh_changed = any(
        p.startswith(f"train.stages.{k + 1}.meshes.0.{n}") for p in changed for n in (*SHARED_MESH, "d_1", "d_2")
    )
    source, target = (second, first) if mesh_changed else (first, second)
    if source["meshes"][0]["m_n"] is None and source["meshes"][0]["P_nd"] is None:
        source["meshes"][0] |= dict.fromkeys(SIZES) | {"m_n": _module(source)}
    target["meshes"][0] |= {n: source["meshes"][0][n] for n in SHARED_MESH} | {"d_1": None, "d_2": None}
    turned = f"train.stages.{k + 1}.meshes.0.hand" in changed
    source, target = (second, first) if turned else (first, second)
    target["meshes"][0]["hand"] = "left" if source["meshes"][0]["hand"] == "right" else "right"


def _module(stage: dict[str, Any]) -> float:
    s = _stage(stage)
    return module_of(s.meshes[0], s.members[0].z, s.members[1].z)


def _solved(stage: dict[str, Any]) -> Any:
    return solve_stage(_stage(stage))


def _stage(stage: dict[str, Any]) -> Stage:
    return Stage.from_data(stage)


def _centre_distance(stage: dict[str, Any]) -> float:
    return float(_solved(stage).a_w)


def whole(design: Design) -> Design:
    """The design with its sets made consistent."""
    return Design.from_data(enforce_set_constraints(plain_data(design), set()))
