"""The painter's kit in SQLite."""
