"""Studies: matchups, levers, tuning, comparisons, and what was observed in play, each of them over many fights."""
