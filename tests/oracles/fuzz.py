"""Every reader of files under mutated files: each gives a value, or a FileError that says where. `make fuzz` runs it by
coverage, with atheris where that is installed, else at random; a failure is kept in `tests/oracles/corpus/`."""

from __future__ import annotations

import copy
import inspect
import json
import random
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from itertools import islice
from pathlib import Path
from typing import Any

import glent
from glent.demo import BRIDGE, GALLERY, HARBOUR, QUAY, TOWER
from glent.formats import (
    EventLog,
    FileError,
    log_rows,
    read_bindings,
    read_contract,
    read_key_layout,
    read_recording,
    read_scene,
    replay,
)
from glent.formats.text import parse
from glent.wiring import Wiring

CORPUS = Path(__file__).parent / "corpus"
FOLDER = "/dev/shm" if Path("/dev/shm").is_dir() else None
"""Where files are written: in memory where there is such a place, as opening one on a disk takes long."""
SLOW = 2.0
"""Seconds that no file of these sizes may take."""

DATA = Path(HARBOUR).parent
WHOLE = [Path(one).read_bytes() for one in (HARBOUR, QUAY, BRIDGE, TOWER, GALLERY)]


def _log() -> EventLog:
    recording = read_recording(DATA / "mooring.jsonl")
    return EventLog(None, list(islice(log_rows(replay(glent.Router(read_scene(QUAY)), recording)), 20)))


SEEDS = [one.read_bytes() for one in sorted((Path(__file__).parent / "seeds").iterdir())]
"""The least of each shipped scene that is read and still has every key and kind of it: read several times as fast."""
SCENES = [*SEEDS * 6, *WHOLE]
LOG = _log()
BINDINGS = b"""{"glent": "bindings", "version": 1, "reserved": {"F1": "help"}, "bindings": {"activate": ["Enter"],
"back": ["Escape"], "harbour:pause": ["KeyP"]}, "seats": {"two": {"back": ["KeyB"]}}}"""
LAYOUT = b"glent: key-layout\nversion: 1\nrows: [[a, b, {text: c, shifted: C, width: 2}], [{does: shift}, d]]\n"
CONTRACT = json.dumps(Wiring(read_scene(GALLERY)).contract().document()).encode()

DOORS: dict[str, tuple[str, list[bytes], Callable[[Path], object]]] = {
    "scene.yaml": (".yaml", SCENES, read_scene),
    "scene.json": (".json", [json.dumps(parse(one, "", ".yaml")).encode() for one in SCENES], read_scene),
    "recording": (".jsonl", [one.read_bytes()[:2500] for one in sorted(DATA.glob("*.jsonl"))], read_recording),
    "contract": (".json", [CONTRACT], read_contract),
    "bindings": (".json", [BINDINGS], read_bindings),
    "key-layout": (".yaml", [LAYOUT], read_key_layout),
    "log": (".jsonl", ["\n".join(LOG.lines()[:6]).encode()], LOG.differences),
}
"""By name: the suffix, good files, and the reader."""
MUTATED = ("scene.json", "contract", "bindings")
"""The doors whose files are also mutated as values."""

BITS = [
    *(b"\x00", b"\xff", b"\xc2\x85", b"\xe2\x80\xa8", b"\xef\xbb\xbf", b"!!python/object:os.system ", b"!!binary "),
    *(
        b"!!timestamp ",
        b"!!int ",
        b"!!float ",
        b"!!set ",
        b"!!omap ",
        b"&a ",
        b"*a ",
        b"<<: ",
        b"1:60:60",
        b"2001-01-01",
    ),
    *(
        b"0x1F",
        b"1e999",
        b".inf",
        b"NaN",
        b"-",
        b"[",
        b"{",
        b"]",
        b"}",
        b'"',
        b"'",
        b": ",
        b"\n- ",
        b"? ",
        b"| ",
        b"> ",
    ),
    *(b"%YAML 1.1\n---\n", b"---\n", b"\\ud800", b"\\u0000", b"9" * 60, b"null", b"true", b"\t", b"#", b"@"),
]
ODD: list[Any] = [
    *(None, True, 0, -1, 1.5, 1e308, 1e-310, 2**70, "", "a", "/", "\ufeff", "a\u2028b", "\u00a0", "\x85", "a/b"),
    *("1e5", "fit-content", "50%", [], {}, [[]], [1], [1, 2], [1, 2, 3], ["a", "a"], {"a": 1}, {"kind": "box"}),
    *({"kind": "polygon"}, {"kind": "button"}, {"name": "x"}, "\ud800", "x" * 300, [None], [{}], "main"),
]


def text_mutated(choose: random.Random, content: bytes) -> bytes:
    """A file with a few bytes otherwise."""
    made = bytearray(content)
    for _ in range(choose.choice((1, 1, 2, 4))):
        at, way = choose.randrange(len(made) + 1), choose.random()
        if way < 0.35:
            made[at:at] = choose.choice(BITS)
        elif way < 0.5:
            del made[at : at + choose.choice((1, 1, 5, 50))]
        elif way < 0.65:
            made[at : at + 1] = bytes([choose.randrange(256)])
        elif way < 0.8:
            other = choose.randrange(len(made) + 1)
            made[at:at] = made[other : other + choose.choice((3, 20, 200))]
        elif way < 0.9:
            made[at:at] = choose.choice(BITS) * choose.choice((3, 300))
        else:
            made = made[:at]
        made = made or bytearray(b"x")
    return bytes(made)


