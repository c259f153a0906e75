"""What is optional: a missing package is a sentence with the ``pip install`` that brings it."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

from glent.core.errors import MissingExtraError

__all__ = ["needs"]


@contextmanager
def needs(extra: str, what: str) -> Iterator[None]:
    """Import packages of an extra, for something that needs them.

    :raises MissingExtraError: one is not installed.
    """
    try:
        yield
    except ModuleNotFoundError as error:
        if isinstance(error, MissingExtraError) or (error.name or "glent").partition(".")[0] == "glent":
            raise
        sentence = f"{what} needs {error.name}, which is not installed: pip install 'glent[{extra}]'"
        raise MissingExtraError(sentence, name=error.name) from None
