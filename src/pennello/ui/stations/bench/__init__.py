"""The Bench: cake, edge, skin and the read-out beneath them."""
