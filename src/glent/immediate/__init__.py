"""UI that code declares anew in each frame, over nodes and controls that are kept (laws I1–I6)."""

from glent.immediate.answers import Region, Window
from glent.immediate.draft import Draft
from glent.immediate.errors import DeclarationError
from glent.immediate.frame import Frame

__all__ = ["DeclarationError", "Draft", "Frame", "Region", "Window"]
