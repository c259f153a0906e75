"""The live view in a browser: a page on loopback that shows a running game, and changes it if that is allowed.

What protects the game, and the machine it runs on:

- It listens on loopback alone, and answers only to its own names there (``Host``): no foreign name can be bound to it.
- The address has a random token. The page is given for it once, and a cookie (SameSite=Strict, HttpOnly) from then on.
- Messages come by a WebSocket whose ``Origin`` is the page's own. They are checked, of a stated version, and limited in
  size and rate. Without ``write`` nothing can be changed.
- The page runs its own script and nothing else (Content-Security-Policy); names and facts are text to it, never markup.
- The game's thread never waits for it: answers are handed over to a bounded queue, and who does not read is let go of.
"""

from __future__ import annotations

import asyncio
import json
import secrets
import socket
import threading
import time
from collections import deque
from collections.abc import Mapping
from contextlib import suppress
from importlib.resources import files
from typing import TYPE_CHECKING, Any

from glent.core.errors import GlentError
from glent.extras import needs
from glent.live.watched import Watched

with needs("live", "the live view in a browser"):
    import uvicorn
    from starlette.applications import Starlette
    from starlette.requests import Request
    from starlette.responses import PlainTextResponse, RedirectResponse, Response
    from starlette.routing import Route, WebSocketRoute
    from starlette.websockets import WebSocket, WebSocketDisconnect

if TYPE_CHECKING:
    from pathlib import Path

    from starlette.types import ASGIApp, Receive, Scope, Send

    from glent.core.routing.router import Router
    from glent.live.editor import Editor

__all__ = ["LiveError", "LiveServer", "serve"]

COOKIE = "glent-live"
MAX_MESSAGE = 64 * 1024
"""Bytes of a message."""
RATE, BURST = 50.0, 100.0
"""Messages a second that one page may send, and how many at once."""
QUEUE = 600
"""Turns whose messages wait for a page to read them; one that leaves more is let go of."""
SENT = 128 * 1024
"""Bytes that the system keeps for a page that does not read."""
LOOKS = 0.02
"""Seconds between two looks at what the game has told."""
PATIENCE = 5.0
"""Seconds in which a page has to take a message."""
PAGES = 8
"""Pages at once."""

HEADERS = {
    "Content-Security-Policy": "default-src 'none'; script-src 'self'; style-src 'self'; connect-src 'self';"
    " img-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'",
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "no-referrer",
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Cache-Control": "no-store",
}
FILES = {
    "/": ("page.html", "text/html"),
    "/live.js": ("live.js", "text/javascript"),
    "/live.css": ("live.css", "text/css"),
}

TOO_SLOW = (1013, "this page does not read fast enough")


class LiveError(GlentError, RuntimeError):
    """The page cannot be served."""


class _Page:
    """A page that watches."""

    def __init__(self) -> None:
        self._told: deque[list[dict[str, Any]]] = deque()
        self._left = BURST
        self._counted = time.monotonic()

    def tell(self, messages: list[dict[str, Any]]) -> None:
        """Take messages from the game's thread, without waiting: waking another thread would have it wait for that."""
        self._told.append(messages)

    def taken(self) -> list[dict[str, Any]]:
        """The messages that have come since."""
        return [message for _ in range(len(self._told)) for message in self._told.popleft()]

    @property
    def is_slow(self) -> bool:
        """Whether more waits for it than it may leave."""
        return len(self._told) > QUEUE

    def may_send(self) -> bool:
        """Whether it has sent no more than it may, with one more message."""
        now = time.monotonic()
        self._left = min(BURST, self._left + (now - self._counted) * RATE) - 1.0
        self._counted = now
        return self._left >= 0.0


