"""Motifs: living constructors over strokes. A motif knows its own millimetres and parts, no chart and no plan."""
