"""The console's pure logic: its own unit tests, run here so that one command and one report cover all."""

from __future__ import annotations

import json
import subprocess
from pathlib import Path

WEB = Path(__file__).parents[2] / "web"


def test_units_of_the_console(tmp_path):
    """Every test beside `web/src` passes, and those that there are were run."""
    found = tmp_path / "vitest.json"
    ran = subprocess.run(
        ["npx", "--no-install", "vitest", "run", "--reporter=json", f"--outputFile={found}"],
        cwd=WEB,
        capture_output=True,
        text=True,
        timeout=300,
        check=False,
    )
    assert found.exists(), ran.stdout + ran.stderr
    told = json.loads(found.read_text(encoding="utf-8"))
    failed = [
        f"{one['fullName']}: {' '.join(one['failureMessages'])}"
        for of in told["testResults"]
        for one in of["assertionResults"]
        if one["status"] != "passed"
    ]
    assert not failed and told["success"], "\n".join(failed) or ran.stderr
    assert len(told["testResults"]) == len(list(WEB.glob("src/**/*.test.ts")))
