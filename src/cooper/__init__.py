"""Cooper: design and check cylindrical gear trains on a drawing."""

__version__ = "0.1.0"
