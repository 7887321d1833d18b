"""What leaves the house together: a zip with an index page, proved later."""
