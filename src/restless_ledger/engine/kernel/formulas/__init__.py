"""Formulas as the kernel evaluates them, and draws."""
