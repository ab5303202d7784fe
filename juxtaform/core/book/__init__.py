"""The sequence on paper: pages in their order, pictures and words laid on them, and what would go wrong in print."""
