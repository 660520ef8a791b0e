"""What is handed over: hold points with who signed them, what failed and was not put right, who of
the licensed trades was there."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from typing import Any

from calm_basin.core.answer.result import Result
from calm_basin.core.days.result import DaysResult
from calm_basin.core.site_log.entries import LevelsRead
from calm_basin.rules import TRADE

APART = ("hold", "note", "change", "correction", "photo", "trade")
"""Kinds of which each entry stands for itself: a later one says nothing of it."""

TRADES = ("engineer", "plumber", "electrician")


class HoldPoint(Result):
    """A hold point, and by whom and when it was signed; empty while it is open."""

    name: str
    by: str
    at: str
    entry: int | None


class Failing(Result):
    """An entry whose verdict does not hold, and which no later one of its kind puts right."""

    entry: int
    title: str
    state: str
    text: str
    cure: str


class TradeThere(Result):
    """Who of a licensed trade was there, and for what."""

    role: str
    name: str
    licence: str
    what: str
    entry: int


class Handover(Result):
    """What is handed over; ``open`` says in a line each what is not done, ``missing`` which of the
    trades nobody is named of."""

    holds: tuple[HoldPoint, ...]
    failing: tuple[Failing, ...]
    trades: tuple[TradeThere, ...]
    missing: tuple[str, ...]
    open: tuple[str, ...]
    care: tuple[str, ...]
    care_source: str


def handover(days: DaysResult | None, entries: Sequence[tuple[int, Mapping[str, Any]]]) -> Handover:
    """What is handed over, by the days of the plan and the entries of the log, the oldest first,
    each with its number and its body."""
    wrong = corrected_by(entries)
    good = [(number, body) for number, body in entries if number not in wrong]
    holds = tuple(_holds(days, good))
    failing = tuple(_failing(good))
    trades = tuple(_trades(good))
    missing = tuple(role for role in TRADES if role not in {trade.role for trade in trades})
    told = [f"Hold point not signed: {hold.name}" for hold in holds if not hold.by]
    told += [f"Entry {one.entry}, {one.title}: {one.text}" for one in failing]
    kept = TRADE.care.floor
    return Handover(
        holds=holds,
        failing=failing,
        trades=trades,
        missing=missing,
        open=tuple(told),
        care=kept.listed,
        care_source=kept.source,
    )


def corrected_by(entries: Sequence[tuple[int, Mapping[str, Any]]]) -> frozenset[int]:
    """The numbers of entries that a later one corrects."""
    named = (
        (body.get("values") or {}).get("entry")
        for _, body in entries
        if body.get("kind") == "correction"
    )
    return frozenset(number for number in named if isinstance(number, int))


def levels_of(entries: Sequence[tuple[int, Mapping[str, Any]]], layer: str) -> list[LevelsRead]:
    """What was read on one layer, the oldest first, but for what was corrected later."""
    wrong = corrected_by(entries)
    return [
        LevelsRead.model_validate(body["values"])
        for number, body in entries
        if body.get("kind") == "levels"
        and number not in wrong
        and body["values"].get("layer") == layer
    ]


def _holds(
    days: DaysResult | None, entries: Sequence[tuple[int, Mapping[str, Any]]]
) -> Iterable[HoldPoint]:
    """The hold points of the plan, then those that only the log has."""
    signed = {
        _same(str(body["values"].get("task", ""))): (number, body)
        for number, body in entries
        if body.get("kind") == "hold"
    }
    for slot in days.tasks if days else ():
        if not slot.hold:
            continue
        number, body = signed.pop(_same(slot.name), (None, {}))
        yield HoldPoint(
            name=slot.name,
            by=str(body.get("by", "")) or slot.signed,
            at=str(body.get("at", "")),
            entry=number,
        )
    for number, body in signed.values():
        yield HoldPoint(
            name=str(body["values"].get("task", "")),
            by=str(body.get("by", "")),
            at=str(body.get("at", "")),
            entry=number,
        )


def _same(name: str) -> str:
    return " ".join(name.casefold().split())


def _failing(entries: Sequence[tuple[int, Mapping[str, Any]]]) -> Iterable[Failing]:
    """Of each kind and place the newest entry, where it does not hold."""
    newest: dict[tuple[str, str], tuple[int, Mapping[str, Any]]] = {}
    for number, body in entries:
        kind, values = str(body.get("kind")), body.get("values") or {}
        if kind not in APART:
            of = (values.get(name) for name in ("where", "part", "layer"))
            newest[kind, _same(str(next((one for one in of if one), "")))] = (number, body)
    for number, body in newest.values():
        verdict = body.get("verdict") or {}
        if verdict.get("state") in ("fails", "open"):
            yield Failing(
                entry=number,
                title=str(body.get("title", "")),
                state=str(verdict["state"]),
                text=str(verdict.get("text", "")),
                cure=str(verdict.get("cure", "")),
            )


def _trades(entries: Sequence[tuple[int, Mapping[str, Any]]]) -> Iterable[TradeThere]:
    for number, body in entries:
        if body.get("kind") == "trade":
            values = body["values"]
            told = {name: str(values.get(name, "")) for name in ("role", "name", "licence", "what")}
            yield TradeThere(**told, entry=number)
