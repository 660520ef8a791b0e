"""Findings: the solved floor held against the rule set and against itself, a room a subject."""
