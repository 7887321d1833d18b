"""The guides in docs, each done as it says."""
