"""The run worker: a process of its own beside the web server, taking runs from the queue."""

from __future__ import annotations

import logging
import os
import sys
import threading
import time
from pathlib import Path

from handrail.service.tasks import RECORDS, queue


def main(home: Path) -> None:
    """Work until told to stop, or until the server that started this is gone."""
    from handrail.store.opening import open_database

    logging.basicConfig(level=logging.INFO, format='{"at":"%(asctime)s","log":"%(name)s","level":"%(levelname)s","text":"%(message)s"}')
    logging.getLogger("huey").setLevel(logging.WARNING)
    open_database(home / RECORDS)
    parent = os.getppid()

    def watch() -> None:
        while os.getppid() == parent:
            time.sleep(0.5)
        os._exit(3)

    threading.Thread(target=watch, daemon=True).start()
    queue(home).create_consumer(workers=1, periodic=False, initial_delay=0.05, max_delay=0.5, check_worker_health=False).run()


if __name__ == "__main__":
    main(Path(sys.argv[1]))
