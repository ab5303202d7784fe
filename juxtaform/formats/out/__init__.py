"""The sequence as files that other programs open: each writer takes the same sequence, tells how far it is, and can be stopped."""
