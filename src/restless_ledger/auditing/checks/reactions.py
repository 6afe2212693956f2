"""Reactions: loops and where they end, sources that can't be reached, marks that mean two things."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from functools import cache, cached_property, lru_cache

import numpy as np

from ...frozen_classes import frozen
from ...rulebook.effect_lists import flat, given_by
from ...rulebook.effects import DamageEffect, DrainEffect, HealEffect
from ...rulebook.pages import bearers
from ...rulebook.reactions import Reaction
from ...rulebook.words import Event, Receiver, Targets
from ...sheets.hit import single
from ...sheets.hits import effect_times
from ...sheets.page import held_gauges
from ..audit_context import AuditContext
from ..finding import Fault
from ..phrases import figure, listed
from ..registry import check

OWN_SIDE = (Receiver.USER, Receiver.MATES, Receiver.ALLIES, Receiver.ALL)
OTHER_SIDE = (Receiver.OTHER, Receiver.FOES, Receiver.ALL)


@frozen
class Node:
    """A reaction, who can have it, whom it can strike, and the marks that it gives."""

    path: tuple
    reaction: Reaction
    bearers: frozenset[str]
    struck: frozenset[str]
    marks: frozenset[str]

    def __str__(self) -> str:
        return ".".join(map(str, self.path[:2]))

    @cached_property
    def harms(self) -> tuple[DamageEffect, ...]:
        """The hits that it deals."""
        return tuple(effect for effect in flat(self.reaction.does) if isinstance(effect, DamageEffect))


@frozen
class Graph:
    """All reactions of a rulebook, and which of them each can bring about."""

    nodes: tuple[Node, ...]
    after: tuple[tuple[int, ...], ...]


@lru_cache(maxsize=4)
def _graph(case: AuditContext) -> Graph:
    nodes = tuple(_node(case, path, reaction) for path, reaction in case.nodes if isinstance(reaction, Reaction))
    after = tuple(tuple(index for index, other in enumerate(nodes) if _leads(node, other)) for node in nodes)
    return Graph(nodes, after)


def _node(case: AuditContext, path: tuple, reaction: Reaction) -> Node:
    bearers = frozenset(_bearers(case, path))
    foes = frozenset(on for by, on in case.meetings if by in bearers)
    marks = frozenset(mark for buff in given_by(flat(reaction.does)) for mark in case.book.buffs[buff].marks)
    struck = (bearers if reaction.to in OWN_SIDE else set()) | (foes if reaction.to in OTHER_SIDE else set())
    return Node(path, reaction, bearers, frozenset(struck), marks)


def _bearers(case: AuditContext, path: tuple) -> set[str]:
    """Return the classes that can bear a reaction: of a class itself, of who learns a passive, of who gets a buff."""
    chapter, name = path[:2]
    if chapter == "classes":
        return {name}
    if chapter == "abilities":
        return set(case.learners[name]) or (set(case.book.classes) if name in case.reached else set())
    if chapter == "bodies":
        return {who for who, entry in case.book.classes.items() if entry.body == name}
    if chapter != "buffs":  # an origin, gear, a set, an upgrade
        return set(getattr(getattr(case.book, chapter)[name], "classes", None) or case.book.classes)
    found: set[str] = set()
    for giver in case.given.get(name, ()):
        found |= _receivers(case, giver)
    return found


def _receivers(case: AuditContext, path: tuple) -> set[str]:
    """Return the classes that an effect which gives a buff can give it to."""
    everybody = set(case.book.classes)
    if path[0] != "abilities" or "does" not in path[:3]:
        return everybody
    ability = case.book.abilities[path[1]]
    users = set(case.learners[path[1]]) or (everybody if path[1] in case.reached else set())
    to = case.receivers_of(path)
    if ability.targets == Targets.USER or Receiver.USER in to:
        return users
    if to - {Receiver.TARGET}:
        return everybody
    return {on for by, on in case.meetings if by in users} if ability.targets == Targets.FOES else everybody


def _leads(one: Node, other: Node) -> bool:
    """Say whether one reaction can bring about another: by the hit that it deals, or by a mark that it gives."""
    on, struck = other.reaction.on, bool(one.struck & other.bearers)
    if one.path == other.path and not one.reaction.sets_off_itself:
        return False
    if on == Event.MARKED:
        return other.reaction.mark in one.marks and struck
    if on in (Event.HEALING, Event.HEALED):
        kinds = {effect.heal for effect in flat(one.reaction.does) if isinstance(effect, HealEffect)}
        heals = bool(kinds) if other.reaction.kind is None else other.reaction.kind in kinds
        return heals and (struck if on is Event.HEALED else bool(one.bearers & other.bearers))
    if on not in (Event.DEALING, Event.TAKING):
        return False
    if not any(other.reaction.kind in (None, effect.damage) for effect in one.harms):
        return False
    return struck if on is Event.TAKING else bool(one.bearers & other.bearers)


def _rings(case: AuditContext) -> list[list[Node]]:
    """Return every shortest ring of reactions, each once."""
    graph = _graph(case)
    found, seen = [], set[frozenset[int]]()
    for start in range(len(graph.nodes)):
        way = _way_back(graph.after, start)
        if way and frozenset(way) not in seen:
            seen.add(frozenset(way))
            found.append([graph.nodes[index] for index in way])
    return found


def _way_back(after: Sequence[Sequence[int]], start: int) -> list[int]:
    """Return the shortest way from a place back to itself, or nothing."""
    ways = [[start]]
    visited = {start}
    while ways:
        way = ways.pop(0)
        for place in after[way[-1]]:
            if place == start:
                return way
            if place not in visited:
                visited.add(place)
                ways.append([*way, place])
    return []


def _run(case: AuditContext, ring: list[Node]) -> list[float]:
    """Return what the reactions of a ring book one after the other, on average, until the depth ends it."""
    pair = next(((by, on) for by, on in case.meetings if by in ring[0].bearers), None)
    depth, amounts = case.book.clock.reaction_depth, []
    if pair is None:
        return []
    one, other = pair
    middle = len(case.levels) // 2
    opening = case.best_blow(other, one)[0][middle]
    booked = float(opening) if np.isfinite(opening) else 10.0
    amounts.append(booked)
    for step in range(depth):
        node, (by, on) = ring[step % len(ring)], (one, other) if step % 2 == 0 else (other, one)
        page = {**{name: values[middle] for name, values in case.page(by).items()}, "booked": booked}
        harm = 0.0
        for effect in node.harms:
            hit = case.expected.hit(effect.damage, by, on, effect.part)
            harm += float(hit.mean[middle]) * single(effect_times(effect, page))
        booked = harm
        amounts.append(booked)
    return amounts


def _told(case: AuditContext, ring: list[Node]) -> tuple[str, bool]:
    """Return what a ring does in words, and whether it grows."""
    amounts = _run(case, ring)
    through = " → ".join([*map(str, ring), str(ring[0])])
    depth = case.book.clock.reaction_depth
    if len(amounts) < 3 or not any(amounts[1:]):
        return f"{through}, ended at depth {depth}", False
    gain = (amounts[-1] / amounts[1]) ** (1 / (len(amounts) - 2)) if amounts[1] else 0.0
    shown = ", ".join(figure(round(amount, 1)) for amount in amounts[1:])
    return (
        f"{through}: a blow of {figure(round(amounts[0], 1))} comes back as {shown}; gain {gain:.2f} a turn, "
        f"ended at "
        f"depth {depth}"
    ), gain >= 1


@check
def reaction_loop(case: AuditContext) -> Iterator[Fault]:
    for ring in _rings(case):
        told, grows = _told(case, ring)
        if not grows:
            yield Fault(ring[0].path, f"these reactions bring each other about: {told}")


@check
def growing_loop(case: AuditContext) -> Iterator[Fault]:
    for ring in _rings(case):
        told, grows = _told(case, ring)
        if grows:
            yield Fault(ring[0].path, f"these reactions bring each other about and grow: {told}")


@check
def cut_chain(case: AuditContext) -> Iterator[Fault]:
    graph, depth = _graph(case), case.book.clock.reaction_depth
    round_and_round = {node.path for ring in _rings(case) for node in ring}
    # a ring has no end, and is a finding of its own
    straight = [node.path not in round_and_round for node in graph.nodes]

    @cache
    def longest(index: int) -> tuple[int, ...]:
        return (index, *max((longest(other) for other in graph.after[index] if straight[other]), key=len, default=()))

    for index, node in enumerate(graph.nodes):
        way = longest(index) if straight[index] else ()
        begins = not any(straight[other] and index in after for other, after in enumerate(graph.after))
        if len(way) > depth and begins:
            more = "one more reaction" if len(way) == 2 else f"{len(way) - 1} more reactions"
            yield Fault(
                node.path,
                f"this brings about {more}, and they go {depth} deep: {graph.nodes[way[depth]]} never happens here",
            )


@check
def unhurt_source(case: AuditContext) -> Iterator[Fault]:
    for node in _graph(case).nodes:
        if node.reaction.to != Receiver.OTHER:
            continue
        if node.reaction.on == "marked" and _self_given(case, node.reaction.mark or ""):
            yield Fault(
                (*node.path, "to"),
                f"a bearer of {node.reaction.mark} gave it to itself, so there is no other source: this does nothing",
            )
            continue
        sources = {on for by, on in case.meetings if by in node.bearers}
        for index, effect in enumerate(node.reaction.does):
            gauge = (
                effect.gauge
                if isinstance(effect, DrainEffect)
                else (case.book.damage[effect.damage].gauge if isinstance(effect, DamageEffect) else None)
            )
            if gauge and sources and not any(gauge in held_gauges(case.book, who) for who in sources):
                yield Fault(
                    (*node.path, "does", index),
                    f"this works on {gauge}, and {listed(sorted(sources)[:4])} "
                    f"{'holds' if len(sources) == 1 else 'hold'} none",
                )


def _self_given(case: AuditContext, mark: str) -> bool:
    """Say whether a mark comes only from what its bearer does to itself."""
    givers = [path for name, buff in case.book.buffs.items() if mark in buff.marks for path in case.given.get(name, ())]

    def on_itself(path: tuple) -> bool:
        if path[0] != "abilities" or "does" not in path[:3]:
            return False
        ability = case.book.abilities[path[1]]
        return ability.targets == Targets.USER or Receiver.USER in case.receivers_of(path)

    return bool(givers) and all(map(on_itself, givers))


@check
def shared_mark(case: AuditContext) -> Iterator[Fault]:
    for node in _graph(case).nodes:
        tested = [
            name[7:-1]
            for name in (node.reaction.when.names if node.reaction.when else ())
            if name.startswith("marked(")
        ] + ([node.reaction.mark] if node.reaction.mark else [])
        for mark in tested:
            givers = [path[1] for path, brings in bearers(case.book) if mark in brings.marks]
            if len(givers) > 1:
                key = "mark" if node.reaction.mark == mark else "when"
                yield Fault(
                    (*node.path, key),
                    f"this asks for the mark {mark}, which {listed(givers)} both give"
                    if len(givers) == 2
                    else f"this asks for the mark {mark}, which {listed(givers)} give",
                )
