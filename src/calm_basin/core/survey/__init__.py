"""The room and floor that are there."""
