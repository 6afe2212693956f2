"""The shipped rulebook: the Gullwick Stair."""
