"""Simulated stand-ins for instruments; a real one would answer the same calls."""
