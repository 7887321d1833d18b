"""The errors that the core raises for input it cannot use."""

from __future__ import annotations

from handrail.core.quantities.words import said


class InputError(ValueError):
    """Something given by a person or a file is wrong; the text says where and what to do, in inches and kip unless it
    is `said` otherwise."""

    def __str__(self) -> str:
        return self.said("us")

    @property
    def words(self) -> str:
        """The text with its quantities as they are held, to be put into other words."""
        return super().__str__()

    def said(self, system: str) -> str:
        """The text in the units of `system`."""
        return said(super().__str__(), system)


class UnknownName(InputError):
    """A section, grade, bolt or standard that the catalogue does not hold."""
