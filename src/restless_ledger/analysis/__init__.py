"""Analysis: what is worked out from the formulas alone, without a fight. Each command imports what it needs."""
