"""Families of strokes that painters name, each a small constructor on the same path and nib (common practice)."""
