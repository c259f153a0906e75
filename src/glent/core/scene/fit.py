"""How a scene's reference size is fitted to the window."""

from __future__ import annotations

import math

from glent.core.errors import SceneError
from glent.core.geometry.affine import Affine
from glent.core.input.validate import SMALLEST

__all__ = ["FITS", "Viewport", "check_size", "fitted", "fitted_into"]

Viewport = tuple[float, float, float, float]
"""Left, top, width and height in fractions of the window."""

FITS = ("contain", "cover", "width", "height", "none")


def check_size(size: object, what: str) -> tuple[float, float]:
    """Check a width and a height, from ``SMALLEST`` to 1e6, so that what is worked out from them stays finite.

    :raises SceneError: anything else.
    """
    if isinstance(size, tuple | list) and len(size) == 2:
        width, height = size
        if all(
            isinstance(value, int | float) and not isinstance(value, bool) and SMALLEST <= value <= 1e6
            for value in size
        ) and not any(math.isnan(value) for value in size):
            return float(width), float(height)
    raise SceneError(f"{what} is {size!r}, expected a width and a height from {SMALLEST:g} to 1e6")


def fitted(fit: str, size: tuple[float, float], window: tuple[float, float]) -> tuple[Affine, tuple[float, float]]:
    """The transform from scene to screen, and the size of every layer in scene units.

    - ``contain``: the whole reference size shows, centred, with bars where the window is longer; layers keep it.
    - ``cover``: it covers the window, centred, and is cut off where it is longer; layers keep it.
    - ``width``, ``height``: that side fits exactly; layers are as long on the other as the window is, so that what
      is anchored to a side stays at the window's side.
    - ``none``: one scene unit is one window pixel; layers are as large as the window.
    """
    width, height = size
    across, down = window[0] / width, window[1] / height
    if fit in ("contain", "cover"):
        scale = min(across, down) if fit == "contain" else max(across, down)
        left, top = (window[0] - width * scale) / 2.0, (window[1] - height * scale) / 2.0
        return (scale, 0.0, 0.0, scale, left, top), size
    scale = across if fit == "width" else down if fit == "height" else 1.0
    return (scale, 0.0, 0.0, scale, 0.0, 0.0), (
        width if fit == "width" else window[0] / scale,
        height if fit == "height" else window[1] / scale,
    )


def fitted_into(
    viewport: Viewport,
    fit: str,
    size: tuple[float, float],
    window: tuple[float, float],
    to_screen: Affine,
    covers: bool = False,
) -> tuple[Affine, tuple[float, float]]:
    """The transform of a layer that is laid out in a viewport to scene space, and the size of that layer (law T2).

    :param covers: whether it lies over all of the viewport, in the units it would have otherwise.
    """
    left, top, width, height = viewport
    (scale, _, _, _, x, y), own = fitted(fit, size, (width * window[0], height * window[1]))
    if covers:
        x, y, own = 0.0, 0.0, (width * window[0] / scale, height * window[1] / scale)
    whole, _, _, _, x0, y0 = to_screen
    k = scale / whole
    return (k, 0.0, 0.0, k, (left * window[0] + x - x0) / whole, (top * window[1] + y - y0) / whole), own
