"""The live view: a look into the running game, in its own window or in a browser. Needs the extras ``tools`` and, for
the browser, ``live``."""

from __future__ import annotations

from glent.extras import needs

with needs("tools", "glent.live"):
    from glent.live.attributes import Attribute, attributes_of, change_attribute, read_attribute
    from glent.live.beneath import Beneath, beneath
    from glent.live.editor import Editor, EditorError
    from glent.live.edits import Edits
    from glent.live.inspection import Inspection
    from glent.live.outlines import LiveOutline
    from glent.live.overlay import Overlay

__all__ = [
    "Attribute",
    "Beneath",
    "Editor",
    "EditorError",
    "Edits",
    "Inspection",
    "LiveOutline",
    "Overlay",
    "attributes_of",
    "beneath",
    "change_attribute",
    "read_attribute",
]
