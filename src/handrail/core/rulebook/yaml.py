"""Reads YAML that a stranger may have written: bounded in size, depth and what its aliases stand for."""

from __future__ import annotations

import io
from typing import Any

LARGEST = 400_000  # characters
MOST_NODES = 50_000  # with every alias counted as often as it is used
DEEPEST = 40


class NotYaml(ValueError):
    """Why a text cannot be read; `line` and `column` from 1."""

    def __init__(self, line: int, column: int, words: str) -> None:
        super().__init__(words)
        self.line, self.column, self.words = line, column, words


def load(text: str, comments: bool = False) -> Any:
    """The data in YAML (or JSON) `text`; with `comments` in a form that knows its lines. Raises NotYaml."""
    from ruamel.yaml import YAML
    from ruamel.yaml.error import MarkedYAMLError, YAMLError

    if len(text) > LARGEST:
        raise NotYaml(1, 1, f"the text has {len(text)} characters; at most {LARGEST} are read")
    try:
        _bound_depth(text)
        data = YAML(typ="rt").load(io.StringIO(text)) if comments else YAML(typ="safe", pure=True).load(text)
    except NotYaml:
        raise
    except MarkedYAMLError as exc:
        mark = exc.problem_mark or exc.context_mark
        line, column = (mark.line + 1, mark.column + 1) if mark else (1, 1)
        raise NotYaml(line, column, f"not YAML: {exc.problem or exc.context}") from exc
    except (YAMLError, ValueError, TypeError, UnicodeError) as exc:
        raise NotYaml(1, 1, f"not YAML: {str(exc).splitlines()[0] if str(exc) else type(exc).__name__}") from exc
    except RecursionError as exc:
        raise NotYaml(1, 1, f"nested deeper than {DEEPEST}") from exc
    if _weight(data, {}, 0) > MOST_NODES:
        raise NotYaml(1, 1, f"its aliases stand for more than {MOST_NODES} entries; write them out")
    return data


def tree(text: str) -> Any:
    """The nodes of a text that `load` has read, each with the place where it starts and ends in it; None of an empty
    one."""
    from ruamel.yaml import YAML

    return YAML(typ="safe", pure=True).compose(text)


def _bound_depth(text: str) -> None:
    """Raises NotYaml as soon as the text goes too deep: what is built of it would take seconds."""
    from ruamel.yaml import YAML
    from ruamel.yaml.events import CollectionEndEvent, CollectionStartEvent

    depth = 0
    for event in YAML(typ="safe", pure=True).parse(text):
        depth += isinstance(event, CollectionStartEvent) - isinstance(event, CollectionEndEvent)
        if depth > DEEPEST:
            raise NotYaml(event.start_mark.line + 1, event.start_mark.column + 1, f"nested deeper than {DEEPEST}")


def _weight(node: Any, known: dict[int, float], depth: int) -> float:
    """How many entries a node stands for; without end where it holds itself. Raises NotYaml where it is too deep."""
    if depth > DEEPEST:
        raise NotYaml(1, 1, f"nested deeper than {DEEPEST}")
    if not isinstance(node, dict | list):
        return 1
    if id(node) not in known:
        known[id(node)] = float("inf")  # while it is being counted
        inner = [*node.keys(), *node.values()] if isinstance(node, dict) else node
        known[id(node)] = 1 + sum(_weight(child, known, depth + 1) for child in inner)
    return known[id(node)]


def dump(data: Any) -> str:
    """Plain data as YAML, in its own order, small mappings on one line."""
    from ruamel.yaml import YAML

    yaml = YAML(typ="safe", pure=True)
    yaml.default_flow_style = None
    yaml.sort_base_mapping_type_on_output = False  # type: ignore[assignment]
    yaml.width = 120
    stream = io.StringIO()
    yaml.dump(data, stream)
    return stream.getvalue()
