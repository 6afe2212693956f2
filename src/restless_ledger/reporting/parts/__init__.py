"""The parts of a report, a file each."""
