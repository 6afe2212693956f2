"""A hit, step by step, and what follows from it."""
