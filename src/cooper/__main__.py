"""``python -m cooper``."""

import gc

# Nearly all that is made while modules are loaded stays: looking through it for what nobody holds takes a twentieth of
# the start.
gc.set_threshold(200_000)

from cooper.cli import run  # noqa: E402

run()
