"""serve, demo, backup, restore: the service itself and its records."""

from __future__ import annotations

import os
import sqlite3
from argparse import Namespace
from collections.abc import Callable
from contextlib import closing
from pathlib import Path
from urllib.parse import quote

from handrail.core.errors import InputError


def home_of(args: Namespace) -> Path:
    """The folder of the records: option, HANDRAIL_HOME, or the user's data folder."""
    import platformdirs

    return Path(args.home or os.environ.get("HANDRAIL_HOME") or platformdirs.user_data_dir("handrail")).absolute()


def serve(args: Namespace) -> int:
    from handrail.service.processes.server import first_account

    home = home_of(args)

    def ready() -> None:
        first_account(home)
        print(f"Hand Rail at http://{args.host}:{args.port} (records in {home})", flush=True)

    _serve(args, home, ready)
    return 0


def _serve(args: Namespace, home: Path, ready: Callable[[], None]) -> None:
    from handrail.service.processes.server import serve as start

    if args.secure_cookies:
        os.environ["HANDRAIL_SECURE_COOKIES"] = "1"
    start(home, args.host, args.port, args.processes, ready)


def demo(args: Namespace) -> int:
    from handrail.demo.load import PEOPLE, load

    home = home_of(args) if args.home or os.environ.get("HANDRAIL_HOME") else Path(".handrail").absolute()
    if args.load_only:
        os.umask(0o077)  # the records are their owner's alone, as the service keeps them
        load(home, remedies=True)
        return 0

    def ready() -> None:
        load(home)
        print(f"\n  Hand Rail   http://{args.host}:{args.port}", flush=True)
        for name, (password, role) in PEOPLE.items():
            print(f"  sign in as  {name} / {password}  ({role})", flush=True)
        print("  stop with Ctrl-C\n", flush=True)

    _serve(args, home, ready)
    return 0


def backup(args: Namespace) -> int:
    from handrail.store import heads
    from handrail.store.database import backup as copy
    from handrail.store.opening import RECORDS

    source = home_of(args) / RECORDS
    if not source.is_file():
        raise InputError(f"there are no records in {source.parent}")
    target = Path(args.file)
    if target.exists():
        raise InputError(f"{target} exists; name a new file")
    copy(source, target)
    heads.sign(source.parent, "backup", target)
    print(f"copied the records to {target} ({target.stat().st_size / 1e6:.1f} MB)")
    return 0


def restore(args: Namespace) -> int:
    from handrail.service.processes.server import hold
    from handrail.store import heads
    from handrail.store.database import backup as copy
    from handrail.store.opening import RECORDS

    source, target = Path(args.file), home_of(args) / RECORDS
    _sound(source)
    held = hold(target.parent)  # a running service would go on with what it has open
    if target.exists():
        if not args.replace:
            raise InputError(f"there are records in {target.parent}; say --replace to put them aside")
        aside = next(
            p for k in range(1, 10_000) if not (p := target.with_suffix(f".before-restore-{k}.sqlite")).exists()
        )
        _put_aside(target, aside)
        print(f"the old records are in {aside}")
    copy(source, target)
    _signed_out(target)
    heads.sign(target.parent, "restore", target)
    held.close()
    print(f"restored {source} into {target.parent}; everybody signs in again, and tokens are made anew")
    return 0


def _put_aside(records: Path, aside: Path) -> None:
    """The records under another name: copied whole, or, where they are damaged, the files as they are."""
    from handrail.store.database import backup as copy

    beside = [Path(f"{records}-{part}") for part in ("wal", "shm")]
    try:
        copy(records, aside)
        records.unlink()
    except InputError:
        records.rename(aside)
        for path in beside:
            if path.exists():
                path.rename(f"{aside}{path.name.removeprefix(records.name)}")
    for path in beside:
        path.unlink(missing_ok=True)


def _signed_out(records: Path) -> None:
    """Whoever was let in by what was restored is not any more: it may have been taken away since."""
    with closing(sqlite3.connect(records)) as database, database:
        database.execute("delete from token")


def _sound(path: Path) -> None:
    try:
        with closing(sqlite3.connect(f"file:{quote(str(path))}?mode=ro", uri=True)) as database:
            word = database.execute("pragma integrity_check").fetchone()[0]
            database.execute("select count(*) from schema_step").fetchone()
    except sqlite3.Error as exc:
        raise InputError(f"{path} is no backup of Hand Rail's records ({exc})") from exc
    if word != "ok":
        raise InputError(f"{path} is damaged: {word}")
