"""design: designs of the house, above its jobs: kept, found, signed, used, sent and taken in."""

from __future__ import annotations

import re
from argparse import Namespace
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, Any

from handrail.cli import output, session
from handrail.core.errors import InputError

if TYPE_CHECKING:
    from handrail.client import answers as a

STATE = {"draft": "draft", "house": "the house's", "shipped": "shipped", "withdrawn": "withdrawn"}


def design(args: Namespace) -> int:
    """One action on designs of the house."""
    _ACTIONS[args.action](args)
    return 0


def _list(args: Namespace) -> None:
    asked = {name: getattr(args, name) for name in ("text", "standard", "framing", "tag", "bolt", "state", "V", "sort")}
    with session.client(args) as client:
        page = client.designs(**{k: v for k, v in asked.items() if v}, limit=args.limit or 60)
    if args.json:
        output.as_json(page)
        return
    output.table(
        ("design", "state", "standard", "on", "at", "sizes", "V alone", "steel, lb", "remark"),
        [_row(one) for one in page["items"]],
        right=("V alone", "steel, lb"),
    )
    more = page["total"] - len(page["items"])
    output.say(f"{page['total']} design(s)" + (f"; {more} more: --limit, or words to find them by" if more else ""))
    if page["unchecked"]:
        output.say(f"{page['unchecked']} not looked at by our code yet: 'handrail design check'")


def _row(one: a.KeptDesign) -> tuple[Any, ...]:
    shear = next((h["text"] for h in one["holds"] if h["action"] == "V"), "")
    remark = one["why"] or one["differs"] or ("" if one["checked"] else "not looked at yet")
    on = " to ".join(filter(None, (one["section"], one["support"])))
    return (
        one["called"], STATE[one["state"]], one["standard"], on, one["framing"], one["summary"], shear,
        f"{one['steel'] / 0.45359237:.1f}", remark,
    )  # fmt: skip


def _show(args: Namespace) -> None:
    with session.client(args) as client:
        one = client.design(*_revision(args, client))
    if args.json:
        output.as_json(one)
        return
    _said(one)


def _said(one: a.WrittenDesign) -> None:
    output.say(f"{one['called']}: {one['title'] or one['summary']} ({STATE[one['state']]})")
    by = f"made by {one['author']} {one['made'][:10]}, {one['source']}"
    output.say(by + (f"; signed by {one['signer']} {one['signed'][:10]}" if one["signer"] else ""))
    output.say(f"fits {', '.join(one['fits'])}")
    if one["holds"]:
        rows = [(h["words"], h["text"], h["check"].replace("_", " ")) for h in one["holds"]]
        output.table(("action alone", "holds", "ends by"), rows, right=("holds",))
    for word in filter(None, (one["why"], one["differs"], one["note"])):
        output.say(word)
    if one["fields"]:
        asked = [
            (f["name"], f["label"], f["usual"], f["low"], f["high"] or ", ".join(f["choices"])) for f in one["fields"]
        ]
        output.table(("it asks", "", "usual", "least", "most"), asked)
    for use in one["used"]:
        where = f" on {', '.join(use['connections'][:8])}" if use["connections"] else ""
        output.say(f"used in {use['job']} by {use['by']}, R{use['revision']}{where}")


def _put(args: Namespace) -> None:
    """A draft from a trial's file, a design's file, or a connection of a job."""
    given: dict[str, Any] = {"title": args.title or "", "note": args.note or "", "tags": _words(args.tags)}
    name, *rest = args.rest
    if args.connection:
        given |= {"job": args.job, "connection": args.connection}
    elif rest:
        text = Path(rest[0]).read_text(encoding="utf-8")
        from handrail.core.rulebook.yaml import NotYaml, load

        try:
            data = load(text)
        except NotYaml as exc:
            raise InputError(f"{rest[0]} line {exc.line}: {exc.words}") from exc
        given |= {"text": text} if isinstance(data, dict) and "design" in data else {"trial": data}
    else:
        raise InputError("give a FILE (a trial's, or a design's), or --job JOB --connection CONNECTION")
    with session.client(args) as client:
        _said(client.put_design(name, **given))


def _find(args: Namespace) -> None:
    from handrail.core.rulebook.yaml import load

    trial = load(Path(args.rest[0]).read_text(encoding="utf-8"))
    with session.client(args) as client:
        found = client.find_designs(trial, share=args.share, degrees=args.degrees, limit=args.limit or 12)
    if args.json:
        output.as_json(found)
        return
    rows = [
        (f["design"]["called"], f["status"], f"{f['utilisation']:.2f}", f["design"]["summary"], f["reason"])
        for f in found["items"]
    ]
    output.table(("design", "here", "used", "sizes", "reason"), rows, right=("used",))
    left = f"; {found['like'] - found['tried']} farther ones were not tried" if found["like"] > found["tried"] else ""
    output.say(f"{found['like']} like it, {found['tried']} tried under its actions{left}")


def _in_job(args: Namespace) -> None:
    with session.client(args) as client:
        name, number = _revision(args, client)
        answer = client.design_in_job(name, number, args.job, _fields(args.field), not args.all)
    if args.json:
        output.as_json(answer)
        return
    rows = [
        (i["connection"], "holds" if i["holds"] else "no", f"{i['utilisation']:.2f}", i["check"] or i["reason"])
        for i in answer["items"][: args.limit or 20]
    ]
    output.table(("connection", "", "used", "by"), rows, right=("used",))
    output.say(
        f"it would hold {answer['holds']} of {answer['fitting']} connections; they are of {answer['marks']} marks now,"
        f" {answer['marks_saved']} fewer then"
    )


