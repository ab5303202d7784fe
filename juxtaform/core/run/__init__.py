"""The sequence in time: what is seen and heard when, moves within a picture, words read along, lengths trimmed."""
