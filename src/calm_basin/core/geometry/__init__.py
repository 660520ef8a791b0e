"""Surfaces, drops and straightedges: numbers only."""
