"""Order of painting: steps, drying, time, and the run at the chair."""
