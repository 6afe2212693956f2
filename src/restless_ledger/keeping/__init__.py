"""Keeping: what is made once for a user, and kept in a private folder."""
