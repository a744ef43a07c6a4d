"""How long each command holds the event loop, in the real window over the demos. Run: .venv/bin/python tools/measure_hold.py [DEMO …]

From the call of the command until every event it caused is worked off; the longest first. Commands that ask for a file or a word are left out.
Times are those of the machine it runs on: compare within one run.
"""

import os
import sys
import time
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
root = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(root / "src"))

from cooper.demo import DEMOS, demo  # noqa: E402
from cooper.desk.frame.app import application  # noqa: E402
from cooper.desk.frame.session import Session  # noqa: E402
from cooper.desk.frame.window import Window  # noqa: E402
from cooper.desk.widgets.pictures import settle  # noqa: E402

WANTED = 100
"""Milliseconds above which a command is listed."""


def held(name: str) -> list[tuple[float, str, str]]:
    """Milliseconds, demo and key of every command on one demo."""
    found = []
    window = Window(Session(demo(name)), recover=False)
    window.resize(1280, 800)
    window.show()
    settle()
    for key in [c.key for c in window.commands if not c.asks]:
        window.session.restart(demo(name), None)
        settle()
        command = next((c for c in window.commands if c.key == key), None)
        if command is None:
            continue
        begin = time.perf_counter()
        command.run()
        settle()
        found.append((1000 * (time.perf_counter() - begin), name, key))
        window.session.saved = window.session.design
    window.close()
    return found


def main() -> None:
    application()
    rows = sorted((row for name in sys.argv[1:] or DEMOS for row in held(name)), reverse=True)
    slow = [row for row in rows if row[0] > WANTED]
    short = sum(row[0] <= 30 for row in rows)
    print(f"{len(rows)} commands: {len(slow)} above {WANTED} ms, {100 * short / len(rows):.0f} % within 30 ms")
    for ms, name, key in slow:
        print(f"{ms:8.0f} ms  {name:14} {key}")


if __name__ == "__main__":
    main()
