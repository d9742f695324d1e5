"""Plane curves in millimetres; x to the right, y down, as on paper and in SVG."""
