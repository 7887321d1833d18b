"""The pieces a connection is made of: each its geometry, its limit states under a code, its detailing rules."""
