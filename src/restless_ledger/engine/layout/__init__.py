"""Layout: the memory of the engine, field by field."""
