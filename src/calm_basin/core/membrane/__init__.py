"""The membrane: how far it goes, and every piece of it in the order in which it is laid."""
