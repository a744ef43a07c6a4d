"""The generated pages of docs/: the result tree and the document's schema, written from the program itself."""

from __future__ import annotations

from collections.abc import Iterator

from cooper.document.quantities import quantity_of
from cooper.document.store import schema_text
from cooper.document.units import KINDS
from cooper.i18n.text import join, tr
from cooper.results.result_tree import Results


def results_page(example: Results) -> str:
    """docs/results.md: every key of the result tree with unit, meaning and source, in the order of an example."""
    return join("\n", _lines(example)) + "\n"


def pages(example: Results) -> dict[str, str]:
    """File name in docs/ to text."""
    return {"results.md": results_page(example), "design.schema.json": schema_text()}


def _lines(example: Results) -> Iterator[str]:
    stage = example.stages[0]
    yield "# The result tree"
    yield ""
    yield (
        "Printed by `cooper check FILE --json`. Made from the program by `tools/write_docs.py`; a test keeps "
        "both the same."
    )
    yield ""
    yield "Keys are ISO symbols in ASCII. Units are stated once, under `units`, by kind of quantity:"
    yield ""
    yield join(", ", (tr("{name} {value}", name=k.name, value=k.document or "1") for k in KINDS.values())) + "."
    yield ""
    yield "| key | what it is |"
    yield "|---|---|"
    yield "| `format`, `version` | `cooper-results`, 1 |"
    yield "| `design` | name of the design |"
    yield "| `verdict` | worst of all checks: `holds` (margin above 10 %), `thin` (0 to 10 %), `short` (below 0) |"
    yield "| `train` | values of the train; `_in` and `_out` mark input and main output |"
    yield "| `outputs[]` | where power goes out at several: `shaft`, `name`, `P`, `u`, `n`, `T`; main one first |"
    yield (
        "| `stages[]` | `name`; `solved`: names of quantities that were solved, not given; `power`, `mesh`, `gears[]` |"
    )
    yield (
        "| `checks[]` | `check` (its key), `symbol`, `gear` (1, 2 or null), `stage`, `label`, `value`, `limit`, "
        "`sense`,"
    )
    yield "  `margin` (relative to the limit), `verdict`, `means` (what it means for the part when short) |"
    yield (
        "| `machine` | where it counts: `shafts[]` (`id`, `name`, `axis`, `S_D`, `S_Y`, `n_crit`, `pieces[]`, "
        "`bearings[]`, `joints[]`), `housing`, `m_box`,"
    )
    yield "  `L_sys`, `clashes[]`; its checks name their `part` |"
    yield "| `notes[]` | `level` (`warning` for the part, `range` of a method, `assumed`), `stage`, `text` |"
    for title, keys in (
        ("train", example.train),
        ("stages[].power", stage.power),
        ("stages[].mesh", stage.mesh),
        ("stages[].gears[]", stage.gears[0]),
    ):
        yield ""
        yield f"## {title}"
        yield ""
        yield "| key | unit | meaning | source |"
        yield "|---|---|---|---|"
        for key in keys:
            q = quantity_of(key)
            yield tr(
                "| `{key}` | {value} | {meaning} | {source} |",
                key=key,
                value=KINDS[q.kind].document or "1",
                meaning=q.meaning,
                source=q.source,
            )
