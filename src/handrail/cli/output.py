"""What commands print: JSON for machines, a readable table for people."""

from __future__ import annotations

import json
import math
import re
from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import Any

from handrail.core.errors import InputError

OVER, REMARKED = "pass over target", "pass, remarks"
MARKS = {
    "pass": "✓ pass",
    REMARKED: "☑ pass, remarks",
    OVER: "✓ pass △ over target",
    "fail": "✗ fail",
    "unchecked": "? unchecked",
    "unassigned": "○ unassigned",
    "elsewhere": "– elsewhere",
}
STYLES = {
    "pass": "green",
    REMARKED: "cyan",
    OVER: "green",
    "fail": "bold red",
    "unchecked": "yellow",
    "unassigned": "dim",
    "elsewhere": "dim",
}


_CONTROL = re.compile(r"[\x00-\x08\x0b-\x1f\x7f-\x9f\u202a-\u202e\u2066-\u2069]")


def visible(text: str) -> str:
    """Control characters written out: nothing that came from somewhere moves a cursor or colours a terminal."""
    return _CONTROL.sub(lambda m: f"\\u{ord(m[0]):04x}", text)


def as_json(value: Any) -> None:
    print(visible(json.dumps(value, indent=2, ensure_ascii=False)))


def console() -> Any:
    from rich.console import Console

    class Plain(Console):
        def on_broken_pipe(self) -> None:  # rich would end the program with its own word
            raise BrokenPipeError

    plain = Plain(highlight=False, soft_wrap=False)
    return plain if plain.is_terminal else Plain(highlight=False, width=200)


def table(
    columns: Sequence[str],
    rows: Sequence[Sequence[Any]],
    title: str = "",
    right: Sequence[str] = (),
    plain: Sequence[str] = (),
) -> None:
    """A table; a status is coloured and always spelled, except in the `plain` columns, whose words are no status."""
    from rich.box import SIMPLE_HEAD
    from rich.table import Table

    made = Table(box=SIMPLE_HEAD, title=title or None, title_justify="left", pad_edge=False, show_edge=False)
    for name in columns:
        made.add_column(name, justify="right" if name in right else "left", overflow="fold")
    for row in rows:
        made.add_row(*(visible(str(v)) if name in plain else _cell(v) for name, v in zip(columns, row, strict=True)))
    console().print(made)


def source(parameter: Mapping[str, Any]) -> str:
    """Which layer gave a size, and the formula that it follows."""
    return f"{parameter['source']}: {parameter['formula']}" if parameter.get("formula") else str(parameter["source"])


def _cell(value: Any) -> Any:
    from rich.text import Text

    from handrail.core.checking.result import share

    if isinstance(value, str) and value in MARKS:
        return Text(MARKS[value], style=STYLES[value])
    if isinstance(value, float):
        return Text(share(value))
    return Text("" if value is None else visible(str(value)))


def stands(connection: Mapping[str, Any]) -> str:
    """The status of a connection; a pass over the target, or with remarks, apart."""
    if connection.get("over_target"):
        return OVER
    return REMARKED if connection["status"] == "pass" and connection.get("remarks") else str(connection["status"])


def used(side: Mapping[str, Any]) -> float | None:
    """The utilisation of what is checked; nothing for what is not."""
    return side["utilisation"] if side["status"] in ("pass", "fail") else None


def floored(strength: float, digits: int = 4) -> str:
    """A strength in so many digits, never more than it is."""
    if not strength or not math.isfinite(strength):
        return f"{strength:.{digits}g}"
    step = 10.0 ** (math.floor(math.log10(abs(strength))) - digits + 1)
    return f"{math.floor(strength / step + 1e-6) * step:.{digits}g}"


def weighed(kg: float | None, scale: float, digits: int = 1) -> str:
    """A mass in the job's unit; nothing where it is not counted."""
    return "" if kg is None else f"{kg * scale:.{digits}f}"


def say(text: str) -> None:
    console().print(visible(text), markup=False)


def ending(name: str, *kinds: str) -> Path:
    """Where to write. Raises InputError where its ending is none of these kinds."""
    path = Path(name)
    if path.suffix.lower().removeprefix(".") not in kinds:
        raise InputError(f"{path}: it is written as .{', .'.join(kinds)}")
    return path


def put(path: Path, body: bytes) -> int:
    """A file as it is; 0. Raises InputError where it cannot be written."""
    try:
        path.write_bytes(body)
    except OSError as exc:
        raise InputError(f"{path}: {exc}") from exc
    say(f"wrote {path} ({len(body)} bytes)")
    return 0
