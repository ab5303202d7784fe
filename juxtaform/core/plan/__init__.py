"""The plan before any picture: sizes, angles and moves, the grammar of shots, what a still can show, numbering."""
