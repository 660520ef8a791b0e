"""Calm Basin: plans curbless showers and wet rooms before any build starts."""

__version__ = "0.1.0"
