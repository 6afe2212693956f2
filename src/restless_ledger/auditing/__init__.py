"""The audit: findings, worked examples and promises."""

from .audit import Audit
from .claims import Judgement
from .entries import CheckEntry, catalogue
from .finding import Finding

__all__ = ["Audit", "CheckEntry", "Finding", "Judgement", "catalogue"]
