"""What everybody opens of a large job is worked out before anybody asks: by a process that answers, while nobody wants
anything of it."""

from __future__ import annotations

import time
from contextlib import suppress
from dataclasses import dataclass, field

from handrail.service.api.long import ahead_of_all
from handrail.store import jobs, questions
from handrail.store.database import proxy as records
from handrail.store.database import rows
from handrail.store.models import Job

LARGE = 5000  # connections of a job that is large
JOBS = 2  # large ones, those that were worked at last
SETTLED, LOOK = 2.0, 0.5  # seconds without a change, and between two looks
VIEWS = ("model/shape", "model/states", "model/names", "survey", "patterns", "schedule", "progress")
_LARGE = (
    "SELECT j.id FROM job j JOIN revision r ON r.job_id = j.id WHERE r.number = (SELECT max(number) FROM revision WHERE"
    " job_id = j.id) AND r.number > 0 AND r.connections >= ? AND NOT EXISTS (SELECT 1 FROM import WHERE job_id = j.id"
    " AND state IN ('queued', 'running')) ORDER BY max(coalesce((SELECT max(started) FROM run WHERE job_id = j.id), 0),"
    " coalesce((SELECT max(started) FROM import WHERE job_id = j.id), 0)) DESC LIMIT ?"
)


@dataclass
class Ahead:
    """What the process number `house` asks by itself."""

    house: int
    looked: float = 0.0
    seen: dict[int, tuple[str, float]] = field(default_factory=dict)  # job -> how it stands, since when it was seen so
    asked: dict[str, float] = field(default_factory=dict)  # by digest

    def ask(self) -> None:
        """One question more, where all that is known is answered and something is not."""
        if time.monotonic() - self.looked < LOOK:
            return
        self.looked = time.monotonic()
        with records.connection_context():
            for (number,) in rows(_LARGE, LARGE, JOBS):
                job = Job.get_or_none(Job.id == number)
                if (
                    job is not None
                    and questions.house_of(job.name) == self.house
                    and self._settled(job)
                    and self._of(job)
                ):
                    return

    def _settled(self, job: Job) -> bool:
        stands = jobs.stands(job)
        if self.seen.get(job.id, ("", 0.0))[0] != stands:
            self.seen[job.id] = (stands, time.monotonic())
        return time.monotonic() - self.seen[job.id][1] > SETTLED

    def _of(self, job: Job) -> bool:
        """Whether something is asked of it. What was refused is not asked again until it stands otherwise."""
        for view in VIEWS:
            asked = ahead_of_all(job, view)
            if asked.digest not in self.asked and not questions.known(asked.digest):
                self.asked = dict(list(self.asked.items())[-100:]) | {asked.digest: time.monotonic()}
                with suppress(questions.TooMany):  # people ask enough
                    questions.ask(asked)
                return True
        return False
