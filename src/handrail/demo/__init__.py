"""The demo: Alder Street Library, a made-up building, with its rulebook."""
