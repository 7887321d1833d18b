"""People, their tokens and their roles in jobs."""

from __future__ import annotations

import hashlib
import secrets
from functools import lru_cache
from typing import Any

from werkzeug.security import check_password_hash, generate_password_hash

from handrail.core.errors import InputError
from handrail.store.database import writing
from handrail.store.models import Job, Role, Token, User

ROLES = ("viewer", "detailer", "engineer", "admin")


def add_user(name: str, password: str, admin: bool = False) -> User:
    """A new account. Raises InputError for a name that is taken or a password that is too short."""
    if not name.strip() or len(name) > 64:
        raise InputError("a user needs a name of at most 64 characters")
    if len(password) < 8:
        raise InputError("a password has at least 8 characters")
    with writing():
        if User.get_or_none(User.name == name):
            raise InputError(f"user '{name}' exists")
        return User.create(name=name, password=generate_password_hash(password), admin=admin)


def sign_in(name: str, password: str) -> User | None:
    """The user, where name and password fit; an unknown name takes as long as a known one."""
    user = User.get_or_none(User.name == name)
    stored = user.password if user else _nobody()
    return user if check_password_hash(stored, password) and user else None


@lru_cache(maxsize=1)
def _nobody() -> str:
    """The hash of a password that nobody has, made as every other."""
    return generate_password_hash(secrets.token_hex(16))


def new_token(user: User, label: str = "") -> str:
    """A token for scripts; only its digest is kept."""
    text = "hr_" + secrets.token_urlsafe(32)
    with writing():
        Token.create(user=user, digest=_digest(text), label=label)
    return text


def user_of_token(text: str) -> User | None:
    return User.select().join(Token).where(Token.digest == _digest(text)).first()


def drop_token(text: str) -> None:
    with writing():
        Token.delete().where(Token.digest == _digest(text)).execute()


def _digest(text: str) -> str:
    return hashlib.sha256(text.encode()).hexdigest()


def role_in(user: User, job: Job) -> str | None:
    """The user's role in a job; an administrator of the service is admin everywhere."""
    if user.admin:
        return "admin"
    found = Role.get_or_none((Role.job == job) & (Role.user == user))
    return found.role if found else None


def set_role(job: Job, user_name: str, role: str) -> None:
    """Give (or with role `none` take) a role. Raises InputError."""
    user = User.get_or_none(User.name == user_name)
    if user is None:
        raise InputError(f"there is no user '{user_name}'")
    if role not in (*ROLES, "none"):
        raise InputError(f"role '{role}' is none of {', '.join(ROLES)}, none")
    with writing():
        Role.delete().where((Role.job == job) & (Role.user == user)).execute()
        if role != "none":
            Role.create(job=job, user=user, role=role)


def all_users() -> list[dict[str, Any]]:
    roles: dict[int, dict[str, str]] = {}
    for r in Role.select(Role, Job).join(Job):
        roles.setdefault(r.user_id, {})[r.job.name] = r.role
    return [{"name": u.name, "admin": u.admin, "roles": roles.get(u.id, {}), "made": u.made} for u in User.select().order_by(User.name)]
