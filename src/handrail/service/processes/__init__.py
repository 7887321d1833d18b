"""The processes that the service is: the server, those that answer, those that work."""
