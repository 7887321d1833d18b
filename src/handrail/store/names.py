"""Names of people: what may stand in one, and when two look alike."""

from __future__ import annotations

import unicodedata

from handrail.core.errors import InputError

MOST = 64
# letters of other scripts that nobody tells from a Latin one
_LATIN = str.maketrans(
    "авекмнорстухіјѕԁгьαεικνορτυχωϲ"
    "АВЕКМНОРСТУХІЈЅΑΒΕΖΗΙΚΜΝΟΡΤΥΧ",
    "abekmhopctyxijsdrbaeikvoptuxwc"
    "abekmhopctyxijsabezhikmnoptyx",
)  # fmt: skip


def checked(name: str) -> str:
    """The name as it is kept. Raises InputError for blanks around or doubled, and for characters that nobody sees."""
    plain = unicodedata.normalize("NFC", name)
    if not plain or len(plain) > MOST:
        raise InputError(f"a user needs a name of at most {MOST} characters")
    if plain != " ".join(plain.split()):
        raise InputError(f"user name {plain!r}: no blanks around it, and one between words")
    for character in plain:
        if unicodedata.category(character)[0] in "CZ" and character != " ":
            raise InputError(f"user name {plain!r}: the character U+{ord(character):04X} cannot be seen; leave it out")
    return plain


def folded(name: str) -> str:
    """The name as it is looked for: whatever its letters are put together from, and in whatever case."""
    return unicodedata.normalize("NFKC", unicodedata.normalize("NFKC", name).casefold())


def alike(one: str, other: str) -> bool:
    """Whether two names cannot be told apart when read: by case, marks, digits for letters, or letters of another
    script."""
    return bool(_looks(one) & _looks(other))


def _looks(name: str) -> set[str]:
    """How a name looks, with a capital I taken as itself and as a small l."""
    return {_plain(name), _plain(name.replace("I", "l"))}


def _plain(name: str) -> str:
    plain = unicodedata.normalize("NFKD", unicodedata.normalize("NFKC", name).translate(_LATIN).casefold())
    without_marks = "".join(c for c in plain if not unicodedata.combining(c)).translate(_LATIN)
    return without_marks.replace("0", "o").replace("1", "l")
