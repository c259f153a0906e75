"""Text for plain painters: one well-made font at any size, wrapped and shortened to the room there is."""

from __future__ import annotations

from functools import lru_cache
from importlib.util import find_spec
from pathlib import Path

from glent.extras import needs

with needs("pygame", "the painter for pygame"):
    import pygame

__all__ = ["cut", "drawn", "font", "forget_fonts", "set_in", "wrapped"]

_fonts: dict[int, pygame.font.Font] = {}


@lru_cache(maxsize=1)
def _file() -> str | None:
    """The file of DejaVu Sans, which Matplotlib ships; None: pygame's own font, which spaces letters less evenly."""
    found = find_spec("matplotlib")
    if found is None or not found.submodule_search_locations:
        return None
    file = Path(found.submodule_search_locations[0]) / "mpl-data/fonts/ttf/DejaVuSans.ttf"
    return str(file) if file.exists() else None


def font(size: int) -> pygame.font.Font:
    """The font in a size, in pixels; made once for each."""
    if not pygame.font.get_init():
        pygame.font.init()
        _fonts.clear()
    if size not in _fonts:
        _fonts[size] = pygame.font.Font(_file(), size)
    return _fonts[size]


def forget_fonts() -> None:
    """Forget the fonts: none outlives pygame's font module, so whoever starts that anew calls this."""
    _fonts.clear()
    drawn.cache_clear()
    set_in.cache_clear()


@lru_cache(maxsize=2048)
def drawn(text: str, size: int, colour: tuple[int, ...]) -> pygame.Surface:
    """A line of text, drawn; kept, as most of what is written is written again in the next frame."""
    return font(size).render(text, True, colour)


@lru_cache(maxsize=2048)
def set_in(text: str, largest: int, smallest: int, width: int, height: int) -> tuple[int, tuple[str, ...]]:
    """The size and the lines in which a text has room in so many pixels: smaller if it has none, then wrapped, then
    cut."""
    size, lines = largest, [text]
    for size in (largest, max(smallest, round(largest * 0.85))):
        words = font(size)
        lines = wrapped(words, text, width)
        if len(lines) * words.get_linesize() <= height and all(words.size(line)[0] <= width for line in lines):
            break
    words = font(size)
    most = max(1, height // words.get_linesize())
    return size, tuple(cut(words, line, width) for line in lines[:most])


def wrapped(words: pygame.font.Font, text: str, width: float) -> list[str]:
    """The lines of a text, broken between words where they are wider than ``width`` pixels."""
    lines: list[str] = []
    for given in text.split("\n"):
        line = ""
        for word in given.split(" "):
            longer = f"{line} {word}" if line else word
            if line and words.size(longer)[0] > width:
                lines.append(line)
                line = word
            else:
                line = longer
        lines.append(line)
    return lines


def cut(words: pygame.font.Font, text: str, width: float) -> str:
    """As much of a text as ``width`` pixels have room for, with an ellipsis where it is shortened."""
    if words.size(text)[0] <= width:
        return text
    low, high = 0, len(text)
    while low < high:  # the longest beginning that has room
        middle = (low + high + 1) // 2
        if words.size(text[:middle].rstrip() + "…")[0] <= width:
            low = middle
        else:
            high = middle - 1
    return text[:low].rstrip() + "…" if low else ""
