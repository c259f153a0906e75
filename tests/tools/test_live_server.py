"""The live view on a page: the server over real sockets, and the messages, whatever they say."""

from __future__ import annotations

import http.client
import json
import logging
import socket
import time
from collections.abc import Iterator
from contextlib import ExitStack
from pathlib import Path
from typing import Any

import jsonschema
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from websockets.exceptions import ConnectionClosed, InvalidStatus
from websockets.sync.client import ClientConnection, connect

from glent import PointerSample, Router, Scene, TickSample
from glent.demo import SCENES
from glent.demo.worlds import world_for
from glent.formats import EventLog, log_rows, read_recording, read_scene, replay, scene_document, write_scene
from glent.live import Editor
from glent.live.messages import VERSION, live_schema
from glent.live.server import LiveError, LiveServer, serve
from glent.live.watched import Watched
from glent.testing import Hand
from live_game import Game

CHECKED = jsonschema.Draft202012Validator(live_schema())


@pytest.fixture
def game(tmp_path: Path) -> Iterator[Game]:
    file = tmp_path / "harbour.yaml"
    file.write_bytes(SCENES["harbour"].read_bytes())
    made = Game(Router(read_scene(file)), write=True, editor=Editor("true {file}"))
    yield made
    made.close()


def get(server: LiveServer, path: str, **headers: str) -> http.client.HTTPResponse:
    link = http.client.HTTPConnection("127.0.0.1", server.port, timeout=10)
    host = headers.pop("Host", f"127.0.0.1:{server.port}")
    method = headers.pop("method", "GET")
    link.putrequest(method, path, skip_host=True)
    for name, value in {"Host": host, **headers}.items():
        link.putheader(name.replace("_", "-"), value)
    link.endheaders()
    answer = link.getresponse()
    answer.said = answer.read().decode()
    link.close()
    return answer


def cookie_of(server: LiveServer) -> str:
    answer = get(server, server.address[server.address.index("/?") :])
    assert (answer.status, answer.headers["Location"]) == (303, "/")
    cookie = answer.headers["Set-Cookie"]
    assert "HttpOnly" in cookie
    assert "SameSite=strict" in cookie
    return cookie.partition(";")[0]


def opened(server: LiveServer, origin: str | None = "", cookie: str | None = "", host: str | None = None) -> Any:
    made = f"http://127.0.0.1:{server.port}" if origin == "" else origin
    headers = {} if cookie is None else {"Cookie": cookie or cookie_of(server)}
    given: dict[str, Any] = {"additional_headers": headers, "origin": made, "open_timeout": 10, "compression": None}
    if host is not None:
        given["sock"] = socket.create_connection(("127.0.0.1", server.port))
    return connect(f"ws://{host or f'127.0.0.1:{server.port}'}/messages", **given)


class Tool:
    """Another tool that speaks the messages."""

    def __init__(self, link: ClientConnection, version: int = VERSION) -> None:
        self.link = link
        self.number = 0
        self.rows: list[dict[str, Any]] = []
        self.state: dict[str, Any] = {}
        self.welcome = self.ask("hello", version=version)

    def ask(self, what: str, **more: Any) -> dict[str, Any]:
        self.number += 1
        message = {"ask": what, "id": self.number, **more}
        CHECKED.validate(message)
        self.link.send(json.dumps(message))
        return self.answer()

    def answer(self) -> dict[str, Any]:
        parts: list[Any] = []
        while True:
            told = json.loads(self.link.recv(timeout=10))
            CHECKED.validate(told)
            if told["tell"] == "verdicts":
                self.rows += told["rows"]
            elif told["tell"] == "state":
                self.state = told
            elif "more" in told:
                parts.append(told["part"])
                if not told["more"]:
                    text = isinstance(told["part"], str)
                    return told | {"part": "".join(parts) if text else [one for part in parts for one in part]}
            else:
                return told

    def until(self, holds: Any) -> None:
        for _ in range(200):
            self.ask("at", x=1, y=1)
            if holds():
                return
        raise AssertionError("it never came")


