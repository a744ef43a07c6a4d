"""The texts of a design that a person wrote, which no language alters."""

from __future__ import annotations

from typing import Literal, get_origin

from cooper.document.base import Model, bare, default_of, types_of
from cooper.document.models import Design
from cooper.language.spoken import speak_of
from cooper.stock.lubricants import oils
from cooper.stock.materials import groups

CHOSEN = ("group", "type", "series", "steel", "cleanliness", "shape", "process", "relief", "found", "id", "kind")
"""Fields with texts that are chosen from what the program has, or name something within the file."""


def own_texts(design: Design) -> frozenset[str]:
    """Names, numbers of parts and all else that was typed as text; what stands at its default was not."""
    found: set[str] = set()

    def look(model: Model) -> None:
        for name, hint in types_of(type(model)).items():
            value = getattr(model, name)
            if isinstance(value, Model):
                look(value)
            elif isinstance(value, tuple):
                for part in value:
                    if isinstance(part, Model):
                        look(part)
            elif isinstance(value, dict):
                for part in value.values():
                    if isinstance(part, Model):
                        look(part)
            elif isinstance(value, str) and value and name not in CHOSEN:
                kind = bare(hint)[0]
                if get_origin(kind) is not Literal and value != default_of(type(model), name):
                    found.add(value)

    look(design.but(survey=None))
    found.update(design.names)
    return frozenset(found - set(oils()) - set(groups()))


def speak_of_design(design: Design) -> None:
    """Let no language alter what is written in this design, until another one is spoken of."""
    speak_of(own_texts(design))
