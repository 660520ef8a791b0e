"""Setting out: what is marked on floor and walls, screed pins and check lines."""
