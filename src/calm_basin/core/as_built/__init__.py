"""The floor as it was built: read, held against the plan, and what brings it back."""
