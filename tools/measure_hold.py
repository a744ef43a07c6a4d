"""How long the event loop stands still at each command, sheet, lens, Lever, export and edit, in the real window over
the demos.

Run: .venv/bin/python tools/measure_hold.py [--report FILE] [DEMO …]

The window is shown and the loop runs; a heartbeat tells the longest gap between two of its beats from the call on until
all is quiet. Commands that wait for an answer (dialogs) are left out. Times are those of the machine: compare within
one run.
"""

from __future__ import annotations

import argparse
import os
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from functools import partial
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
root = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(root / "src"))

from cooper.demo import DEMOS, demo  # noqa: E402
from cooper.desk.base.lens_entries import LENSES  # noqa: E402
from cooper.desk.base.registry import sheets  # noqa: E402
from cooper.desk.base.session import Session  # noqa: E402
from cooper.desk.shell.app import application  # noqa: E402
from cooper.desk.shell.first_walk_commands import FirstWalk  # noqa: E402
from cooper.desk.shell.handbook_commands import Handbook  # noqa: E402
from cooper.desk.shell.pictures import settle  # noqa: E402
from cooper.desk.shell.start_page import StartPage  # noqa: E402
from cooper.desk.shell.verbs import press  # noqa: E402
from cooper.desk.shell.window import Window  # noqa: E402
from cooper.desk.widgets.heartbeat import hold  # noqa: E402
from cooper.editing.edit import set_many  # noqa: E402
from cooper.exchange.formats import KINDS  # noqa: E402

WANTED, MOST = 30.0, 100.0
"""Milliseconds within which nearly all should be, and above which none."""

Act = tuple[str, Callable[[], object], Callable[[], object]]
"""What is measured: its name, what comes before it unmeasured, and itself."""


def acts(window: Window, name: str, folder: Path) -> Iterator[Act]:
    """Everything that is measured on one demo."""
    s, bench = window.session, window.bench

    def anew() -> None:
        # What an earlier act laid over the window is closed, as who works would close it.
        for over in (o for kind in (StartPage, FirstWalk, Handbook) for o in window.findChildren(kind)):
            if over.isVisible():
                over.close()
        window.leave_survey()
        window.margins.open("")
        s.restart(demo(name), None)
        bench.begin()

    def wider() -> None:
        b = s.design.train.stages[0].gears[0].b
        s.edit(lambda d, _r: set_many(d, {"train.gears.gear1.b": b + 0.25}), "b")

    # Another language or decimal mark puts another window in place of this one: three tenths to seven of a second,
    # once.
    for command in [c for c in window.commands if not c.asks and not c.key.startswith(("language_", "decimal_"))]:
        yield command.key, anew, command.run
    for key in LENSES:

        def turn_to(key: str = key) -> None:
            anew()
            bench.set_lens(key)

        yield f"edit with lens {key}", turn_to, wider
        yield f"theme with lens {key}", turn_to, lambda: window.run("theme")
        # What its keys do.
        turn_to()
        for words, shown, pressed in getattr(bench.views[bench.lens], "VERBS", ()) if bench.lens == key else ():
            act = partial(press, bench.views[key], pressed, shown if len(shown) == 1 else "")
            yield f"{key}: {words}", turn_to, act
    for key in sheets():

        def opened(key: str = key) -> None:
            anew()
            window.open_sheet(key)

        yield (
            f"edit under sheet {key}",
            opened,
            lambda: s.edit(lambda d, _r: set_many(d, {"train.duty.L_h": 1234.0}), "L_h"),
        )
    yield "Levers of the worst check", anew, window.open_worst
    for kind in KINDS:
        yield f"export {kind}", anew, lambda kind=kind: window.ways_out.export_to(folder / f"out{kind}")


def pace() -> float:
    """Seconds for a fixed piece of work, which tell how quick the machine is just now."""
    began, total = time.perf_counter(), 0
    for n in range(200_000):
        total += n
    return time.perf_counter() - began


def summary(rows: list[tuple[float, str, str]]) -> str:
    slow, short = sum(row[0] > MOST for row in rows), sum(row[0] <= WANTED for row in rows)
    return f"{slow} hold the loop above {MOST:g} ms, {100 * short / len(rows):.0f} % within {WANTED:g} ms"


def main() -> None:
    at = argparse.ArgumentParser(description="how long the event loop stands still")
    at.add_argument("demos", nargs="*", default=list(DEMOS))
    at.add_argument("--report", type=Path)
    given = at.parse_args()
    application()
    rows: list[tuple[float, str, str]] = []
    paces: list[float] = []
    with tempfile.TemporaryDirectory() as folder:
        for name in given.demos:
            window = Window(Session(demo(name)), recover=False)
            window.resize(1280, 800)
            window.show()
            for key, before, act in acts(window, name, Path(folder)):
                before()
                # What comes in from beside the window is no part of the next act.
                settle()
                paces.append(pace())
                rows.append((hold(act), name, key))
                for path in window.ways_out.running.paths():
                    window.ways_out.cancel(path)
                window.session.saved = window.session.design
            window.close()
    # What the pace of the machine alone makes long is told apart by that beside each act.
    quick = sorted(paces)[len(paces) // 20]
    even = [(ms * quick / now, name, key) for (ms, name, key), now in zip(rows, paces, strict=True)]
    both = sorted(
        ((ms, at_pace[0], name, key) for (ms, name, key), at_pace in zip(rows, even, strict=True)), reverse=True
    )
    lines = [
        f"{len(rows)} acts: {summary(rows)}",
        f"all at the pace of the run's quickest twentieth (ten million additions in {50 * quick:.2f} s; "
        f"{50 * max(paces):.2f} s at its slowest): {summary(even)}",
        *(f"{ms:8.0f} ms {at_pace:8.0f}  {name:14} {key}" for ms, at_pace, name, key in both if ms > WANTED),
    ]
    print("\n".join(lines[:70]))
    if given.report:
        given.report.write_text("\n".join(lines) + "\n", encoding="utf-8")


if __name__ == "__main__":
    main()
