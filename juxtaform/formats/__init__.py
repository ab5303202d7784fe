"""One module a format, read and write."""
