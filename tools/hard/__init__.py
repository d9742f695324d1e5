"""What may go wrong, tried on purpose: kills, damaged files, full disks, a monkey at the window (`make hard`)."""
