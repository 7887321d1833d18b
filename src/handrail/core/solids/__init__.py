"""A connection in space: its pieces in place as plain data, and what is read from them."""
