"""What a tag says of its range: under the open editor, and with a refusal."""

from __future__ import annotations

from typing import TYPE_CHECKING

from cooper.desk.base import theme as th
from cooper.desk.widgets.labels import Label
from cooper.document.quantities import plain
from cooper.document.units import number, parse
from cooper.editing.ranges import Range, Try, each_range, trials_of
from cooper.errors import OutOfRange
from cooper.i18n.text import tr

if TYPE_CHECKING:
    from cooper.desk.widgets.tag import Tag

HINT_STEPS = 12
"""Trials on each side of the range that is said under the open editor."""


def refuse(tag: Tag, fault: OutOfRange) -> None:
    """Show a fault in this field's own terms; where it does not name the range that works this is looked for by
    trying, and added."""
    value, now = fault.value, tag.value()
    own = fault.quantity in (tag.field.key, plain(tag.field.symbol, tag.field.index))
    if now is None or (own and (fault.low is not None or fault.high is not None)):
        tag.show_fault(fault)
        return
    reason = (
        fault.reason
        if own
        else tr(
            "{quantity} would be {shown}: {reason}",
            quantity=fault.quantity,
            shown=_shown(fault.value),
            reason=fault.reason,
        )
    )
    typed = value if own and isinstance(value, int | float) else typed_number(tag)
    name = fault.quantity if own else plain(tag.field.symbol, tag.field.index)
    bare = OutOfRange(name, typed if typed is not None else str(value), reason)
    tag.show_fault(bare, looking=True)
    if isinstance(typed, int | float):
        # Towards a typed number only its own side is looked at; where nothing could be read, both.
        ends = (min(typed, now), max(typed, now))
    else:
        spread = max(abs(now) * 4, 1.0)
        ends = (now - spread, now + spread)
    key = (tag.session.design, tag.field.key, ends)

    def found(ends_found: Range) -> None:
        tag._kept_range = key, ends_found
        low: float | None
        high: float | None
        low, high = ends_found
        if isinstance(typed, int | float) and low <= typed <= high:
            # What was tried leaves out what refused it, as shafts that are found last: no range is better than a
            # wrong one.
            tag.show_fault(bare)
            return
        if isinstance(typed, int | float):
            low, high = (low, None) if typed < now else (None, high)
        if tag.fault is not None:
            tag.show_fault(OutOfRange(bare.quantity, bare.value, bare.reason, low=low, high=high))

    if key == tag._kept_range[0]:
        found(tag._kept_range[1])
    else:
        tag.search.start(each_range(trials(tag), now, *ends, tag.field.kind == "count"), found)


def tell_range(tag: Tag) -> None:
    """Look for the values between which the design works, all else kept, and say them under the open editor."""
    now = tag.value()
    if tag.editor is None or tag.fault is not None or now is None:
        return
    reach = 5 * max(abs(now), 1.0)
    low, high = now - reach, now + reach
    search = each_range(trials(tag), now, low, high, tag.field.kind == "count", HINT_STEPS)
    tag.search.start(search, lambda result: show_hint(tag, result, (low, high)))


def show_hint(tag: Tag, result: Range, ends: Range) -> None:
    if tag.editor is None:
        return
    low, high = result
    kind, system = tag.field.kind, tag.session.system
    # An end that was reached is only known to work; how far beyond is not looked for.
    first = f"{number(low, kind, system)}" + (tr(" or less") if low == ends[0] else "")
    last = f"{number(high, kind, system)}" + (tr(" or more") if high == ends[1] else "")
    tag.close_hint()
    tag.hint = Label(
        tr("works from {first} to {last} {unit}", first=first, last=last, unit=tag.unit()).strip(),
        tag.parentWidget(),
    )
    tag.hint.setObjectName("range_hint")
    th.set_style(tag.hint, "form", "hint")
    th.set_text_role(tag.hint, "muted", th.SMALL)
    tag.hint.adjustSize()
    # Beside the editor, so that a sheet which opens over the Bench covers both.
    room = tag.parentWidget() or tag
    place = tag.editor.geometry().bottomLeft()
    tag.hint.move(max(2, min(place.x(), room.width() - tag.hint.width() - 6)), place.y() + 3)
    tag.hint.show()
    tag.hint.raise_()


def trials(tag: Tag) -> tuple[Try, ...]:
    """Whether the design as it now stands fits and works with another value of this quantity."""
    field, design, results = tag.field, tag.session.design, tag.session.results
    return trials_of(lambda v: field.give(design, results, v))


def typed_number(tag: Tag) -> float | None:
    if tag.editor is None:
        return None
    try:
        return parse(tag.editor.text(), tag.field.kind, tag.session.system)
    except OutOfRange:
        return None


def _shown(value: float | str) -> str:
    return tr("{value:.6g}", value=value) if isinstance(value, int | float) else value
