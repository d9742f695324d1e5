"""Body charts: line drawings from measures, with landmarks, places to keep clear, and frames to paint along."""
