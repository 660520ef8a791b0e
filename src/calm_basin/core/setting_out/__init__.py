"""Screed pins and check lines."""
