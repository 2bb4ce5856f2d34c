"""Rough handling: broken archives, odd events, long addresses, two at the same thing at the same
time."""

from __future__ import annotations

import io
import zipfile
from concurrent.futures import ThreadPoolExecutor
from typing import Any

import pytest
from flask import Flask

from tests.api.conftest import Client, end_open
from tests.api.test_api import first_plan
from tests.api.test_event_fuzz import event
from tests.api.test_exchange import send


def packed(kind: int = zipfile.ZIP_DEFLATED, name: str = "a.json") -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", kind) as archive:
        archive.writestr(name, b'{"title": "' + b"ab" * 400 + b'"}')
    return out.getvalue()


def bent(data: bytes, at: int, to: bytes) -> bytes:
    return data[:at] + to + data[at + len(to) :]


BROKEN = {
    "deflate": bent(packed(), 40, b"\xff\xff\xff\xff\xff\xff"),
    "lzma": packed(zipfile.ZIP_LZMA),
    "broken lzma": bent(packed(zipfile.ZIP_LZMA), 50, b"\x00\xff\x13\x37\x00\xff"),
    "bzip2": packed(zipfile.ZIP_BZIP2),
    # bit 11 says that the name is UTF-8; it is not
    "name": packed(name="ä.json").replace("ä".encode(), b"\xff\xfe"),
    "cut": packed()[:-30],
    "sizes": bent(packed(), packed().rindex(b"PK\x01\x02") + 24, b"\xff\xff\xff\x7f"),
    "only an end": packed()[-22:],
    "encrypted": bent(bent(packed(), 6, b"\x01"), packed().rindex(b"PK\x01\x02") + 8, b"\x01"),
}


@pytest.mark.parametrize("name", BROKEN)
def test_a_broken_archive_is_said_to_be_none(client: Any, name: str) -> None:
    answer = send(client("mira"), "/api/v1/imports", BROKEN[name], "application/zip")
    assert answer.status_code == 422, answer.text
    assert answer.json["errors"][0]["path"] == "file"


@pytest.mark.parametrize("name", [name for name in BROKEN if name != "only an end"])
@pytest.mark.parametrize("address", ["/api/v1/readings/look", "/api/v1/registers/machines/looks"])
def test_a_broken_workbook_is_said_to_be_none(client: Any, name: str, address: str) -> None:
    kind = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
    answer = send(client("mira"), address, BROKEN[name], kind)
    assert answer.status_code in (404, 405, 415, 422), answer.text


def nested(deep: int) -> Any:
    made: Any = []
    for _ in range(deep):
        made = [made]
    return made


@pytest.mark.parametrize(
    ("kind", "payload"),
    [
        ("redo", {"stage": [], "reason": "x"}),
        ("redo", {"stage": {}, "reason": "x"}),
        ("redo", {"stage": None, "reason": "x"}),
        ("redo", {"reason": "x"}),
        ("note", {"text": nested(900)}),
        ("note", {"text": nested(60)}),
        ("note", {"text": {"a": 1}}),
        ("correct", {"corrects": [], "payload": []}),
        ("tool", {"tool": [], "serial": {}, "reason": [], "check": []}),
        ("photo", {"photo": nested(3)}),
        ("photo", {"photo": "00000000-0000-0000-0000-000000000000"}),
        ("accept", {"deviation": [], "reason": 4}),
        ("abandon", {"reason": []}),
        ("suggest", {"text": nested(4)}),
        ("problem", {"problem": [], "text": {}}),
        ("answer", {"answer": "done", "value": [1], "recorded": nested(5)}),
    ],
)
def test_odd_events_are_refused_with_a_sentence_and_the_run_goes_on(
    client: Any, kind: str, payload: dict[str, Any]
) -> None:
    tam = client("tam")
    end_open(tam)
    made = tam.post(
        "/api/v1/runs", {"revision": first_plan(tam)["revision_id"], "device": "t"}
    ).json["id"]
    step = tam.get(f"/api/v1/runs/{made}").json["state"]["instruction"]["step"]
    sent = {**event(made, step, 1), "kind": kind, "payload": payload}
    answer = tam.post(
        f"/api/v1/runs/{made}/events", {"sent_at": "2026-11-24T08:00:00Z", "events": [sent]}
    )
    assert answer.status_code in (200, 400, 422), answer.text
    if answer.status_code == 200:
        said = answer.json["answers"][0]
        assert said["verdict"] == "refused" and said["text"], said
    assert tam.get(f"/api/v1/runs/{made}").json["state"]["instruction"]["step"] == step
    for kept in ("record", "record.json", "record.csv"):
        assert tam.get(f"/api/v1/runs/{made}/{kept}").status_code == 200


