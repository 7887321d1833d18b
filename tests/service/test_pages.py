"""A connection's page is worked out from the few members around it: it says what the list says, which was worked out
from the whole building."""

from __future__ import annotations

from tests.service.running import Service


def test_pages_stand_on_what_the_run_stood_on(tmp_path):
    """Of the demo every twelfth connection, of each framing condition with each standard the first six: none is stale
    on its own page."""
    service = Service(tmp_path / "home").start()
    try:
        client = service.client()
        rows = client.connections("alder-street")
        kinds = {(r["framing"], r["standard"]) for r in rows}
        first = {r["connection"] for of in kinds for r in [x for x in rows if (x["framing"], x["standard"]) == of][:6]}
        for row in [r for k, r in enumerate(rows) if k % 12 == 0 or r["connection"] in first]:
            page = client.connection("alder-street", row["connection"])
            assert (page["status"], page["utilisation"], page["reason"]) == (
                row["status"],
                row["utilisation"],
                row["reason"],
            ), row["connection"]
    finally:
        service.stop()
