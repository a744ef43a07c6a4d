"""Arrangements, kinematics, power flow."""
