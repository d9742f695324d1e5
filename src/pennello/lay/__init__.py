"""From the loaded edge to paint on skin: how the nib moves, what it leaves, and how that looks."""
