"""Writes docs/verification.md from the worked tests: `make verification`; `--check` only says whether it is stale."""

from __future__ import annotations

import sys
from collections import defaultdict
from pathlib import Path

import pytest

ROOT = Path(__file__).parent.parent
TARGET = ROOT / "docs/verification.md"
HEAD = """# Verification

Every limit state beside a value that was worked by hand from the clause, or published, by LRFD and by ASD. This page is
written by `make verification` from the tests in `tests/worked/`, which hold each pair together; it is never edited by
hand, and `make test` fails when it is stale. A ratio is ours over the hand's or the published value. Units: kip, kip*in, in.

"""  # noqa: E501


def collect() -> tuple[list, dict[str, set[str]]]:
    """Run the worked tests; what agreed, and every check that any of them met with the methods. Exits where one
    fails."""
    sys.path.insert(0, str(ROOT))
    if (
        pytest.main(["-q", "--no-header", "-p", "no:cacheprovider", "-p", "no:randomly", str(ROOT / "tests/worked")])
        != 0
    ):
        sys.exit("worked examples fail: nothing is written")
    from tests.worked import sheet

    return sheet.AGREED, sheet.MET


def page(agreed: list, met: dict[str, set[str]]) -> str:
    """The whole page. Exits where a limit state has no example by one of the methods that it is judged by."""
    by = {method: {a.check for a in agreed if a.by == method} for method in ("LRFD", "ASD")}
    bare = sorted(
        f"{check} by {method}" for check, methods in met.items() for method in methods if check not in by[method]
    )
    if bare:
        sys.exit(f"no worked example for {', '.join(bare)}")
    return HEAD + _table(agreed) + "\n" + _sheets(agreed)


def _number(value: float) -> str:
    return f"{value:.4g}"


def _table(agreed: list) -> str:
    rows = defaultdict(dict)
    for a in agreed:
        rows[a.check, a.clause, a.test, a.of, a.published].setdefault(a.by, []).append(a)
    lines = [
        "| limit state | clause | example | what | by | LRFD | ours | ratio | ASD | ours | ratio |",
        "|---|---|---|---|---|---:|---:|---:|---:|---:|---:|",
    ]
    for (check, clause, test, of, published), found in sorted(rows.items()):
        lrfd, asd = found.get("LRFD", []), found.get("ASD", [])
        for k in range(max(len(lrfd), len(asd))):
            cells = [text for side in (lrfd, asd) for text in (_cells(side[k]) if k < len(side) else ("", "", ""))]
            name = test.removeprefix("test_").replace("_", " ")
            lines.append(
                f"| {check} | {clause} | [{name}](#{name.replace(' ', '-')}) | {of} | {published or 'hand'} |"
                f" {' | '.join(cells)} |"
            )
    return "\n".join(lines) + "\n"


def _cells(a) -> tuple[str, str, str]:
    ratio = a.ours / a.hand if a.hand else 1.0
    return f"{_number(a.hand)} {a.unit}".strip(), _number(a.ours), f"{ratio:.3f}"


def _sheets(agreed: list) -> str:
    texts = {a.test: a.text for a in agreed if a.text}
    parts = ["## The calculations\n"]
    for test, text in sorted(texts.items()):
        parts.append(f"### {test.removeprefix('test_').replace('_', ' ')}\n\n```\n{text}\n```\n")
    return "\n".join(parts)


def main() -> None:
    text = page(*collect())
    if "--check" not in sys.argv:
        TARGET.write_text(text)
    elif not TARGET.exists() or TARGET.read_text() != text:
        sys.exit("docs/verification.md is stale: run `make verification` and commit what it writes")


if __name__ == "__main__":
    main()
