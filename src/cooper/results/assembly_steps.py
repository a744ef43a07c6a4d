"""The steps by which the machine is put together, in words and in order."""

from __future__ import annotations

from msgspec import Struct

from cooper.i18n.text import tr
from cooper.results.machine_result import MachineResult


class AssemblyStep(Struct, frozen=True):
    """One step: on which shaft or on the housing, and what is done."""

    where: str
    words: str


def assembly_steps(m: MachineResult) -> list[AssemblyStep]:
    """All steps: each shaft by itself, then the housing.

    Parameters
    ----------
    m : MachineResult
        The machine.

    Returns
    -------
    list[AssemblyStep]
        Steps in order; parts that cannot be mounted are not among them.
    """
    result = []
    outside: dict[str, list[str]] = {}
    for s in m.shafts:
        # Where the housing is not split, bearings in the outer walls come from outside, with what keeps them.
        late = set() if m.housing_order.split else {c.bearing for c in s.holding.covers}
        for step in s.order.steps:
            piece = s.made.piece(step.piece)
            words = tr("from the left: {what}", what=step.words) if step.side < 0 else None
            words = words or tr("from the right: {what}", what=step.words)
            if piece.name in late or piece.holds in late:
                outside.setdefault(s.name, []).append(words)
            else:
                result.append(AssemblyStep(s.name, words))
    result += [AssemblyStep(tr("housing"), words) for words in m.housing_order.before]
    for name, rows in outside.items():
        result += [AssemblyStep(name, words) for words in rows]
    result += [AssemblyStep(tr("housing"), words) for words in m.housing_order.covers]
    for s in m.shafts:
        for j in s.made.joints:
            if not j.gear and j.kind in ("key", "two keys"):
                words = tr("key into the {end}, coupling", end=j.piece)
                result.append(AssemblyStep(s.name, words))
    return result
