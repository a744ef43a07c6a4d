"""How the command line speaks: in the language of the window's settings or of the place, its numbers with the
decimal mark in force."""

from __future__ import annotations

import gettext
import os
import sys
from collections.abc import Iterable
from inspect import cleandoc
from pathlib import Path
from typing import NoReturn

import click

from cooper.folders import state_folder
from cooper.i18n.text import join, term, tr
from cooper.i18n.translate import (
    DOMAIN,
    TOLD,
    decimal_mark,
    inherit_language,
    language_in_force,
    languages,
    locale_folder,
    set_language,
    translate,
)

UNUSABLE, SHORT, BROKEN = 2, 1, 70
"""Exit codes: an unusable file or call, a check that is short, a fault of the program; 128 and more for signals."""


def choose_language() -> None:
    """Take the language from the environment, else the one chosen in the window, else that of the locale."""
    text = os.environ.get(TOLD, "")
    if text[:-1] in languages() and text[-1] in ".,":
        inherit_language()
    else:
        chosen = _chosen(state_folder() / "settings.ini")
        language, mark = of_surroundings()
        wanted = chosen.get("language", "")
        set_language(wanted if wanted in languages() else language, chosen.get("decimal", "").strip('"') or mark)
    # What the command line's own library says comes from the same catalogue.
    gettext.bindtextdomain(DOMAIN, str(locale_folder()))
    gettext.textdomain(DOMAIN)
    os.environ["LANGUAGE"] = language_in_force()[0]


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
    text = os.environ.get
    language = (text("LC_ALL") or text("LC_MESSAGES") or text("LANG") or "").partition("_")[0]
    numbers = (text("LC_ALL") or text("LC_NUMERIC") or text("LANG") or "").partition(".")[0]
    return (language if language in languages() else "en"), decimal_mark(numbers)


def tell(text: str, err: bool = False) -> None:
    """Print a text in the language in force."""
    click.echo(translate(text), err=err)


def written(file: Path) -> None:
    """Say that a file is written; its name stays as it is."""
    tell(tr("{file} written", file=str(file)))


def names_of(names: Iterable[str]) -> str:
    """Names as they are typed, whatever the language.

    >>> names_of(["cut", "ground"])
    "'cut', 'ground'"
    """
    return join(", ", map(repr, names))


class TranslatedFormatter(click.HelpFormatter):
    """Help in the language in force."""

    def write_text(self, text: str) -> None:
        paragraphs = cleandoc(text).split("\n\n")
        super().write_text("\n\n".join(translate(term(" ".join(p.split()))) for p in paragraphs))

    def write_dl(self, rows: Iterable[tuple[str, str]], col_max: int = 30, col_spacing: int = 2) -> None:
        super().write_dl([(name, _help(text)) for name, text in rows], col_max, col_spacing)


def _help(text: str) -> str:
    """What an option means; its default and range stand in brackets behind."""
    words, bracket, more = text.partition("  [")
    return translate(term(join(" ", words.split()))) + f"{bracket}{more}"


class TranslatedContext(click.Context):
    """Where a command is called: its help is told by that formatter."""

    formatter_class = TranslatedFormatter


class TranslatedCommand(click.Command):
    """A command with such help."""

    context_class = TranslatedContext


def tell_fault(fault: click.ClickException) -> None:
    """Say what was wrong with a call, and how help is asked for."""
    context = getattr(fault, "ctx", None)
    if context is not None:
        click.echo(context.get_usage(), err=True)
        tell(tr("Try '{command} {option}' for help.", command=context.command_path, option="--help"), err=True)
    tell(tr("Error: {message}", message=fault.format_message()), err=True)


def unusable(words: str) -> NoReturn:
    """Say why a file or a call cannot be used, and end with the code for it."""
    tell(words, err=True)
    sys.exit(UNUSABLE)
