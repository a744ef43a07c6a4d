"""A wanted least backlash, reached by thinning teeth or by moving the centre distance's allowances."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from msgspec import Struct

from cooper.document.models import Design
from cooper.editing.edit import set_many
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.results.evaluate import evaluate
from cooper.results.pair_numbers import pair_numbers
from cooper.results.power_flow import pair_now
from cooper.results.result_tree import Results
from cooper.running.pair_play import service_play
from cooper.running.play import Play

WAYS = {
    "both": tr("thin both gears alike"),
    "1": tr("thin the driving gear"),
    "2": tr("thin the driven gear"),
    "centres": tr("move the allowances of the centre distance"),
}
SYMBOLS = {
    "j_wt_min": tr("least backlash by tolerances"),
    "j_op_min": tr("least backlash in service"),
    "j_bn_min": tr("process clearance: least gap normal to the flanks"),
}


def give_play(design: Design, stage: int, symbol: str, wanted: float, way: str) -> Design:
    """The design whose least backlash (mm; a key of `SYMBOLS`) is the wanted one, by a way of `WAYS`; tolerances
    keep their width."""
    doc = design.train.stages[stage]
    mesh = doc.mesh
    gears = {"both": (1, 2), "1": (1,), "2": (2,)}.get(way, ())

    def moved(by: float) -> Design:
        changes: dict[str, object] = {}
        for i in gears:
            g, base = doc.gears[i - 1], doc.paths[i - 1]
            changes |= {f"{base}.E_sns": round(g.E_sns - by, 4), f"{base}.E_sni": round(g.E_sni - by, 4)}
        if not gears:
            sign = -1 if doc.kind_of_pair.inward else 1
            base = doc.path
            changes = {f"{base}.A_as": round(mesh.A_as + sign * by, 4), f"{base}.A_ai": round(mesh.A_ai + sign * by, 4)}
        return set_many(design, changes)

    def miss(by: float) -> float:
        return evaluate(moved(by)).stages[stage].mesh[symbol] - wanted

    start = evaluate(design).stages[stage].mesh.get(symbol)
    if start is None:
        raise OutOfRange(symbol, wanted, tr("it is not computed for a {name}", name=doc.kind_of_pair.name))
    try:
        return moved(_secant(miss, wanted))
    except OutOfRange as fault:
        reason = tr(
            "no thinning or move of the centres reaches it in a pair that works: {quantity} {reason}",
            quantity=fault.quantity,
            reason=fault.reason,
        )
        raise OutOfRange("j", wanted, reason, unit="mm") from fault


def _secant(miss: Callable[[float], float], wanted: float) -> float:
    """Nearly linear: a few secants from no move at all; lengths in steps of 0.1 um."""
    a, b = 0.0, 0.01
    f_a, f_b = miss(a), miss(b)
    for _ in range(8):
        if abs(f_b) < 1e-5 or f_b == f_a:
            break
        a, b, f_a = b, b - f_b * (b - a) / (f_b - f_a), f_b
        f_b = miss(b)
    if abs(f_b) > 2e-4:
        raise OutOfRange("j", wanted, tr("stays away from it"))
    return b


class Spread(Struct, frozen=True):
    """The play of a stage as scalars, for a picture of it."""

    play: Play
    gears: tuple[str, str]


def spread_of(design: Design, results: Results, stage: int) -> Spread:
    """Play in service of a stage; raises `OutOfRange` for what does not turn."""
    kind = results.stages[stage].kind
    if not kind.turns:
        reason = tr(
            "the play of a {name} in service is not computed: its own warmth and run-out are unknown", name=kind.name
        )
        raise OutOfRange("stage", stage + 1, reason)
    doc = design.train.stages[stage]
    pair = pair_now(design.train, results, stage)
    with np.errstate(all="ignore"):
        n = pair_numbers(pair)
        result = service_play(pair, n.mesh, n.gears)
    return Spread(result, (doc.gears[0].name, doc.gears[1].name))
