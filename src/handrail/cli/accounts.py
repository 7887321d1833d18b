"""login, logout, whoami, tokens, password, users."""

from __future__ import annotations

import getpass
import os
from argparse import Namespace
from typing import Any

from handrail.cli import output, session
from handrail.client import Client
from handrail.core.errors import InputError


def _password(given: str | None, prompt: str) -> str:
    return given or os.environ.get("HANDRAIL_PASSWORD") or getpass.getpass(prompt)


def login(args: Namespace) -> int:
    server = session.server_of(args)
    with session.client(args) as client:
        token = client.login(
            args.name, _password(args.password, f"password of {args.name}: "), "handrail login", args.days
        )
    path = session.keep(server, token)
    if args.json:
        output.as_json({"server": server, "name": args.name, "token": token})
    else:
        output.say(f"signed in to {server} as {args.name}; the token is in {path}")
    return 0


def whoami(args: Namespace) -> int:
    with session.client(args) as client:
        me = client.whoami()
    if args.json:
        output.as_json(me)
    else:
        roles = ", ".join(f"{role} in {job}" for job, role in me["roles"].items()) or "no role in any job"
        output.say(f"{me['name']}: {'administrator of the service' if me['admin'] else roles}")
    return 0


def logout(args: Namespace) -> int:
    with session.client(args) as client:
        client.logout()
    session.forget()
    output.say(f"signed out of {session.server_of(args)}")
    return 0


def tokens(args: Namespace) -> int:
    with session.client(args) as client:
        if args.action == "revoke":
            (number,) = args.rest
            client.revoke_token(_number(number))
            output.say(f"token {number} lets nobody in any more")
            return 0
        if args.action == "new":
            (label,) = args.rest
            name = client.whoami()["name"]
            token = client.login(name, _password(args.password, f"password of {name}: "), label, args.days)
            output.as_json({"token": token, "label": label}) if args.json else output.say(token)
            return 0
        tokens = client.tokens()
    if args.json:
        output.as_json(tokens)
    else:
        rows = [
            (t["id"], t["label"] or "-", "session" if t["session"] else "token", t["made"], t["expires"] or "never")
            for t in tokens
        ]
        output.table(("number", "label", "kind", "made", "expires"), rows, right=("number",))
    return 0


def password(args: Namespace) -> int:
    old, new = args.old or getpass.getpass("old password: "), args.new or getpass.getpass("new password: ")
    with session.client(args) as client:
        client.change_password(old, new)
    output.say("changed; every other session and token of yours has ended")
    return 0


def _number(text: str) -> int:
    if not text.isdecimal():
        raise InputError(f"'{text}' is no number; 'handrail tokens' lists yours")
    return int(text)


def users(args: Namespace) -> int:
    with session.client(args) as client:
        users, words = _users(client, args)
    if args.json:
        output.as_json(users)
    elif words:
        output.say(words)
    else:
        rows = [
            (u["name"], "yes" if u["admin"] else "", ", ".join(f"{j}: {r}" for j, r in u["roles"].items()), u["made"])
            for u in users
        ]
        output.table(("name", "administrator", "roles", "made"), rows)
    return 0


def _users(client: Client, args: Namespace) -> tuple[Any, str]:
    """The answer as data, and in words; no words for the list."""
    if args.action == "role":
        (name, role) = args.rest
        client.set_role(args.job, name, role)
        return {"job": args.job, "user": name, "role": role}, f"{name} is {role} in {args.job}"
    if args.action == "list":
        return client.users(), ""
    (name,) = args.rest
    if args.action == "remove":
        client.remove_user(name)
        return {"removed": name}, f"removed {name}; what they did stays in the history"
    secret = _password(args.password, f"password for {name}: ")
    if args.action == "password":
        client.set_password(name, secret)
        return {"user": name}, f"{name} has a new password; their sessions and tokens have ended"
    return client.add_user(name, secret, args.admin), f"made user {name}"
