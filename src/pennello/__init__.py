"""Pennello predicts what a loaded brush lays, for face painters."""

__version__ = "0.31.0"
