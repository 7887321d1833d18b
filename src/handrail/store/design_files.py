"""Files that belong to revisions of house designs: calculations, sketches, certificates."""

from __future__ import annotations

import hashlib
from typing import Any

from handrail.core.errors import InputError
from handrail.store import designs
from handrail.store.attachments import MOST, SAID, TOGETHER, checked, room
from handrail.store.database import rows, writing
from handrail.store.models import DesignFile, HouseDesign

OF_HOUSE = 4 * 1024**3  # bytes of all of them


def add(kept: HouseDesign, name: str, media: str, data: bytes, author: str) -> DesignFile:
    """Keep a file. Raises InputError for an empty or too large one, too many, or one that is there already."""
    name = checked(name, data)
    digest = hashlib.sha256(data).hexdigest()
    with writing():
        there = list(DesignFile.select(DesignFile.name, DesignFile.digest).where(DesignFile.design == kept))
        if len(there) >= MOST:
            raise InputError(f"design {designs.called(kept)} has {MOST} files already")
        if any((one.name, one.digest) == (name, digest) for one in there):
            raise InputError(f"design {designs.called(kept)} has {name} already")
        room(DesignFile, DesignFile.design == kept, TOGETHER, f"design {designs.called(kept)}", len(data))
        room(DesignFile, DesignFile.id > 0, OF_HOUSE, "all designs", len(data))
        return DesignFile.create(
            design=kept, name=name, media=media[:100], size=len(data), digest=digest, data=data, author=author
        )


def of(kept: HouseDesign) -> list[dict[str, Any]]:
    """The files of a revision, without what is in them."""
    asked = f"SELECT {', '.join(SAID)} FROM designfile WHERE design_id = ? ORDER BY id"
    return [dict(zip(SAID, row, strict=True)) for row in rows(asked, kept.id)]


def find(kept: HouseDesign, number: int) -> DesignFile | None:
    """One of them."""
    return DesignFile.get_or_none((DesignFile.id == number) & (DesignFile.design == kept))


def all_of(kept: HouseDesign) -> list[DesignFile]:
    """All of a revision, with what is in them."""
    return list(DesignFile.select().where(DesignFile.design == kept).order_by(DesignFile.id))


def remove(file: DesignFile) -> bool:
    """It is gone, if it is a draft's still."""
    drafts = HouseDesign.select(HouseDesign.id).where(HouseDesign.state == designs.DRAFT)
    with writing():
        where = (DesignFile.id == file.id) & DesignFile.design.in_(drafts)
        return bool(DesignFile.delete().where(where).execute())
