"""German, French and Spanish by the closed classes of their grammar, and any other language by its names."""
