"""Briefs with hand-made truth, told in many made-up worlds."""