def _walk(value: Any, path: tuple[Any, ...] = ()) -> Iterator[tuple[Any, ...]]:
    yield path
    for key, inner in value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ():
        yield from _walk(inner, (*path, key))


def document_mutated(choose: random.Random, content: bytes) -> bytes:
    """A file of JSON with a few values otherwise, gone, doubled, or under another's key."""
    document = json.loads(content)
    for _ in range(choose.choice((1, 1, 2, 3))):
        paths = [path for path in _walk(document) if path]
        if not paths:
            break
        path = choose.choice(paths)
        here = document
        for part in path[:-1]:
            here = here[part]
        other = document
        for part in choose.choice(paths):
            other = other[part]
        new = copy.deepcopy(choose.choice(ODD) if choose.random() < 0.6 else other)
        way = choose.random()
        if way < 0.5:
            here[path[-1]] = new
        elif way < 0.6:
            del here[path[-1]]
        elif isinstance(here, list):
            here.insert(path[-1], new)
        else:
            here[str(choose.choice(paths)[-1])] = new
    return json.dumps(document).encode()


def problems_of_reading(read: Callable[[Path], object], file: Path, content: bytes) -> str | None:
    """What is wrong with how a file is read; None: it is read, or refused in a sentence with a place, and soon."""
    file.write_bytes(content)
    began = time.process_time()
    try:
        read(file)
    except FileError as error:
        if any(not place and not said.startswith("and ") for place, said in error.problems):
            return f"names no place: {error}"
    except Exception as error:
        return f"{type(error).__name__}: {error}"
    took = time.process_time() - began
    return f"took {took:.1f} s" if took > SLOW else None


def _keep(door: str, content: bytes, problem: str) -> None:
    CORPUS.mkdir(exist_ok=True)
    name = f"{door}-{abs(hash(content)):x}{DOORS[door][0]}"
    (CORPUS / name).write_bytes(content)
    print(f"{door}: {problem}\n  kept as {CORPUS / name}", flush=True)


def at_random(minutes: float, seed: int) -> int:
    """Mutate until time is up. Return how many files were read wrongly."""
    choose = random.Random(seed)
    found = count = 0
    end = time.monotonic() + 60 * minutes
    with tempfile.TemporaryDirectory(dir=FOLDER) as folder:
        while time.monotonic() < end:
            door = choose.choice(list(DOORS))
            suffix, seeds, read = DOORS[door]
            values = door in MUTATED and choose.random() < 0.5
            content = (
                document_mutated(choose, choose.choice(seeds)) if values else text_mutated(choose, choose.choice(seeds))
            )
            problem = problems_of_reading(read, Path(folder) / f"file{suffix}", content)
            count += 1
            if problem is not None:
                found += 1
                _keep(door, content, problem)
    print(f"{count:,} files at random from seed {seed}: {found} read wrongly")
    return found


def by_coverage(minutes: float) -> int:
    """Let atheris choose, by what it has not seen run yet; the first byte says which reader."""
    import atheris

    doors = list(DOORS)
    folder = Path(tempfile.mkdtemp(dir=FOLDER))
    seeds = folder / "seeds"
    seeds.mkdir()
    for number, door in enumerate(doors):
        for place, content in enumerate(DOORS[door][1]):
            (seeds / f"{number}-{place}").write_bytes(bytes([number]) + content[:8000])

    def one(given: bytes) -> None:
        if len(given) < 2:
            return
        door = doors[given[0] % len(doors)]
        suffix, _, read = DOORS[door]
        problem = problems_of_reading(read, folder / f"file{suffix}", given[1:])
        if problem is not None:
            _keep(door, given[1:], problem)
            raise AssertionError(problem)

    for name, module in list(sys.modules.items()):
        if name.startswith("glent.formats"):
            for made in vars(module).values():
                if inspect.isfunction(made) and made.__module__ == name:
                    atheris.instrument_func(made)
    atheris.Setup(
        [sys.argv[0], f"-max_total_time={int(60 * minutes)}", "-max_len=16384", "-verbosity=0", str(seeds)], one
    )
    atheris.Fuzz()
    return 0


if __name__ == "__main__":
    given = dict(zip(sys.argv[1::2], sys.argv[2::2], strict=False))
    time_given, seed_given = float(given.get("--minutes", "10")), int(given.get("--seed", str(int(time.time()))))
    wrong = at_random(time_given / 2, seed_given)
    try:
        import atheris  # noqa: F401
    except ImportError:
        print("atheris is not installed (pip install atheris): the other half is at random as well")
        wrong += at_random(time_given / 2, seed_given + 1)
    else:
        wrong += by_coverage(time_given / 2)
    sys.exit(bool(wrong))
