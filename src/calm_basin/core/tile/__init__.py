"""Tile: laid over the floor piece by piece, counted, and begun where its cuts come out best."""
