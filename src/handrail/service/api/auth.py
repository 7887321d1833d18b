"""Who is calling, and whether they may: session cookie for the console, bearer token for scripts."""

from __future__ import annotations

from flask import Response, current_app, g, request

from handrail.service.application.refused import Refused
from handrail.store import accounts
from handrail.store.jobs import find_job
from handrail.store.models import Job, User

RANK = {role: k for k, role in enumerate(accounts.ROLES)}
UNSAFE = ("POST", "PUT", "PATCH", "DELETE")
CSRF_HEADER = "X-Handrail"
COOKIE = "handrail"
HOME = "HANDRAIL_HOME"  # the folder of the records
ASKED_BY = "handrail.asked_by"  # of a request that is answered for another one: the account that asked
SECURE = "SECURE_COOKIES"  # set where the console is reached by TLS


def caller() -> User:
    """The signed-in user. Raises Refused(401)."""
    if "user" not in g:
        g.user = _find()
    if g.user is None:
        raise Refused(401, "sign in, or send a token: Authorization: Bearer ...")
    return g.user


def _find() -> User | None:
    if (asked_by := request.environ.get(ASKED_BY)) is not None:  # no header of a caller has such a name
        return accounts.of_id(asked_by)
    if request.headers.get("Authorization", "").startswith("Bearer "):
        return accounts.user_of_token(bearer())
    if not request.cookies.get(COOKIE):
        return None
    prove()
    return accounts.user_of_token(request.cookies[COOKIE], session=True)


def prove() -> None:
    """That a change by cookie comes from the console, not from another site's page. Raises Refused(403)."""
    by_cookie = request.cookies.get(COOKIE) and not bearer()
    if by_cookie and request.method in UNSAFE and request.headers.get(CSRF_HEADER) != "1":
        raise Refused(403, f"changes by cookie need the header {CSRF_HEADER}: 1")


def bearer() -> str:
    """The token that the request carries; empty where it carries none."""
    header = request.headers.get("Authorization", "")
    return header.removeprefix("Bearer ").strip() if header.startswith("Bearer ") else ""


def credential() -> str:
    """What lets this request in: its token, else its session."""
    return bearer() or request.cookies.get(COOKIE, "")


def set_session(response: Response, text: str) -> Response:
    """The cookie that holds a session, or with no text takes it away."""
    age = accounts.SESSION_DAYS * 86400 if text else 0
    response.set_cookie(
        COOKIE, text, max_age=age, httponly=True, samesite="Lax", secure=current_app.config[SECURE], path="/"
    )
    return response


def job_for(name: str, role: str = "viewer") -> Job:
    """The job, where the caller has `role` in it or a higher one. Raises Refused(404, 403)."""
    user, job = caller(), find_job(name)
    own = accounts.role_in(user, job) if job else None
    if job is None or own is None:
        raise Refused(404, f"there is no job '{name}' that you can see")
    if RANK[own] < RANK[role]:
        raise Refused(403, f"this needs the role {role}; you are {own} in '{name}'")
    g.job = job  # whose units an answer's words are in
    return job


def is_engineer(job: Job) -> bool:
    """Whether the caller is an engineer in the job, or more."""
    own = accounts.role_in(caller(), job)
    return own is not None and RANK[own] >= RANK["engineer"]


def administrator() -> User:
    user = caller()
    if not user.admin:
        raise Refused(403, "this needs an administrator of the service; ask one, or sign in as one")
    return user


def house_user(writes: bool = False) -> User:
    """Who may see what the house keeps above its jobs: administrators, and detailers of any job; engineers of any job
    may put drafts there. Raises Refused(403)."""
    user, least = caller(), "engineer" if writes else "detailer"
    if not user.admin and not any(RANK[role] >= RANK[least] for role in accounts.roles_of(user).values()):
        raise Refused(403, f"this needs the role {least} in one job or more")
    return user
