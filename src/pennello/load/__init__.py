"""From the cake to the brush: recipes of pick-ups and the loaded edge that they leave."""
