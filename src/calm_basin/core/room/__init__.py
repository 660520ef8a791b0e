"""What follows from the room itself."""
