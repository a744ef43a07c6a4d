"""The version of the program; the same as in the project file."""

__version__ = "0.2.0"