def _would_change(args: Namespace) -> None:
    from handrail.cli.rules import told_of_try

    with session.client(args) as client:
        name, number = _revision(args, client)
        answer = client.design_would_change(name, number, args.job)
    output.as_json(answer) if args.json else told_of_try(answer, args.limit or 20)


def _sign(args: Namespace) -> None:
    with session.client(args) as client:
        one = client.sign_design(*_revision(args, client))
    output.say(f"{one['called']} is the house's, signed by {one['signer']}: rules may say use: design {one['called']}")


def _withdraw(args: Namespace) -> None:
    with session.client(args) as client:
        one = client.withdraw_design(*_revision(args, client))
    output.say(f"{one['called']} is withdrawn; what stands on it goes on standing")


def _table(args: Namespace) -> None:
    path = Path(args.rest[0])
    with session.client(args) as client:
        taken = client.take_designs(path.name, path.read_bytes(), _words(args.tags))
    output.say(f"{taken['checked']} looked at by our code; {taken['left']} left ('handrail design check')")


def _check(args: Namespace) -> None:
    with session.client(args) as client:
        taken = client.check_designs(args.limit or 500)
    output.say(f"{taken['checked']} looked at, {taken['left']} left")


def _send(args: Namespace) -> None:
    with session.client(args) as client:
        name, number = _revision(args, client)
        file = client.design_file(
            name, number, **{key: key in _words(args.tick) for key in ("people", "origin", "notes", "files")}
        )
    to = Path(args.to or file["file"])
    to.write_text(file["text"], encoding="utf-8")
    output.say(f"{to}: {name} R{number}, with a digest of what it says")


def _take(args: Namespace) -> None:
    text = Path(args.rest[0]).read_text(encoding="utf-8")
    with session.client(args) as client:
        _said(client.take_design(text, args.rest[1] if len(args.rest) > 1 else ""))


def _picture(args: Namespace) -> None:
    with session.client(args) as client:
        name, number = _revision(args, client)
        to = Path(args.to or f"{name}-R{number}.svg")
        to.write_bytes(client.design_picture(name, number))
    output.say(str(to))


def _attach(args: Namespace) -> None:
    path = Path(args.rest.pop(0))
    with session.client(args) as client:
        name, number = _revision(args, client)
        made = client.attach_to_design(name, number, path)
    output.say(f"{name} R{number}: {made['name']}, {made['size']} bytes, is file {made['id']}")


def _files(args: Namespace) -> None:
    """Its files, or all of them into a folder."""
    with session.client(args) as client:
        name, number = _revision(args, client)
        files = client.design(name, number)["files"]
        if args.to:
            folder = Path(args.to)
            folder.mkdir(parents=True, exist_ok=True)
            for file in files:
                to = _free(folder / Path(file["name"]).name)
                to.write_bytes(client.file_of_design(name, number, file["id"]))
                output.say(str(to))
            return
    if args.json:
        output.as_json(files)
        return
    rows = [(f["id"], f["name"], f["size"], f["author"], f["made"][:10]) for f in files]
    output.table(("file", "name", "bytes", "by", "on"), rows, right=("bytes",))


def _free(path: Path) -> Path:
    """A name that nothing has yet."""
    number = 1
    while (free := path if number == 1 else path.with_stem(f"{path.stem}-{number}")).exists():
        number += 1
    return free


def _paper(args: Namespace) -> None:
    with session.client(args) as client:
        name, number = _revision(args, client)
        kind = args.kind or "page"
        to = Path(args.to or f"{name}-R{number}.{'pdf' if kind == 'page' else kind}")
        to.write_bytes(client.design_paper(name, number, kind))
    output.say(str(to))


def _revision(args: Namespace, client: Any) -> tuple[str, int]:
    """The name and the number that are asked for: `NAME R2`, or the newest of NAME."""
    name, *rest = args.rest
    number = re.fullmatch(r"R?(\d+)", rest[0]) if rest else None
    if number:
        return name, int(number[1])
    page = client.designs(text=name, limit=500)
    numbers = [one["number"] for one in page["items"] if one["name"] == name]
    if not numbers:
        raise InputError(f"there is no design '{name}' that you can see; 'handrail design' lists them")
    return name, max(numbers)


def _fields(given: list[str] | None) -> dict[str, str]:
    fields = {}
    for one in given or []:
        name, equals, value = one.partition("=")
        if not equals:
            raise InputError(f"--field {one}: write it like n=4")
        fields[name.strip()] = value.strip()
    return fields


def _words(given: str | None) -> list[str]:
    return [word.strip() for word in (given or "").split(",") if word.strip()]


_ACTIONS: dict[str, Callable[[Namespace], None]] = {
    "list": _list,
    "show": _show,
    "put": _put,
    "find": _find,
    "in-job": _in_job,
    "would-change": _would_change,
    "sign": _sign,
    "withdraw": _withdraw,
    "table": _table,
    "check": _check,
    "send": _send,
    "take": _take,
    "picture": _picture,
    "paper": _paper,
    "attach": _attach,
    "files": _files,
}
