"""`cooper match`: what a measured gear most likely is."""

from __future__ import annotations

import click

from cooper.cli_words import tell, unusable
from cooper.errors import message_of
from cooper.i18n.text import tr


@click.command(short_help=tr("What a measured gear most likely is."))
@click.option("-z", "--teeth", type=click.IntRange(4, 2000), required=True, help=tr("Tooth count."))
@click.option("--tip", required=True, help=tr("Outside diameter; mm, or with its unit."))
@click.option("--span", "spans", multiple=True, help=tr("Span as TEETH:SIZE, e.g. 3:15.61; any number."))
@click.option(
    "--pin", "pins", multiple=True, help=tr("Size over two pins as DIAMETER:SIZE, e.g. 2.5:44.31; any number.")
)
@click.option("--ball", "balls", multiple=True, help=tr("Size over two balls as DIAMETER:SIZE; any number."))
@click.option("--helix", default="0", show_default=True, help=tr("Helix angle as measured, deg, or the word find."))
@click.option("--most", type=click.IntRange(1, 50), default=6, show_default=True, help=tr("Length of the list."))
def match(
    teeth: int, tip: str, spans: tuple[str, ...], pins: tuple[str, ...], balls: tuple[str, ...], helix: str, most: int
) -> None:
    """List the modules, pressure angles and shifts that explain a measured external gear, likeliest first.

    Two spans over neighbouring counts tell the base pitch and so sort out the pressure angle.
    """
    from math import degrees

    from cooper.editing.matching import matches, warning_of
    from cooper.errors import OutOfRange

    try:
        result = matches(str(teeth), tip, ";".join(spans), ";".join(pins), helix, most=most, balls=";".join(balls))
    except OutOfRange as fault:
        unusable(message_of(fault))
    tell(tr("  m_n mm    P_nd 1/in  alpha_n deg  beta deg       x    h_a    sizes off mm   tip off mm"))
    for f in result:
        tell(
            tr(
                "{m_n:8.4f}   {m_n_2:9.3f}   {alpha_n:10.2f}  {beta:8.3f}  {x:+7.3f}  {h_a:5.3f}   "
                "{span_residual:11.4f}   {tip_residual:+10.4f}",
                m_n=f.m_n,
                m_n_2=25.4 / f.m_n,
                alpha_n=degrees(f.alpha_n),
                beta=degrees(f.beta),
                x=f.x,
                h_a=f.h_a,
                span_residual=f.span_residual,
                tip_residual=f.tip_residual,
            )
        )
    if far := warning_of(result):
        tell(far)
    tell(tr("h_a: addendum factor that the outside diameter asks for; off: measured less computed."))
