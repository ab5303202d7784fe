"""Clips: drift of characters and style along them, flicker, where they begin to slip, and what to cut."""
