"""What is around the gears: shafts, bearings, keys, splines, fits; pure functions over numbers and arrays."""
