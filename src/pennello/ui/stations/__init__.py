"""The stations, in the order of the work."""
