"""Many recordings compared: here, in processes of this machine, or on a Dask cluster; with the same results (law D6).

Whoever does the work, results come in the order of the recordings, and only a few are under way at a time, so memory
does not grow with their number. A recording that cannot be fed is a result too, with the reason, and so is one whose
process is killed again and again. A process that is killed is replaced, and its recording is fed again from the start.
"""

from __future__ import annotations

import pickle
from collections import deque
from concurrent.futures import Future, ProcessPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from multiprocessing import get_all_start_methods, get_context
from pathlib import Path
from typing import TYPE_CHECKING, Any, Protocol

from glent.core.arguments import is_choice
from glent.core.errors import GlentError, SampleError
from glent.extras import needs
from glent.formats import stream_recording
from glent.review.comparison import AIMS, Comparison, compare

if TYPE_CHECKING:
    from collections.abc import Iterable, Iterator
    from multiprocessing.context import BaseContext

    from glent.review.comparison import Build

__all__ = ["compare_all"]

AHEAD = 4
"""Recordings under way for each process, so that none waits for work."""
TRIES = 3
"""How often a recording is tried whose process is killed."""


def compare_all(
    before: Build,
    after: Build,
    recordings: Iterable[str | Path],
    by: str = "point",
    jobs: int = 1,
    dask: str | None = None,
) -> Iterator[Comparison]:
    """Compare a game before and after a change by many recordings, as :func:`compare` does by one.

    :param before: makes the game as it was, for a recording. With ``jobs`` or ``dask`` it is sent to other processes:
        a function of a module, or a ``functools.partial`` of one. :param after: makes it as it is now.
    :param recordings: files. :param by: ``point`` or ``node``. :param jobs: how many processes of this machine work.
    :param dask: the address of a Dask scheduler, whose workers work instead; they read the same files by these paths.
    :return: one result for each recording, in their order, each as soon as it and those before it are there.
    :raises SampleError: ``by`` or ``jobs`` is wrong, or a game cannot be sent to other processes.
    """
    if not is_choice(by, AIMS):
        raise SampleError(f"compare_all: by is {by!r}, expected one of {', '.join(AIMS)}")
    if isinstance(jobs, bool) or not isinstance(jobs, int) or jobs < 1:
        raise SampleError(f"compare_all: jobs is {jobs!r}, expected how many processes, from 1")
    if jobs > 1 or dask is not None:
        _check_sent(before, "before")
        _check_sent(after, "after")
    tasks = ((before, after, str(path), by, name) for path, name in _named(recordings))
    if dask is not None:
        return _on_cluster(tasks, dask)
    return _in_processes(tasks, jobs) if jobs > 1 else (_compared(*task) for task in tasks)


def _check_sent(build: Build, what: str) -> None:
    try:
        pickle.dumps(build)
    except Exception as error:
        raise SampleError(f"compare_all: {what} cannot be sent to other processes: {error}; expected a function of a"
                          " module, or a functools.partial of one") from None  # fmt: skip


Task = tuple["Build", "Build", str, str, str]
"""The games, a file, what to aim at, and what the recording is called."""


def _named(recordings: Iterable[str | Path]) -> Iterator[tuple[str | Path, str]]:
    """Each file, with its name; one that had another's is told with its folder."""
    seen: set[str] = set()
    for path in recordings:
        name = Path(path).stem
        if name in seen:
            name = f"{Path(path).resolve().parent.name}/{name}"
        seen.add(name)
        yield path, name


def _compared(before: Build, after: Build, path: str, by: str, name: str) -> Comparison:
    """One recording; what goes wrong with it is its result."""
    try:
        return compare(before, after, stream_recording(path), by, name)
    except GlentError as error:
        return Comparison(name, failed=str(error))
    except (Exception, SystemExit) as error:
        return Comparison(name, failed=f"{type(error).__name__}: {error}")


