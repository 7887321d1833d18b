"""The heads of all ledgers, signed with the service's key, line by line in a file beside the records: a ledger that was
cut, or records that are older than they were, show without being asked for.

A line is JSON: `made`, `why` (start, day, backup, restore), `heads` {job: {first, entries, head}} with the digests of
the first and last entry, `previous` the SHA-256 of the line before, and `signature`, Ed25519 (base64) over the line
without it, keys sorted, without spaces, in UTF-8. Whoever has `ledger.pub` can verify them; whoever has `ledger.key`
can sign."""

from __future__ import annotations

import base64
import fcntl
import hashlib
import json
import os
import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path
from typing import Any, TextIO
from urllib.parse import quote

from cryptography.exceptions import InvalidSignature
from cryptography.hazmat.primitives import serialization
from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PrivateKey, Ed25519PublicKey

from handrail.store.models import Meta, now

FILE, KEY, PUBLIC, FOUND = "ledger-heads.jsonl", "ledger.key", "ledger.pub", "ledger_faults"
START = "0" * 64
_HEADS = (
    "SELECT j.name, f.digest, l.number, l.digest FROM job j JOIN ledger f ON f.job_id = j.id AND f.number = 1 JOIN"
    " ledger l ON l.job_id = j.id AND l.number = (SELECT max(number) FROM ledger WHERE job_id = j.id) WHERE"
    " j.name NOT LIKE '~%' ORDER BY j.name"
)


def sign(home: Path, why: str, records: Path) -> None:
    """Put the heads of all ledgers in `records` at the end of the file."""
    with _locked(home) as stream, closing(_opened(records)) as database:
        heads = {
            name: {"first": first, "entries": number, "head": head}
            for name, first, number, head in database.execute(_HEADS)
        }
        lines = stream.read().splitlines()
        previous = hashlib.sha256(lines[-1].encode()).hexdigest() if lines else START
        said = {"made": now(), "why": why, "heads": heads, "previous": previous}
        signature = base64.b64encode(_key(home).sign(_plain(said))).decode()
        line = json.dumps(said | {"signature": signature}, sort_keys=True, ensure_ascii=False) + "\n"
        os.write(stream.fileno(), line.encode())  # at once: a line is there or it is not
        os.fsync(stream.fileno())


def watch(home: Path, why: str, records: Path) -> list[str]:
    """Compare the records with what was signed, keep what is wrong for whoever looks at a job, and sign the heads as
    they are; what is wrong, in words."""
    wrong = faults(home, records)
    value = json.dumps(wrong)
    Meta.insert(name=FOUND, value=value).on_conflict(conflict_target=[Meta.name], update={Meta.value: value}).execute()
    sign(home, why, records)
    return [f"{f'job {job}: ' if job else ''}{words}" for job, said in wrong.items() for words in said]


def found_of(job: str) -> list[str]:
    """What was wrong with a job's ledger, or with all, when that was looked at last."""
    kept = Meta.get_or_none(Meta.name == FOUND)
    noted = json.loads(kept.value) if kept else {}
    return [*noted.get(job, []), *noted.get("", [])]


def due(home: Path) -> bool:
    """Whether nothing was signed today yet."""
    path = home / FILE
    return not path.exists() or now()[:10] > _last_day(path)


def _last_day(path: Path) -> str:
    """The day of the file's last line; empty where that is none."""
    lines = path.read_text(encoding="utf-8").splitlines()
    try:
        return str(json.loads(lines[-1])["made"])[:10] if lines else ""
    except (ValueError, KeyError, TypeError):
        return ""


