"""The twelve designs of the Saltmarsh Lantern Walk, written down as a painter would say them. All of it is invented."""
