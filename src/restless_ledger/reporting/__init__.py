"""The report: one page of HTML with all that can be said of a rulebook."""

from .report import Report

__all__ = ["Report"]
