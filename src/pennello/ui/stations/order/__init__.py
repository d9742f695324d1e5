"""The Order station: the hand's steps on a line, what dries below, and the run at the chair."""
