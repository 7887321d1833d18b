"""Reports of fixed width: the sections in them, by their titles and the names of their columns, over however many
pages."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import lru_cache

from handrail.interchange.columnmap.language import SourceMap, common_start
from handrail.interchange.columnmap.unit_words import NUMBER, are_units
from handrail.interchange.columnmap.words import TOTALS, WORDS, bare, is_called

BARE = re.compile(r"^[\s\-_=+|*.:~]*$")
ABOVE, PAGE = 6, 12  # lines over the names of columns, and at the top of a page, that are looked at
_CASES = "load ?case|loadcase|case|lastfall|cas de charge|caso|combination|combinaison|kombination|result"
HEADING = re.compile(rf"^((?:{_CASES})\w*)\s*(?:no\.?|nr\.?)?(?:\s*[:=]\s*|\s+)(\S+(?: \S+)*)$", re.IGNORECASE)


@dataclass
class _Section:
    """One occurrence of a table: where its names stand, how many lines they take, its title, its rows."""

    title: int
    head: int
    lines: int
    units: bool
    rows: list[int]


def reports_in(source: SourceMap, lines: list[str]) -> Iterator[SourceMap]:
    """How a map says where each table of a report stands, and where its columns begin."""
    sections = list(_sections(lines))
    by_name: dict[tuple[str, str], list[_Section]] = {}
    for section in sections:
        title = _form(lines[section.title]) if section.title >= 0 else ""
        by_name.setdefault((_form(" ".join(lines[section.head : section.head + section.lines])), title), []).append(
            section
        )
    groups = _merged(by_name, lines)
    titles = [_title(own, lines) for own in groups]
    firsts = {t: next(k for k, line in enumerate(lines) if _form(line) == t) for t in dict.fromkeys(titles) if t}
    ignored = _page_headings(lines, sections, titles)
    totals = _totals(lines, sections)
    for own, title in zip(groups, titles, strict=True):
        first = own[0]
        at = next((k for k in range(first.head - 1, -1, -1) if title and _form(lines[k]) == title), -1)
        alone = len(groups) == 1 and at < 0
        headings = _headings(own, lines, title)
        starts = starts_of(
            [lines[k] for s in own for k in range(s.head, s.head + s.lines + s.units)],
            [lines[k] for s in own for k in s.rows][:4000],
        )
        if len(starts) < 2:
            continue
        yield replace(
            source,
            after=() if alone or at < 0 else (_pattern(lines[at]),),
            skip=first.head if alone or at < 0 else first.head - at - 1,
            head=first.lines,
            units_row=first.units,
            starts=starts,
            headings=headings,
            ignore=ignored,
            until=tuple(dict.fromkeys([_pattern(lines[k]) for t, k in firsts.items() if t != title] + totals)),
        )


def _sections(lines: list[str]) -> Iterator[_Section]:
    """Each line that names columns, with rows below it: at the start of a block, and with a rule, units or a row behind
    it."""
    k = 0
    while k < len(lines):
        if not _names_columns(lines[k]) or (k and _apart(lines[k - 1]) > 1):
            k += 1
            continue
        last = _last_head(lines, k)
        below = last + 1
        units = below < len(lines) and _says_units(lines[below])
        below += units
        while below < len(lines) and BARE.match(lines[below]):
            below += 1
        rows, at = [], below
        while at < len(lines) and not BARE.match(lines[at]) and (_apart(lines[at]) > 1 or _is_row(lines[at])):
            rows.append(at)
            at += 1
        if rows and (below > last + 1 or any(map(_is_row, lines[rows[0] : rows[0] + 3])) or len(rows) > 2):
            title = next((j for j in range(k - 1, max(k - ABOVE, -1), -1) if not BARE.match(lines[j])), -1)
            yield _Section(title, k, last - k + 1, units, rows)
            k = at
        else:
            k = last + 1


def _last_head(lines: list[str], first: int) -> int:
    """The last line of the columns' names: those before a rule, or two before a row with numbers."""
    last = first
    while (
        last + 1 < len(lines)
        and last - first < 3
        and _names_columns(lines[last + 1])
        and not _says_units(lines[last + 1])
    ):
        last += 1
    behind = lines[last + 1] if last + 1 < len(lines) else ""
    ruled = bool(behind.strip()) and bool(BARE.match(behind))
    return last if ruled or (last - first == 1 and (_is_row(behind) or _says_units(behind))) else first


