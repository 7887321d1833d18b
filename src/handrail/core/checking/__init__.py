"""One connection, the batch, results, remedies and the calculation trace."""
