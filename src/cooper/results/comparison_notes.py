"""What other methods say of the same check, in words beside its factor chain."""

from __future__ import annotations

from math import log
from typing import TYPE_CHECKING

from cooper.document.units import number_with_unit
from cooper.i18n.text import join, tr
from cooper.rating.lewis import table_value
from cooper.results.checks import gear_word
from cooper.results.messages import Note, note, once
from cooper.values import GearValues, MeshValues

if TYPE_CHECKING:
    from cooper.results.check_types import Check
    from cooper.results.result_tree import Results, StageResults

STRONGLY_APART = 0.25
"""Relative difference of two methods' safeties from which the screen says what causes it."""


def comparison_notes(stage: StageResults, check: Check, system: str = "mm") -> list[str]:
    """Sentences about a strength check: the safeties of the methods that do not govern, and what makes them differ."""
    if check.index is None or check.symbol not in ("S_H", "S_F", "S_HA", "S_FA", "S_Heq", "S_Feq"):
        return []
    g, kind = stage.gears[check.index - 1], check.symbol[2]
    text = []
    if check.symbol.endswith("eq"):
        text.append(
            tr(
                "Under the load spectrum the damage sum is {g:.3g}; with all stresses times {value:.2f} it "
                "would be 1. The chain below is that of the steady load with K_A: S_{kind} = {g_2:.2f}.",
                g=g[f"D_{kind}"],
                value=check.value,
                kind=kind,
                g_2=g[f"S_{kind}"],
            )
        )
    if f"S_{kind}A" in g:
        text.append(apart(g, stage.mesh, kind) or _near(g, kind, check.symbol.endswith("A")))
    if kind == "F":
        text.append(_lewis(stage, check.index, system))
    return text


def all_notes(results: Results) -> tuple[Note, ...]:
    """Every note, also those on what parts the methods, which are found when they are asked for."""
    text = []
    for k, s in enumerate(results.stages):
        for i, g in enumerate(s.gears, 1):
            for kind, part in (
                ("F", tr("Root of the {0}", gear_word(s, i))),
                ("H", tr("Flank of the {0}", gear_word(s, i))),
            ):
                cause = apart(g, s.mesh, kind) if f"S_{kind}A" in g else ""
                if cause:
                    text.append(note("methods_apart", k, what=part, cause=cause))
    return once((*results.notes, *text), results.sets)


def _near(g: GearValues[float], kind: str, agma_governs: bool) -> str:
    if agma_governs:
        return tr("Beside it, ISO 6336 gives {g:.2f}.", g=g[f"S_{kind}"])
    return tr("Beside it, ANSI/AGMA 2101-D04 gives {g:.2f}.", g=g[f"S_{kind}A"])


def apart(g: GearValues[float], m: MeshValues[float], kind: str) -> str:
    """What makes the safeties of ISO and AGMA differ, largest first; empty when they are near each other."""
    iso, agma = g[f"S_{kind}"], g[f"S_{kind}A"]
    if min(iso, agma) <= 0 or abs(log(agma / iso)) < log(1 + STRONGLY_APART):
        return ""
    contact = kind == "H"
    K_iso = m.K_V * (m.K_Hbeta * m.K_Halpha if contact else m.K_Fbeta * m.K_Falpha)
    K_agma = m.K_vA * m.K_HA * m.K_s
    load = (K_iso / K_agma) ** (0.5 if contact else 1.0)
    strength = g[f"sigma_{kind}PA"] / g[f"sigma_{kind}G"]
    parts = {
        tr("load factors, {K_iso:.2f} by ISO and {K_agma:.2f} by AGMA,", K_iso=K_iso, K_agma=K_agma): load,
        tr("permissible stress (strength number, life, size, surface, reliability)"): strength,
        tr("nominal stress of the same tooth and load"): agma / iso / load / strength,
    }
    order = sorted(parts.items(), key=lambda part: -abs(log(part[1])))
    words = join("; ", (tr("{name} {f:+.0f} %", name=name, f=100 * (f - 1)) for name, f in order if abs(log(f)) > 0.02))
    return tr(
        "ANSI/AGMA 2101-D04 gives {agma:.2f}, ISO 6336 {iso:.2f}. From ISO to AGMA: {words}.",
        agma=agma,
        iso=iso,
        words=words,
    )


def _lewis(stage: StageResults, index: int, system: str) -> str:
    """Lewis's quick look."""
    g, alpha = stage.gears[index - 1], stage.mesh.alpha_n
    text = tr(
        "Beside it, Lewis: {sigma_L} nominal with Y = {Y_L:.3f} of the true tooth",
        sigma_L=number_with_unit(g.sigma_L, "stress", system),
        Y_L=g.Y_L,
    )
    table = (
        table_value(abs(g.z), alpha) if stage.kinds[index - 1].shifts and not stage.kinds[index - 1].inward else None
    )
    if table is not None:
        text += tr(" (textbooks, unshifted {alpha:g}° tooth: {table:.3f})", alpha=alpha, table=float(table))
    return text + tr(
        "; ISO 6336-3 has {sigma_F0} with the notch.", sigma_F0=number_with_unit(g.sigma_F0, "stress", system)
    )
