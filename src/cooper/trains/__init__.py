"""Arrangements of members and meshes: speeds, torques, power flow, planets and tooth counts."""
