"""The job's mathematics: from a plan to its solution, and nothing of screens, files or clocks."""
