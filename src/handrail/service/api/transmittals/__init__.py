"""What leaves the house, frozen."""
