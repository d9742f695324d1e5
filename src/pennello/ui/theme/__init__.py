"""How it looks: two palettes, one typeface, own glyphs."""
