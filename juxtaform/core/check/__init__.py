"""The check: what is measured of a picture, what departs along a sequence, and what to go back to."""
