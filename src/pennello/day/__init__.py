"""A day of painting: the event, its menu, the queue, the bag and the books."""
