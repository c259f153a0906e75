"""Finding out why: what got in the way, and where the world is reached. Results are data."""

from __future__ import annotations

from glent.diagnose.check import check
from glent.diagnose.findings import CODES, STRICT, Finding, Mend
from glent.diagnose.focus_map import FocusMap, FocusStop, focus_map
from glent.diagnose.pass_map import PassMap, Zone, pass_map
from glent.diagnose.sight import Outline, outlines
from glent.diagnose.spans import Span, spans_of
from glent.diagnose.story import NodeStory, SampleStory, standing, why_node, why_sample
from glent.diagnose.trial import is_interactive
from glent.diagnose.why import Consideration, Outcome, why, why_ray

__all__ = [
    "CODES",
    "STRICT",
    "Consideration",
    "Finding",
    "FocusMap",
    "FocusStop",
    "Mend",
    "NodeStory",
    "Outcome",
    "Outline",
    "PassMap",
    "SampleStory",
    "Span",
    "Zone",
    "check",
    "focus_map",
    "is_interactive",
    "outlines",
    "pass_map",
    "spans_of",
    "standing",
    "why",
    "why_node",
    "why_ray",
    "why_sample",
]
