"""Buffs, buildups, reactions, and stats under them."""
