"""The computation: arrays and frozen dataclasses in and out; no files, web, database or clock."""
