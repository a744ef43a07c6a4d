"""Contact and root strength, one standard a folder, one family of factors a file."""
