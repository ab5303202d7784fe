"""Outside services, asked over our open protocols."""
