"""Sign-in, tokens, users and roles."""

from __future__ import annotations

from flask import request, session

from handrail.service import answers as a
from handrail.service import schemas as s
from handrail.service.auth import administrator, caller, job_for
from handrail.service.limits import Throttle
from handrail.service.problems import Refused
from handrail.service.resources import blueprint
from handrail.store import accounts
from handrail.store.models import User

throttle = Throttle()
api = blueprint("accounts", "who may do what")


def _me(user: User) -> dict[str, object]:
    found = next(u for u in accounts.all_users() if u["name"] == user.name)
    return {"name": user.name, "admin": user.admin, "roles": found["roles"]}


def _signed(body: s.SignIn) -> User:
    address = request.remote_addr or ""
    if wait := throttle.wait(body.name, address):
        raise Refused(429, f"too many wrong passwords for this name from here; try again in {wait:.0f} s")
    user = accounts.sign_in(body.name, body.password)
    if user is None:
        throttle.wrong(body.name, address)
        raise Refused(401, "name and password do not fit")
    throttle.right(body.name, address)
    return user


@api.post("/session", security=[], responses={200: a.Me, 429: a.Problem})
def open_session(body: s.SignIn):
    """Sign in with a cookie, for the console."""
    user = _signed(body)
    session.clear()
    session["user"] = user.id
    session.permanent = True
    return _me(user)


@api.delete("/session", responses={204: None})
def close_session():
    """Sign out."""
    session.clear()
    return "", 204


@api.post("/tokens", security=[], responses={201: a.Token, 429: a.Problem})
def make_token(body: s.SignIn):
    """A token for scripts, for a name and password."""
    user = _signed(body)
    return {"token": accounts.new_token(user, body.label), "name": user.name}, 201


@api.delete("/tokens", responses={204: None})
def drop_token():
    """Make the token that this request carries worthless."""
    caller()
    accounts.drop_token(request.headers.get("Authorization", "").removeprefix("Bearer ").strip())
    return "", 204


@api.get("/me", responses={200: a.Me})
def me():
    """Who the caller is."""
    return _me(caller())


@api.get("/users", responses={200: a.Page[a.User]})
def users():
    """Every account, for administrators."""
    administrator()
    found = accounts.all_users()
    return {"items": found, "total": len(found), "next": None}


@api.post("/users", responses={201: a.Me})
def add_user(body: s.NewUser):
    """A new account."""
    administrator()
    return _me(accounts.add_user(body.name, body.password, body.admin)), 201


@api.put("/jobs/<string:job>/roles/<string:user>", responses={204: None})
def set_role(path: s.RolePath, body: s.NewRole):
    """Give somebody a role in a job, or take it (`none`)."""
    accounts.set_role(job_for(path.job, "admin"), path.user, body.role)
    return "", 204
