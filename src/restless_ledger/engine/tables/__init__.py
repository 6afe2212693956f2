"""Tables: a rulebook and an encounter, written as the flat tables that the kernel reads."""
