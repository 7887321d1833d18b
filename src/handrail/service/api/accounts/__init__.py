"""Accounts, sign-ins, tokens."""
