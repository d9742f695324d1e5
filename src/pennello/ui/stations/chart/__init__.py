"""The Chart: motifs placed on a person."""
