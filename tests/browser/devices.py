"""A device without a screen: signs in, holds a run of its own and confirms steps over HTTP."""

from __future__ import annotations

import http.client
import http.cookiejar
import json
import secrets
import time
import urllib.request
from contextlib import suppress
from typing import Any

from orthotorq.core.forms.run import Instruction
from tests.core.play import recorded, within


def event_id() -> str:
    """A UUID of version 7, as a device makes them."""
    stamp, rest = f"{time.time_ns() // 1_000_000:012x}", secrets.token_hex(10)
    return f"{stamp[:8]}-{stamp[8:]}-7{rest[:3]}-8{rest[3:6]}-{rest[6:18]}"


#: notes that a device sends where it cannot go on, before it begins its next run
NOTES = 20


class Device:
    """Confirms the steps of its own run one after the other."""

    def __init__(self, address: str, name: str, login: str = "tam") -> None:
        self.api, self.name = f"{address}/api/v1", name
        self.opener = urllib.request.build_opener(
            urllib.request.HTTPCookieProcessor(http.cookiejar.CookieJar())
        )
        self.csrf = ""
        self.csrf = self.ask("/session")["csrf"]
        self.csrf = self.ask("/session", {"login": login, "password": "saltworks"})["csrf"]
        self.confirmed: list[str] = []
        self.taken_ms: list[float] = []

    def begin(self, revision: str, *following: str, **chosen: Any) -> Device:
        """Start a run of its own; of those that follow, one is begun each time that nothing but
        notes is left to send."""
        run = self.ask("/runs", {"revision": revision, "device": self.name, **chosen})["id"]
        view = self.ask(f"/runs/{run}")
        self.run, self.lease, self.state, self.sequence = run, view["lease_epoch"], view["state"], 0
        self.following, self.notes = [*following, revision] if following else [], 0
        return self

    def ask(self, path: str, body: Any = None) -> Any:
        """GET, or POST of JSON or of a zip. Raises OSError when there is no good answer."""
        kind = "application/zip" if isinstance(body, bytes) else "application/json"
        data = body if body is None or isinstance(body, bytes) else json.dumps(body).encode()
        request = urllib.request.Request(
            self.api + path, data, {"Content-Type": kind, "X-CSRFToken": self.csrf}
        )
        try:
            with self.opener.open(request, timeout=10) as answer:
                return json.load(answer)
        except (http.client.HTTPException, json.JSONDecodeError) as broken:
            # the server was ended in the middle of its answer
            raise OSError("the answer broke off") from broken

    def event(self) -> dict[str, Any]:
        """The next answer, or a note where the step wants more than one tap."""
        step = self.state["instruction"]
        button = step["buttons"][0]["answer"] if step else "value"
        tap = button not in ("value", "repair")
        self.notes += not tap
        return (
            self._event("answer", {"answer": button})
            if tap
            else self._event("note", {"text": "still here"})
        )

    def _event(self, kind: str, payload: dict[str, Any]) -> dict[str, Any]:
        self.sequence += 1
        step = self.state["instruction"]
        return {
            "id": event_id(),
            "run": self.run,
            "step": step["step"] if step else "-",
            "kind": kind,
            "payload": payload,
            "device": self.name,
            "device_sequence": self.sequence,
            "device_time": "2026-11-24T08:00:00Z",
            "lease": self.lease,
            "last_seen": self.state["sequence"],
        }

    def usual(self) -> None:
        """What a fitter answers when all goes well, be it a tap or a reading."""
        step = Instruction.model_validate(self.state["instruction"])
        answer = step.buttons[0].answer
        reading = {"value": within(step)} if answer == "value" else {}
        self.confirm(self._event("answer", {"answer": answer, **reading, **recorded(step, answer)}))

    def confirm(self, event: dict[str, Any]) -> None:
        """Send an event; what is not answered is sent again, the same, until it is."""
        for _ in range(200):
            began = time.perf_counter()
            with suppress(OSError, ValueError):
                body = self.ask(
                    f"/runs/{self.run}/events",
                    {"sent_at": "2026-11-24T08:00:00Z", "events": [event]},
                )
                verdict = body["answers"][0]["verdict"]
                assert verdict in ("accepted", "duplicate"), body["answers"]
                self.taken_ms.append((time.perf_counter() - began) * 1e3)
                self.confirmed.append(event["id"])
                self.state = body["state"]
                return
            time.sleep(0.1)
        raise AssertionError("the server never came back")

    def work(self, seconds: float, every: float, least: int = 0) -> None:
        """Confirm one event each so many seconds, and go on on a slow machine until so many are
        confirmed."""
        until = time.monotonic() + seconds
        while (began := time.monotonic()) < until or len(self.confirmed) < least:
            if self.following and self.notes > NOTES:
                # the server may be down now; then the old run goes on for a second more
                with suppress(OSError, ValueError):
                    self.begin(*self.following)
            self.confirm(self.event())
            time.sleep(max(0.0, every - (time.monotonic() - began)))
