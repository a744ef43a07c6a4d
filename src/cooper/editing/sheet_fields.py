"""The fields of the drawing and of each sheet, in their order."""

from __future__ import annotations

from collections.abc import Callable, Collection
from functools import partial

from msgspec.structs import replace

from cooper.document.models import Design
from cooper.document.plain import get_at
from cooper.document.quantities import plain
from cooper.editing.edit import set_at
from cooper.editing.fields import (
    Field,
    count_field,
    duty_field,
    optional_field,
    path_field,
    shift_field,
    size_field,
    tip_field,
)
from cooper.i18n.text import tr
from cooper.kinds.known import kind_of
from cooper.stock.materials import groups, is_plastic


def member_path(design: Design, stage: int, i: int) -> str:
    """Path of gear i (1 drives, 2 is driven) of a stage."""
    return design.train.stages[stage].paths[i - 1]


def _placed(fields: list[Field], design: Design, stage: int) -> dict[str, Field]:
    return {f.key: replace(f, place=f"{design.train.stages[stage].id}.") for f in fields}


def bench_fields(design: Design, stage: int) -> dict[str, Field]:
    """The fields that stand on the drawing of a stage, by key."""
    mesh = design.train.stages[stage].path
    size = "P_nd" if design.train.stages[stage].mesh.P_nd is not None else "m_n"
    fields = [
        size_field(stage, size),
        path_field("alpha_n", "alpha_n", None, f"{mesh}.alpha_n", fine=0.5),
        path_field("beta", "beta", None, f"{mesh}.beta", fine=1.0),
        shift_field(stage, "a_w"),
    ]
    for i in (1, 2):
        gear = member_path(design, stage, i)
        kind = kind_of(get_at(design, gear))
        count = count_field(stage, i) if kind.turns else path_field(f"z_{i}", "z", i, f"{gear}.z", label=CUT)
        own: dict[str, Callable[[], Field]] = {
            "z": lambda count=count: count,  # type: ignore[misc]
            "x": partial(shift_field, stage, f"x_{i}"),
            "d_a": partial(tip_field, stage, i),
            "d": partial(size_field, stage, f"d_{i}"),
        }
        for symbol in kind.on_drawing:
            plainly = partial(path_field, plain(symbol, i), symbol, i, f"{gear}.{symbol}", fine=1.0)
            fields.append(own.get(symbol, plainly)())
    return _placed(fields, design, stage)


CUT = tr("number of teeth cut")


STEPS = {"h_K": 0.05, "delta_K": 5.0, "rho_a": 0.05, "z_0": None, "x_0": 0.05, "pr_P": 0.01, "q_P": 0.01}
"""Fine steps of what kinds and tools ask for; 1 where none is named."""


def drawing_fields(design: Design, stage: int, i: int, said: Collection[str]) -> dict[str, Field]:
    """What the drawing sheet of a gear says beside its data, as far as it makes use of it."""
    at = f"{member_path(design, stage, i)}.drawing"
    given = (("IT_bore", 1.0), ("IT_tip", 1.0), ("Ra_bore", 0.4), ("Ra_face", 0.4), ("Ra_rest", 0.4))
    fields = [path_field(plain(s, i), s, i, f"{at}.{s}", fine=fine) for s, fine in given if s in said]
    fields += [
        optional_field(plain(s, i), s, i, f"{at}.{s}", 0.005, tr("proposed")) for s in ("t_tip", "t_face") if s in said
    ]
    return {f.key: f for f in fields}


