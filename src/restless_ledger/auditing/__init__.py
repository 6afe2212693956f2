"""The audit: findings, worked examples and promises."""

from .audit import Audit
from .entries import CheckEntry, catalogue
from .finding import Finding
from .promises.claims import Judgement

__all__ = ["Audit", "CheckEntry", "Finding", "Judgement", "catalogue"]
