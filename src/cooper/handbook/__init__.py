"""The handbook: tasks in the order of the work, and a page for every quantity, check, note, command, sheet and lens."""
