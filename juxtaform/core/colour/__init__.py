"""Colours: spaces and differences, the main colours of a picture, the light on them, and their names."""
