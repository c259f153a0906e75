"""Opening the place where a node is declared in the user's editor."""

from __future__ import annotations

import shlex
import shutil
import subprocess
import threading
from typing import TYPE_CHECKING

from glent.core.errors import GlentError
from glent.formats.keeping import Source, source_of

if TYPE_CHECKING:
    from glent.core.scene.node import Node

__all__ = ["Editor", "EditorError"]

FIELDS = ("{file}", "{line}", "{column}")


class EditorError(GlentError, ValueError):
    """No editor can be opened, or nothing to open it at."""


class Editor:
    """A command that opens a file at a line.

    :param command: the command, in which ``{file}``, ``{line}`` and ``{column}`` stand for those: ``"code -g
        {file}:{line}:{column}"``, ``"vim +{line} {file}"``. Without ``{file}`` the file is its last argument. It is run
        as it stands, without a shell.
    :raises EditorError: it is empty, its quotes do not match, or there is no such program.
    """

    __slots__ = ("_words",)

    def __init__(self, command: str) -> None:
        try:
            words = shlex.split(command)
        except ValueError as error:
            raise EditorError(f"the editor's command {command!r} cannot be read: {error}") from None
        if not words:
            raise EditorError("the editor's command is empty, expected one such as 'vim +{line} {file}'")
        if shutil.which(words[0]) is None:
            raise EditorError(f"the editor's command begins with {words[0]!r}, and there is no such program")
        self._words = words if any("{file}" in word for word in words) else [*words, "{file}"]

    def words(self, source: Source) -> list[str]:
        """The command for a place, word by word."""
        values = dict(zip(FIELDS, (str(source.file.resolve()), str(source.line), str(source.column)), strict=True))
        made = []
        for word in self._words:
            for field, value in values.items():
                word = word.replace(field, value)
            made.append(word)
        return made

    def open(self, node: Node) -> Source:
        """Open the place where a node is declared, without waiting for the editor. Return the place.

        :raises EditorError: the node stands in no file, or the command cannot be run.
        """
        source = source_of(node)
        if source is None:
            raise EditorError(f"{node.path}: stands in no file, code has made it")
        try:
            started = subprocess.Popen(self.words(source), stdin=subprocess.DEVNULL, start_new_session=True)
        except OSError as error:
            raise EditorError(f"the editor cannot be run: {error.strerror or error}") from None
        threading.Thread(target=started.wait, name="glent-editor", daemon=True).start()  # it leaves no zombie
        return source