@pytest.mark.parametrize(
    "address",
    [
        "/" + "a" * 300,
        "/_app/" + "b" * 300 + ".js",
        "/api/v1/" + "c" * 300,
        "/runs/" + "d/" * 2000,
        "/%00",
        "/..%2f..%2fetc",
        "/" + "%F0%9F%94%A9" * 90,
    ],
)
def test_any_address_has_an_answer(client: Any, address: str) -> None:
    with client("tam").get(address) as answer:
        assert answer.status_code in (200, 404)


def at_once(app: Flask, logins: list[str], ask: Any) -> list[Any]:
    """What several people get who ask at the same time."""
    people = [Client(app.test_client(), login) for login in logins]
    with ThreadPoolExecutor(len(people)) as pool:
        return list(pool.map(ask, people, range(len(people))))


def test_two_who_set_the_same_stock_at_once_both_get_an_answer(app: Flask) -> None:
    for name in ("light-oil", "engine-oil", "ptfe"):

        def ask(who: Client, number: int, name: str = name) -> Any:
            return who.post("/api/v1/stock", {"lubricant": name, "in_store": number % 2 == 0})

        found = at_once(app, ["mira", "runa"] * 3, ask)
        statuses = {answer.status_code for answer in found}
        assert 200 in statuses and statuses <= {200, 503}, [a.text for a in found]


def test_two_who_save_the_same_own_entry_at_once_both_get_an_answer(app: Flask) -> None:
    body = {"name": "Grey grease", "mu_thread": [0.1, 0.12, 0.14], "source": "sheet 7"}
    entry = {"kind": "lubricant", "key": "grey-grease", "body": body}
    found = at_once(app, ["mira"] * 6, lambda who, _: who.post("/api/v1/own-entries", entry))
    statuses = {answer.status_code for answer in found}
    assert 201 in statuses and statuses <= {201, 409, 503}, [a.text for a in found]


def test_one_event_id_sent_to_two_runs_at_once_is_kept_in_one(app: Flask, client: Any) -> None:
    tam = client("tam")
    plan = first_plan(tam)["revision_id"]
    end_open(tam)
    runs = [
        tam.post("/api/v1/runs", {"revision": plan, "device": "t"}).json["id"] for _ in range(4)
    ]
    step = tam.get(f"/api/v1/runs/{runs[0]}").json["state"]["instruction"]["step"]
    one = event(runs[0], step, 1)["id"]
    for again in range(3):
        fresh = f"{one[:-1]}{again}"

        def ask(who: Client, number: int, fresh: str = fresh, again: int = again) -> Any:
            run = runs[number]
            sent = {
                **event(run, "-", again + 1),
                "id": fresh,
                "kind": "note",
                "payload": {"text": "x"},
            }
            return who.post(
                f"/api/v1/runs/{run}/events", {"sent_at": "2026-11-24T08:00:00Z", "events": [sent]}
            )

        found = at_once(app, ["tam"] * 4, ask)
        assert {answer.status_code for answer in found} <= {200, 503}, [a.text for a in found]
        verdicts = [
            answer.json["answers"][0]["verdict"] for answer in found if answer.status_code == 200
        ]
        assert verdicts.count("accepted") == 1, verdicts
        # who was told to come again is told that the id is used
        late = [n for n, answer in enumerate(found) if answer.status_code == 503]
        for number in late:
            assert ask(tam, number).json["answers"][0]["verdict"] == "refused"
    for run in runs:
        assert tam.get(f"/api/v1/runs/{run}/record").json["not_proven"] == ""