def test_the_address_with_its_token_opens_the_page_and_nothing_else_does(game: Game) -> None:
    server = game.server
    assert server.address.startswith(f"http://127.0.0.1:{server.port}/?token=")
    for path, headers, status, why in (
        ("/", {}, 403, "the address has no token"),
        ("/live.js", {}, 403, "the address has no token"),
        ("/?token=", {}, 403, "the token in the address is wrong"),
        ("/?token=" + "x" * 32, {}, 403, "the token in the address is wrong"),
        ("/?token=%C3%BC%00%FF", {}, 403, "the token in the address is wrong"),
        ("/", {"Host": f"harbour.example:{server.port}"}, 421, "is not a name of this server"),
        ("/", {"Host": "127.0.0.1"}, 421, "is not a name of this server"),
        (server.address[server.address.index("/?") :], {"Host": "rebound.example"}, 421, "is not a name"),
        ("/", {"Content_Length": "3"}, 413, "requests have no body here"),
        ("/", {"Transfer_Encoding": "chunked"}, 413, "requests have no body here"),
        ("/", {"method": "POST"}, 405, "Method Not Allowed"),
        ("/etc/passwd", {}, 404, "Not Found"),
        ("/../pyproject.toml", {}, 404, "Not Found"),
    ):
        answer = get(server, path, **headers)
        assert (answer.status, why in answer.said) == (status, True), (path, answer.status, answer.said)
        assert "Traceback" not in answer.said
    cookie = cookie_of(server)
    for path, kind in (("/", "text/html"), ("/live.js", "text/javascript"), ("/live.css", "text/css")):
        answer = get(server, path, Cookie=cookie)
        assert answer.status == 200
        assert answer.headers["Content-Type"].startswith(kind)
        policy = answer.headers["Content-Security-Policy"]
        assert "default-src 'none'; script-src 'self'" in policy
        assert "unsafe" not in policy
        assert "http://" not in answer.said.replace("http://www.w3.org/2000/svg", "")
        assert "https://" not in answer.said
        assert answer.headers["X-Content-Type-Options"] == "nosniff"
    with pytest.raises(LiveError, match=f"port {server.port} cannot be listened on"):
        serve(Router(Scene((10, 10))), port=server.port)


@pytest.mark.parametrize(
    ("more", "status", "why"),
    [
        ({"origin": "http://harbour.example"}, 403, "is not this page's own"),
        ({"origin": None}, 403, "the origin None is not"),
        ({"origin": "null"}, 403, "is not this page's own"),
        ({"cookie": None}, 403, "the cookie of this page is missing"),
        ({"cookie": "glent-live=guess"}, 403, "the cookie of this page is missing"),
        ({"host": "rebound.example"}, 421, "is not a name of this server"),
    ],
)
def test_messages_are_taken_from_the_page_alone(game: Game, more: dict[str, Any], status: int, why: str) -> None:
    with pytest.raises(InvalidStatus) as refused:
        opened(game.server, **more)
    assert refused.value.response.status_code == status
    assert why in refused.value.response.body.decode()


