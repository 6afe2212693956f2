"""Formats in which an audit is written for other tools."""