class _Workers(Protocol):
    """Who works, and what they work at, in order."""

    def begin(self, task: Task) -> int:
        """Hand over a recording. Return how many are under way."""

    def end(self) -> Comparison:
        """Wait for the first that is under way."""


def _in_order(tasks: Iterable[Task], ahead: int, workers: _Workers) -> Iterator[Comparison]:
    under_way = 0
    for task in tasks:
        under_way = workers.begin(task)
        if under_way >= ahead:
            yield workers.end()
            under_way -= 1
    for _ in range(under_way):
        yield workers.end()


def _context() -> BaseContext:
    """How processes begin: from one that has imported all this, where the system can do that, else anew."""
    if "forkserver" not in get_all_start_methods():
        return get_context("spawn")
    context = get_context("forkserver")
    context.set_forkserver_preload([__name__])
    return context


class _Processes:
    """Processes of this machine. If one of them is killed, that breaks the whole pool."""

    def __init__(self, jobs: int) -> None:
        self._jobs = jobs
        self._context = _context()
        self._pool = ProcessPoolExecutor(jobs, self._context)
        self._under_way: deque[tuple[Task, Future[Comparison]]] = deque()

    def begin(self, task: Task) -> int:
        self._under_way.append((task, self._submitted(task)))
        return len(self._under_way)

    def end(self) -> Comparison:
        """The result of the first; if the pool broke over it, the others are begun again."""
        task, future = self._under_way.popleft()
        try:
            return future.result()
        except BrokenProcessPool:
            found = self._alone(task)
        self._under_way = deque(
            (one, self._submitted(one)) if other.done() and other.exception() is not None else (one, other)
            for one, other in self._under_way
        )
        return found

    def _submitted(self, task: Task) -> Future[Comparison]:
        try:
            return self._pool.submit(_compared, *task)
        except BrokenProcessPool:
            self._pool = ProcessPoolExecutor(self._jobs, self._context)
            return self._pool.submit(_compared, *task)

    def _alone(self, task: Task) -> Comparison:
        """Try again in a process of its own, so that no other recording is blamed for what this one does."""
        for _ in range(TRIES - 1):
            with ProcessPoolExecutor(1, self._context) as pool:
                try:
                    return pool.submit(_compared, *task).result()
                except BrokenProcessPool:
                    continue
        return Comparison(task[4], failed=f"its process was killed, {TRIES} times")

    def close(self) -> None:
        self._pool.shutdown(cancel_futures=True)


def _in_processes(tasks: Iterable[Task], jobs: int) -> Iterator[Comparison]:
    processes = _Processes(jobs)
    try:
        yield from _in_order(tasks, AHEAD * jobs, processes)
    finally:
        processes.close()


class _Cluster:
    """The workers of a Dask cluster, which replaces those that are killed."""

    def __init__(self, client: Any, killed: type[Exception]) -> None:
        self._client = client
        self._killed = killed
        self._under_way: deque[tuple[Task, Any]] = deque()

    def begin(self, task: Task) -> int:
        # A name of its own for each: two recordings alike are two tasks.
        self._under_way.append((task, self._client.submit(_compared, *task, pure=False)))
        return len(self._under_way)

    def end(self) -> Comparison:
        task, future = self._under_way.popleft()
        try:
            found: Comparison = future.result()
        except self._killed as error:
            return Comparison(task[4], failed=f"its worker was killed: {error}")
        return found


def _on_cluster(tasks: Iterable[Task], address: str) -> Iterator[Comparison]:
    with needs("dask", "comparing on a cluster"):
        from distributed import Client, KilledWorker
    try:
        client: Any = Client(address, timeout="10s", set_as_default=False)  # type: ignore[no-untyped-call]
    except (OSError, ValueError) as error:
        raise GlentError(f"there is no Dask scheduler at {address}: {error}") from None
    with client:
        threads = sum(client.nthreads().values())
        yield from _in_order(tasks, AHEAD * max(1, threads), _Cluster(client, KilledWorker))
