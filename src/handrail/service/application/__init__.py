"""What the service does, whoever asks: it looks, works out, writes."""
