"""The vertical cut."""