def test_a_tool_sees_the_game_and_changes_it(game: Game) -> None:
    scene = game.router.scene
    with opened(game.server) as link:
        tool = Tool(link)
        assert tool.welcome | {"file": None} == {"tell": "welcome", "id": 1, "version": 1, "write": True, "open": True,
                                                 "size": [1280.0, 720.0], "file": None}  # fmt: skip
        tree = tool.ask("tree")["part"]
        assert [one["path"] for one in tree] == [node.path for node in scene.walk()]
        pieces = {one["path"]: one for one in tool.ask("picture")["part"]}
        assert pieces["hud/toolbar/recall"]["text"] == "recall"
        assert pieces["hud/toolbar/recall"]["rings"] == [
            [list(at) for at in scene["hud/toolbar/recall"].screen_corners()]
        ]
        found = tool.ask("at", x=420, y=28)["found"]
        assert [one["path"] for one in found if one["hit"]] == [hit.node.path for hit in game.router.hits(420, 28)]
        hand = Hand(game.router)
        game.wanted.append(lambda at: hand.move((420, 28)))
        game.wanted.append(lambda at: hand.click((420, 28)))
        tool.until(lambda: any(row["what"] == "mouse release" for row in tool.rows))
        row = next(row for row in tool.rows if row["what"] == "mouse press")
        assert (row["owner"], row["world"], row["x"], row["y"]) == ("hud/toolbar/recall", False, 420, 28)
        assert row["why"] == "the press landed on hud/toolbar/recall, which is solid"
        assert "press hud/toolbar/recall" in row["events"]
        node = tool.ask("node", path="hud/toolbar/recall")
        assert node["source"].endswith(f"harbour.yaml:{node['source'].split(':')[-2]}:{node['source'].split(':')[-1]}")
        assert {one["name"]: one["value"] for one in node["attributes"]}["visible"] is True
        assert tool.ask("set", path="hud/toolbar/recall", name="visible", value=False)["tell"] == "done"
        assert not scene["hud/toolbar/recall"].visible
        assert tool.ask("set", path="hud/toolbar/recall", name="order", value="high")["tell"] == "refused"
        assert "recall" in tool.ask("node", path="hud/toolbar/recal")["why"]
        tool.until(lambda: tool.state["changed"] == [["hud/toolbar/recall", "visible"]])
        assert tool.ask("undo")["said"] == "undone"
        assert scene["hud/toolbar/recall"].visible
        assert tool.ask("redo")["said"] == "done again"
        assert tool.ask("keep")["said"] == "kept: hud/toolbar/recall: visible is False"
        assert not read_scene(tool.welcome["file"])["hud/toolbar/recall"].visible
        assert tool.ask("undo")["tell"] == "done"
        assert tool.ask("revert")["said"] == "1 taken back"
        assert tool.ask("open", path="hud/toolbar/recall")["said"].startswith("opened ")
        assert tool.ask("stop")["why"] == "nothing is being recorded"
        assert tool.ask("record")["said"] == "recording"
        assert tool.ask("record")["tell"] == "refused"
        game.wanted.append(lambda at: hand.click((300, 500)))
        tool.until(lambda: tool.state["recorded"] == 3)
        text = tool.ask("stop")["part"]
        assert len(text.splitlines()) == 4
        assert tool.ask("along", origin=[0, 0, 0], direction=[0, 0, 1])["found"] == []
        assert "direction" in tool.ask("along", origin=[0, 0, 0], direction=[0, 0, 0])["why"]


def test_without_write_nothing_is_changed_and_another_version_is_not_spoken() -> None:
    router = Router(read_scene(SCENES["harbour"]))
    game = Game(router)
    before = scene_document(router.scene)
    with opened(game.server) as link:
        tool = Tool(link)
        assert (tool.welcome["write"], tool.welcome["open"]) == (False, False)
        for what, more in (("set", {"path": "hud", "name": "visible", "value": False}), *((one, {}) for one in (
            "undo", "redo", "revert", "keep"))):  # fmt: skip
            assert "started for reading only, without --write" in tool.ask(what, **more)["why"]
        assert "without --open" in tool.ask("open", path="hud")["why"]
        assert "version 2 is not spoken here" in tool.ask("hello", version=2)["why"]
    with opened(game.server) as link:
        link.send('{"ask": "tree", "id": 1}')
        assert "the first message is to be hello" in json.loads(link.recv(timeout=10))["why"]
    with opened(game.server) as link:
        assert "version 7 is not spoken here, this is version 1" in Tool(link, version=7).welcome["why"]
        link.send(b"\x00")
        with pytest.raises(ConnectionClosed, match="messages are text"):
            all_told(link)
    assert scene_document(router.scene) == before
    game.close()


def all_told(link: ClientConnection) -> None:
    while True:
        link.recv(timeout=10)


def asked_too_often(link: ClientConnection) -> None:
    for number in range(3_000):
        link.send(json.dumps({"ask": "tree", "id": number}))
        if number > 150:
            time.sleep(0.001)
    all_told(link)


