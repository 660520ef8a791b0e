"""The heating cable: where it may lie, its way from the cold joint to its end, what it takes."""
