"""What requests about this subject take. Numbers as in `api/requests`."""

from pydantic import Field

from handrail.service.api.requests import Body, JobPath, Number


class TransmittalPath(JobPath):
    number: Number


class NewTransmittal(Body):
    to: str = Field(max_length=200, description="to whom it goes")
    why: str = Field(max_length=2000, description="what for: for approval, for fabrication")
    where: str = Field("", max_length=20_000, description="only these connections; all, where nothing is said")
    anyway: str = Field("", max_length=2000, description="why what is not released goes along; empty: it stays here")
    preview: bool = Field(False, description="what would be in it; nothing is made")
