"""People, what lets them in, and their roles in jobs."""

from __future__ import annotations

import hashlib
import secrets
import threading
import time
from collections import deque
from datetime import UTC, datetime, timedelta
from functools import lru_cache
from pathlib import Path
from typing import Any

from cachetools import TTLCache
from itsdangerous import BadData, URLSafeTimedSerializer
from peewee import PeeweeException
from werkzeug.security import check_password_hash, generate_password_hash

from handrail.core.errors import InputError, UnknownName
from handrail.store import heads
from handrail.store.database import one, proxy, rows, writing
from handrail.store.models import Job, Role, Token, User, Wrong, now
from handrail.store.names import alike, checked, folded
from handrail.store.trouble import unwritable

ROLES = ("viewer", "detailer", "engineer", "admin")
SHORTEST, GUESSED = 10, 2  # characters; the score below which a password is among the first that are tried
SESSION_DAYS, TOKEN_DAYS, MOST_DAYS = 14, 90, 730
SPARE, SPARE_SECONDS = "hx_", 3600  # how a token begins that nobody could write down, and how long it is good for
WRONG, WINDOW = 8, 300.0  # wrong passwords of one name from one address, in so many seconds
_unwritten: TTLCache[tuple[str, str], deque[float]] = TTLCache(4096, WINDOW)  # those that no record could be made of
_one_at_a_time = threading.Lock()  # of this process's threads, at that


def add_user(name: str, password: str, admin: bool = False) -> User:
    """A new account. Raises InputError for a name that is taken, looks like another or cannot be seen, or a password
    too short."""
    name = checked(name)
    hashed = _hashed(password, name)
    with writing():
        for other in User.select(User.name, User.removed):
            if other.name == name:
                raise InputError(
                    f"user '{name}' exists" + (", removed; its name stays with its history" if other.removed else "")
                )
            if alike(other.name, name):
                raise InputError(
                    f"user '{name}' looks like '{other.name}', which exists; take a name that nobody mistakes"
                )
        return User.create(name=name, password=hashed, admin=admin)


def _hashed(password: str, name: str) -> str:
    from zxcvbn import zxcvbn  # reads its lists of words: for who sets a password alone

    if len(password) < SHORTEST:
        raise InputError(f"a password has at least {SHORTEST} characters")
    if zxcvbn(password[:72], user_inputs=[name, "hand rail", "handrail"])["score"] < GUESSED:
        raise InputError(
            "that password is among the first that anybody tries: take some words that do not belong together"
        )
    return generate_password_hash(password)


def find_user(name: str) -> User:
    """The account. Raises UnknownName."""
    user = _called(name)
    if user is None:
        raise UnknownName(f"there is no user '{name}'")
    return user


def _called(name: str) -> User | None:
    """The account of that name, however its letters are put together, and in whatever case."""
    exact = User.get_or_none((User.name == name) & ~User.removed)
    if exact is not None:
        return exact
    own = next((o for (o,) in User.select(User.name).where(~User.removed).tuples() if folded(o) == folded(name)), None)
    return User.get_or_none((User.name == own) & ~User.removed) if own else None


def sign_in(name: str, password: str) -> User | None:
    """The user, where name and password fit; an unknown name takes as long as a known one."""
    user = _called(name)
    stored = user.password if user else _nobody()
    return user if check_password_hash(stored, password) and user else None


@lru_cache(maxsize=1)
def _nobody() -> str:
    """The hash of a password that nobody has, made as every other."""
    return generate_password_hash(secrets.token_hex(16))


def wait(name: str, address: str) -> float:
    """Seconds until the next try of this name from this address is taken; 0 for now."""
    recent = Wrong.select(Wrong.at).where(
        (Wrong.name == folded(name)[:64]) & (Wrong.address == address) & (Wrong.at > time.time() - WINDOW)
    )
    times = [at for (at,) in recent.order_by(Wrong.at.desc()).limit(WRONG).tuples()]
    with _one_at_a_time:
        unwritten = [at for at in _unwritten.get((folded(name), address), ()) if at > time.time() - WINDOW]
    times = sorted([*times, *unwritten], reverse=True)[:WRONG]
    return max(0.0, times[-1] + WINDOW - time.time()) if len(times) >= WRONG else 0.0


def count_wrong(name: str, address: str) -> None:
    """Count one wrong password; those that no longer count are forgotten. Where nothing can be written this process
    counts it."""
    try:
        with writing():
            Wrong.delete().where(Wrong.at < time.time() - WINDOW).execute()
            Wrong.create(name=folded(name)[:64], address=address, at=time.time())
    except PeeweeException as exc:
        if not unwritable(exc):
            raise
        with _one_at_a_time:
            _unwritten.setdefault((folded(name), address), deque(maxlen=WRONG)).append(time.time())


def forget_wrong(name: str, address: str) -> None:
    """After a right one."""
    those = (Wrong.name == folded(name)[:64]) & (Wrong.address == address)
    with _one_at_a_time:
        _unwritten.pop((folded(name), address), None)
    if Wrong.select().where(those).exists():
        try:
            with writing():
                Wrong.delete().where(those).execute()
        except PeeweeException as exc:
            if not unwritable(exc):
                raise


