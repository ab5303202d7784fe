"""Briefs: composed from the plan, trimmed to a service, looked over before they leave; versions of references."""
