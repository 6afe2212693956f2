"""Listeners: who is told of which changes, one after another, whatever they do themselves meanwhile."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable, Iterable
from dataclasses import dataclass

from ..rulebook import InputError
from .change import Change

MOST_ANSWERS = 10_000
"""How many changes listeners may bring about within one call."""
Listener = Callable[[Change], object]


@dataclass(eq=False)
class Subscription:
    """One listener, and what it wants to hear of."""

    listener: Listener
    unit: str | None
    gauge: str | None
    stat: str | None
    event: str | None
    ended: bool = False

    def wants(self, change: Change) -> bool:
        """Say whether a change is one of those."""
        return (
            self.unit in (None, change.unit)
            and (self.event in (None, change.verb))
            and (self.gauge is None or self.gauge == change.gauge)
            and (self.stat is None or self.stat == change.stat)
        )

    @property
    def hears_stats(self) -> bool:
        """Whether stats are among what it hears of."""
        return self.gauge is None and self.event in (None, "stat")


class Listeners:
    """The listeners of a scene. What a listener changes itself is told to all after what brought it about.

    A listener that raises keeps no other from hearing; its error comes once all have heard everything.
    """

    def __init__(self) -> None:
        self.subscriptions: list[Subscription] = []
        self._untold: deque[Change] = deque()
        self._answers = 0
        self._telling = False

    def add(self, subscription: Subscription) -> Callable[[], None]:
        """Add a subscription; return a function that ends it; a second call does nothing."""
        self.subscriptions.append(subscription)

        def end() -> None:
            subscription.ended = True
            self.subscriptions = [each for each in self.subscriptions if each is not subscription]

        return end

    @property
    def hear_stats(self) -> bool:
        """Whether anybody hears of stats."""
        return any(each.hears_stats for each in self.subscriptions)

    def tell(self, changes: Iterable[Change]) -> None:
        """Tell everybody of changes, in order. Within a listener this only adds to what is still to be told."""
        before = len(self._untold)
        self._untold.extend(changes)
        if self._telling:
            self._answers += len(self._untold) - before
            return
        self._telling, self._answers, errors = True, 0, list[BaseException]()
        try:
            while self._untold:
                change = self._untold.popleft()
                if self._answers > MOST_ANSWERS:
                    what = f"listeners have brought about {MOST_ANSWERS:,} changes, and go on"
                    raise InputError(f"on_change: {what}\n    let none of them answer to what it does itself")
                for each in tuple(self.subscriptions):
                    if not each.ended and each.wants(change):
                        try:
                            each.listener(change)
                        except Exception as error:
                            errors.append(error)
        finally:
            self._telling = False
            self._untold.clear()
        if errors:
            for other in errors[1:]:
                errors[0].add_note(f"another listener raised as well: {other!r}")
            raise errors[0]
