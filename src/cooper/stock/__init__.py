"""Materials, lubricants and standard series: data files with their source, and their loaders."""
