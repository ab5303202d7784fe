"""Juxtaform: plan a picture story shot by shot and see that it holds together."""

__version__ = "0.1.0"
