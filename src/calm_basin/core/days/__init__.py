"""What is done on which day: tasks, waits and hold points in the hours that are worked."""
