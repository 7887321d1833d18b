"""login, logout, whoami, tokens, password, users."""

from __future__ import annotations

from typing import Any

from handrail.cli.parsers import Actions, command


def add(commands: Any) -> None:
    """The commands of this group."""
    p = command(commands, "login", "sign in and keep a token for the next commands", "cli.accounts:login")
    p.add_argument("name")
    p.add_argument("--password", default=None, help="else HANDRAIL_PASSWORD, else asked for")
    p.add_argument("--days", type=int, default=90, help="how long the token is good for")
    command(commands, "whoami", "who you are to the service", "cli.accounts:whoami")
    command(commands, "logout", "end the token of the sign-in", "cli.accounts:logout")
    p = command(commands, "tokens", "your tokens and sessions", "cli.accounts:tokens")
    actions = Actions(p, "list", password=None, days=90)
    actions.add("list", "those that there are")
    new = actions.add("new", "make one", ("LABEL", "what it is for"))
    new.add_argument("--password", default=None, help="else HANDRAIL_PASSWORD, else asked for")
    new.add_argument("--days", type=int, default=90, help="how long it is good for")
    actions.add("revoke", "end one", ("NUMBER", "of the token"))
    p = command(
        commands, "password", "change your password; every other session and token ends", "cli.accounts:password"
    )
    p.add_argument("--old", default=None, help="else asked for")
    p.add_argument("--new", default=None, help="else asked for")
    p = command(commands, "users", "the accounts of the service", "cli.accounts:users")
    actions = Actions(p, "list", password=None, admin=False)
    actions.add("list", "those that there are, with their roles")
    for name, words in (("add", "make an account"), ("password", "give somebody another password")):
        one = actions.add(name, words, ("NAME", "of the account"))
        one.add_argument("--password", default=None, help="else HANDRAIL_PASSWORD, else asked for")
        if name == "add":
            one.add_argument("--admin", action="store_true", help="administers the service")
    actions.add("remove", "take an account away; what they did stays", ("NAME", "of the account"))
    roles = "viewer, detailer, engineer, admin, or none"
    actions.add("role", "say what somebody is in a job", ("JOB", ""), ("NAME", "of the account"), ("ROLE", roles))
