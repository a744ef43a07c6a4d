"""What every room of the desk stands on: the session, settings, theme, registry, workers."""
