"""What every subject says in one way."""
