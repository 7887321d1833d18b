"""How a map that was made for other files fits these: what it names and is not there."""

from __future__ import annotations

from pathlib import PurePosixPath

from handrail.interchange.columnmap.finding import Source
from handrail.interchange.columnmap.language import SourceMap, fits
from handrail.interchange.columnmap.parsing import read_map
from handrail.interchange.columnmap.words import bare
from handrail.interchange.problems import BundleError

MOST_TOLD = 40


def misfits(text: str, sources: list[Source]) -> list[str]:
    """What a map names that none of the tables found has: files, sheets, columns; empty where it fits."""
    try:
        column_map = read_map(text)
    except BundleError as exc:
        return [str(p) for p in exc.problems[:MOST_TOLD]]
    wrong = []
    for table in column_map.tables:
        own = [s for s in sources if _stands_in(table, s, sources)]
        if not own:
            wrong.append(
                f"{table.name}: there is no {table.shown}" + (f" sheet {', '.join(table.sheet)}" if table.sheet else "")
            )
            continue
        names = {n for s in own for n in s.names}
        wanted = dict.fromkeys(name for name, _ in table.sources if not name.startswith("@") and "{" not in name)
        missing = [name for name in wanted if name not in names]
        if missing:
            wrong.append(f"{table.name}: {own[0].called} has no column {', '.join(map(repr, missing[:6]))}")
    return wrong[:MOST_TOLD]


def _stands_in(table: SourceMap, source: Source, sources: list[Source]) -> bool:
    """Whether a source may be what a map names; a lone file is by whatever name."""
    own, wanted = source.map.file, table.file
    names = any(_same(w, o) for w in wanted for o in own) or set(own) == set(wanted)
    files = {f for s in sources for f in s.map.file}
    alone = len(files) == 1 and any(
        PurePosixPath(next(iter(files))).suffix.lower() == PurePosixPath(w).suffix.lower() for w in wanted
    )
    sheets = (
        not table.sheet
        or any(_same(w, o) for w in table.sheet for o in source.map.sheet)
        or set(table.sheet) == set(source.map.sheet)
    )
    sections = not table.after or any(bare(a) == bare(b) for a in table.after for b in source.map.after)
    return (names or alone) and sheets and sections


def _same(wanted: str, there: str) -> bool:
    last = there.rsplit("/", 1)[-1]
    return wanted.lower() in (there.lower(), last.lower()) or fits(wanted, there) or fits(wanted, last)
