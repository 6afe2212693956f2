"""The ledger's look, in one place: warm paper, ink, thin rules, red for losses, colours with a shape each."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from pathlib import Path
from typing import TYPE_CHECKING, cast

from ..rulebook import InputError
from ..rulebook.files import check_writable, put_by

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.figure import Figure

PAPER = "#faf5e9"
INK = "#1f2f4f"
FAINT = "#5f6577"
RULE = "#d9d0bb"
DEBIT = "#a8322a"
SIDES = ("#0051b2", "#c16a18", "#348b5d", "#7a4a8c", "#9b7f3a", "#4b4b4b")
"""One colour a side: blue, orange, green, purple, ochre, grey; distinct in every common kind of colour blindness."""
NAMED = {"paper": PAPER, "ink": INK, "faint": FAINT, "rule": RULE, "debit": DEBIT} | {
    f"side-{number}": colour for number, colour in enumerate(SIDES)
}
"""Every colour by the name that pages have for it."""
DARK = {"paper": "#161c29", "ink": "#e6e0cf", "faint": "#a3a9ba", "rule": "#3a4356", "debit": "#f0877c"} | {
    f"side-{number}": colour
    for number, colour in enumerate(("#7fb6ea", "#f0a35e", "#86c893", "#c89ad8", "#d8c268", "#b9b9b9"))
}
"""The same for who asks for dark pages."""
DASHES = ((), (5, 2), (1.5, 1.5), (6, 2, 1.5, 2), (3, 1, 1, 1, 1, 1), (11, 3))
HATCHES = ("", "////", "....", "xx", "\\\\\\\\", "++")
MARKERS = ("o", "s", "^", "D", "v", "P")
MORE_MARKERS = (*MARKERS, "X", "<", "*", "p", ">", "h")
"""Where more than six things are told apart."""
WIDTH, HEIGHT, DOTS = 12.8, 8.0, 100
WIDE_TITLE, LONGEST_TITLE = 84, 128
"""Letters: a title with more of them is set smaller, and cut where even that does not do."""


def side_colour(side: int) -> str:
    """Return the colour of a side; beyond six they come round again."""
    return SIDES[side % len(SIDES)]


def css_side(side: int) -> str:
    """Return the colour of a side as a page names it."""
    return f"var(--side-{side % len(SIDES)})"


def css_colours() -> str:
    """Return the style sheet that declares every colour, also for who asks for dark pages."""
    light, dark = (" ".join(f"--{name}: {colour};" for name, colour in each.items()) for each in (NAMED, DARK))
    return f":root {{ {light} }}\n@media screen and (prefers-color-scheme: dark) {{ :root {{ {dark} }} }}\n"


_GIVEN: ContextVar[Axes | None] = ContextVar("axes", default=None)


@contextmanager
def drawing_on(ax: Axes | None) -> Iterator[None]:
    """Let the figure that is drawn within use these axes, if there are any."""
    token = _GIVEN.set(ax)
    try:
        yield
    finally:
        _GIVEN.reset(token)


def new_figure(rows: list[float], title: str, subtitle: str, columns: int = 1) -> tuple[Figure, list[Axes]]:
    """Return a figure of 1280 × 800 with rows of panels (given their heights), a title and a line under it; or the
    axes that are given, with the title above them. Raises `InputError` where it needs more than those."""
    from matplotlib.figure import Figure

    if (given := _GIVEN.get()) is not None:
        if len(rows) * columns != 1:
            raise InputError(
                f"plot: this figure has {len(rows) * columns} panels and can't be drawn on one axes\n"
                "    leave out ax, or ask for less"
            )
        dress(given)
        given.set_title(title, loc="left", color=INK, weight="bold", family="serif")
        return cast("Figure", given.get_figure(root=True)), [given]
    figure = Figure(figsize=(WIDTH, HEIGHT), dpi=DOTS, facecolor=PAPER, layout="constrained")
    figure.get_layout_engine().set(rect=(0.01, 0.015, 0.98, 0.895), h_pad=0.08)  # type: ignore[union-attr, call-arg]
    grid = figure.add_gridspec(len(rows), columns, height_ratios=rows)
    panels = [figure.add_subplot(grid[row, column]) for row in range(len(rows)) for column in range(columns)]
    for panel in panels:
        dress(panel)
    title = title if len(title) <= LONGEST_TITLE else title[: LONGEST_TITLE - 1] + "…"
    size = min(17.0, 17.0 * WIDE_TITLE / len(title)) if title else 17.0
    figure.text(0.022, 0.972, title, fontsize=size, color=INK, weight="bold", va="top", family="serif")
    figure.text(0.022, 0.932, subtitle, fontsize=10.5, color=FAINT, va="top", family="serif")
    return figure, panels


def dress(panel: Axes) -> None:
    """Give a panel the ledger's paper, ink and thin rules."""
    panel.set_facecolor(PAPER)
    for name, spine in panel.spines.items():
        spine.set_visible(name in ("left", "bottom"))
        spine.set_color(INK)
        spine.set_linewidth(0.8)
    panel.tick_params(colors=INK, labelsize=9.5, width=0.8, length=3)
    panel.grid(axis="y", color=RULE, linewidth=0.7)
    panel.set_axisbelow(True)
    for axis in (panel.xaxis, panel.yaxis):
        axis.label.set_color(INK)
        axis.label.set_fontfamily("serif")
        axis.label.set_fontsize(11)


def check_picture_path(file: str | Path) -> None:
    """Raise `InputError` where a picture can't be written to a path."""
    path = Path(file)
    if path.suffix.lower() not in (".png", ".svg", ".pdf"):
        raise InputError(f"{path}: a picture's file ends in .png, .svg or .pdf\n    got: {path.suffix or 'no ending'}")
    check_writable(path)


def finish(figure: Figure, file: str | Path | None) -> Figure:
    """Save a figure where a file is given (PNG, SVG or PDF by its ending), whole or not at all, and return it.

    No text of it is taken for mathematics. Raises `InputError` where the file can't be written.
    """
    from matplotlib.text import Text

    for text in figure.findobj(Text):
        text.set_parse_math(False)
    if file is not None:
        check_picture_path(file)
        put_by(file, lambda path: figure.savefig(path, facecolor=PAPER))
    return figure
