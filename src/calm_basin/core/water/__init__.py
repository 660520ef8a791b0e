"""What the water does on the floor, and how it leaves."""
