"""``python -m cooper``."""

from cooper.cli import run

run()
