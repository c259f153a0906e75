"""A contract in a file, as JSON: the names between a UI and its game, to be compared with later ones (law N5)."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Annotated, Literal, get_args

from pydantic import Field

from glent.controls.types import TYPES
from glent.formats import text
from glent.formats.base_model import Many, Model, Nodes, Text
from glent.formats.errors import FileError
from glent.wiring.contract import END_KINDS, Contract, End

__all__ = ["ContractModel", "read_contract", "write_contract"]


class EndModel(Model):
    """One name."""

    name: Text
    kind: Literal["event", "request", "value", "command"]
    type: Text
    paths: Annotated[Many[Text], Field(min_length=1)]


assert get_args(EndModel.model_fields["kind"].annotation) == END_KINDS


class ContractModel(Model):
    """A file with a contract."""

    glent: Literal["contract"]
    version: Literal[2]
    ends: Nodes[EndModel]


def read_contract(path: str | Path) -> Contract:
    """The contract in a file.

    :raises FileError: the file cannot be read, is no contract of this version, or names an end or a type wrongly; the
        message says where.
    """
    path = Path(path)
    given = text.read_model(path, ContractModel)
    seen: set[str] = set()
    problems = []
    for number, end in enumerate(given.ends):
        if end.name in seen:
            problems.append((f"ends[{number}].name", f"found {end.name!r} twice; expected each name once"))
        if end.type not in TYPES:
            problems.append((f"ends[{number}].type", f"found {end.type!r}; expected one of {', '.join(TYPES)}"))
        seen.add(end.name)
    if problems:
        raise FileError(str(path), problems)
    return Contract([End(end.name, end.kind, end.type, tuple(end.paths)) for end in given.ends])


def write_contract(contract: Contract, path: str | Path) -> None:
    """Write a contract.

    :raises FileError: the file cannot be written; what stood there stays then.
    """
    text.write_whole(Path(path), json.dumps(contract.document(), indent=1, ensure_ascii=False) + "\n")
