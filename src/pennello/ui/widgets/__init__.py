"""Small parts that every station uses."""
