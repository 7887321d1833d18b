"""The rulebook: its language, and which rule takes a connection."""

from handrail.core.rulebook.also import Also
from handrail.core.rulebook.book import Rulebook
from handrail.core.rulebook.language import Text, read_rulebook
from handrail.core.rulebook.reader import RulebookError
from handrail.core.rulebook.rule import Failing, Rule, chosen

__all__ = ["Also", "Failing", "Rule", "Rulebook", "RulebookError", "Text", "chosen", "read_rulebook"]
