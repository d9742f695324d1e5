"""The Tray: paints, cakes, brushes and sponges of the kit."""
