"""Decisions against the rules, and the ledger."""
