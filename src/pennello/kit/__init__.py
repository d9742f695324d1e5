"""What lies on the table: paints, cakes, brushes, and the catalogue that Pennello ships."""
