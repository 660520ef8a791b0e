"""The build-up, the recess and the step at the entry."""
