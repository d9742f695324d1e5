"""The plan: what is painted with what, and pure edits of it."""
