"""One gear and one pair: basic rack, tooth profile, mesh geometry.

Lengths in mm, angles in rad. Every function takes scalars or NumPy arrays that broadcast.
"""
