"""Build systems: put into a plan, held against it, told in cards, compared for a room."""
