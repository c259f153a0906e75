"""The laws of requests: pending looks pending, refusals say why, what is lost or late does no harm."""

from __future__ import annotations

import time
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

import glent
from glent.demo.authority import HarbourMaster, MasterServer, SocketLink, delayed
from glent.wiring import Requests, Wiring
from stage import Stage


def desk(**options: Any) -> tuple[Stage, Requests, Wiring, HarbourMaster, list[Any]]:
    stage = Stage("desk/orders/tugs/anchovy")
    master = HarbourMaster()
    take = lambda answer: requests.receive(answer)  # noqa: E731
    requests = Requests(stage.router, delayed(stage.router, master, take, **options), timeout=2.0)
    wiring = Wiring(stage.scene, stage.controls, requests)
    sent: list[Any] = []
    wiring.on("send-tug", sent.append)
    return stage, requests, wiring, master, sent


def test_q1_a_request_is_pending_until_it_is_answered_and_done_once_it_is_accepted() -> None:
    stage, requests, _, master, sent = desk()
    stage.do("click .")
    (request,) = requests.pending.values()
    assert request.message == {"request": 1, "seat": "main", "name": "send-tug", "data": "anchovy"}
    assert stage.see("marks") == ["pending"]
    stage.do("click .")  # nothing more is sent meanwhile
    assert len(requests.pending) == 1
    assert sent == []
    stage.do("wait 0.5")
    assert (stage.see("marks"), sent, master.sent["anchovy"]) == ([], ["anchovy"], 1)
    assert request.state == "accepted"


def test_q1_a_refusal_shows_its_reason_until_the_next_try() -> None:
    stage, _, _, master, sent = desk()
    bramble = stage.controls["desk/orders/tugs/bramble"]
    stage.do("click desk/orders/tugs/bramble")
    stage.do("wait 0.5")
    assert (list(bramble.look().marks), bramble.reason) == (["refused"], "bramble is 910 m out, beyond 400 m")
    assert sent == []
    master.tugs["bramble"] = 30.0
    stage.do("click desk/orders/tugs/bramble")
    assert (list(bramble.look().marks), bramble.reason) == (["pending"], "")
    stage.do("wait 0.5")
    assert sent == ["bramble"]


def test_q2_a_lost_answer_times_out_and_a_late_one_is_ignored() -> None:
    stage, requests, _, master, sent = desk(delay=3.0)
    stage.do("click .")
    (request,) = requests.pending.values()
    stage.do("wait 2.1")
    assert (request.state, stage.control.reason) == ("lost", "no answer came")
    assert stage.see("marks") == ["refused"]
    stage.do("wait 2")
    assert sent == []
    assert request.state == "lost"
    assert master.sent["anchovy"] == 1
    assert not requests.receive({"answer": 1, "accepted": True})
    for other in ({}, {"answer": "x"}, {"answer": 2, "accepted": "yes"}, {"answer": 99, "accepted": True}):
        assert not requests.receive(other)


HOW = ("yes", "no", "twice", "late", "junk", "none")


@settings(max_examples=60, deadline=None)
@given(st.lists(st.tuples(st.integers(0, 4), st.sampled_from(HOW)), max_size=25))
def test_q2_each_request_is_decided_exactly_once(steps: list[tuple[int, str]]) -> None:
    scene = glent.Scene((100, 100))
    router = glent.Router(scene)
    out: list[dict[str, Any]] = []
    requests = Requests(router, lambda message: out.append(dict(message)), timeout=1.0)
    decided: dict[int, list[str]] = {}
    now = 0.0
    for number, (wait, how) in enumerate(steps):
        request = requests.ask("x", number, seat="second")
        decided[request.number] = []
        request.then(lambda one: decided[one.number].append(one.state))
        answer = {"answer": request.number, "accepted": how != "no", "reason": "so"}
        if how == "late":
            now += 1.5
            router.tick(now)
        if how in ("yes", "no", "twice", "late"):
            assert requests.receive(answer) == (how != "late")
        if how == "twice":
            assert not requests.receive(answer)
        if how == "junk":
            requests.receive({"answer": request.number})
        now += wait / 4
        router.tick(now)
    router.tick(now + 1.0)
    wanted = {"yes": "accepted", "twice": "accepted", "no": "refused", "late": "lost", "junk": "lost", "none": "lost"}
    assert decided == {n + 1: [wanted[how]] for n, (_, how) in enumerate(steps)}
    assert [message["request"] for message in out] == list(range(1, len(steps) + 1))
    assert requests.pending == {}


@pytest.mark.parametrize("loss", [0.0, 0.5, 1.0])
def test_q3_the_simulated_authority_loses_the_same_messages_each_time(loss: float) -> None:
    runs = []
    for _ in range(2):
        stage, _, _, master, sent = desk(loss=loss, seed=3)
        for _ in range(12):
            stage.do("click .")
            stage.do("wait 2.2")
        runs.append((list(sent), dict(master.sent)))
    assert runs[0] == runs[1]
    assert {0.0: 12, 1.0: 0}.get(loss, len(runs[0][0])) == len(runs[0][0])
    assert loss != 0.5 or 2 < len(runs[0][0]) < 10


def test_q3_over_a_local_socket_it_is_the_same() -> None:
    stage = Stage("desk/orders/tugs/anchovy")
    master = HarbourMaster()
    with MasterServer(master) as server:
        requests = Requests(stage.router, lambda message: link.send(message), timeout=60.0)
        link = SocketLink(server.port, requests.receive, requests.give_up)
        wiring = Wiring(stage.scene, stage.controls, requests)
        sent: list[Any] = []
        wiring.on("send-tug", sent.append)
        link.send({"no": "request"})
        stage.do("click .")
        stage.do("click desk/orders/tugs/bramble")
        until = time.monotonic() + 20.0
        while requests.pending and time.monotonic() < until:
            link.poll()
            time.sleep(0.005)
        assert (sent, master.sent) == (["anchovy"], {"anchovy": 1, "bramble": 0})
        assert stage.controls["desk/orders/tugs/bramble"].reason == "bramble is 910 m out, beyond 400 m"
        stage.do("click .")
        link._socket.shutdown(2)
        link.poll()
        assert (stage.see("marks"), stage.control.reason) == (["refused"], "the connection is gone")
        link.send({"request": 9})  # and later ones do no harm
        link.close()
