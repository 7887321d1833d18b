"""Models: imports, maps, the survey, patterns, groups."""
