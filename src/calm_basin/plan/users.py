"""Who will use the room: it decides which spaces are looked at."""

from __future__ import annotations

from typing import Literal

User = Literal["walks", "frame", "chair"]
"""Walks unaided, walks with a frame, sits in a chair."""
