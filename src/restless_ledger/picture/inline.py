"""Figures as text: SVG that stands within a page, or an image that a notebook shows."""

from __future__ import annotations

import base64
import re
from html import escape
from io import StringIO

import matplotlib
from matplotlib.figure import Figure

SLIMMER = tuple(
    (re.compile(pattern, re.DOTALL), instead)
    for pattern, instead in (
        (r"<metadata>.*?</metadata>", ""),
        (r"(\d+\.\d\d)\d+", r"\1"),
        (r">\s+<", "><"),
        (r"\s*\n\s*", " "),
    )
)
"""What nobody needs: who made it, digits beyond a hundredth of a point, white space."""


def svg_text(figure: Figure, seed: str) -> str:
    """Return a figure as an SVG element, its text as text: the same from the same figure and seed."""
    stream = StringIO()
    with matplotlib.rc_context({"svg.fonttype": "none", "svg.hashsalt": seed}):
        figure.savefig(stream, format="svg", metadata={"Date": None, "Creator": None})
    text = stream.getvalue()
    text = text[text.index("<svg") :]
    for pattern, instead in SLIMMER:
        text = pattern.sub(instead, text)
    return text


def image_tag(figure: Figure, says: str) -> str:
    """Return a figure as an HTML image that holds its own data, with what it shows for who can't see it."""
    data = base64.b64encode(svg_text(figure, says).encode()).decode()
    return f'<img alt="{escape(says)}" style="max-width: 100%" src="data:image/svg+xml;base64,{data}">'
