"""The steel as a model that leaves the house."""
