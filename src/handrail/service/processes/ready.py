"""What every process of the service needs, read and made once: they part from a process that has imported this, and
share its memory. Nothing here computes: a library that has begun threads of its own would not live on in them."""

from __future__ import annotations

import gc

gc.disable()  # nothing of what is imported goes

from handrail.core.quantities import units  # noqa: E402
from handrail.service.processes import answering, opening, web, worker  # noqa: E402

KINDS = {
    "web": web.main,
    "answering": answering.main,
    "worker": worker.main,
    "opening": opening.main,
    "first account": opening.first_account,
    "giving up": opening.give_up,
}

units.registry()
gc.collect()
gc.freeze()  # what is there stays there: to look through it would copy it
gc.enable()
