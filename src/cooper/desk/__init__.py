"""The Qt interface: the only folder that imports Qt."""

# What is imported after the toolkit is read by it, source and all, whether it asks for one of the toolkit's features: what is no part of the desk comes before.
import cooper.results.evaluate  # noqa: F401
