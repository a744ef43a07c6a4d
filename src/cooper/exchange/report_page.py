"""The report as one page that needs nothing else: tables, formulas as MathML, drawings."""

from __future__ import annotations

from html import escape

from cooper.document.models import Design
from cooper.document.quantities import parts, symbol_word
from cooper.exchange.formula_setting import MathML, Setting
from cooper.exchange.report import Block, Heading, Picture, Working, head_line, pieces, verdict_line
from cooper.exchange.report_figures import figure
from cooper.exchange.report_formulas import lines_of
from cooper.exchange.statement import statement
from cooper.exchange.symbols_in_text import symbol_in
from cooper.i18n.text import join
from cooper.i18n.translate import language_in_force
from cooper.results.result_tree import Results

STYLE = (
    "body{font:14px/1.4 Lato,sans-serif;color:#22303a;background:#fff;max-width:1000px;margin:2em auto;padding:0 1em}"
    "h1{font-size:24px;margin:0}h2{font-size:19px;margin:2em 0 "
    ".3em}h3{font-size:15px;color:#a85420;margin:1.6em 0 .3em;border-bottom:1px solid #ddd3c2}"
    ".place{color:#777;margin:0}table{border-collapse:collapse;width:100%}td,th{padding:1px 10px 1px "
    "0;vertical-align:top;text-align:left;font-weight:400}th{color:#777;font-size:12px}"
    ".r{text-align:right;font-variant-numeric:tabular-nums;white-space:nowrap}sub{font-size:75%}.clause{color:#777;font-size:12px;text-align:right}"
    "figure{margin:1em 0}figcaption{color:#777;font-size:12px}svg{max-width:100%;max-height:420px;height:auto}"
    ".line{display:flex;justify-content:space-between;gap:1em;border-top:1px solid #f0eadf;padding:3px "
    "0}.line div p{margin:2px 0}math{font-size:105%}"
    "@media print{h2,h3{break-after:avoid}tr,.line,figure{break-inside:avoid}}"
)


def report_html(design: Design, results: Results, system: str = "mm", length: str = "usual") -> str:
    """The report as one page in one of the unit systems ("mm", "inch")."""
    body = [
        f"<h1>{escape(design.name)}</h1>",
        f"<p class=place>{escape(design.place)}</p>",
        f"<p>{escape(verdict_line(design, results))}</p>",
        f"<p class=place>{escape(statement(design))}</p>",
    ]
    for piece in pieces(design, results, system, length):
        match piece:
            case Heading(title=title):
                body.append(f"<h2>{escape(title)}</h2>")
            case Picture(caption=caption):
                svg = figure(piece, design, results, system)
                if svg:
                    body.append(f"<figure>{svg}<figcaption>{escape(caption)}</figcaption></figure>")
            case Working():
                body += _working(piece, system)
            case Block(text_only=False) if piece.rows:
                body += _table(piece)
    return (
        f"<!doctype html><html lang={language_in_force()[0]}><head><meta "
        f"charset=utf-8><title>{escape(head_line(design))}</title>"
        f"<style>{STYLE}</style></head><body>{''.join(body)}</body></html>\n"
    )


def _table(block: Block) -> list[str]:
    body = [f"<h3>{escape(block.title)}</h3><table>"]
    if any(block.heads):
        above = (
            f"<th class={block.align[min(n, len(block.align) - 1)]}>{escape(h)}</th>" for n, h in enumerate(block.heads)
        )
        body.append(f"<tr>{''.join(above)}</tr>")
    for row in block.rows:
        cells = []
        for n, text in enumerate(row):
            shown = _symbol(text) if block.symbols and n == block.at and len(row) > block.at else _words(text)
            span = f" colspan={len(block.align)}" if len(row) == 1 else ""
            cells.append(f"<td class={block.align[min(n, len(block.align) - 1)]}{span}>{shown}</td>")
        body.append(f"<tr>{''.join(cells)}</tr>")
    return [*body, "</table>"]


def _symbol(text: str) -> str:
    """A plain symbol with its subscript and Greek letters, signs before it and powers after it kept."""
    result = symbol_in(text)
    if result is None:
        return escape(text)
    before, main, sub, power = result
    return f"{before}<i>{escape(main)}</i><sub>{escape(sub)}</sub>" + (f"<sup>{power}</sup>" if power else "")


def _words(text: str) -> str:
    """A text in which symbols are typeset."""
    shown = []
    for word in text.split(" "):
        found = symbol_word(word.lstrip("("))
        if found is None:
            shown.append(escape(word))
        else:
            main, sub = parts(found[0], found[1])
            shown.append(
                f"{'(' * (len(word) - len(word.lstrip('(')))}<i>{escape(main)}</i><sub>{escape(sub)}</sub>{found[2]}"
            )
    return join(" ", shown)


def _working(piece: Working, system: str) -> list[str]:
    body = [f"<h3>{escape(piece.title)}</h3>"]
    to = MathML()
    for one in piece.rows:
        shown = "".join(
            f"<p><math>{to.row(line)}</math></p>" for line in lines_of(one, lambda names: Setting(names, to), system)
        )
        body.append(f"<div class=line><div>{shown}</div><div class=clause>{escape(one.source)}</div></div>")
    return body
