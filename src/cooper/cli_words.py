"""How the command line speaks: in the language of the window's settings or of the place, its numbers with the decimal mark in force."""

from __future__ import annotations

import locale
import os
from collections.abc import Iterable
from inspect import cleandoc
from pathlib import Path

import click

from cooper.folders import state_folder
from cooper.language.spoken import GAP, LANGUAGES, TOLD, shown, speak, speak_as_told

COMMA = ("de",)
"""Languages that write a decimal comma, where the system does not know the place."""


def speak_as_here() -> None:
    """Speak as the surroundings tell, else as chosen in the window, else as the place does."""
    told = os.environ.get(TOLD, "")
    if told[:-1] in LANGUAGES and told[-1] in ".,":
        speak_as_told()
        return
    chosen = _chosen(state_folder() / "settings.ini")
    language, mark = of_surroundings()
    wanted = chosen.get("language", "")
    speak(wanted if wanted in LANGUAGES else language, chosen.get("decimal", "").strip('"') or mark)


def _chosen(settings: Path) -> dict[str, str]:
    """What was chosen in the window; what cannot be read was chosen by nobody."""
    if not settings.is_file():
        return {}
    import configparser

    read = configparser.ConfigParser(interpolation=None)
    try:
        read.read(settings, encoding="utf-8")
        return dict(read["General"])
    except (OSError, ValueError, KeyError, configparser.Error):
        return {}


def of_surroundings() -> tuple[str, str]:
    """Language and decimal mark that the variables of the environment ask for."""
    told = os.environ.get
    language = (told("LC_ALL") or told("LC_MESSAGES") or told("LANG") or "").partition("_")[0]
    numbers = told("LC_ALL") or told("LC_NUMERIC") or told("LANG") or ""
    try:
        before = locale.setlocale(locale.LC_NUMERIC)
        locale.setlocale(locale.LC_NUMERIC, numbers)
        mark = str(locale.localeconv()["decimal_point"])
        locale.setlocale(locale.LC_NUMERIC, before)
    except locale.Error:
        mark = "," if numbers.partition("_")[0] in COMMA else "."
    return (language if language in LANGUAGES else "en"), mark


def tell(text: str, err: bool = False) -> None:
    """Say something, line by line in the language in force."""
    click.echo("\n".join(map(shown, text.split("\n"))), err=err)


def written(file: Path) -> None:
    """Say that a file is written; its name stays as it is."""
    click.echo(GAP.sub(lambda _gap: str(file), shown("{0} written")))


def names_of(names: Iterable[str]) -> str:
    """Names as they are typed, whatever the language.

    >>> names_of(["cut", "ground"])
    "'cut', 'ground'"
    """
    return ", ".join(map(repr, names))


class SpokenFormatter(click.HelpFormatter):
    """Help in the language in force."""

    def write_usage(self, prog: str, args: str = "", prefix: str | None = None) -> None:
        super().write_usage(prog, args, prefix or f"{shown('Usage')}: ")

    def write_heading(self, heading: str) -> None:
        super().write_heading(shown(heading))

    def write_text(self, text: str) -> None:
        paragraphs = cleandoc(text).split("\n\n")
        super().write_text("\n\n".join(shown(" ".join(p.split())) for p in paragraphs))

    def write_dl(self, rows: Iterable[tuple[str, str]], col_max: int = 30, col_spacing: int = 2) -> None:
        super().write_dl([(name, _help(told)) for name, told in rows], col_max, col_spacing)


def _help(text: str) -> str:
    """What an option means; its default and range stand in brackets behind."""
    words, bracket, more = text.partition("  [")
    return shown(words) + (f"{bracket}{shown(more[:-1])}]" if bracket else "")


class SpokenContext(click.Context):
    """Where a command is called: its help is told by that formatter."""

    formatter_class = SpokenFormatter


class SpokenCommand(click.Command):
    """A command with such help."""

    context_class = SpokenContext


def tell_fault(fault: click.ClickException) -> None:
    """Say what was wrong with a call, and how help is asked for."""
    context = getattr(fault, "ctx", None)
    if context is not None:
        click.echo(context.get_usage(), err=True)
        tell(f"Try '{context.command_path} --help' for help.", err=True)
    tell(f"Error: {fault.format_message()}", err=True)
