"""One door for every export: the kind by the file's suffix."""

from __future__ import annotations

from pathlib import Path

from cooper.atomic_write import atomic_write, atomic_write_text
from cooper.document.models import Design
from cooper.document.units import digits_shown
from cooper.exchange.body import Body
from cooper.exchange.dxf import write_dxf
from cooper.exchange.flank_csv import flank_csv
from cooper.exchange.formats import KINDS, WHOLE, Options
from cooper.exchange.loaded_tables import loaded_tables, tables_csv
from cooper.exchange.machine_mesh import write_whole_mesh
from cooper.exchange.machine_parts import write_machine_step
from cooper.exchange.mesh_file import write_mesh
from cooper.exchange.mounted import mounted
from cooper.exchange.report import report_text
from cooper.exchange.report_page import report_html
from cooper.exchange.report_pdf import write_report_pdf
from cooper.exchange.solid import write_step
from cooper.exchange.statement import Said, statement
from cooper.exchange.svg import pair_svg
from cooper.exchange.train import write_train_dxf, write_train_step
from cooper.exchange.workbook import write_workbook
from cooper.i18n.text import tr
from cooper.results.result_tree import Results


def export(
    design: Design, results: Results, path: Path, system: str = "mm", stage: int = 0, options: Options | None = None
) -> None:
    """Write one export; raises ValueError for an unknown suffix or option and OSError when the disk refuses."""
    o = options or Options()
    with digits_shown(o.digits):
        _export(design, results, path, system, stage, o)


def _export(design: Design, results: Results, path: Path, system: str, stage: int, o: Options) -> None:
    kind = path.suffix.lower()
    if o.tolerance is not None and not 1e-5 <= o.tolerance <= 1:
        raise ValueError(tr("a tolerance of {tolerance:g} mm cannot be: 0.00001 to 1 mm works", tolerance=o.tolerance))
    if not abs(o.compensation) <= 5:
        raise ValueError(
            tr("a compensation of {compensation:g} mm cannot be: -5 to 5 mm works", compensation=o.compensation)
        )
    if o.gear not in (0, 1, 2):
        raise ValueError(tr("gear {gear} cannot be: 1 drives, 2 is driven, 0 means both", gear=o.gear))
    if o.compensation and kind not in (".dxf", ".svg", ".stl", ".3mf"):
        raise ValueError(tr("{kind} is never compensated; .dxf, .svg, .stl and .3mf can be", kind=kind))
    if stage == WHOLE:
        _whole_train(design, results, path, kind, o)
        return
    one = results.stages[stage]
    if kind == ".dxf":
        atomic_write(
            path,
            lambda p: write_dxf(design, results, p, (stage,), o.tolerance or 1e-3, o.compensation, o.curves, o.gear),
        )
    elif kind == ".step":
        atomic_write(path, lambda p: write_step(_wanted(design, results, stage, o), p, one.name, _said(design, path)))
    elif kind in (".stl", ".3mf"):
        atomic_write(
            path,
            lambda p: write_mesh(
                _wanted(design, results, stage, o), p, o.tolerance or 0.01, o.compensation, _said(design, path)
            ),
        )
    elif kind == ".svg":
        atomic_write_text(path, pair_svg(design, results, stage, o.tolerance or 1e-3, o.compensation))
    elif kind == ".csv":
        atomic_write_text(path, _csv(design, results, stage, o))
    elif kind == ".html":
        atomic_write_text(path, report_html(design, results, system, o.length))
    elif kind == ".pdf":
        atomic_write(path, lambda p: write_report_pdf(design, results, p, system, o.length, o.state))
    elif kind == ".xlsx":
        atomic_write(path, lambda p: write_workbook(design, results, p, o.loaded))
    elif kind == ".txt":
        atomic_write_text(path, report_text(design, results, system, o.length))
    else:
        known = ", ".join(tr("{k} ({w})", k=k, w=w) for k, w in KINDS.items())
        raise ValueError(
            tr(
                "{name}: the suffix {value} is not known; known are {known}",
                name=path.name,
                value=kind or "(none)",
                known=known,
            )
        )


def _csv(design: Design, results: Results, stage: int, o: Options) -> str:
    if not o.loaded:
        return flank_csv(results.stages[stage], o.tolerance or 1e-3, statement(design))
    head = tr(
        "loaded teeth of {name}, nominal load on the flanks that bear; a model beside the rating",
        name=results.stages[stage].name,
    )
    return tables_csv(
        loaded_tables(design.train, results, stage, o.loaded),
        tr("{head}; {design}", head=head, design=statement(design)),
    )


def _whole_train(design: Design, results: Results, path: Path, kind: str, o: Options) -> None:
    if kind == ".dxf":
        atomic_write(path, lambda p: write_train_dxf(design, results, p, o.tolerance or 1e-3))
    elif kind == ".step":
        machine = results.machine
        if machine is not None:
            atomic_write(path, lambda p: write_machine_step(design, results, machine, p, _said(design, path)))
        else:
            atomic_write(path, lambda p: write_train_step(design, results, p, _said(design, path)))
    elif kind in (".stl", ".3mf"):
        atomic_write(path, lambda p: write_whole_mesh(design, results, p, o.tolerance or 0.01, _said(design, path)))
    else:
        raise ValueError(
            tr(
                "the whole train leaves as .dxf, .step, .stl or .3mf; {value} is written stage by stage",
                value=kind or tr("no suffix"),
            )
        )


def _said(design: Design, path: Path) -> Said:
    """What a file of solids says of itself: its name, and the design with its state."""
    return Said(path.stem, statement(design))


def _wanted(design: Design, results: Results, stage: int, options: Options) -> tuple[Body, ...]:
    both = mounted(design, results, stage)
    return both if options.gear == 0 else (both[options.gear - 1],)
