"""The analysis model of a building: what it holds, its audit, its framing."""
