"""What is fixed from outside, and the teeth that meet it: counts for a centre distance, module or count for a
diameter."""

from __future__ import annotations

from collections.abc import Iterator
from math import cos, isfinite, radians

import numpy as np
from msgspec import Struct

from cooper.document.gear_data import SIZES
from cooper.document.models import Design
from cooper.editing.edit import set_many
from cooper.errors import Open, OutOfRange
from cooper.gears.pair import shift_sum
from cooper.i18n.text import tr
from cooper.kinds.known import kind_of
from cooper.results.evaluate import QUICK, evaluate
from cooper.results.result_tree import Results
from cooper.stock.series import modules

LEAST_COUNT, GREATEST_COUNT = 8, 400
LEAST_SUM, GREATEST_SUM = -1.0, 1.6
"""Sums of the profile shifts between which a list of counts looks."""
GREATEST_HELIX = 35.0
TAKEN = 60
"""Candidates that are evaluated whole before the list is cut to its length."""


class Fit(Struct, frozen=True):
    """Counts that meet a centre distance: ``x_sum`` the sum of shifts that they need at the helix angle ``beta``
    (deg).

    ``by`` is "shift" where the present helix is kept, "helix" where the helix makes the sum zero. ``du`` deviation from
    the wanted ratio in %; ``design`` the design with all of it set and the centre distance given.
    """

    by: str
    m_n: float
    z_1: int
    z_2: int
    beta: float
    x_sum: float
    du: float
    design: Design


def each_fit(
    design: Design, results: Results, stage: int, a_w: float, u: float, tol: float, most: int = 20
) -> Iterator[Fit]:
    """Counts, modules and helices that meet a centre distance (mm) and a ratio within ``tol`` %, best first.

    The ratio is positive; an internal pair stays internal. Candidates that cannot be made are left out. Raises
    `OutOfRange` where nothing fits, with the nearest ratio that does.
    """
    doc = design.train.stages[stage]
    mesh = doc.mesh
    now, inside = results.stages[stage], results.stages[stage].kind.inward
    if not now.kind.turns:
        reason = tr(
            "a pinion meets any distance to a {name} by its shift: give a_w and let x_1 be solved", name=now.kind.name
        )
        raise OutOfRange("a_w", a_w, reason)
    sign = -1 if inside else 1
    if not (0 < a_w < 1e5 and 0.05 <= u <= 50 and 0 <= tol <= 100):
        raise OutOfRange(
            "a_w, u",
            tr("{a_w:g} mm, {u:g}", a_w=a_w, u=u),
            tr("the centre distance must be above 0 and the ratio 0.05 to 50"),
        )
    alpha, beta = radians(mesh.alpha_n), radians(mesh.beta)
    m, z_1 = np.meshgrid(np.array(modules()), np.arange(LEAST_COUNT, GREATEST_COUNT + 1), indexing="ij")
    step = np.array([-1, 0, 1])
    m, z_1, step = np.broadcast_arrays(m[..., None], z_1[..., None], step)
    z_2 = sign * (np.round(z_1 * u) + step)
    du = 100 * (np.abs(z_2) / z_1 / u - 1)
    count = np.abs(z_2)
    fine = (count >= LEAST_COUNT) & (count <= 2 * GREATEST_COUNT) & ((sign > 0) | (count > z_1 + 3))
    near = fine & (np.abs(du) <= tol + 1e-9)
    with np.errstate(all="ignore"):
        total = shift_sum(z_1, z_2, m, sign * a_w, alpha, beta)
        by_shift = near & (total >= LEAST_SUM) & (total <= GREATEST_SUM)
        c = m * np.abs(z_1 + z_2) / (2 * a_w)
        by_helix = near & (c < 1) & (c > cos(radians(GREATEST_HELIX)))
    rows: list[tuple[float, str, float, int, int, float, float, float]] = []
    for by, mask in (("shift", by_shift), ("helix", by_helix)):
        for k in np.flatnonzero(mask):
            i = np.unravel_index(k, mask.shape)
            x_sum = float(total[i]) if by == "shift" else 0.0
            angle = mesh.beta if by == "shift" else float(np.degrees(np.arccos(c[i])))
            # Small deviation, small shifts, a module near the present one; a new helix angle counts as a small cost.
            cost = abs(float(du[i])) / max(tol, 0.1) + abs(x_sum - 0.2) + abs(np.log2(float(m[i]) / now.mesh.m_n))
            cost += 0.3 + abs(angle - mesh.beta) / 30 if by == "helix" else 0.0
            rows.append((cost, by, float(m[i]), int(z_1[i]), int(z_2[i]), angle, x_sum, float(du[i])))
    result = 0
    for _cost, by, m_n, n_1, n_2, angle, x_sum, off in sorted(rows)[:TAKEN]:
        try:
            taken = _take(design, stage, m_n, n_1, n_2, angle, x_sum, a_w)
            evaluate(taken, QUICK)
        except OutOfRange:
            continue
        yield Fit(by, m_n, n_1, n_2, angle, x_sum, off, taken)
        result += 1
        if result == most:
            break
    if not result:
        all_off = np.abs(du[fine & (np.abs(total) < GREATEST_SUM)])
        nearest = (
            tr("; the nearest ratio is {all_off:.2f} % off", all_off=float(np.min(all_off))) if all_off.size else ""
        )
        raise OutOfRange(
            "a_w",
            a_w,
            tr(
                "no standard module and counts meet it with the ratio {u:g} ± {tol:g} %{nearest}",
                u=u,
                tol=tol,
                nearest=nearest,
            ),
        )


