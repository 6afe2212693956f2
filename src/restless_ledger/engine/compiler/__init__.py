"""Compiler: how the kernel becomes one compiled program."""
