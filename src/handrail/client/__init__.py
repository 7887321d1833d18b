"""The client library: `Client(server, token)` and methods that read like the sentence you would say."""

from handrail.client.client import Client, ServiceError

__all__ = ["Client", "ServiceError"]
