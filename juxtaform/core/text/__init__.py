"""A story's text: passages, names, who speaks, breakdown into moments, how long words take, and what an edit moved."""
