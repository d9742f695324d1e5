"""The open plan: document, history, autosave, settings, jobs. No Qt."""
