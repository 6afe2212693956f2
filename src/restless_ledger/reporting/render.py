"""The page of a report, from its template, its style and its script."""

from __future__ import annotations

import datetime
import json
from importlib.metadata import version
from pathlib import Path

import jinja2

from ..picture.style import css_colours
from ..results import Result

ROOM = Path(__file__).parent


def page_of(report: Result) -> str:
    """Return a report as one HTML document: no request leaves it, for no file, font or address."""
    environment = jinja2.Environment(
        autoescape=True, trim_blocks=True, lstrip_blocks=True, loader=jinja2.FileSystemLoader(ROOM)
    )
    environment.filters["embedded"] = embedded
    made = datetime.datetime.now(datetime.UTC)
    return environment.get_template("page.html").render(
        report=report,
        style=css_colours() + (ROOM / "page.css").read_text(encoding="utf-8"),
        script=(ROOM / "page.js").read_text(encoding="utf-8"),
        made=made.strftime("%Y-%m-%d %H:%M UTC"),
        version=version("restless-ledger"),
    )


def embedded(text: str) -> str:
    """Return text as JSON that no HTML parser takes for an end of its element."""
    return json.dumps(text, ensure_ascii=False).replace("<", "\\u003c")
