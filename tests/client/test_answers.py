"""What a method of the client says it gives is what the document of the API says its endpoint answers."""

import ast
import json
import re
from functools import lru_cache
from pathlib import Path
from typing import Any

import pytest

ROOT = Path(__file__).parents[2] / "src/handrail"
DOCUMENT = json.loads((ROOT / "service/openapi.json").read_text(encoding="utf-8"))
CALLS = {
    (verb.upper(), re.sub(r"\{[^}]*\}", "{}", path).removeprefix("/api/v1")): call
    for path, calls in DOCUMENT["paths"].items()
    for verb, call in calls.items()
}


@lru_cache(maxsize=1)
def methods() -> dict[str, ast.FunctionDef]:
    """The public methods that call one endpoint and hand its answer on, by name."""
    trees = (ast.parse(file.read_text(encoding="utf-8")) for file in sorted((ROOT / "client").glob("*.py")))
    found = (node for tree in trees for node in ast.walk(tree) if isinstance(node, ast.FunctionDef))
    return {f.name: f for f in found if not f.name.startswith("_") and _call(f) is not None}


def _call(function: ast.FunctionDef) -> tuple[str, str, str] | None:
    """The method, the path and what of the answer is handed on, of a body that ends in one call."""
    last = function.body[-1]
    node = last.value if isinstance(last, ast.Return | ast.Expr) else None
    taken = ""
    if isinstance(node, ast.Subscript) and isinstance(node.slice, ast.Constant):
        node, taken = node.value, str(node.slice.value)
    if not (isinstance(node, ast.Call) and isinstance(node.func, ast.Attribute) and node.func.attr == "_call"):
        return None
    verb, path = node.args[:2]
    if not isinstance(verb, ast.Constant) or any(k.arg == "raw" for k in node.keywords):
        return None
    parts = path.values if isinstance(path, ast.JoinedStr) else [path]
    return str(verb.value), "".join(str(p.value) if isinstance(p, ast.Constant) else "{}" for p in parts), taken


def _said(schema: dict[str, Any]) -> str:
    """A schema as an annotation."""
    if "$ref" in schema:
        return "a." + schema["$ref"].rpartition("/")[2]
    if schema.get("type") == "array":
        return f"list[{_said(schema['items'])}]"
    return {"string": "str", "integer": "int", "boolean": "bool"}.get(schema.get("type", ""), "?")


def _answered(call: dict[str, Any], taken: str) -> str:
    schema = next(
        answer["content"]["application/json"]["schema"] if "content" in answer else {"type": "null"}
        for status, answer in call["responses"].items()
        if status.startswith("2")
    )
    if schema.get("type") == "null":
        return "None"
    if taken:
        schema = DOCUMENT["components"]["schemas"][schema["$ref"].rpartition("/")[2]]["properties"][taken]
    return _said(schema)


@pytest.mark.parametrize("name", sorted(methods()))
def test_a_method_says_what_its_endpoint_answers(name: str) -> None:
    function = methods()[name]
    called = _call(function)
    assert called is not None
    verb, path, taken = called
    assert (verb, path) in CALLS, f"{name} calls {verb} {path}, which the service has not"
    assert function.returns is not None
    said = ast.unparse(function.returns)
    if said != "None":  # an answer may be let go
        assert said == _answered(CALLS[verb, path], taken)
