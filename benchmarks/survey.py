"""Surveys: candidates a second and core, time to the first designs, growth with the work, memory, and where the time
goes.

Run: .venv/bin/python benchmarks/survey.py [--profile]

Times are those of the machine: compare within one run.
"""

from __future__ import annotations

import cProfile
import os
import pstats
import resource
import sys
import time
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parent.parent / "src"))

from cooper.document.duty import Duty
from cooper.document.survey_spec import SurveySpec, asked
from cooper.survey.patterns import from_duty
from cooper.survey.plan import Plan, plan
from cooper.survey.search import run

KILOWATTS = Duty(P=11000, n=1470, u_wanted=3.2, u_tol=3.0, L_h=20000, K_A=1.25)
SMALL = Duty(T=0.9, n=6000, u_wanted=5.6, u_tol=3.0, L_h=500, K_A=1.25)
CASES: dict[str, tuple[Duty, SurveySpec]] = {
    "pairs": (
        KILOWATTS,
        asked(process="ground", arrangements=("pair",), beta_step=2.0, x_step=0.05, shown=("factor",), most=10**7),
    ),
    "planet sets": (
        SMALL,
        asked(
            process="sintered",
            arrangements=("planet set",),
            planets=(3, 4),
            z_least=12,
            x_step=0.05,
            shown=("factor",),
            most=10**7,
        ),
    ),
    "two stages": (
        KILOWATTS.replace_unchecked(u_wanted=14.5),
        asked(process="ground", arrangements=("two stages",), shown=("factor",), most=10**7),
    ),
    "three stages": (
        KILOWATTS.replace_unchecked(u_wanted=60.0),
        asked(process="ground", arrangements=("three stages",), shown=("factor",), most=10**7),
    ),
}


def searched(made: Plan, cores: int) -> tuple[float, float, int, int]:
    """Seconds in all and to the first designs, candidates looked at, designs found."""
    start = time.perf_counter()
    first, looked, result = 0.0, 0, 0
    for batch in run(made, cores):
        looked += batch.looked
        result += len(batch)
        if len(batch) and not first:
            first = time.perf_counter() - start
    return time.perf_counter() - start, first, looked, result


def main() -> None:
    cores = os.cpu_count() or 1
    for name, (duty, question) in CASES.items():
        base = from_duty(duty, question.process)
        per = []
        for work in (20_000, 40_000, 80_000):
            made = plan(question, base, work)
            took, first, looked, found = searched(made, cores)
            per.append(took / max(looked, 1))
            share = looked / max(made.possible, 1)
            print(
                f"{name:13} {looked:7d} looked at of {made.possible:9.3g} possible, {found:6d} found: {took:6.2f} "
                f"s, first {1000 * first:4.0f} ms, "
                f"{looked / took / cores:7.0f} a second and core; with those that counts alone take "
                f"{made.possible * max(share, looked / max(made.size, 1)) / took / cores:9.3g}"
            )
        memory = resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss / 1024
        print(
            f"{name:13} one of them costs {per[0] / per[-1]:.2f} times at a quarter of the work; memory of a worker "
            f"{memory:.0f} MB"
        )
    if "--profile" in sys.argv:
        duty, question = CASES["two stages"]
        made = plan(question, from_duty(duty, question.process), 20_000)
        profile = cProfile.Profile()
        profile.enable()
        searched(made, 1)
        profile.disable()
        pstats.Stats(profile).sort_stats("cumulative").print_stats(30)


if __name__ == "__main__":
    main()
