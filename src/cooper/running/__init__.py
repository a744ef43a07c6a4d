"""Backlash, losses and heat of a running mesh."""
