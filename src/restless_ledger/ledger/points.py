"""From the engine's whole thousandths to the points people read."""

from __future__ import annotations

from ..engine.codes import THOUSAND


def points(thousandths: int) -> float:
    """Return thousandths of a point as points."""
    return int(thousandths) / THOUSAND


def write_points(thousandths: int, sign: bool = False) -> str:
    """Write an amount: no needless decimals, a true minus, and with `sign` a plus before what is credited."""
    amount = int(thousandths)
    whole, rest = divmod(abs(amount), THOUSAND)
    text = f"{whole}.{rest:03d}".rstrip("0").rstrip(".")
    return ("−" if amount < 0 else "+" if sign and amount > 0 else "") + text
