"""Rating by ANSI/AGMA 2101-D04 with the geometry factors of AGMA 908-B89, metric."""
