"""`handrail serve`: the web server and the run worker, started together and stopped together."""

from __future__ import annotations

import logging
import signal
import subprocess
import sys
import threading
import time
from pathlib import Path

from handrail import __version__
from handrail.service.app import create_app
from handrail.store import connections, runs
from handrail.store.database import proxy, writing

log = logging.getLogger("handrail.serve")


class Stopped(Exception):
    """The service was told to stop."""


def serve(home: Path, host: str = "127.0.0.1", port: int = 8740, threads: int = 8) -> None:
    """Serve until a signal; a worker that dies is started again, and its run marked interrupted."""
    from waitress.server import create_server

    logging.basicConfig(level=logging.INFO, format="%(asctime)s %(name)s %(message)s", stream=sys.stderr)
    app = create_app(home)
    with proxy.connection_context():
        left = runs.interrupt_left_over()
        with writing():
            connections.mark_other_engines(__version__)
        for run_id in runs.waiting():  # one that was acknowledged but not queued yet; twice in the queue does no harm
            app.extensions["handrail.queue"].enqueue_run(run_id)
    if left:
        log.info("%s run(s) were under way when the service stopped; they can be started again", left)
    try:
        server = create_server(app, host=host, port=port, threads=threads, ident="handrail", max_request_body_size=1024**3)
    except OSError as exc:
        raise SystemExit(f"handrail: cannot listen on {host}:{port} ({exc.strerror}); choose another with --port") from exc
    halt = threading.Event()
    keeper = threading.Thread(target=_keep_worker, args=(home, halt), daemon=True)
    keeper.start()

    def stop(*_: object) -> None:
        raise Stopped

    signal.signal(signal.SIGTERM, stop)
    signal.signal(signal.SIGINT, stop)
    try:
        server.run()
    except Stopped:
        pass
    finally:
        halt.set()
        server.close()
        keeper.join(timeout=10)


def _keep_worker(home: Path, halt: threading.Event) -> None:
    while not halt.is_set():
        worker = subprocess.Popen([sys.executable, "-m", "handrail.service.worker", str(home)])
        while worker.poll() is None and not halt.is_set():
            halt.wait(0.2)
        if halt.is_set():
            worker.send_signal(signal.SIGTERM)
            try:
                worker.wait(timeout=8)
            except subprocess.TimeoutExpired:
                worker.kill()
            return
        log.warning("the run worker ended with %s; starting it again", worker.returncode)
        with proxy.connection_context():
            runs.interrupt_left_over()
        time.sleep(0.5)
