"""What is learned from many takes: what rescues one, what faults share, which setting holds better, what is still to be spent."""