def change_password(user: User, password: str, keep: str = "") -> None:
    """A new password; every session and token ends, but the one whose text is `keep`. Raises InputError."""
    hashed = _hashed(password, user.name)
    with writing():
        User.update(password=hashed).where(User.id == user.id).execute()
        Token.delete().where((Token.user == user) & (Token.digest != _digest(keep))).execute()


def remove_user(name: str) -> None:
    """The account goes with its roles, sessions and tokens; what it did stays under its name, which nobody else gets.
    Raises UnknownName, InputError for the last administrator."""
    user = find_user(name)
    with writing():
        if user.admin and not User.select().where(User.admin & ~User.removed & (User.id != user.id)).exists():
            raise InputError(f"'{name}' is the only administrator; make another first")
        for kind in (Token, Role):
            kind.delete().where(kind.user == user).execute()
        User.update(removed=True, admin=False, password="").where(User.id == user.id).execute()


def new_token(user: User, label: str = "", days: int = TOKEN_DAYS, session: bool = False) -> str:
    """What lets `user` in for `days`; only its digest is kept. Raises InputError."""
    if not 0 < days <= MOST_DAYS:
        raise InputError(f"a token is good for 1 to {MOST_DAYS} days, not {days}")
    text = ("hs_" if session else "hr_") + secrets.token_urlsafe(32)
    ends = (datetime.now(UTC) + timedelta(days=days)).strftime("%Y-%m-%dT%H:%M:%SZ")
    with writing():
        Token.delete().where((Token.expires != "") & (Token.expires < now())).execute()
        Token.create(user=user, digest=_digest(text), label=label[:200], session=session, expires=ends)
    return text


def spare_token(user: User, session: bool = False) -> str:
    """What lets `user` in for an hour where no token can be written down (a full disk): signed, not kept. It ends with
    the user's password, or their account."""
    return SPARE + _signer(session).dumps([user.id, _digest(user.password)])


def _signer(session: bool) -> URLSafeTimedSerializer:
    return URLSafeTimedSerializer(heads.secret(Path(proxy.database).parent), salt=f"spare {session}")


def _of_spare(text: str, session: bool) -> User | None:
    try:
        number, password = _signer(session).loads(text.removeprefix(SPARE), max_age=SPARE_SECONDS)
    except BadData:
        return None
    user = User.get_or_none((User.id == number) & ~User.removed)
    return user if user is not None and _digest(user.password) == password else None


def user_of_token(text: str, session: bool = False) -> User | None:
    """Whom a token, or a session of the console, lets in."""
    if text.startswith(SPARE):
        return _of_spare(text, session)
    let_in = "SELECT user_id FROM token WHERE digest = ? AND session = ? AND (expires = '' OR expires > ?)"
    return one(User, f"WHERE id = ({let_in}) AND NOT removed", _digest(text), session, now())


def of_id(number: int) -> User | None:
    """The account of a number, unless it is removed."""
    return one(User, "WHERE id = ? AND NOT removed", number)


def tokens_of(user: User) -> list[dict[str, Any]]:
    """The user's tokens and sessions that still let in, newest first."""
    tokens = (
        Token.select()
        .where((Token.user == user) & ((Token.expires == "") | (Token.expires > now())))
        .order_by(Token.id.desc())
    )
    return [{"id": t.id, "label": t.label, "session": t.session, "made": t.made, "expires": t.expires} for t in tokens]


def revoke(user: User, number: int) -> bool:
    """End one of the user's own tokens or sessions; False where there is none of that number."""
    with writing():
        return bool(Token.delete().where((Token.user == user) & (Token.id == number)).execute())


def drop_token(text: str) -> None:
    """End a token or session."""
    with writing():
        Token.delete().where(Token.digest == _digest(text)).execute()


def _digest(text: str) -> str:
    return hashlib.sha256(text.encode()).hexdigest()


def an_administrator() -> int | None:
    """The account of one who sees every job."""
    return User.select(User.id).where(User.admin & ~User.removed).order_by(User.id).scalar()


def role_in(user: User, job: Job) -> str | None:
    """The user's role in a job; an administrator of the service is admin everywhere."""
    if user.admin:
        return "admin"
    roles = rows("SELECT role FROM role WHERE job_id = ? AND user_id = ?", job.id, user.id)
    return str(roles[0][0]) if roles else None


def roles_of(user: User) -> dict[str, str]:
    """job -> the user's role in it."""
    return dict(Role.select(Job.name, Role.role).join(Job).where(Role.user == user).tuples())


def set_role(job: Job, user_name: str, role: str) -> None:
    """Give (or with role `none` take) a role. Raises InputError."""
    user = find_user(user_name)
    if role not in (*ROLES, "none"):
        raise InputError(f"role '{role}' is none of {', '.join(ROLES)}, none")
    with writing():
        Role.delete().where((Role.job == job) & (Role.user == user)).execute()
        if role != "none":
            Role.create(job=job, user=user, role=role)


def all_users() -> list[dict[str, Any]]:
    """Every account that was not removed, with its roles."""
    roles: dict[int, dict[str, str]] = {}
    for r in Role.select(Role, Job).join(Job):
        roles.setdefault(r.user_id, {})[r.job.name] = r.role
    shown = User.select().where(~User.removed).order_by(User.name)
    return [{"name": u.name, "admin": u.admin, "roles": roles.get(u.id, {}), "made": u.made} for u in shown]
