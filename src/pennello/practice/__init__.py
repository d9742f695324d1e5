"""What practice teaches: the painter's own constants, fitted to what he saw."""
