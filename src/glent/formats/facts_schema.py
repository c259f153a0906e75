"""The schema of facts: a JSON Schema (draft 2020-12) in a scene file that the facts of each of its nodes keep to.

It comes from the file that it checks, so it is bounded like all of it: nothing is fetched, no regular expression is
run, and references that lead on and on end in an error.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import TYPE_CHECKING, Any

from glent.extras import needs
from glent.formats.errors import Problem, place_of, shown

if TYPE_CHECKING:
    from glent.core.scene.scene import Scene
    from glent.formats.patterns import Place

__all__ = ["KEPT", "FactsSchema", "facts_problems"]

KEPT = "facts_schema"
"""The name under which a scene keeps it, in ``scene.attachments``."""
REFUSED = ("$dynamicRef", "$recursiveRef", "pattern", "patternProperties")
NAMES = ("properties", "$defs", "dependentSchemas", "dependentRequired")
"""The keywords under which keys are names."""
VALUES = ("enum", "const", "default", "examples")
"""The keywords under which there is no schema."""
MOST_STEPS = 40_000
"""References that are followed for one file."""


class _EndlessError(Exception):
    pass


class FactsSchema:
    """A schema, ready to check facts.

    :raises ValueError: it is no schema that can be used; the message says why.
    """

    def __init__(self, schema: Mapping[str, Any]) -> None:
        with needs("tools", "a facts_schema"):
            import jsonschema
            import referencing

        for name in _keys(schema):
            if name in REFUSED:
                raise ValueError(f"has {name}, which is not used here; expected a schema without it")
        try:
            jsonschema.Draft202012Validator.check_schema(dict(schema))
        except jsonschema.SchemaError as error:
            place = place_of(list(error.absolute_path))
            raise ValueError(f"is no JSON Schema{f', at {place}' if place else ''}: {error.message}") from None
        self._left = MOST_STEPS
        follow = jsonschema.Draft202012Validator.VALIDATORS["$ref"]

        def counted(*given: Any) -> Any:
            self._left -= 1
            if self._left < 0:
                raise _EndlessError
            return follow(*given)

        extend: Any = jsonschema.validators.extend
        kind = extend(jsonschema.Draft202012Validator, {"$ref": counted})
        self._validator = kind(dict(schema), registry=referencing.Registry())
        self._unresolved = (referencing.exceptions.Unresolvable,)

    def problems(self, facts: Mapping[str, Any]) -> Iterator[tuple[Place, str]]:
        """What is wrong with facts, which are plain values, and where in them.

        :raises ValueError: the schema leads on and on, or to what is not in it.
        """
        try:
            errors = self._validator.iter_errors(facts)
            for error in sorted(errors, key=lambda one: list(map(str, one.absolute_path))):
                expected = _expected(error.validator, error.validator_value, error.message)
                yield tuple(error.absolute_path), f"found {shown(error.instance)}; {expected}"
        except (RecursionError, _EndlessError):
            raise ValueError("has references that lead on and on; expected them to end") from None
        except self._unresolved as error:
            raise ValueError(f"has a reference that leads nowhere: {error}; expected one within the schema") from None


def _expected(keyword: str, value: Any, message: str) -> str:
    if keyword == "enum":
        return f"expected one of {', '.join(map(str, value))}"
    if keyword == "type":
        return f"expected {' or '.join(value) if isinstance(value, list) else value}"
    if keyword == "required":
        return f"expected it to have {', '.join(map(str, value))}"
    return f"facts_schema says: {message}"


def _keys(value: Any) -> Iterator[str]:
    """All keys of a schema that are keywords, or might be."""
    stack = [value]
    while stack:
        one = stack.pop()
        if isinstance(one, Mapping):
            yield from one
            for key, inner in one.items():
                if key in NAMES and isinstance(inner, Mapping):
                    stack.extend(inner.values())
                elif key not in VALUES:
                    stack.append(inner)
        elif isinstance(one, list | tuple):
            stack.extend(one)


def facts_problems(scene: Scene, schema: Mapping[str, Any] | None = None) -> list[Problem]:
    """What is wrong with the facts of a running scene, by node path, by a schema or by the one of its file.

    :raises ValueError: the schema cannot be used.
    """
    given = schema if schema is not None else scene.attachments.get(KEPT)
    if not isinstance(given, Mapping):
        return []
    checker = FactsSchema(given)
    told = ((node, node.facts.plain()) for node in scene.walk())
    return [
        (node.path, f"{place_of(('facts', *way))}: {what}")
        for node, facts in told
        if facts
        for way, what in checker.problems(facts)
    ]