def test_what_is_too_large_too_often_or_too_slow_is_let_go_of_and_the_game_goes_on(
    game: Game, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("glent.live.server.PATIENCE", 0.5)
    with opened(game.server) as link:
        link.send(json.dumps({"ask": "node", "id": 1, "path": "x" * 70_000}))
        with pytest.raises(ConnectionClosed) as closed:
            link.recv(timeout=10)
        assert closed.value.rcvd.code == 1009
    with opened(game.server) as link:
        with pytest.raises(ConnectionClosed) as closed:
            asked_too_often(link)
        assert (closed.value.rcvd.code, closed.value.rcvd.reason) == (1008, "more than 50 messages a second")
    # One that does not read: what waits for it is bounded, and it goes.
    cookie = cookie_of(game.server)
    raw = socket.socket()
    raw.setsockopt(socket.SOL_SOCKET, socket.SO_RCVBUF, 4096)
    raw.connect(("127.0.0.1", game.server.port))
    host = f"127.0.0.1:{game.server.port}"
    raw.sendall(
        f"GET /messages HTTP/1.1\r\nHost: {host}\r\nOrigin: http://{host}\r\nCookie: {cookie}\r\nUpgrade: websocket\r\n"
        "Connection: Upgrade\r\nSec-WebSocket-Version: 13\r\nSec-WebSocket-Key: AAAAAAAAAAAAAAAAAAAAAA==\r\n"
        "\r\n".encode()
    )
    assert b"101" in raw.recv(200)

    def send(text: str) -> None:
        data = text.encode()
        raw.sendall(bytes([0x81, 0x80 | len(data), 0, 0, 0, 0]) + data)

    send('{"ask":"hello","version":1,"id":0}')
    gone, began, stood = False, game.router.now, 0
    for number in range(400):
        now = game.router.now
        try:
            send(f'{{"ask":"picture","id":{number}}}')
        except OSError:
            gone = True
            break
        time.sleep(0.03)
        stood += game.router.now == now
        if not game.server._pages:
            gone = True
            break
    assert gone
    assert stood < 0.2 * number, f"the game stood still in {stood} of {number} thirtieths of a second"
    assert game.router.now > began
    raw.close()
    with opened(game.server) as link:
        assert Tool(link).ask("tree")["part"]


def test_at_most_eight_pages_and_none_after_it_is_closed(game: Game) -> None:
    cookie = cookie_of(game.server)
    with ExitStack() as links:
        tools = [Tool(links.enter_context(opened(game.server, cookie=cookie))) for _ in range(8)]
        with pytest.raises(InvalidStatus) as refused:
            opened(game.server, cookie=cookie)
        assert refused.value.response.status_code == 503
        assert all(tool.ask("tree")["part"] for tool in tools)
        assert len(game.router._observers.there) == 1
    for _ in range(200):
        if not game.router._observers.there:
            break
        time.sleep(0.01)
    assert not game.router._observers.there
    game.server.close()
    game.server.close()
    with pytest.raises(OSError, match="refused"):
        socket.create_connection(("127.0.0.1", game.server.port))


# -- whatever is asked ----------------------------------------------------------------------------------------------

words = st.text(max_size=12) | st.sampled_from(
    ["hud", "hud/toolbar/recall", "visible", "order", "place.left", "\ud800", "<b>"]
)
anything = st.recursive(
    st.none() | st.booleans() | st.integers() | st.floats() | words,
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(words, inner, max_size=3),
    max_leaves=6,
)
asks = st.sampled_from(
    [
        "hello",
        "tree",
        "picture",
        "at",
        "along",
        "node",
        "set",
        "undo",
        "redo",
        "revert",
        "keep",
        "record",
        "stop",
        "open",
        "drop",
        None,
    ]
)
keys = st.sampled_from(["path", "name", "value", "x", "y", "kind", "seat", "origin", "direction", "version", "extra"])
hostile = st.one_of(
    st.builds(
        lambda ask, number, more: json.dumps({"ask": ask, "id": number, **more}),
        asks,
        st.integers(-1, 5) | anything,
        st.dictionaries(keys, anything, max_size=5),
    ),
    st.text(max_size=40),
    st.sampled_from(["", "[]", "null", "{}", "[" * 5000, '{"ask":' * 2000, '{"id":1e999}', "1" * 5000, "NaN"]),
)


class Listener:
    def __init__(self) -> None:
        self.told: list[dict[str, Any]] = []

    def tell(self, messages: list[dict[str, Any]]) -> None:
        self.told += messages


@settings(max_examples=120, deadline=None, suppress_health_check=[HealthCheck.too_slow])
@given(st.lists(hostile, min_size=1, max_size=6))
def test_d4_hostile_messages_leave_the_game_as_it_was(texts: list[str]) -> None:
    router = ROUTER
    before = scene_document(router.scene)
    watched, asker = Watched(router), Listener()
    watched.begin(asker)
    watched.ask(asker, json.dumps({"ask": "hello", "version": VERSION, "id": 0}))
    for text in texts:
        watched.ask(asker, text)
    for _ in range(400):
        router.feed(TickSample(max(0.0, router.now) + 0.001))
        if not watched._asked and not watched._tasks:
            break
    watched.end(asker)
    assert not watched._asked
    assert scene_document(router.scene) == before
    assert not router._observers.there
    for message in asker.told:
        CHECKED.validate(json.loads(json.dumps(message)))
        assert "Traceback" not in message.get("why", "")
    answered = sum(1 for one in asker.told if one["tell"] not in ("verdicts", "state") and not one.get("more"))
    assert answered == len(texts) + 1


ROUTER = world_for(SCENES["harbour"])[0]


def test_d4_a_watched_game_does_the_same_byte_for_byte(tmp_path: Path) -> None:
    recordings = {"harbour": "night-shift", "gallery": "menus", "tower": "two-hands"}
    for name, recording in recordings.items():
        given_ = read_recording(SCENES[name].with_name(f"{recording}.jsonl"))
        logs = []
        for watches in (False, True):
            router, _ = world_for(SCENES[name])
            watched, asker = Watched(router), Listener()
            if watches:
                watched.begin(asker)
                watched.ask(asker, json.dumps({"ask": "hello", "version": VERSION, "id": 0}))
                for number in range(40):
                    watched.ask(asker, json.dumps({"ask": "picture" if number % 2 else "tree", "id": number}))
                    watched.ask(asker, json.dumps({"ask": "at", "id": number, "x": 30 * number, "y": 20 * number}))
            logs.append(EventLog(None, log_rows(replay(router, given_))).lines())
            write_scene(router.scene, tmp_path / "after.yaml")
            logs[-1].append((tmp_path / "after.yaml").read_text())
        assert logs[0] == logs[1]
        assert any(one["tell"] == "verdicts" for one in asker.told)


def test_what_fails_inside_is_logged_and_not_told(game: Game, caplog: pytest.LogCaptureFixture) -> None:
    def fails(*_: object, **__: object) -> None:
        raise RuntimeError("a secret of the machine")

    with opened(game.server) as link, caplog.at_level(logging.ERROR, "glent.live"):
        tool = Tool(link)
        game.router.hits = fails
        told = tool.ask("at", x=1, y=1)
        del game.router.hits
        assert told["why"] == "the live view failed at this; its log says more"
        assert tool.ask("at", x=1, y=1)["tell"] == "found"
    assert "a secret of the machine" in caplog.text


def test_a_check_runs_aside_one_at_a_time(game: Game, monkeypatch: pytest.MonkeyPatch) -> None:
    with opened(game.server) as link:
        tool = Tool(link)
        link.send('{"ask": "check", "id": 900}')
        link.send('{"ask": "check", "id": 901}')
        first, second = tool.answer(), tool.answer()
        assert (first["id"], first["why"]) == (901, "a check is under way already; wait for what it finds")
        assert second["id"] == 900
        assert "clipped" in {one["code"] for one in second["found"]}  # what code scrolls, a file alone does not
        assert set(second["found"][0]) == {"code", "nodes", "sentence", "shown", "mend", "change"}
        monkeypatch.setattr("glent.live.checker.sys.executable", "no-such-python")
        assert tool.ask("check")["why"] == "the check failed; the log of the live view says more"


def test_idle_moves_are_counted_and_a_storm_is_bounded() -> None:
    router = Router(read_scene(SCENES["harbour"]))
    watched, asker = Watched(router), Listener()
    watched.begin(asker)
    watched.ask(asker, json.dumps({"ask": "hello", "version": VERSION, "id": 0}))
    router.feed(TickSample(0.5))
    for number in range(50):
        router.feed(PointerSample(1.0, "move", 600.0 + number % 2, 600.0))
    router.feed(TickSample(1.1))
    router.feed(TickSample(1.2))
    rows = [row for one in asker.told if one["tell"] == "verdicts" for row in one["rows"]]
    assert sum(row["times"] for row in rows) == 50
    assert len(rows) <= 3
    for number in range(3_000):
        router.feed(PointerSample(2.0, "press" if number % 2 else "release", 420.0, 28.0))
    for number in range(60):
        router.feed(TickSample(2.1 + number / 100))
    told = [one for one in asker.told if one["tell"] == "verdicts"]
    assert sum(len(one["rows"]) + one["dropped"] for one in told) == len(rows) + 3_000
    assert max(len(one["rows"]) for one in told) <= 8
