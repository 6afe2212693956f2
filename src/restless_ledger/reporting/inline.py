"""Figures as SVG within a page: text stays text, colours are those of the page, and no two figures share an id."""

from __future__ import annotations

import hashlib
import re
from html import escape
from typing import Any

import pandas as pd

from ..picture.inline import svg_text
from ..picture.style import NAMED
from ..results import Result
from .blocks import Figure

COLOURS = {colour: name for name, colour in NAMED.items()}
"""The names that the page's style has for the colours of the figures."""
COLOUR = re.compile("|".join(COLOURS))
FILL = re.compile(r"fill: (#[0-9a-f]{6})")
MOST_OTHERS = 4
"""A figure with more other colours than this has a colour for each value, and keeps all of its colours on any page."""
IDENTIFIER = re.compile(r'\s\bid="([^"]+)"')
REFERENCE = re.compile(r'url\(#([^)]+)\)|href="#([^"]+)"')
FITTED = (
    (re.compile(r"<defs>\s*<style.*?</style>\s*</defs>", re.DOTALL), ""),  # it would hold for the whole page
    (re.compile(r"font-family: [^;\"]*Sans[^;\"]*"), "font-family: var(--sans)"),
    (re.compile(r"font-family: [^;\"]*[Ss]erif[^;\"]*"), "font-family: var(--serif)"),
)
"""What the page says once for all of its figures."""
MOST_ROWS = 400
"""Rows of the table beside a figure that may be copied; the commands write them all."""


def figure_of(result: Result, says: str = "", table: str | None = None) -> Figure:
    """Return a result's figure, with a table of it as text to copy."""
    says = says or result.finding()
    return Figure(svg_of(result.plot(), says), says, _copied(result, table))


def svg_of(figure: Any, says: str) -> str:
    """Return a Matplotlib figure as an SVG element that says what it shows."""
    text = svg_text(figure, says)
    own = hashlib.sha256(text.encode()).hexdigest()[:8]
    for pattern, instead in FITTED:
        text = pattern.sub(instead, text)
    heat = len(set(FILL.findall(text)) - set(COLOURS)) > MOST_OTHERS
    if not heat:
        text = COLOUR.sub(lambda found: f"var(--{COLOURS[found[0]]})", text)
    text = _with_own_ids(text, own)
    head, rest = text.split(">", 1)
    size = re.search(r'viewBox="[^"]+"', head)
    assert size is not None  # Matplotlib writes it always
    return f'<svg {size[0]} role="img" aria-label="{escape(says)}" xmlns:xlink="http://www.w3.org/1999/xlink">{rest}'


def _with_own_ids(text: str, name: str) -> str:
    """Return SVG with short ids that no other figure of the page has, and only those that are referred to."""
    used = dict.fromkeys(one or other for one, other in REFERENCE.findall(text))
    short = {long: f"f{name}-{number}" for number, long in enumerate(used)}
    text = IDENTIFIER.sub(lambda found: f' id="{short[found[1]]}"' if found[1] in short else "", text)
    return REFERENCE.sub(lambda found: f"url(#{short[found[1]]})" if found[1] else f'href="#{short[found[2]]}"', text)


def _copied(result: Result, table: str | None) -> str:
    """Return the rows behind a figure as CSV, the first of them where there are very many."""
    records = result.records(table)
    text: str = pd.DataFrame.from_records(records[:MOST_ROWS]).to_csv(index=False, float_format="%.6g")
    left = len(records) - MOST_ROWS
    return text + (f"# and {left:,} rows more\n" if left > 0 else "")
