"""Sound on the sequence: what a recording holds, where sounds lie, what is wrong with them, and how they are mixed."""
