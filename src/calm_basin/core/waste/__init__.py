"""The waste under the floor."""