def fits(design: Design, results: Results, stage: int, a_w: float, u: float, tol: float, most: int = 20) -> list[Fit]:
    """All of `each_fit`."""
    return list(each_fit(design, results, stage, a_w, u, tol, most))


def _take(design: Design, stage: int, m_n: float, z_1: int, z_2: int, beta: float, x_sum: float, a_w: float) -> Design:
    doc = design.train.stages[stage]
    mesh, (one, two) = doc.path, doc.paths
    sizes: dict[str, float | None] = {f"{mesh}.{n}": None for n in SIZES}
    driven = doc.gears[1]
    resized = kind_of(driven).resized(driven, z_2, m_n, radians(beta))
    more = {f"{two}.{s}": v for s, v in resized.items()}
    # The larger part of a positive sum goes to the pinion, which needs it more.
    share = 0.6 if x_sum > 0 else 0.5
    return set_many(
        design,
        {
            **sizes,
            f"{mesh}.m_n": m_n,
            f"{mesh}.beta": beta,
            f"{mesh}.a_w": a_w,
            f"{one}.z": z_1,
            f"{two}.z": z_2,
            f"{one}.x": round(share * x_sum, 3),
            f"{two}.x": None,
            f"{one}.d_a": None,
            f"{two}.d_a": None,
            **more,
        },
    )


class Reach(Struct, frozen=True):
    """A way to a wanted diameter: in words, the diameter that it gives (mm), and the design."""

    words: str
    value: float
    design: Design


def reach(design: Design, results: Results, stage: int, i: int, symbol: str, wanted: float) -> list[Reach]:
    """Ways to a wanted reference ("d") or outside ("d_a") diameter of gear i (1, 2), in mm: by module, by count.

    What is given stays given apart from the size of the teeth or the count; of an internal gear d_a is its inner
    diameter.
    """
    doc = design.train.stages[stage]
    mesh = doc.mesh
    own = doc.paths[i - 1]
    gear, g, m_n = doc.gears[i - 1], results.stages[stage].gears[i - 1], results.stages[stage].mesh.m_n
    if symbol not in g:
        raise OutOfRange(
            f"{symbol}{i}", wanted, tr("a {name} has no diameters", name=results.stages[stage].kinds[i - 1].name)
        )
    if not 0 < wanted < 1e5:
        raise OutOfRange(f"{symbol}{i}", wanted, tr("a diameter is above 0"), low=Open(0.0), high=1e5, unit="mm")
    free: dict[str, object] = {f"{own}.d_a": None} if symbol == "d_a" else {}
    ways: list[Reach] = []

    def offer(words: str, changes: dict[str, object]) -> float | None:
        try:
            changed = set_many(design, {**free, **changes})
            value = evaluate(changed).stages[stage].gears[i - 1][symbol]
        except OutOfRange:
            return None
        ways.append(Reach(words, value, changed))
        return value

    # All lengths of a pair follow the module, unless a centre distance is held: then a few steps find it.
    module = m_n
    for _ in range(6):
        sizes: dict[str, object] = {f"{doc.path}.{s}": None for s in SIZES}
        module *= wanted / (ways[-1].value if ways else g[symbol])
        if not isfinite(module) or not 0.02 <= module <= 100:
            break
        ways.clear()
        for path, member in zip(doc.paths, doc.gears, strict=True):
            for length in kind_of(member).grows:
                # The rim of a ring grows with its teeth; a given tip diameter stays given.
                if length != "d_a" and getattr(member, length) is not None:
                    sizes[f"{path}.{length}"] = getattr(member, length) * module / m_n
        value = offer(
            tr("module {module:.5g} mm, tooth count kept", module=module), {**sizes, f"{doc.path}.m_n": module}
        )
        if value is None or abs(value - wanted) < 1e-9 * wanted:
            break
    if ways and abs(ways[-1].value - wanted) > 1e-4 * wanted:
        ways.clear()
    pitch = m_n / cos(radians(mesh.beta))
    exact = abs(gear.z) + (wanted - g[symbol]) / pitch
    for z in sorted({int(np.floor(exact)), int(np.ceil(exact))}):
        if z >= 4:
            count = z if kind_of(gear).counts(z) else -z
            offer(tr("{z} teeth, module kept", z=z), {f"{own}.z": count})
    if not ways:
        raise OutOfRange(
            f"{symbol}{i}", wanted, tr("neither a module nor a tooth count reaches it in a pair that works")
        )
    return ways
