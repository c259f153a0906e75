"""The harbour master: a simulated authority that answers requests, late, lossily, and by rules of range.

In process it is called with messages; over a local socket messages are JSON, a line each.
"""

from __future__ import annotations

import json
import random
import socket
import socketserver
import threading
from collections.abc import Callable, Mapping
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from glent.core.routing.router import Router
    from glent.wiring import Message

__all__ = ["HarbourMaster", "MasterServer", "SocketLink", "delayed"]

RANGE = 400.0
"""How far from the quay a tug still answers its master, in metres."""


class HarbourMaster:
    """Decides requests by what it knows of the tugs.

    :ivar tugs: how far out each tug is, in metres. :ivar sent: how many times each was sent.
    """

    def __init__(self, tugs: Mapping[str, float] | None = None) -> None:
        self.tugs = dict(tugs if tugs is not None else {"anchovy": 120.0, "bramble": 910.0})
        self.sent = dict.fromkeys(self.tugs, 0)

    def answer(self, message: Message) -> dict[str, Any]:
        """The answer to a request."""
        why = self._why_not(message.get("name"), message.get("data"))
        if why is None and message.get("name") == "send-tug":
            self.sent[message["data"]] += 1
        return {"answer": message.get("request"), "accepted": why is None, "reason": why or ""}

    def _why_not(self, name: object, data: object) -> str | None:
        if name != "send-tug":
            return f"the harbour master knows no {name}"
        if data not in self.tugs:
            return f"there is no tug {data}"
        far = self.tugs[str(data)]
        return f"{data} is {far:.0f} m out, beyond {RANGE:.0f} m" if far > RANGE else None


def delayed(
    router: Router,
    master: HarbourMaster,
    take: Callable[[Message], object],
    delay: float = 0.4,
    loss: float = 0.0,
    seed: int = 0,
) -> Callable[[Message], None]:
    """What to give to ``Requests`` as ``send``: the master answers after a while of sample time, or the answer is lost.

    :param take: where the answer goes. :param delay: how long it takes, in seconds.
    :param loss: the part of the messages that are lost, from 0 to 1; which ones is the same each time.
    """
    dice = random.Random(seed)

    def send(message: Message) -> None:
        if dice.random() < loss:
            return
        answer = master.answer(message)
        router.at(max(router.now, 0.0) + delay, lambda due: take(answer))

    return send


class _Lines(socketserver.StreamRequestHandler):
    """One link to the master."""

    server: MasterServer

    def handle(self) -> None:
        for line in self.rfile:
            try:
                message = json.loads(line)
            except ValueError:
                continue  # whoever sends no JSON gets no answer
            if isinstance(message, dict):
                with self.server.lock:
                    answer = self.server.master.answer(message)
                self.wfile.write(json.dumps(answer).encode() + b"\n")


class MasterServer(socketserver.ThreadingTCPServer):
    """The harbour master on a port of this machine; used as a context, it serves until that ends.

    :ivar port: the port it listens on.
    """

    daemon_threads = True
    allow_reuse_address = True

    def __init__(self, master: HarbourMaster) -> None:
        super().__init__(("127.0.0.1", 0), _Lines)
        self.master = master
        self.lock = threading.Lock()
        self.port: int = self.server_address[1]

    def __enter__(self) -> MasterServer:
        threading.Thread(target=self.serve_forever, kwargs={"poll_interval": 0.05}, daemon=True).start()
        return self

    def __exit__(self, *given: object) -> None:
        self.shutdown()
        self.server_close()


class SocketLink:
    """The UI's end of the line to a master: what it gets is taken by :meth:`poll`, once a frame, and never waited for.

    :param port: of the master. :param take: where answers go. :param gone: called once, if the line breaks.
    """

    def __init__(self, port: int, take: Callable[[Message], object], gone: Callable[[], object]) -> None:
        self._socket = socket.create_connection(("127.0.0.1", port), timeout=5.0)
        self._socket.setblocking(False)
        self._take, self._gone = take, gone
        self._rest = b""
        self._open = True

    def send(self, message: Message) -> None:
        """Send a request; what cannot be sent is lost."""
        try:
            self._socket.sendall(json.dumps(dict(message)).encode() + b"\n")
        except OSError:
            self._break()

    def poll(self) -> None:
        """Take the answers that have come."""
        while self._open:
            try:
                got = self._socket.recv(65536)
            except BlockingIOError:
                break
            except OSError:
                got = b""
            if not got:
                self._break()
                break
            self._rest += got
        *lines, self._rest = self._rest.split(b"\n")
        for line in lines:
            self._take(json.loads(line))

    def close(self) -> None:
        """Hang up."""
        self._open = False
        self._socket.close()

    def _break(self) -> None:
        if self._open:
            self.close()
            self._gone()
