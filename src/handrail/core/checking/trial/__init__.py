"""A trial: one connection given whole in a file, checked without a building."""

from handrail.core.checking.trial.trial import Trial, read_trial
from handrail.core.checking.trial.where import read_foundation

__all__ = ["Trial", "read_foundation", "read_trial"]