def gear_fields(design: Design, stage: int, i: int) -> dict[str, Field]:
    """The remaining fields of one gear: tool, allowances, blank, surface, material."""
    gear = member_path(design, stage, i)
    rows = [
        ("h_aP", 0.05),
        ("h_fP", 0.05),
        ("rho_fP", 0.01),
        ("E_sns", 0.005),
        ("E_sni", 0.005),
        ("t_g", 0.05),
        ("rho_g", 0.1),
        ("Q", None),
        ("Rz_H", 0.5),
        ("Rz_F", 0.5),
    ]
    now = get_at(design, gear)
    if is_plastic(now.material.group):
        # What is ground is of metal.
        rows = [r for r in rows if r[0] not in ("t_g", "rho_g")]
    kind = kind_of(now)
    by_tool = {"pinion cutter": ("z_0", "x_0"), "rack": kind.rack_tool_data, "elliptic": ("h_Ff", "w_F")}.get(
        now.tool, ()
    )
    rows += [(s, STEPS.get(s, 1.0)) for s in (*kind.data, *by_tool)]
    fields = [path_field(plain(s, i), s, i, f"{gear}.{s}", fine=fine) for s, fine in rows]
    scale = groups()[get_at(design, gear).material.group]["hardness_scale"]
    hardness = path_field(f"hardness_{i}", "hardness", i, f"{gear}.material.hardness", fine=10.0)
    fields.append(replace(hardness, scale=scale))
    material = groups()[now.material.group]
    for s, fine in (("sigma_Hlim", 10.0), ("sigma_Flim", 10.0), ("E", 1000.0), ("density", 10.0), ("price_index", 0.1)):
        fields.append(optional_field(plain(s, i), s, i, f"{gear}.material.{s}", fine, tr("of the stock")))
    fields.append(path_field(plain("swelling", i), "swelling", i, f"{gear}.swelling", fine=0.05))
    if kind.web:
        fields.append(optional_field(plain("d_i", i), "d_i", i, f"{gear}.d_i", 1.0, tr("solid disc")))
        fields.append(optional_field(plain("b_s", i), "b_s", i, f"{gear}.b_s", 1.0, tr("as the teeth")))
    if now.material.group == "Eh":
        fields.append(optional_field(plain("CHD", i), "CHD", i, f"{gear}.CHD", 0.05, tr("not given")))
        core = optional_field(plain("HV_core", i), "HV_core", i, f"{gear}.HV_core", 10.0, tr("not given"))
        fields.append(replace(core, scale="HV"))
    if is_plastic(now.material.group):
        fields.append(optional_field(plain("k_W", i), "k_W", i, f"{gear}.k_W", 0.1, tr("not computed")))
    fields.append(optional_field(plain("d_s", i), "d_s", i, f"{gear}.d_s", 1.0, tr("estimated")))
    for s in ("S_Fmin", "S_Hmin"):
        fields.append(optional_field(plain(s, i), s, i, f"{gear}.{s}", 0.05, tr("of the train")))
    if now.bending == "both ways":
        fields.append(path_field(plain("R_bend", i), "R_bend", i, f"{gear}.R_bend", fine=0.1))
    if "R_p02_per_hardness" in material:
        fields.append(optional_field(f"R_p02{i}", "R_p02", i, f"{gear}.material.R_p02", 10.0, tr("estimated")))
    return _placed(fields, design, stage)


def mesh_fields(design: Design, stage: int) -> dict[str, Field]:
    """The remaining fields of the mesh: centre distance allowances and the entered load factors."""
    mesh = design.train.stages[stage].path
    rows = [
        ("A_as", 0.005),
        ("A_ai", 0.005),
        ("K_gamma", 0.05),
        ("K_s", 0.05),
        ("K_Hbeta", 0.05),
        ("K_Halpha", 0.05),
        ("f_ZCa", 0.01),
        ("b_gap", 1.0),
        ("l_sh", 5.0),
        ("s_sh", 1.0),
        ("d_sh", 1.0),
        ("C_a", 1.0),
        ("f_sh", 0.5),
    ]
    fields = [path_field(s, s, None, f"{mesh}.{s}", fine=fine) for s, fine in rows]
    fields += [
        path_field(f"{s}2", s, 2, f"{mesh}.{s}2", fine=fine, label=words)
        for s, fine, words in (
            ("l_sh", 5.0, tr("span of the wheel's bearings")),
            ("s_sh", 1.0, tr("distance of the wheel's middle from mid-span")),
            ("d_sh", 1.0, tr("diameter of the wheel's shaft")),
        )
    ]
    own = [
        ("S_Hmin", 0.05),
        ("S_Fmin", 0.05),
        ("S_Bmin", 0.1),
        ("S_intmin", 0.1),
        ("eps_alpha_min", 0.05),
        ("j_min", 0.01),
        ("L_h", 100.0),
        ("theta_oil", 5.0),
        ("theta_gears", 5.0),
    ]
    fields.append(optional_field("mu_pl", "mu_pl", None, f"{mesh}.mu_pl", 0.01, tr("of the table")))
    fields.append(optional_field("A_v", "A_v", None, f"{mesh}.A_v", 1.0, tr("by class")))
    fields += [
        optional_field(f"own_{s}", s, None, f"{design.train.stages[stage].path}.own.{s}", fine, tr("of the train"))
        for s, fine in own
    ]
    return _placed([*fields, *share_fields(design, stage)], design, stage)


