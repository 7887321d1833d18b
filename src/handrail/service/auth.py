"""Who is calling, and whether they may: session cookie for the console, bearer token for scripts."""

from __future__ import annotations

from flask import g, request, session

from handrail.service.problems import Refused
from handrail.store import accounts
from handrail.store.jobs import find_job
from handrail.store.models import Job, User

RANK = {role: k for k, role in enumerate(accounts.ROLES)}
UNSAFE = ("POST", "PUT", "PATCH", "DELETE")
CSRF_HEADER = "X-Handrail"


def caller() -> User:
    """The signed-in user. Raises Refused(401)."""
    if "user" not in g:
        g.user = _find()
    if g.user is None:
        raise Refused(401, "sign in, or send a token: Authorization: Bearer ...")
    return g.user


def _find() -> User | None:
    header = request.headers.get("Authorization", "")
    if header.startswith("Bearer "):
        return accounts.user_of_token(header.removeprefix("Bearer ").strip())
    if "user" not in session:
        return None
    if request.method in UNSAFE and request.headers.get(CSRF_HEADER) != "1":
        raise Refused(403, f"changes by cookie need the header {CSRF_HEADER}: 1")
    return User.get_or_none(User.id == session["user"])


def job_for(name: str, role: str = "viewer") -> Job:
    """The job, where the caller has `role` in it or a higher one. Raises Refused(404, 403)."""
    user, job = caller(), find_job(name)
    own = accounts.role_in(user, job) if job else None
    if job is None or own is None:
        raise Refused(404, f"there is no job '{name}' that you can see")
    if RANK[own] < RANK[role]:
        raise Refused(403, f"this needs the role {role}; you are {own} in '{name}'")
    return job


def administrator() -> User:
    user = caller()
    if not user.admin:
        raise Refused(403, "this needs an administrator of the service; ask one, or sign in as one")
    return user
