"""Promises: the claims of a rulebook, each judged by working it out, solving it or fighting."""
