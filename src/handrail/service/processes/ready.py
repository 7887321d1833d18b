"""What every process of the service needs, read and made once: they part from a process that has imported this, and
share its memory. Nothing here computes: a library that has begun threads of its own would not live on in them."""

from __future__ import annotations

import gc

from handrail.core.quantities import units
from handrail.service.processes import answering, web, worker

KINDS = {"web": web.main, "answering": answering.main, "worker": worker.main}

units.registry()
gc.collect()
gc.freeze()  # what is there stays there: to look through it would copy it
