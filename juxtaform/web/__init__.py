"""Thin routers and schemas over the use cases."""
