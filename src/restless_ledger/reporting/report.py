"""The report of a rulebook: its parts, made one after the other, and the page that shows them."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

from ..auditing import Audit
from ..checked import check_seed, whole
from ..results import Result
from ..rulebook import Rulebook
from ..rulebook.files import cannot_write, check_writable, put
from ..rulebook.revisions import revision_of
from .blocks import Part, Section
from .parts.audited import findings
from .parts.characters import characters
from .parts.encounters import encounter
from .parts.promised import promises
from .parts.studies import changes, creation, journeys, matchups
from .render import page_of

Progress = Callable[[int, int], None]
RUNS_PER_FIGHTS = 10
"""A journey is walked once for so many fights of an encounter."""


class Report(Result):
    """What was reported. Its table, `parts`, has a record for each part: its title, what it shows, and whether it is
    whole; at Ctrl-C the page holds what was done by then."""

    TABLES = ("parts",)
    ASKED = ("seed", "fights")

    def __init__(
        self,
        book: Rulebook,
        since: Rulebook | None = None,
        fights: int = 1000,
        seed: int = 1,
        quick: bool = False,
        rulebook: str | Path | None = None,
        progress: Progress | None = None,
    ) -> None:
        self.book, self.since = book, since
        self.fights, self.seed = whole("fights", fights, 2, 10_000_000), check_seed(seed)
        self.quick, self.rulebook = quick, str(rulebook or "RULEBOOK")
        self.revision = revision_of(rulebook) if rulebook and Path(rulebook).exists() else ""
        self.parts: list[Part] = []
        self.complete = True
        steps = list(self._steps())
        began = time.monotonic()
        try:
            for done, step in enumerate(steps):
                if progress:
                    progress(done, len(steps))
                step()
        except KeyboardInterrupt:
            self.complete = False
        self.seconds = time.monotonic() - began
        """How long it took."""

    def _steps(self) -> Iterator[Callable[[], None]]:
        """Yield what is to be done, one piece after the other: each adds to the parts."""
        book, seed = self.book, self.seed
        yield self._audited
        yield lambda: self._add(characters(book))
        if not self.quick and book.encounters:
            yield lambda: self._add(Part("Encounters", ""))
            for name in book.encounters:
                yield lambda name=name: self._encounter(name)  # type: ignore[misc]
        if not self.quick:
            yield lambda: self._add(matchups(book, seed))
            yield lambda: self._add(journeys(book, max(1, self.fights // RUNS_PER_FIGHTS), seed))
        yield lambda: self._add(creation(book))
        if (old := self.since) is not None:
            yield lambda: self._add(changes(old, book, self.fights, seed))

    def _add(self, part: Part | None) -> None:
        """Add a part; stop after one that was cut short."""
        if part is not None:
            self.parts.append(part)
            if not part.complete:
                raise KeyboardInterrupt

    def _audited(self) -> None:
        audit = Audit(self.book, quick=self.quick, seed=self.seed)
        self._add(findings(audit))
        promised = promises(self.book, audit)
        if promised:
            promised.complete = audit.complete
        self._add(promised)

    def _encounter(self, name: str) -> None:
        part = self.parts[-1]
        section, part.complete = encounter(self.book, name, self.fights, self.seed, self.rulebook)
        part.blocks.append(section)
        fought, every = sum(isinstance(block, Section) for block in part.blocks), len(self.book.encounters)
        part.lead = f"{every} encounters, each fought {self.fights:,} times with seed {self.seed}."
        if fought < every:
            part.lead = f"{fought} of {part.lead}"
        if not part.complete:
            raise KeyboardInterrupt

    def _records(self, table: str) -> list[dict[str, Any]]:
        return [{"part": part.title, "shows": part.lead, "complete": part.complete} for part in self.parts]

    def finding(self) -> str:
        """Say in a sentence what the report holds."""
        stopped = "" if self.complete else ", stopped early"
        return f"A report on {self.book.rulebook.title} in {len(self.parts)} parts{stopped}"

    def html(self) -> str:
        """Return the page: one document that needs nothing else."""
        return page_of(self)

    def put(self, out: str | Path) -> Path:
        """Write the page to a file that ends in .html, or as index.html into a directory, which is made. Return the
        file. Raises `InputError` where it can't be written."""
        file = page_file(out)
        put(file, self.html().encode())
        return file


def page_file(out: str | Path) -> Path:
    """Return the file of a page: a file that ends in .html, or index.html in a directory, which is made. Raises
    `InputError` where it can't be written."""
    path = Path(out)
    file = path
    if path.suffix.lower() not in (".html", ".htm"):
        file = path / "index.html"
        try:
            path.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            raise cannot_write(path, error) from None
    check_writable(file)
    return file
