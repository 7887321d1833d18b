"""login, whoami, users."""

from __future__ import annotations

import getpass
import os
from argparse import Namespace

from handrail.cli import output, session
from handrail.core.errors import InputError


def _password(given: str | None, prompt: str) -> str:
    return given or os.environ.get("HANDRAIL_PASSWORD") or getpass.getpass(prompt)


def login(args: Namespace) -> int:
    server = session.server_of(args)
    with session.client(args) as client:
        token = client.login(args.name, _password(args.password, f"password of {args.name}: "), "handrail login")
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


def users(args: Namespace) -> int:
    with session.client(args) as client:
        if args.action == "add":
            (name,) = _words(args.rest, 1, "users add NAME")
            answer = client.add_user(name, _password(args.password, f"password for {name}: "), args.admin)
        elif args.action == "role":
            job, name, role = _words(args.rest, 3, "users role JOB NAME ROLE")
            client.set_role(job, name, role)
            answer = {"job": job, "user": name, "role": role}
        else:
            answer = client.users()
    if args.json:
        output.as_json(answer)
    elif args.action == "list":
        rows = [(u["name"], "yes" if u["admin"] else "", ", ".join(f"{j}: {r}" for j, r in u["roles"].items()), u["made"]) for u in answer]
        output.table(("name", "administrator", "roles", "made"), rows)
    elif args.action == "add":
        output.say(f"made user {answer['name']}")
    else:
        output.say(f"{answer['user']} is {answer['role']} in {answer['job']}")
    return 0


def _words(given: list[str], count: int, usage: str) -> list[str]:
    if len(given) != count:
        raise InputError(f"usage: handrail {usage}")
    return given
