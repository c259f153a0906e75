"""The errors of what is declared."""

from __future__ import annotations

from glent.core.errors import GlentError

__all__ = ["DeclarationError"]


class DeclarationError(GlentError, ValueError):
    """A declaration that cannot be; the message names the line of code, and the other one where there are two."""
