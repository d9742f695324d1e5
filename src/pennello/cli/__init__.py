"""The command line: argparse verbs over the same services as the window."""
