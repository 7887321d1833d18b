"""Writes the types of the client's answers from the document of the API; --check says whether those that stand are
they."""

from __future__ import annotations

import json
import subprocess
import sys
import tempfile
from pathlib import Path
from typing import Any

ROOT = Path(__file__).parent.parent
DOCUMENT, FILE = ROOT / "src/handrail/service/openapi.json", ROOT / "src/handrail/client/answers.py"
HEAD = '"""What the service answers, as the document of its API says it; made by `make openapi`, not by hand."""\n'


def answered(document: dict[str, Any]) -> dict[str, Any]:
    """The document with the models of its answers alone."""
    wanted = {
        name
        for path in document["paths"].values()
        for call in path.values()
        for status, answer in call["responses"].items()
        if status.startswith("2")
        for name in _named(answer)
    }
    schemas, found = document["components"]["schemas"], set[str]()
    while wanted:
        name = wanted.pop()
        found.add(name)
        wanted |= _named(schemas[name]) - found
    own = {name: schemas[name] for name in sorted(found)}
    return document | {"paths": {}, "components": {"schemas": own}}


def _named(node: Any) -> set[str]:
    """The models that are named in a part of the document."""
    if isinstance(node, dict):
        own = {node["$ref"].rpartition("/")[2]} if "$ref" in node else set()
        return own.union(*(_named(value) for value in node.values()))
    return set().union(*(_named(value) for value in node)) if isinstance(node, list) else set()


def written(document: dict[str, Any]) -> str:
    """The types, laid out as the rest of the code is."""
    with tempfile.TemporaryDirectory() as folder:
        given, made = Path(folder) / "answers.json", Path(folder) / "answers.py"
        given.write_text(json.dumps(answered(document)), encoding="utf-8")
        options = ("--output-model-type", "typing.TypedDict", "--target-python-version", "3.11", "--disable-timestamp")
        kinds = ("--input-file-type", "openapi", "--use-union-operator", "--use-standard-collections")
        command = [sys.executable, "-W", "ignore", "-m", "datamodel_code_generator", "--input", str(given)]
        subprocess.run([*command, "--output", str(made), *kinds, *options], check=True)
        lines = made.read_text(encoding="utf-8").splitlines()
        body = "\n".join(line for line in lines if not line.startswith("#")).strip()
        made.write_text(f"{HEAD}\n{body}\n", encoding="utf-8")
        laid = [sys.executable, "-m", "ruff"]
        config = ("--config", str(ROOT / "pyproject.toml"), "-q", str(made))
        subprocess.run([*laid, "check", "--fix", *config], check=True)
        subprocess.run([*laid, "format", *config], check=True)
        return made.read_text(encoding="utf-8")


if __name__ == "__main__":
    text = written(json.loads(DOCUMENT.read_text(encoding="utf-8")))
    if "--check" not in sys.argv[1:]:
        FILE.write_text(text, encoding="utf-8")
    elif FILE.read_text(encoding="utf-8") != text:
        sys.exit("the types of the client are not those of the API: run 'make openapi'")
