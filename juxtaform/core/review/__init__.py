"""Findings put in the order in which they are worth looking at: by how much a reader sees of them, and by what they come from."""
