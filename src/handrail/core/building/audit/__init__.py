"""Is the data right? Balance, statics of each member, geometry, names, combinations."""

from handrail.core.building.audit.balance import balance
from handrail.core.building.audit.finding import Finding
from handrail.core.building.audit.whole import Audit, audit

__all__ = ["Audit", "Finding", "audit", "balance"]
