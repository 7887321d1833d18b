"""What a rulebook says of the systems that resist sideways forces: the structure's category, and which members are of
which kind."""

from __future__ import annotations

from dataclasses import dataclass
from fnmatch import fnmatchcase
from typing import Any

from handrail.core.building.model import Member
from handrail.core.catalogue.lateral import CATEGORIES, KINDS
from handrail.core.rulebook.reader import Reader

KEYS, MEMBER_KEYS = ("category", "members"), ("name", "section", "role", "is")
ROLES = ("beam", "column", "brace")
MOST, MOST_NAMES = 200, 2000


@dataclass(frozen=True)
class Kind:
    """Members whose name, section and role are among those given, each empty where it does not matter, are of one kind
    of catalogue.lateral. Names and sections may end or begin with *."""

    kind: str
    names: tuple[str, ...] = ()
    sections: tuple[str, ...] = ()
    role: str = ""

    def takes(self, member: Member, role: str) -> bool:
        """Whether a member, which stands in the building as `role`, is one of them."""
        if self.role and self.role != role:
            return False
        return all(
            not asked or any(fnmatchcase(own.upper(), one.upper()) for one in asked)
            for asked, own in ((self.names, member.name), (self.sections, member.section))
        )

    def __str__(self) -> str:
        said = {"role": self.role, "section": ", ".join(self.sections), "name": ", ".join(self.names)}
        return f"{', '.join(f'{n} {v}' for n, v in said.items() if v) or 'every member'}: {self.kind}"


@dataclass(frozen=True)
class Lateral:
    """`category` A to F, empty as the model says; the first of `kinds` that takes a member holds over what the model
    says of it."""

    category: str = ""
    kinds: tuple[Kind, ...] = ()

    def of(self, member: Member, role: str) -> str:
        """The kind of a member; empty where it is left as the model says."""
        return next((k.kind for k in self.kinds if k.takes(member, role)), "")


UNSAID = Lateral()


def read_lateral(reader: Reader, data: dict[str, Any], base: Lateral) -> Lateral:
    """The mapping `lateral` of a rulebook on top of what it inherits."""
    given = reader.mapping(data, "lateral", "lateral is a mapping with category and members")
    reader.keys(given, KEYS, "lateral")
    category = str(given.get("category") or "").strip().upper()
    if category and category not in CATEGORIES:
        reader.wrong(given, "category", f"'{category[:20]}' is none of {', '.join(CATEGORIES)}")
    members = given.get("members") or []
    if not isinstance(members, list) or len(members) > MOST:
        reader.wrong(
            given, "members", f"members is a list, like [{{role: brace, is: special_braced}}], of {MOST} at most"
        )
        members = []
    kinds = [_kind(reader, members, k) for k in range(len(members))]
    return Lateral(category or base.category, (*(k for k in kinds if k), *base.kinds))


def _kind(reader: Reader, members: Any, k: int) -> Kind | None:
    node = members[k]
    if not isinstance(node, dict):
        reader.wrong(members, k, "an entry is a mapping with name, section or role, and is")
        return None
    reader.keys(node, MEMBER_KEYS, "an entry of members")
    kind, role = str(node.get("is") or ""), str(node.get("role") or "")
    if kind not in KINDS:
        reader.wrong(node, "is", f"'{kind[:40]}' is no kind; there is {', '.join(KINDS)}")
        return None
    if role and role not in ROLES:
        reader.wrong(node, "role", f"'{role[:40]}' is none of {', '.join(ROLES)}")
        return None
    names, sections = (_several(node.get(key)) for key in ("name", "section"))
    if len(names) + len(sections) > MOST_NAMES:
        reader.wrong(node, "name", f"at most {MOST_NAMES} names; write C1* for all that begin so")
        return None
    return Kind(kind, names, sections, role)


def _several(given: Any) -> tuple[str, ...]:
    """Names in a list, or apart by commas."""
    entries = given if isinstance(given, list) else [] if given is None else str(given).split(",")
    return tuple(str(e).strip() for e in entries if str(e).strip())
