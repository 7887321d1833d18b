"""What every standard for a beam's hinged end shares: sizes of bolts and beam end, how it comes to its support, its
drawing."""