def _apart(line: str) -> int:
    """How many texts stand apart from each other in a line."""
    return 0 if BARE.match(line) else len(re.split(r"\s{2,}", line.strip()))


def _merged(by_name: dict[tuple[str, str], list[_Section]], lines: list[str]) -> list[list[_Section]]:
    """Sections with the same names of columns whose titles differ in a word (a case) are one; so are those on later
    pages under the page's heading."""
    groups: list[list[_Section]] = []
    tops = {_form(line) for line in lines[:PAGE] if not BARE.match(line)}  # a page's heading, where they come again
    for (head, title), own in by_name.items():
        for group in groups:
            before = _form(" ".join(lines[group[0].head : group[0].head + group[0].lines]))
            other = _form(lines[group[0].title]) if group[0].title >= 0 else ""
            if before == head and (_alike(other, title) or title in tops):
                group += own
                break
        else:
            groups.append(list(own))
    return groups


def _alike(one: str, other: str) -> bool:
    """Whether two titles differ in their last words alone."""
    same = common_start([one, other])
    return one != other and len(same) >= 5 and len(same) >= 0.5 * min(len(one), len(other))


def _title(own: list[_Section], lines: list[str]) -> str:
    """The form of the line nearest above the names that is the same over all its sections."""
    for back in range(1, ABOVE + 1):
        forms = [_form(above[-back]) for s in own if len(above := _lines_above(s, lines)) >= back]
        if forms and len(set(forms)) == 1 and not HEADING.match(forms[0].strip()):
            return forms[0]
    seen = [{_form(line) for line in _lines_above(s, lines)} for s in own]
    common = set.intersection(*seen) if seen else set()
    return next(
        (f for line in reversed(_lines_above(own[0], lines)) if (f := _form(line)) in common and not HEADING.match(f)),
        "",
    )


def _lines_above(section: _Section, lines: list[str]) -> list[str]:
    above = []
    for k in range(section.head - 1, max(section.head - 1 - ABOVE, -1), -1):
        if _is_row(lines[k]) and not HEADING.match(lines[k].strip()) and not re.search(r"[A-Za-z]{4}", lines[k]):
            break
        if not BARE.match(lines[k]):
            above.append(lines[k])
    return above[::-1]


def _headings(own: list[_Section], lines: list[str], title: str) -> tuple[tuple[str, str], ...]:
    """Lines above the names that say which case follows."""
    every = [[line.strip() for line in _lines_above(s, lines)] for s in own]
    said = [line for group in every for line in group if _form(line) != title or HEADING.match(line)]
    marked = [m for line in said if (m := HEADING.match(line))]
    headings = []
    if marked:
        begin = marked[0].group(0)[: marked[0].start(2)]
        headings.append(("case", f"{begin.strip()} *"))
    for form in dict.fromkeys(_form(line) for line in every[0] if not HEADING.match(line)):
        varied = [line for group in every for line in group if _form(line) == form]
        begin = common_start(varied).rstrip("0123456789 ")
        if len(set(varied)) > 1 and len(begin) >= 4 and not re.search(r"\b(page|seite|pagina)\b", bare(begin)):
            headings.append((_spoken_of(begin), f"{begin.rstrip(':= ').strip()} *"))
    counts = Counter(_form(line) for line in said)
    varied = [line for line in said if counts[_form(line)] < len(own) and not HEADING.match(line)]
    begin = common_start(varied).rstrip()
    if not headings and len(varied) > 1 and len(begin) >= 4:
        headings.append((_spoken_of(begin), f"{begin} *"))
    return tuple({name: (name, pattern) for name, pattern in reversed(headings)}.values())


def _spoken_of(words: str) -> str:
    """What a heading says something of: its last word."""
    last = bare(words).split()[-1:]
    return next((name for name in ("member", "node") if last and is_called(WORDS[name], last[0])), "case")


