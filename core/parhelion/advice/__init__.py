"""Findings: one rule a function, each with its number, action, reason and source."""
