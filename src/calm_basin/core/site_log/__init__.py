"""The site log: what was done, read and tested, and the verdict on it."""
