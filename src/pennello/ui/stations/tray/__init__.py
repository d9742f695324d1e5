"""The Tray: what the painter owns."""