def _page_headings(lines: list[str], sections: list[_Section], titles: list[str]) -> tuple[str, ...]:
    """Patterns of the lines at the top of the first page that come again."""
    inside = {k for s in sections for k in [*s.rows, *range(s.head, s.head + s.lines)]}
    top = [
        line
        for k, line in enumerate(lines[:PAGE])
        if k not in inside and sum(c.isalpha() for c in line) > 3 and not HEADING.match(line.strip())
    ]
    wanted = {_form(line) for line in top}
    counts = Counter(form for line in lines if (form := _form(line)) in wanted)
    return tuple(dict.fromkeys(_pattern(line) for line in top if counts[_form(line)] > 1 and _form(line) not in titles))


def _totals(lines: list[str], sections: list[_Section]) -> list[str]:
    """Patterns of lines behind the rows that are none."""
    ends = {
        re.split(r"[\s:;,]", lines[k].strip())[0]
        for s in sections
        for k in range(s.rows[-1] + 1, min(s.rows[-1] + 4, len(lines)))
        if re.match(TOTALS, bare(lines[k]))
    }
    return sorted(f"{word}*" for word in ends)


def _names_columns(line: str) -> bool:
    """Two words or more, apart from each other, none of them a number."""
    words = line.split()
    return (
        len(re.split(r"\s{2,}", line.strip())) >= 2
        and not any(NUMBER.match(w) for w in words)
        and not BARE.match(line)
        and not HEADING.match(line.strip())
    )


def _is_row(line: str) -> bool:
    words = line.split()
    return len(words) >= 2 and any(NUMBER.match(w) for w in words) and not HEADING.match(line.strip())


def _says_units(line: str) -> bool:
    return are_units(re.split(r"\s{2,}", line.strip()))


@lru_cache(maxsize=1 << 16)
def _form(line: str) -> str:
    """A line with its numbers alike."""
    return re.sub(r"\s+", " ", re.sub(r"\d+", "#", line)).strip()


def _pattern(line: str) -> str:
    """A pattern of a line with its numbers, dates and pages open."""
    return (
        re.sub(r"(\*[\s./:\-]*)+\*|\*+", "*", re.sub(r"\d+", "*", re.sub(r"\s+", " ", line.strip())))
        .replace(" ", "*")
        .replace("**", "*")
    )


def starts_of(heads: list[str], rows: list[str]) -> tuple[int, ...]:
    """The characters that columns begin at: behind every place that is blank in all the lines, but for blanks inside
    names and texts."""
    wide = max(map(len, [*heads, *rows]), default=0)
    in_rows = [sum(k < len(line) and line[k] != " " for line in rows) for k in range(wide)]
    in_heads = [any(k < len(line) and line[k] != " " for line in heads) for k in range(wide)]
    spans: list[list[int]] = []
    for k in range(wide):
        if in_rows[k] or in_heads[k]:
            if spans and spans[-1][1] == k:
                spans[-1][1] = k + 1
            else:
                spans.append([k, k + 1])
    merged: list[list[int]] = []
    for span in spans:
        has_rows, has_head = any(in_rows[span[0] : span[1]]), any(in_heads[span[0] : span[1]])
        if merged:
            before = merged[-1]
            near = span[0] - before[1] <= 1
            rows_before, head_before = any(in_rows[before[0] : before[1]]), any(in_heads[before[0] : before[1]])
            if near and (not (has_rows and rows_before) or not (has_head and head_before)):
                before[1] = span[1]
                continue
        merged.append(list(span))
    return _begins(merged, in_rows, in_heads, rows)


def _begins(spans: list[list[int]], in_rows: list[int], in_heads: list[bool], rows: list[str]) -> tuple[int, ...]:
    """Where each column begins: a name that stands apart from its rows goes with those that have none; numbers may grow
    to the left."""
    has_rows, has_head = ([any(of[a:b]) for a, b in spans] for of in (in_rows, in_heads))
    for k, span in enumerate(spans):
        if has_rows[k]:
            continue
        if k + 1 < len(spans) and not has_head[k + 1]:
            spans[k + 1][0], has_head[k + 1] = span[0], True
        elif k and not has_head[k - 1]:
            spans[k - 1][1], has_head[k - 1] = span[1], True
    starts, before = [0], 0
    for k, (a, b) in enumerate(spans):
        if not has_rows[k]:
            continue
        if before:
            cells = [line[a:b].strip() for line in rows]
            numbers = sum(bool(NUMBER.match(c)) for c in cells if c) > 0.9 * max(sum(map(bool, cells)), 1)
            starts.append(before if numbers else a)
        before = b
    return tuple(starts)
