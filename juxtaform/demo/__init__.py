"""The demo project: a small illustrator that draws from parameters, a story, and how it is loaded."""
