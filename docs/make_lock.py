"""Writes `requirements.lock`: what a fresh machine takes, package by package, with version and digest, as pip resolves
`pyproject.toml` today. It names no address, and holds for the Python and the system that it says in its first line."""

from __future__ import annotations

import json
import platform
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).parents[1]
LOCK = ROOT / "requirements.lock"
RESOLVE = ("--dry-run", "--ignore-installed", "--quiet", "--disable-pip-version-check", "--report", "-")


def machine() -> str:
    """What a lock holds for."""
    return f"python {sys.version_info[0]}.{sys.version_info[1]} {platform.system()} {platform.machine()}"


def lock() -> str:
    """The text of the lock."""
    said = subprocess.run(
        [sys.executable, "-m", "pip", "install", *RESOLVE, "-e", f"{ROOT}[dev]"], check=True, stdout=subprocess.PIPE
    ).stdout
    lines = [f"# {machine()}; made by docs/make_lock.py"]
    for found in sorted(json.loads(said)["install"], key=lambda one: str(one["metadata"]["name"]).lower()):
        digest = found["download_info"].get("archive_info", {}).get("hashes", {}).get("sha256")
        if digest:  # the project itself has none
            lines.append(f"{found['metadata']['name']}=={found['metadata']['version']} --hash=sha256:{digest}")
    return "\n".join(lines) + "\n"


def main() -> int:
    """Write it; with `--holds` say whether it holds for this machine."""
    if "--holds" in sys.argv:
        first = LOCK.read_text(encoding="utf-8").splitlines()[0] if LOCK.exists() else ""
        return 0 if first.startswith(f"# {machine()};") else 1
    LOCK.write_text(lock(), encoding="utf-8")
    return 0


if __name__ == "__main__":
    sys.exit(main())
