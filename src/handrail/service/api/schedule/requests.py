"""What requests about this subject take. Numbers as in `api/requests`."""

from pydantic import Field

from handrail.service.api.requests import Query


class ScheduleQuery(Query):
    where: str = Field("", max_length=20_000, description="only these connections")
