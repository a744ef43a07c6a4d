"""``python -m cooper``."""

from cooper.cli import main

main()
