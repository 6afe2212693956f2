"""The tables of results that have several, by name: the first is meant where none is named. Results and commands read
them here, so that a command's help needs no result."""

AUDIT = ("findings", "examples", "promises")
COMPARISON = ("outcomes", "figures", "changes")
PROMISED_COMPARISON = (*COMPARISON, "promises")
DUEL = ("outcomes", "times_to_kill")
FIGHT = ("entries", "story", "balances", "paths", "zones")
HISTORY = ("figures", "points", "moves")
MATCHUPS = ("pairs", "standings")
RECONCILED = ("lines", "mistakes", "shares")
TRIALS = (
    "outcomes",
    "lengths",
    "margins",
    "deeds",
    "kinds",
    "parts",
    "buffs",
    "downs",
    "survivors",
    "first_losses",
    "first_downs",
    "course",
    "notable",
)
