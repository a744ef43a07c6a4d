"""ISO 6336: load factors (part 1), pitting (part 2), tooth breakage (part 3).

Every function takes scalars or arrays that broadcast; mm, N, MPa, m/s, rad. Validity is told by `notes` of the
evaluated design, not by an exception here.
"""
