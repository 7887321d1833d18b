"""What requests about this subject take. Numbers as in `api/requests`."""

from typing import Literal

from pydantic import BaseModel, Field

from handrail.service.api.requests import Body, JobPath, Number


class RolePath(JobPath):
    user: str


class UserPath(BaseModel):
    user: str


class TokenPath(BaseModel):
    token: Number


class SignIn(Body):
    name: str
    password: str
    label: str = ""


class SignInForToken(SignIn):
    days: int = Field(90, ge=1, le=730, description="how long the token is good for")


class NewUser(Body):
    name: str = Field(description="at most 64 characters, none that cannot be seen; none that looks like another's")
    password: str = Field(min_length=10)
    admin: bool = False


class NewPassword(Body):
    new: str = Field(min_length=10)


class PasswordChange(NewPassword):
    old: str


class NewRole(Body):
    role: Literal["viewer", "detailer", "engineer", "admin", "none"]
