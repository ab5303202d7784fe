"""Which place a picture shows, with its figures taken out: the ground in cells, matched cell by cell."""
