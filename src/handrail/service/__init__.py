"""The Flask service: accounts, jobs, runs, overrides, and the console it serves."""
