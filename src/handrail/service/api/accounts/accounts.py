"""Sign-in, tokens, users and roles."""

from __future__ import annotations

from flask import jsonify, request
from peewee import PeeweeException

from handrail.service.api import Reply, blueprint
from handrail.service.api import answers as a
from handrail.service.api.accounts import requests as q
from handrail.service.api.auth import administrator, bearer, caller, credential, job_for, prove, set_session
from handrail.service.application.refused import Refused
from handrail.store import accounts
from handrail.store.models import User
from handrail.store.trouble import unwritable

api = blueprint("accounts", "who may do what", open_to=("open_session", "close_session", "make_token"))


def _me(user: User) -> dict[str, object]:
    return {"name": user.name, "admin": user.admin, "roles": accounts.roles_of(user)}


def _signed(name: str, password: str) -> User:
    address = request.remote_addr or ""
    if wait := accounts.wait(name, address):
        raise Refused(429, f"too many wrong passwords for this name from here; try again in {wait:.0f} s")
    user = accounts.sign_in(name, password)
    if user is None:
        accounts.count_wrong(name, address)
        raise Refused(401, "name and password do not fit")
    accounts.forget_wrong(name, address)
    return user


def _let_in(user: User, label: str, days: int, session: bool = False) -> str:
    """A token; one for an hour where none can be written down, so that reading goes on."""
    try:
        return accounts.new_token(user, label, days, session)
    except PeeweeException as exc:
        if not unwritable(exc):
            raise
        return accounts.spare_token(user, session)


@api.post("/session", security=[], responses={200: a.Me, 429: a.Problem})
def open_session(body: q.SignIn) -> Reply:
    """Sign in with a cookie, for the console."""
    user = _signed(body.name, body.password)
    text = _let_in(user, body.label or "console", accounts.SESSION_DAYS, session=True)
    return set_session(jsonify(_me(user)), text)


@api.delete("/session", responses={204: None})
def close_session() -> Reply:
    """Sign out: the session ends here, whoever has its cookie."""
    prove()
    if text := credential():
        accounts.drop_token(text)
    response = jsonify(None)
    response.status_code = 204
    response.set_data(b"")
    return set_session(response, "")


@api.get("/tokens", responses={200: a.Page[a.TokenShown]})
def list_tokens() -> Reply:
    """The caller's own tokens and sessions, newest first; never their text."""
    tokens = accounts.tokens_of(caller())
    return {"items": tokens, "total": len(tokens), "next": None}


@api.post("/tokens", security=[], responses={201: a.Token, 429: a.Problem})
def make_token(body: q.SignInForToken) -> Reply:
    """A token for scripts, for a name and password; good for so many days."""
    user = _signed(body.name, body.password)
    return {"token": _let_in(user, body.label, body.days), "name": user.name}, 201


@api.delete("/tokens", responses={204: None})
def drop_token() -> Reply:
    """Make the token that this request carries worthless."""
    caller()
    accounts.drop_token(bearer())
    return "", 204


@api.delete("/tokens/<int:token>", responses={204: None})
def revoke_token(path: q.TokenPath) -> Reply:
    """End one of the caller's own tokens or sessions."""
    if not accounts.revoke(caller(), path.token):
        raise Refused(404, f"you have no token {path.token}")
    return "", 204


@api.get("/me", responses={200: a.Me})
def me() -> Reply:
    """Who the caller is."""
    return _me(caller())


@api.put("/me/password", responses={204: None, 429: a.Problem})
def change_password(body: q.PasswordChange) -> Reply:
    """A new password for the caller; every other session and token ends."""
    user = caller()
    _signed(user.name, body.old)
    accounts.change_password(user, body.new, keep=credential())
    return "", 204


@api.get("/users", responses={200: a.Page[a.User]})
def users() -> Reply:
    """Every account, for administrators."""
    administrator()
    users = accounts.all_users()
    return {"items": users, "total": len(users), "next": None}


@api.post("/users", responses={201: a.Me})
def add_user(body: q.NewUser) -> Reply:
    """A new account."""
    administrator()
    return _me(accounts.add_user(body.name, body.password, body.admin)), 201


@api.put("/users/<string:user>/password", responses={204: None})
def set_password(path: q.UserPath, body: q.NewPassword) -> Reply:
    """A new password for somebody who forgot theirs, by an administrator; their sessions and tokens end."""
    administrator()
    accounts.change_password(accounts.find_user(path.user), body.new)
    return "", 204


@api.delete("/users/<string:user>", responses={204: None})
def remove_user(path: q.UserPath) -> Reply:
    """Remove an account with its roles and tokens. What it did stays in the history, under its name."""
    administrator()
    accounts.remove_user(path.user)
    return "", 204


@api.put("/jobs/<string:job>/roles/<string:user>", responses={204: None})
def set_role(path: q.RolePath, body: q.NewRole) -> Reply:
    """Give somebody a role in a job, or take it (`none`)."""
    accounts.set_role(job_for(path.job, "admin"), path.user, body.role)
    return "", 204
