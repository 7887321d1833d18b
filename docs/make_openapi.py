"""Writes the document of the API from the service itself; --check says whether the one that stands is it."""

import json
import os
import sys
import tempfile
from pathlib import Path

os.environ["HANDRAIL_DESCRIBE"] = "1"  # before the service is read

from handrail.service.api.app import HERE, create_app

with tempfile.TemporaryDirectory() as home:
    document = create_app(Path(home)).test_client().get("/api/v1/openapi.json").get_json()
text = json.dumps(document, indent=1, sort_keys=True) + "\n"
file = HERE / "openapi.json"
if "--check" not in sys.argv[1:]:
    file.write_text(text, encoding="utf-8")
elif file.read_text(encoding="utf-8") != text:
    sys.exit("the document of the API is not that of the service: run 'make openapi'")
