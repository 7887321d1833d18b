"""One connection, the batch, what acts, results, remedies, trials."""
