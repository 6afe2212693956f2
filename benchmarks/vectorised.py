"""The reference duel in NumPy, vectorised by hand over many fights at once, for just this duel."""

from __future__ import annotations

import numpy as np

LIMIT = 36_000


def run(fights: int, seed: int) -> list[int]:
    """Fight many times, all side by side on a common clock; return how many ended each way."""
    rng = np.random.default_rng(seed)
    health = np.full((2, fights), 300)
    ends_at = np.full((2, fights), -1)
    brawn, guard = (25.0, 24.0), (18.0, 20.0)
    swing_at, brand_at, act_at = [0, 0], [0, 0], [0, 0]
    outcomes = [0, 0, 0, 0]
    tick = 0
    while health.shape[1] and tick <= LIMIT:
        branded = ends_at >= tick
        if tick % 60 == 0 and tick:
            health = np.minimum(300, health + 1)
        beats = branded & ((ends_at - tick) % 60 == 0) & (ends_at - tick < 300)
        health = np.maximum(0, health - 5 * beats)
        branded = ends_at > tick
        acting = [who for who in (0, 1) if tick >= act_at[who]]
        first = rng.random(health.shape[1]) < 0.5
        before = branded.copy()
        for who in acting:
            taker = 1 - who
            if tick >= brand_at[who]:
                ends_at[taker] = tick + 300
                brand_at[who] = tick + 300
                continue
            # a brand that falls on the same tick weakens this swing only where its turn came first
            weak = branded[who] | ((ends_at[who] == tick + 300) & ~before[who] & (first if who else ~first))
            power = 8 + 1.6 * brawn[who] * np.where(weak, 0.8, 1.0)
            part = rng.random(power.size)
            amount = np.maximum(1, power - 0.6 * guard[taker]) * np.select([part < 0.15, part < 0.7], [1.8, 1.0], 0.7)
            amount *= np.where(rng.random(power.size) < 0.1, 1.5, 1.0) * (1 + 0.1 * (2 * rng.random(power.size) - 1))
            amount = np.floor(amount + 0.5) * (rng.random(power.size) < 0.9)
            health[taker] = np.maximum(0, health[taker] - amount).astype(health.dtype)
            swing_at[who] = tick + 42
        for who in acting:
            act_at[who] = max(tick + 1, min(swing_at[who], brand_at[who]))
        down = health == 0
        over = down.any(axis=0)
        if over.any():
            outcomes[2] += int(down.all(axis=0).sum())
            outcomes[0] += int((down[1] & ~down[0]).sum())
            outcomes[1] += int((down[0] & ~down[1]).sum())
            health, ends_at = health[:, ~over], ends_at[:, ~over]
        due = [*act_at, tick + 60 - tick % 60]
        later = [
            int(at)
            for at in np.unique(np.concatenate([ends_at, ends_at - 240, ends_at - 180, ends_at - 120, ends_at - 60]))
            if at > tick
        ]
        tick = min(due + later)
    outcomes[3] = health.shape[1]
    return outcomes
