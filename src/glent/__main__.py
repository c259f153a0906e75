"""``python -m glent`` and the ``glent`` command; says what to install where the extras are missing."""

from __future__ import annotations

import sys

__all__ = ["main"]


def main() -> None:
    """Run the command line."""
    try:
        from glent.cli import main as commands
    except ModuleNotFoundError as error:
        sys.stderr.write(f"glent: the command line needs {error.name}; pip install 'glent[tools,pygame]'\n")
        sys.exit(2)
    commands()


if __name__ == "__main__":
    main()
