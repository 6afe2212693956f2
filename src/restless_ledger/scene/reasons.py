"""Why a figure of a live character is what it is just now: its sheet, and what its buffs change."""

from __future__ import annotations

from collections.abc import Iterator

from ..formula import explain
from ..formula.explain import number
from ..ledger.points import points
from ..rulebook.stats import StatChange
from ..rulebook.words import Way
from ..sheets.figures import StatFigure
from ..sheets.gear import Standing, change_of
from ..sheets.stat_lines import own_lines_of, stat_figure
from .scene import Scene


def stat_now(scene: Scene, unit: int, stat: str) -> StatFigure:
    """Return a stat as it is now, with its lines: those of the sheet, what varied as the scene began, and what each
    buff and each broken part changes."""
    book, sheet = scene.book, scene.bench.setup.units[unit].sheet
    page = page_now(scene, unit)
    changes = [each for each in sheet.standing if each.key != "varies"]
    changes += [*_varied(scene, unit), *_borne(scene, unit, stat)]
    mine = [each for each in changes if stat in each.stats]
    owner = scene.bench.setup.names.units[unit]
    return stat_figure(book, own_lines_of(book, sheet.spec)[stat], stat, mine, owner, page)


def gauge_now(scene: Scene, unit: int, gauge: str) -> str:
    """Say what a gauge holds, and where its top comes from."""
    setup, entry = scene.bench.setup, scene.book.gauges[gauge]
    row = scene.bench.state.gauges[unit, setup.names.gauges.index(gauge)]
    head = (
        f"{entry.label or gauge} of {setup.names.units[unit]}: {number(points(row.now))} of {number(points(row.top))}"
    )
    place = scene.book.place("gauges", gauge, "top")
    return f"{head}\n  top      {explain(entry.top, page_now(scene, unit))}  {place}".rstrip()


def changers(scene: Scene, unit: int, stat: str) -> list[str]:
    """Return what changes a stat just now beyond the sheet: buffs and broken parts, in the order of their beginning."""
    return [each.name for each in _borne(scene, unit, stat)]


def page_now(scene: Scene, unit: int) -> dict[str, float]:
    """Return the page of a unit as it is now."""
    slots = scene.bench.setup.names.slots
    return dict(zip(slots, scene.bench.state.pages[unit].tolist(), strict=False))


def _borne(scene: Scene, unit: int, stat: str) -> Iterator[Standing]:
    """Yield what each buff that is on changes of a stat, with its stacks and its strength, in order of beginning."""
    rows = scene.bench.state.buffs[unit]
    on = sorted((int(row.began), place) for place, row in enumerate(rows) if row.on)
    for _, place in on:
        path, label, stats = _written(scene, unit, place)
        if stat in stats:
            scale = float(rows[place].count * rows[place].strength)
            said = label if scale == 1 else f"{label} × {number(scale)}"
            change = stats[stat]
            if scale != 1.0:
                change = _scaled(change, scale, float(change.worth(page_now(scene, unit))))
            yield Standing(path, said, {stat: change})


def _written(scene: Scene, unit: int, place: int) -> tuple[tuple[str, ...], str, dict[str, StatChange]]:
    """Return where a row of the buffs is written, what it is called, and what it changes: a buff, or a broken part."""
    setup, book = scene.bench.setup, scene.book
    name = setup.names.buffs[place]
    first = int(setup.tables.units[unit].broken_buff)
    body = book.classes[setup.units[unit].sheet.who].body
    if body and first >= 0 and first <= place < first + len(book.bodies[body].parts):
        part = list(book.bodies[body].parts)[place - first]
        return ("bodies", body, "parts", part, "breaks"), name, dict(book.bodies[body].parts[part].breaks.stats)
    return ("buffs", name), book.buffs[name].label or name, dict(book.buffs[name].stats)


def _scaled(change: StatChange, scale: float, amount: float) -> StatChange:
    """Return a change as often, or as strongly, as a buff brings it."""
    if change.way is Way.TIMES:
        return change_of(change.way.value, max(0.0, amount) ** scale)
    return change if change.way is Way.SET else change_of(change.way.value, amount * scale)


def _varied(scene: Scene, unit: int) -> Iterator[Standing]:
    """Yield what was drawn, as the scene began, of what varies of a unit."""
    tables, stats = scene.bench.setup.tables, list(scene.book.stats)
    standing = scene.bench.setup.units[unit].sheet.standing
    at = {stat: each for each in standing if each.key == "varies" for stat in each.stats}
    row = tables.units[unit]
    for change in tables.changes[row.first_change : row.last_change]:
        if change.varied >= 0 and stats[change.index] in at:
            stat, drawn = stats[change.index], float(scene.bench.state.varied[unit, change.varied])
            source = at[stat]
            yield Standing(source.path, source.name, {stat: change_of(source.stats[stat].way.value, drawn)}, source.key)
