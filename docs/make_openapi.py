"""Writes docs/openapi.json from the service itself."""

import json
import tempfile
from pathlib import Path

from handrail.service.app import create_app

with tempfile.TemporaryDirectory() as home:
    document = create_app(Path(home)).test_client().get("/api/v1/openapi.json").get_json()
Path(__file__).with_name("openapi.json").write_text(json.dumps(document, indent=1, sort_keys=True) + "\n", encoding="utf-8")
