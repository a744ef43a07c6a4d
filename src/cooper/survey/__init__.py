"""The search over whole designs: from a duty, or around a design that is there."""