class LiveServer:
    """The page of a running game. Made by :func:`serve`.

    :ivar address: where a browser finds it, with the token.
    """

    def __init__(self, watched: Watched, port: int) -> None:
        self._watched = watched
        self._token = secrets.token_urlsafe(24)
        self._cookie = secrets.token_urlsafe(24)
        self._pages: set[_Page] = set()
        try:
            self._socket = socket.create_server(("127.0.0.1", port))
        except OSError as error:
            raise LiveError(f"port {port} cannot be listened on: {error.strerror or error}") from None
        self._socket.setsockopt(socket.SOL_SOCKET, socket.SO_SNDBUF, SENT)
        self.port = int(self._socket.getsockname()[1])
        self.address = f"http://127.0.0.1:{self.port}/?token={self._token}"
        self._hosts = {f"127.0.0.1:{self.port}", f"localhost:{self.port}"}
        app = Starlette(
            routes=[
                *(Route(path, self._file, methods=["GET"]) for path in FILES),
                Route("/favicon.ico", _no_icon, methods=["GET"]),
                WebSocketRoute("/messages", self._talk),
            ]
        )
        config = uvicorn.Config(
            _Guard(app, self._hosts),
            log_level="critical",
            access_log=False,
            lifespan="off",
            http="h11",
            ws="websockets-sansio",
            ws_max_size=MAX_MESSAGE,
            ws_per_message_deflate=False,
            limit_concurrency=4 * PAGES,
            timeout_keep_alive=5,
            timeout_graceful_shutdown=1,
            server_header=False,
            date_header=False,
            proxy_headers=False,
        )
        self._server = uvicorn.Server(config)
        self._thread = threading.Thread(target=self._run, name="glent-live", daemon=True)
        self._thread.start()
        while not self._server.started and self._thread.is_alive():
            time.sleep(0.005)

    def _run(self) -> None:
        self._server.run(sockets=[self._socket])

    def close(self) -> None:
        """Stop serving. Pages that are open say so. Twice does nothing."""
        self._server.should_exit = True
        self._thread.join(timeout=5.0)
        self._socket.close()

    def __enter__(self) -> LiveServer:
        return self

    def __exit__(self, *_: object) -> None:
        self.close()

    # -- what is served ------------------------------------------------------------------------------------------------

    async def _file(self, request: Request) -> Response:
        token = request.query_params.get("token")
        if token is not None:
            if not secrets.compare_digest(token.encode(), self._token.encode()):
                return _said(403, "the token in the address is wrong; open the address that was printed")
            answer: Response = RedirectResponse("/", 303, HEADERS)
            answer.set_cookie(COOKIE, self._cookie, httponly=True, samesite="strict", path="/")
            return answer
        if not self._knows(request.cookies):
            return _said(403, "the address has no token; open the address that was printed when this was started")
        name, kind = FILES[request.url.path]
        content = files("glent.live").joinpath("page", name).read_bytes()
        return Response(content, 200, HEADERS, media_type=kind)

    def _knows(self, cookies: Mapping[str, str]) -> bool:
        return secrets.compare_digest(cookies.get(COOKIE, "").encode(), self._cookie.encode())

    async def _talk(self, socket: WebSocket) -> None:
        origin = socket.headers.get("origin")
        if origin not in {f"http://{host}" for host in self._hosts}:
            await socket.send_denial_response(_said(403, f"the origin {origin!r} is not this page's own"))
            return
        if not self._knows(socket.cookies):
            await socket.send_denial_response(_said(403, "the cookie of this page is missing; open its address anew"))
            return
        if len(self._pages) >= PAGES:
            await socket.send_denial_response(_said(503, f"{PAGES} pages are open already; close one"))
            return
        await socket.accept()
        page = _Page()
        self._pages.add(page)
        self._watched.begin(page)
        doing = [asyncio.create_task(one) for one in (self._hear(socket, page), _send(socket, page), _too_slow(page))]
        try:
            done, _ = await asyncio.wait(doing, return_when=asyncio.FIRST_COMPLETED)
            code, why = next((one.result() for one in done if one.exception() is None), (1011, "it failed"))
            await _closed(socket, code, why)
        finally:
            for one in doing:
                one.cancel()
            self._watched.end(page)
            self._pages.discard(page)

    async def _hear(self, socket: WebSocket, page: _Page) -> tuple[int, str]:
        """Take messages until the page goes, or sends what it may not."""
        while True:
            try:
                message = await socket.receive()
            except (WebSocketDisconnect, RuntimeError):
                return 1000, ""
            if message["type"] == "websocket.disconnect":
                return 1000, ""
            text = message.get("text")
            if text is None:
                return 1003, "messages are text"
            if not page.may_send():
                return 1008, f"more than {RATE:g} messages a second"
            self._watched.ask(page, text)


async def _no_icon(request: Request) -> Response:
    return Response(status_code=204, headers=HEADERS)


async def _send(socket: WebSocket, page: _Page) -> tuple[int, str]:
    """Hand messages to the page, as fast as it takes them."""
    while True:
        for message in page.taken():
            text = json.dumps(message, ensure_ascii=False, default=str)
            try:
                await asyncio.wait_for(socket.send_text(text), PATIENCE)
            except TimeoutError:
                return TOO_SLOW
            except (WebSocketDisconnect, RuntimeError):
                return 1000, ""
        await asyncio.sleep(LOOKS)


async def _too_slow(page: _Page) -> tuple[int, str]:
    while not page.is_slow:
        await asyncio.sleep(10 * LOOKS)
    return TOO_SLOW


async def _closed(socket: WebSocket, code: int, why: str) -> None:
    with suppress(TimeoutError, WebSocketDisconnect, RuntimeError):  # it has gone already
        await asyncio.wait_for(socket.close(code, why), 1.0)


class _Guard:
    """What each request has to pass first: the names of the host, and that it has no body."""

    def __init__(self, app: ASGIApp, hosts: set[str]) -> None:
        self._app = app
        self._hosts = hosts

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        headers = {name.decode("latin-1").lower(): value.decode("latin-1") for name, value in scope.get("headers", ())}
        problem = None
        if headers.get("host") not in self._hosts:
            problem = _said(421, f"{headers.get('host')!r} is not a name of this server; open the address as printed")
        elif scope["type"] == "http" and (headers.get("content-length", "0") != "0" or "transfer-encoding" in headers):
            problem = _said(413, "requests have no body here; messages go by the WebSocket")
        if problem is None:
            await self._app(scope, receive, send)
        elif scope["type"] == "websocket":
            await WebSocket(scope, receive, send).send_denial_response(problem)
        else:
            await problem(scope, receive, send)


def _said(status: int, text: str) -> Response:
    return PlainTextResponse(f"glent live view: {text}\n", status, HEADERS)


def serve(
    router: Router,
    *,
    port: int = 0,
    write: bool = False,
    editor: Editor | None = None,
    file: str | Path | None = None,
) -> LiveServer:
    """Show a running game on a page. Nothing else is to be called: it is fed by what the router is fed.

    While no page is open the game does nothing for it. The page hears of the game when that is fed a sample or ticks.

    :param port: on loopback; 0: any that is free. :param write: whether the page may change the scene and its file.
    :param editor: what opens a node's place in its file. :param file: where changes are kept; None: where the scene was
        read from.
    :raises MissingExtraError: the extra ``live`` is not installed. :raises LiveError: the port cannot be had.
    """
    return LiveServer(Watched(router, write, editor, file), port)
