"""Finding out why: what got in the way, and where the world is reached. Results are data."""

from __future__ import annotations

from glent.diagnose.check import check, examine
from glent.diagnose.findings import CODES, STRICT, Examination, Finding, Mend
from glent.diagnose.focus_map import FocusMap, FocusStop, focus_map
from glent.diagnose.key_story import KeyStory, why_key
from glent.diagnose.kind_map import MAPS, kind_map
from glent.diagnose.map_change import MapChange, map_change
from glent.diagnose.pass_map import PassMap, Zone, pass_map
from glent.diagnose.sight import Outline, outlines
from glent.diagnose.spans import Span, spans_of
from glent.diagnose.story import NodeStory, SampleStory, standing, why_node, why_sample
from glent.diagnose.trial import is_interactive, is_pressable
from glent.diagnose.why import Consideration, Outcome, why, why_ray

__all__ = [
    "CODES",
    "MAPS",
    "STRICT",
    "Consideration",
    "Examination",
    "Finding",
    "FocusMap",
    "FocusStop",
    "KeyStory",
    "MapChange",
    "Mend",
    "NodeStory",
    "Outcome",
    "Outline",
    "PassMap",
    "SampleStory",
    "Span",
    "Zone",
    "check",
    "examine",
    "focus_map",
    "is_interactive",
    "is_pressable",
    "kind_map",
    "map_change",
    "outlines",
    "pass_map",
    "spans_of",
    "standing",
    "why",
    "why_key",
    "why_node",
    "why_ray",
    "why_sample",
]
