"""The parts of a tick, in the order in which they are played."""
