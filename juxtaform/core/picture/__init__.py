"""One picture as it is: regions, borders, pages and panels, likeness, fitness as a reference, plates and sheets."""