def share_fields(design: Design, stage: int) -> list[Field]:
    """Shares of power: what goes through the pair or set of a stage where its shaft has more ways, and what is taken
    off behind it where more goes on."""
    walk, one = design.train.walk, design.train.stages[stage].within
    group = walk.group_of(stage)
    path = design.train.stages[stage].path if one is None else one.path
    result = []
    if len(walk.ways(group.comes_in)) > 1 or group.comes_in in walk.outputs:
        result.append(optional_field("P_share", "P_share", None, f"{path}.share", 0.05, tr("what is left")))
    if walk.ways(group.goes_out):
        takes = f"train.shafts.{group.goes_out}.takes"
        result.append(optional_field("P_taken", "P_share", None, takes, 0.05, tr("nothing"), label=TAKEN))
    return result


TAKEN = tr("share of the power behind it that is taken off there")


def duty_fields() -> dict[str, dict[str, Field]]:
    """The fields of the duty in groups: input, wanted output, ambient conditions, requirements."""
    duty, defaults, oil = "train.duty", "train.defaults", "train.defaults.lubricant"

    def at(base: str, *rows: tuple[str, float | None]) -> list[Field]:
        return [path_field(s, s, None, f"{base}.{s}", fine=fine) for s, fine in rows]

    wanted = at(duty, ("u_wanted", 0.1), ("u_tol", 0.1), ("L_h", 100.0))
    wanted[0] = replace(wanted[0], clear=lambda d: set_at(d, f"{duty}.u_wanted", None), empty="any")
    groups = {
        "What comes in": [
            duty_field("P"),
            duty_field("T"),
            duty_field("n"),
            *at(duty, ("K_A", 0.05)),
            optional_field("K_AP", "K_AP", None, f"{duty}.K_AP", 0.1, "none"),
        ],
        "What is wanted": wanted,
        "Oil": at(oil, ("nu_40", 10.0), ("nu_100", 1.0), ("rho_15", 5.0), ("X_L", 0.05), ("S_FZG", None))
        + at(defaults, ("phi_E", 0.1))
        + at(duty, ("theta_oil", 5.0))
        + [optional_field("S_GF", "S_GF", None, f"{oil}.S_GF", 1.0, tr("not given")), *at(oil, ("theta_GF", 5.0))],
        "Required of every stage": at(
            defaults,
            ("S_Hmin", 0.05),
            ("S_Fmin", 0.05),
            ("S_Bmin", 0.1),
            ("S_intmin", 0.1),
            ("S_FFmin", 0.1),
            ("S_lambda_min", 0.1),
            ("eps_alpha_min", 0.05),
            ("s_an_min", 0.05),
            ("c_min", 0.05),
            ("j_min", 0.01),
            ("c_proc", 0.05),
            ("NT_1e10", 0.01),
        )
        + [
            optional_field(s, s, None, f"{defaults}.{s}", 0.05, words)
            for s, words in (("S_Hstmin", tr("as pitting")), ("S_Fstmin", tr("as breakage")))
        ],
        "Temperatures in service": at(
            defaults,
            ("theta_gears", 5.0),
            ("theta_housing", 5.0),
            ("alpha_housing", 0.5),
        ),
    }
    return {name: {f.key: f for f in fields} for name, fields in groups.items()}


def plastic_fields() -> dict[str, Field]:
    """The fields that hold for all plastic gears of the train."""
    base = "train.defaults.plastics"
    rows = [("ED", 5.0), ("S_Hmin", 0.05), ("S_Fmin", 0.05), ("delta_Wmax", 0.01)]
    fields = [path_field(f"plastic_{s}", s, None, f"{base}.{s}", fine=fine) for s, fine in rows]
    fields += [
        optional_field("plastic_A_h", "A_h", None, "train.losses.A_h", 0.05, tr("not given")),
        path_field("plastic_theta_air", "theta_air", None, "train.losses.theta_air", fine=5.0),
    ]
    return {f.key: f for f in fields}


def loss_fields() -> dict[str, dict[str, Field]]:
    """The fields of the losses in groups: bearings and seals, oil, housing."""
    base = "train.losses"

    def at(*rows: tuple[str, float | None]) -> list[Field]:
        return [path_field(s, s, None, f"{base}.{s}", fine=fine) for s, fine in rows]

    groups = {
        "Bearings and seals": at(("tau_sh", 1.0), ("seals", None)),
        "Oil": at(("h_e", 1.0), ("l_hyd", 10.0)),
        "Housing": [
            optional_field("A_h", "A_h", None, f"{base}.A_h", 0.05, tr("not given")),
            *at(("k_h", 1.0), ("theta_air", 5.0)),
            optional_field("theta_max", "theta_max", None, f"{base}.theta_max", 5.0, tr("not checked")),
        ],
    }
    return {name: {f.key: f for f in fields} for name, fields in groups.items()}