def faults(home: Path, records: Path) -> dict[str, list[str]]:
    """job -> what its ledger is not, of what was signed; under an empty name what is of the file itself. Said of what
    was signed since records were put back last. One job's words name no other: not everybody may see that one."""
    path = home / FILE
    if not path.exists():
        return {}
    wrong: dict[str, list[str]] = {}
    lines = list(_read(home, path.read_text(encoding="utf-8").splitlines(), wrong.setdefault("", [])))
    since = max((k for k, line in enumerate(lines) if line["why"] == "restore"), default=0)
    with closing(_opened(records)) as database:
        kept = {
            (first, number): digest
            for first, number, digest in database.execute(
                "SELECT f.digest, l.number, l.digest FROM ledger l JOIN ledger f ON f.job_id = l.job_id AND"
                " f.number = 1 JOIN job j ON j.id = l.job_id WHERE j.name NOT LIKE '~%'"  # those that go are closed
            )
        }
        closed = {first for (first,) in database.execute("SELECT first FROM closed")}
    there = {first for first, _ in kept}
    for line in lines[since:]:
        for job, head in line["heads"].items():
            words = (
                f"on {line['made']} ({line['why']}) its ledger had {head['entries']} entries, the last"
                f" {head['head'][:12]}"
            )
            if head["first"] not in there and head["first"] not in closed:
                wrong.setdefault(job, []).append(f"it is not in the records, and nobody closed it: {words}")
            elif head["first"] in there and kept.get((head["first"], head["entries"])) != head["head"]:
                there_is = (head["first"], head["entries"]) in kept
                own = (
                    "that entry is another one"
                    if there_is
                    else "it ends before that: it was cut, or the records are older ones"
                )
                wrong.setdefault(job, []).append(f"{words}; {own}")
    return {job: [*dict.fromkeys(said)] for job, said in wrong.items() if said}


def restored(home: Path) -> list[str]:
    """When records were put back, in words: what was signed before that is not asked of them."""
    path = home / FILE
    lines = [json.loads(line) for line in path.read_text(encoding="utf-8").splitlines()] if path.exists() else []
    return [
        f"records were put back from a copy on {line['made']}: what was signed before is not asked of them"
        for line in lines
        if line["why"] == "restore"
    ]


def _read(home: Path, lines: list[str], wrong: list[str]) -> Iterator[dict[str, Any]]:
    """The lines that are signed and follow one another; what is `wrong` of others."""
    public = (
        serialization.load_pem_public_key((home / PUBLIC).read_bytes())
        if (home / PUBLIC).exists()
        else _key(home).public_key()
    )
    assert isinstance(public, Ed25519PublicKey)
    previous = START
    for number, text in enumerate(lines, 1):
        try:
            line = json.loads(text)
            public.verify(
                base64.b64decode(line["signature"]), _plain({n: v for n, v in line.items() if n != "signature"})
            )
            if line["previous"] != previous:
                wrong.append(f"{FILE} line {number}: does not follow the line before it; lines are missing")
            yield line
        except (ValueError, KeyError, TypeError, AttributeError, InvalidSignature):
            wrong.append(f"{FILE} line {number}: was not signed with this service's key, or was changed")
        previous = hashlib.sha256(text.encode()).hexdigest()


def _plain(said: dict[str, Any]) -> bytes:
    return json.dumps(said, sort_keys=True, separators=(",", ":"), ensure_ascii=False).encode()


def _key(home: Path) -> Ed25519PrivateKey:
    """The service's key; made at the first call."""
    path = home / KEY
    if not path.exists():
        made = Ed25519PrivateKey.generate()
        plain = made.private_bytes(
            serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, serialization.NoEncryption()
        )
        path.touch(mode=0o600)
        path.write_bytes(plain)
        (home / PUBLIC).write_bytes(
            made.public_key().public_bytes(serialization.Encoding.PEM, serialization.PublicFormat.SubjectPublicKeyInfo)
        )
    key = serialization.load_pem_private_key(path.read_bytes(), None)
    assert isinstance(key, Ed25519PrivateKey)
    return key


def secret(home: Path) -> str:
    """What only this service knows, for what it signs and does not keep; another one once records were put back."""
    _key(home)
    return hashlib.sha256((home / KEY).read_bytes() + "".join(restored(home)).encode()).hexdigest()


def _opened(records: Path) -> sqlite3.Connection:
    return sqlite3.connect(f"file:{quote(str(records))}?mode=ro", uri=True)


@contextmanager
def _locked(home: Path) -> Iterator[TextIO]:
    """The file, to be read and written at its end by one at a time."""
    with (home / FILE).open("a+", encoding="utf-8") as stream:
        fcntl.flock(stream, fcntl.LOCK_EX)
        stream.seek(0)
        yield stream
