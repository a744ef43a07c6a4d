"""The Qt interface: the only folder that imports Qt."""
