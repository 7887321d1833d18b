"""The rulebook: its language, and which rule takes a connection."""

from handrail.core.rulebook.language import Rule, Rulebook, RulebookError, read_rulebook

__all__ = ["Rule", "Rulebook", "RulebookError", "read_rulebook"]
