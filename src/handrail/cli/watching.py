"""watch: a folder that an analysis writes into; what it holds comes in as a revision that waits for a look."""

from __future__ import annotations

import time
from argparse import Namespace
from pathlib import Path
from typing import Any

from handrail.cli import output, session
from handrail.core.errors import InputError

Stamp = tuple[tuple[str, int, int], ...]  # of every file: its path, size and time


def watch(args: Namespace) -> int:
    """Send the folder whenever it has changed and then stood still for a while; the one sent before is left, if nobody
    took it in yet."""
    folder = Path(args.folder)
    if not folder.is_dir():
        raise InputError(f"{folder}: no such folder")
    if not 0.1 <= args.still <= 3600:
        raise InputError("still: say how many seconds a folder stands still before it is sent, 0.1 to 3600")
    text = Path(args.map).read_text(encoding="utf-8") if args.map else ""
    with session.client(args) as client:
        client.job(args.job)  # told at once where there is none
        output.say(f"watching {folder} for {args.job}; stop with Ctrl-C")
        sent: Stamp = () if args.now else stamp(folder)
        waiting = 0
        try:
            while True:
                now = _still(folder, args.still)
                if now and now != sent:
                    waiting, sent = _send(client, args.job, folder, text, waiting), now
                    if args.once:
                        return 0
        except KeyboardInterrupt:
            return 0


def stamp(folder: Path) -> Stamp:
    """What a folder's files are by size and time."""
    parts = []
    for path in sorted(p for p in folder.rglob("*") if not p.name.startswith(".")):
        try:
            about = path.stat()
        except OSError:  # gone meanwhile
            continue
        if path.is_file():
            parts.append((path.relative_to(folder).as_posix(), about.st_size, about.st_mtime_ns))
    return tuple(parts)


def _still(folder: Path, seconds: float) -> Stamp:
    """The folder once nothing of it has changed for so long."""
    before = stamp(folder)
    while True:
        time.sleep(seconds)
        now = stamp(folder)
        if now == before:
            return now
        before = now


def _send(client: Any, job: str, folder: Path, text: str, before: int) -> int:
    if before and client.get_import(job, before)["state"] == "held":
        client.cancel_import(job, before)
    sent = client.send_model(job, folder, text, hold=True)
    output.say(
        f"{time.strftime('%H:%M:%S')} sent; it waits for a look in the console (Import a model), or: handrail confirm"
        f" {job} {sent['id']}"
    )
    return int(sent["id"])


def confirm(args: Namespace) -> int:
    """Take in an import that waits."""
    with session.client(args) as client:
        seen = client.understood(args.job, args.number)
        if seen["problems"]:
            for problem in seen["problems"][:20]:
                output.say(f"  {problem['file']} {problem['row'] or ''} {problem['column']}: {problem['message']}")
            raise InputError(f"{len(seen['problems'])} thing(s) to put right first")
        if seen["map_from"] == "proposed":
            raise InputError(
                "its column map is proposed, and nobody has looked at it: go through it in the console (Import a"
                " model), or print it with 'handrail map PATH' and import with --map"
            )
        if seen["map"]:
            client.set_map(args.job, args.number, seen["map"])
        answer = client.confirm_import(args.job, args.number)
    if args.json:
        output.as_json(answer)
    else:
        output.say(f"import {answer['id']} is {answer['state']}; its audit: handrail audit {args.job}")
    return 0
