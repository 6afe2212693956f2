"""Entries of the ledger, the one function that books a change, and what is counted besides."""
