"""The search for designs."""
