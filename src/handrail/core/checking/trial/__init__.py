"""A trial: one connection given whole in a file, checked without a building."""

from handrail.core.checking.trial.trial import Given, Trial, read_given, read_trial
from handrail.core.checking.trial.where import read_foundation

__all__ = ["Given", "Trial", "read_foundation", "read_given", "read_trial"]
