"""The client library: `Client(server, token)` and methods that read like the sentence you would say."""

from handrail.client.calling import ServiceError
from handrail.client.client import Client
from handrail.client.frames import Bar, Meant, write_frame
from handrail.client.solved import Solved

__all__ = ["Bar", "Client", "Meant", "ServiceError", "Solved", "write_frame"]
