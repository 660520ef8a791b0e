"""What carries the floor."""
