"""Simulated outside services that ship with the product; they know nothing of the rest of it."""
