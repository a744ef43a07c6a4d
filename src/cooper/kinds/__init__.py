"""What a toothed body is, one file a kind, all of one shape: external and internal wheels, the rack."""
