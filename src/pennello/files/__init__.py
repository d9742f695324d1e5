"""Plans on disk, and what goes out: pictures and paper."""
