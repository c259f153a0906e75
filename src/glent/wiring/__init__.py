"""The seam between UI and game: named events and values out, named commands in, requests that may be refused."""

from __future__ import annotations

from glent.controls.types import TYPES
from glent.wiring.contract import Contract, End
from glent.wiring.ends import COMMANDS, Command
from glent.wiring.errors import Problem, WiringError
from glent.wiring.rehearsal import Rehearsal
from glent.wiring.requests import Message, Request, Requests
from glent.wiring.wiring import Wiring, wiring_of

__all__ = [
    "COMMANDS",
    "TYPES",
    "Command",
    "Contract",
    "End",
    "Message",
    "Problem",
    "Rehearsal",
    "Request",
    "Requests",
    "Wiring",
    "WiringError",
    "wiring_of",
]
