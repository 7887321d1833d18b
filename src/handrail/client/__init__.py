"""The client library: `Client(server, token)` and methods that read like the sentence you would say."""

from handrail.client.client import Client, ServiceError
from handrail.client.solved import Solved

__all__ = ["Client", "ServiceError", "Solved"]
