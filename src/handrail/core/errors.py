"""The errors that the core raises for input it cannot use."""

from __future__ import annotations


class InputError(ValueError):
    """Something given by a person or a file is wrong; the text says where and what to do."""


class UnknownName(InputError):
    """A section, grade, bolt or standard that the catalogue does not hold."""
