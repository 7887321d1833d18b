"""map, maps, output: column maps for tables of other programs, proposed from the files or tried on them; those that the
house keeps; our rows written under other programs' names."""

from __future__ import annotations

from argparse import Namespace
from dataclasses import asdict
from pathlib import Path

from handrail.cli import output, session
from handrail.core.errors import InputError

SHOWN = 3  # rows of a table that is to be written: it may have many columns, so each is a line


def column_map(args: Namespace) -> int:
    from handrail.interchange.incoming import map_in, propose
    from handrail.interchange.understood import understand

    path = Path(args.path)
    if not path.exists():
        raise InputError(f"{path}: no such file or folder")
    text = Path(args.map).read_text(encoding="utf-8") if args.map else ""
    if args.house:
        with session.client(args) as client:
            text = client.house_map(args.house)["text"]
    if not text and not args.json:
        print(output.visible(map_in(path) or propose(path)), end="")
        return 0
    understood = understand(path, text or map_in(path))
    if args.json:
        output.as_json(asdict(understood))
        return 2 if understood.problems else 0
    if understood.stated:
        units = ", ".join(f"{name} {unit}" for name, unit in understood.stated.get("units", {}).items())
        output.say(
            f"{understood.stated.get('title') or path.name}: units {units}; up {understood.stated.get('up')}, forces"
            f" {understood.stated.get('forces')}\n"
        )
    for seen in understood.tables:
        unread = f"; not read: {', '.join(seen.unread)}" if seen.unread else ""
        columns = [
            ", ".join(filter(None, (c["name"], c["unit"]))) + (f"\n= {c['source']}" if c["source"] != c["name"] else "")
            for c in seen.columns
        ]
        output.say(f"{seen.table}: {seen.rows} rows of {seen.source}{unread}")
        output.table(columns, seen.sample)
        output.say("")
    if understood.unread:
        output.say(f"files that nothing reads: {', '.join(understood.unread)}")
    for problem in understood.problems[:50]:
        output.say(f"  {problem}")
    output.say(f"{len(understood.problems)} problem(s)")
    return 2 if understood.problems else 0


def maps(args: Namespace) -> int:
    """list, get, put and leave of the house's maps."""
    with session.client(args) as client:
        if args.action == "list":
            maps = client.maps()
            if args.json:
                output.as_json(maps)
            else:
                output.table(
                    ("map", "way", "revision", "note", "by", "made"),
                    [(m["name"], m["way"], m["number"], m["note"], m["author"], m["made"][:10]) for m in maps],
                )
        elif args.action == "get":
            print(client.house_map(args.rest[0])["text"], end="")
        elif args.action == "put":
            kept = client.put_map(args.rest[0], Path(args.rest[1]).read_text(encoding="utf-8"), args.note)
            use = "it is proposed where it fits" if kept["way"] == "in" else "handrail output JOB --map NAME goes by it"
            output.say(f"kept as {kept['name']}, revision {kept['number']}: {use}")
        else:
            client.leave_map(args.rest[0])
            output.say(f"{args.rest[0]} is proposed no more; jobs keep the map that they came in through")
    return 0


def output_map(args: Namespace) -> int:
    """Propose a map, show what one writes, or write it."""
    with session.client(args) as client:
        if not args.map:
            if args.to:
                raise InputError("--to needs --map: a file, or the name of a map that the house keeps")
            proposed = client.propose_output(args.job)
            output.as_json({"map": proposed}) if args.json else print(output.visible(proposed), end="")
            return 0
        path = Path(args.map)
        text = path.read_text(encoding="utf-8") if path.is_file() else client.house_map(args.map)["text"]
        tried = client.try_output(args.job, text)
        if args.to:
            own = list(dict.fromkeys(table["file"] for table in tried["tables"]))
            ending = own[0].rpartition(".")[2].lower() if len(own) == 1 else "zip"
            return output.put(output.ending(args.to, ending), client.output_file(args.job, text))
    if args.json:
        output.as_json(tried)
        return 0
    for table in tried["tables"]:
        sheet = f", sheet {table['sheet']}" if table["sheet"] else ""
        output.say(f"{table['file']}{sheet}: {table['rows']} rows of {table['rows_of']}")
        first = table["sample"][:SHOWN]
        output.table(
            ("column", "unit", *(f"row {k}" for k in range(1, len(first) + 1))),
            [(c["name"], c["unit"], *(row[n] for row in first)) for n, c in enumerate(table["columns"])],
        )
        output.say("")
    output.say("nothing is written yet: --to FILE")
    return 0
