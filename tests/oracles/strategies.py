"""Random scenes and changes. Lengths are multiples of 1/8, so that adding them rounds nothing and edges can be hit."""

from __future__ import annotations

import numpy as np
from hypothesis import strategies as st

from glent import BoxShape, Ellipse, Grown, Mask, Node, Place, Polygon, Rounded, Scene, Union

eighths = st.integers(-400, 2400).map(lambda n: n / 8)
lengths = st.one_of(
    eighths,
    st.integers(0, 4).map(lambda n: f"{n * 25}%"),
    st.builds("{}% - {}".format, st.sampled_from([25, 50, 100]), st.integers(0, 40)),
)
turns = st.one_of(
    st.just(0.0),
    st.just(0.0),
    st.sampled_from([30.0, 45.0, 90.0, 180.0, 270.0, -90.0, 360.0]),
    st.integers(-7200, 7200).map(lambda n: n / 10),
)
factors = st.sampled_from([1.0, 1.0, 1.0, 0.5, 2.0, -1.0, -0.5, 0.0, 4.0])
scales = st.one_of(st.just(1.0), factors, st.tuples(factors, factors))


@st.composite
def places(draw: st.DrawFn) -> Place:
    def axis(near: str, far: str, size: str) -> dict[str, object]:
        keys = draw(
            st.sampled_from([(), (near,), (far,), (size,), (near, size), (far, size), (near, far), (near, size)])
        )
        return {
            key: draw(lengths if key != size else st.one_of(st.integers(0, 1600).map(lambda n: n / 8), lengths))
            for key in keys
        }

    shift_only = draw(st.booleans())
    return Place(
        **axis("left", "right", "width"),
        **axis("top", "bottom", "height"),
        turn=0.0 if shift_only else draw(turns),
        scale=1.0 if shift_only else draw(scales),
        pivot=draw(st.sampled_from([(0.5, 0.5), (0.0, 0.0), (1.0, 0.25)])),
    )


def _ring(size: float) -> st.SearchStrategy[list[tuple[float, float]]]:
    number = st.integers(0, 16).map(lambda n: n / 16 * size)
    return st.lists(st.tuples(number, number), min_size=3, max_size=7, unique=True)


simple_shapes = st.one_of(
    st.builds(BoxShape, st.sampled_from([0.0, 4.0, -6.0])),
    st.builds(Rounded, st.sampled_from([0.0, 5.0, 500.0]), st.sampled_from([0.0, 3.0, -3.0])),
    st.builds(Ellipse, st.sampled_from([0.0, 2.0, -5.0])),
    st.lists(_ring(80.0), min_size=1, max_size=3).map(Polygon),
    st.lists(_ring(1.0), min_size=1, max_size=3).map(lambda rings: Polygon(rings, unit="box")),
    st.lists(st.lists(st.booleans(), min_size=4, max_size=4), min_size=1, max_size=5).map(
        lambda rows: Mask(np.array(rows))
    ),
)
shapes = st.one_of(
    simple_shapes,
    st.lists(simple_shapes, min_size=1, max_size=3).map(lambda parts: Union(tuple(parts))),
    st.builds(Grown, simple_shapes, st.sampled_from([3.0, -3.0])),
)
solidities = st.sampled_from([None, "solid", "solid", "glass", "glass", "hollow", "hollow", "ghost"])
keywords = st.fixed_dictionaries(
    {"place": places(), "solidity": solidities},
    optional={
        "shape": shapes,
        "clips": st.booleans(),
        "order": st.integers(-1, 2),
        "visible": st.sampled_from([True, True, True, False]),
        "role": st.sampled_from(["button", "group"]),
        "scroll": st.tuples(eighths, eighths),
        "enabled": st.sampled_from([True, True, False]),
        "scrolls": st.sampled_from([True, False, False]),
        "axis": st.sampled_from([None, None, "x", "y"]),
        "content": st.sampled_from([None, (200, 0), (0, 300), (500, 500)]),
    },
)


@st.composite
def scenes(draw: st.DrawFn, least: int = 1, most: int = 40) -> Scene:
    """A scene of one to three layers with nested nodes of every sort."""
    scene = Scene(size=(256, 128), fit=draw(st.sampled_from(["contain", "cover", "width", "height", "none"])))
    if draw(st.booleans()):
        scene.window = draw(st.sampled_from([(512, 256), (256, 256), (640, 128), (200, 300)]))
    nodes: list[Node] = [scene.layer(f"l{n}", order=draw(st.integers(0, 2))) for n in range(draw(st.integers(1, 3)))]
    for number in range(draw(st.integers(least, most))):
        parent = nodes[draw(st.integers(0, len(nodes) - 1))]
        nodes.append(parent.add(f"n{number}", **draw(keywords)))
    return scene


points = st.tuples(st.integers(-80, 1300).map(lambda n: n / 4), st.integers(-80, 1300).map(lambda n: n / 4))
