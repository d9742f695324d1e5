"""Colour physics: spectra, Kubelka-Munk films, differences. NumPy only."""
