"""Where the rulebooks lie that are shipped."""

from __future__ import annotations

from pathlib import Path

DEMO = Path(__file__).parents[1] / "demo" / "gullwick"
FAULTY = Path(__file__).parents[1] / "demo" / "faulty"
