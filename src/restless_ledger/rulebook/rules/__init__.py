"""The rules that chapters keep among themselves: one module a chapter, each with its `check`."""
