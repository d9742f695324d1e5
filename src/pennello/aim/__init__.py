"""What is wanted, how far the laid stroke is from it, why, and what mends it."""
