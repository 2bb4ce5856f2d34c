"""The permission table and the chain of a run, without a database."""

from __future__ import annotations

import importlib
import json
import pkgutil
import uuid
from collections import OrderedDict
from datetime import UTC, datetime, timedelta
from types import SimpleNamespace
from typing import Any, cast

import pytest
from sqlalchemy.orm import Session

from orthotorq import services, settings
from orthotorq.core.forms.result import ToolOut
from orthotorq.core.running import Fact
from orthotorq.core.running.walk.actions import ACTIONS
from orthotorq.services.codes import time_text
from orthotorq.services.context import Actor, Ctx
from orthotorq.services.errors import Forbidden, NotSignedIn
from orthotorq.services.permissions import ANYONE, REGISTRY, ROLES, TABLE, allowed
from orthotorq.services.running import chain
from orthotorq.services.running.append import happened
from orthotorq.services.running.chain import GENESIS, canonical_event, chain_hash, fact_of
from orthotorq.services.running.prepare import reaches
from orthotorq.services.running.verify import Walked, walk_chain
from orthotorq.services.toolroom.tools import ToolView, correction_words
from orthotorq.store.models import Tool

# the registry is whole once every use case is imported
for module in pkgutil.walk_packages(services.__path__, "orthotorq.services."):
    importlib.import_module(module.name)
NOW = datetime(2026, 11, 24, 8, 0, tzinfo=UTC)


class Reached(Exception):
    """The use case began: the table let the call through."""


class NoSession:
    """Touching the session means that the call came past the table."""

    def __getattr__(self, name: str) -> Any:
        raise Reached


def test_a_preset_driver_is_offered_for_its_own_figure_alone() -> None:
    wanted = cast(ToolOut, SimpleNamespace(sort="wrench", kind="preset driver", high_Nm=80.0))
    found = {
        high: reaches(
            wanted,
            cast(ToolView, SimpleNamespace(sort="wrench", kind="preset driver", high_Nm=high)),
        )
        for high in (79.0, float("80.0"), 81.0)
    }
    assert found == {79.0: False, 80.0: True, 81.0: False}


@pytest.mark.parametrize(("high", "offered"), [(60.1, True), (59.9, False)])
def test_a_wrench_is_offered_from_six_tenths_of_what_is_asked(high: float, offered: bool) -> None:
    wanted = cast(ToolOut, SimpleNamespace(sort="wrench", kind="click wrench", high_Nm=100.0))
    assert (
        reaches(
            wanted,
            cast(ToolView, SimpleNamespace(sort="wrench", kind="click wrench", high_Nm=high)),
        )
        is offered
    )
    # a preset driver has one figure, whatever the share
    assert not reaches(
        wanted, cast(ToolView, SimpleNamespace(sort="wrench", kind="preset driver", high_Nm=100.0))
    )


def test_an_error_that_a_wrench_is_used_with_is_said() -> None:
    def words(kind: str, corrected: float | None) -> str:
        return correction_words(
            cast(Tool, SimpleNamespace(corrected=corrected, spec=json.dumps({"kind": kind})))
        )

    assert (
        words("click wrench", 0.034)
        == "used with its error of +3.4 %: settings are corrected by it"
    )
    assert (
        words("preset driver", -0.021)
        == "used with its error of -2.1 %: the clamp band is wider by it"
    )
    assert words("preset driver", None) == words("click wrench", None) == ""


@pytest.mark.parametrize(
    ("ago", "believed"), [(29.9, 29.9), (30.1, 30.0), (400.0, 30.0), (-1.0, 0.0)]
)
def test_a_clock_is_believed_for_thirty_days_back_and_never_ahead(
    ago: float, believed: float
) -> None:
    told = (NOW - timedelta(days=ago)).isoformat()
    assert NOW - happened(NOW, told, NOW.isoformat()) == timedelta(days=believed)


def called(name: str, roles: frozenset[str] | None) -> str:
    """What the guard says to a call by somebody in these roles; nothing of the use case itself can
    work here."""
    actor = None if roles is None else Actor(uuid.UUID(int=1), "Somebody", "somebody", roles)
    try:
        REGISTRY[name](Ctx(cast(Session, NoSession()), NOW, actor, sign_in=uuid.UUID(int=2)))
    except NotSignedIn:
        return "nobody"
    except Forbidden as refusal:
        assert str(refusal).startswith("This needs the role")
        return "forbidden"
    except (Reached, TypeError):
        return "called"
    return "called"


@pytest.mark.parametrize("name", sorted(TABLE))
def test_the_table_is_asked_before_anything_is_done(name: str) -> None:
    needed = TABLE[name]
    if needed is ANYONE:
        assert called(name, None) == called(name, frozenset()) == "called"
        return
    assert called(name, None) == "nobody"
    assert called(name, frozenset()) == "forbidden"
    for role in ROLES:
        assert called(name, frozenset({role})) == ("called" if role in needed else "forbidden"), (
            role
        )
    # one role of several is enough
    assert called(name, frozenset({"visitor", *sorted(needed)[:1]})) == "called"


def test_every_use_case_is_in_the_table_and_the_table_names_no_other() -> None:
    assert set(REGISTRY) == set(TABLE)
    for roles in TABLE.values():
        assert roles is ANYONE or roles <= set(ROLES)


def test_what_somebody_may_is_what_the_table_says() -> None:
    assert allowed(frozenset()) == sorted(n for n, roles in TABLE.items() if roles is ANYONE)
    both = set(allowed(frozenset({"planner", "fitter"})))
    assert both == set(allowed(frozenset({"planner"}))) | set(allowed(frozenset({"fitter"})))
    assert "planning.release" in both and "planning.release" not in allowed(
        frozenset({"fitter", "supervisor", "administrator"})
    )


class Chain:
    """A run with its entries, as the store would give them."""

    def __init__(self, count: int) -> None:
        self.run = SimpleNamespace(
            id=uuid.UUID(int=9), number=404, head_sequence=count, head_hash=GENESIS, code=""
        )
        self.events: list[Any] = []
        for sequence in range(1, count + 1):
            self.add(sequence)

    def add(self, sequence: int) -> None:
        client = {
            "id": str(uuid.UUID(int=sequence)),
            "run": str(self.run.id),
            "step": f"-/t/h/r1/b.{sequence}",
            "kind": "answer",
            "payload": {"answer": "done"},
            "device": "tablet",
            "device_sequence": sequence,
            "device_time": "2026-11-24T08:00:00Z",
            "lease": 1,
            "last_seen": sequence - 1,
        }
        server = {
            "sequence": sequence,
            "verdict": "accepted",
            "person": str(uuid.UUID(int=1)),
            "received_at": time_text(NOW),
        }
        text, before = canonical_event(client, server), self.run.head_hash
        columns = {k: v for k, v in client.items() if k not in ("id", "run", "payload")}
        self.events.append(
            SimpleNamespace(
                **columns,
                id=client["id"],
                sequence=sequence,
                verdict="accepted",
                person_id=server["person"],
                received_at=NOW,
                happened_at=None,
                canonical=text,
                previous_hash=before,
                hash=chain_hash(before, text),
                name="Tam",
                run_id=client["run"],
                code="",
            )
        )
        self.run.head_hash = self.events[-1].hash

    def broken(self) -> tuple[int, str] | None:
        walked = Walked()
        walk_chain(self.run, self.events, self.run.number, walked, {}, {})
        return (walked.breaks[0].sequence, walked.breaks[0].what) if walked.breaks else None


def test_a_chain_that_nobody_touched_holds() -> None:
    assert Chain(0).broken() is None
    assert Chain(5).broken() is None


@pytest.mark.parametrize(
    ("column", "value"),
    [
        ("step", "-/t/h/r1/b.9"),
        ("kind", "note"),
        ("device", "another"),
        ("device_sequence", 9),
        ("lease", 2),
        ("last_seen", 7),
        ("device_time", "2026-11-24T09:00:00Z"),
        ("verdict", "conflict"),
        ("person_id", str(uuid.UUID(int=2))),
        ("received_at", NOW.replace(hour=9)),
        ("happened_at", NOW),
        ("id", str(uuid.UUID(int=77))),
    ],
)
def test_a_column_that_differs_from_the_hashed_text_is_found(column: str, value: object) -> None:
    chain = Chain(4)
    setattr(chain.events[2], column, value)
    found = chain.broken()
    assert found is not None and found[0] == 3 and "differs from the hashed text" in found[1]


def test_a_text_that_was_changed_does_not_give_its_hash() -> None:
    chain = Chain(4)
    chain.events[1].canonical = chain.events[1].canonical.replace("done", "not_sure")
    assert chain.broken() == (2, "the text does not give its hash")
    # hashed anew, it is the next entry that tells
    chain.events[1].hash = chain_hash(chain.events[1].previous_hash, chain.events[1].canonical)
    assert chain.broken() == (3, "the previous hash is not that of the entry before")


def test_a_text_that_can_no_longer_be_read_is_a_break_and_no_crash() -> None:
    chain = Chain(4)
    chain.events[1].canonical = "{"
    assert chain.broken() == (2, "the text does not give its hash")


@pytest.mark.parametrize(
    "text",
    [
        "",
        "{",
        "[]",
        "5",
        "{}",
        '{"client": {}, "server": {}}',
        '{"client": [], "server": 5}',
        "[" * 100_000,
        '{"server": {"received_at": "soon"}}',
    ],
)
def test_a_text_that_nobody_can_read_is_a_break_though_its_hash_fits(text: str) -> None:
    chain = Chain(4)
    last = chain.events[3]
    last.canonical, last.hash = text, chain_hash(last.previous_hash, text)
    chain.run.head_hash = last.hash
    assert chain.broken() == (4, "its text cannot be read")


@pytest.mark.parametrize(
    "time", ["soon", "", 5, None, "2026-11-24T08:00:01Z", "2026-11-24T08:00:00"]
)
def test_a_time_in_the_text_that_is_not_that_of_the_column_is_a_break(time: object) -> None:
    chain = Chain(1)
    only = chain.events[0]
    document = json.loads(only.canonical)
    assert document["server"]["received_at"] == time_text(NOW)
    document["server"]["received_at"] = time
    only.canonical = json.dumps(document)
    only.hash = chain.run.head_hash = chain_hash(GENESIS, only.canonical)
    assert chain.broken() in (
        (1, "column received_at differs from the hashed text"),
        (1, "its text cannot be read"),
    )


def test_entries_that_are_missing_are_missed_wherever_they_were() -> None:
    for gone, where in ((0, 2), (1, 3), (3, 4)):
        chain = Chain(4)
        del chain.events[gone]
        found = chain.broken()
        assert found is not None and found[0] == where, (gone, found)


def test_a_fact_is_when_it_happened_not_when_it_came() -> None:
    row = Chain(1).events[0]
    assert (fact_of(row).payload, fact_of(row).at) == ({"answer": "done"}, time_text(NOW))
    document = json.loads(row.canonical)
    document["server"].update(happened_at="2026-11-24T07:30:00.000000Z", payload={"digest": "x"})
    row.canonical = json.dumps(document)
    assert fact_of(row).payload == {"answer": "done", "digest": "x"}
    assert fact_of(row).happened == datetime(2026, 11, 24, 7, 30, tzinfo=UTC).timestamp()


def test_a_worker_remembers_the_runs_it_was_asked_for_last_and_no_more(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    fact, runs = fact_of(Chain(1).events[0]), [uuid.UUID(int=n) for n in range(4)]
    kept: OrderedDict[uuid.UUID, list[Fact]] = OrderedDict()
    monkeypatch.setattr(chain, "_READ", kept)
    monkeypatch.setattr(chain, "MOST_REMEMBERED", 6)
    for run in runs[:3]:
        chain._remember(run, [fact] * 2)
    assert list(kept) == runs[:3]
    # the first is asked for again, so the second is the oldest; what has grown counts as it is now
    chain._remember(runs[0], [fact] * 3)
    assert list(kept) == [runs[2], runs[0]]
    # of a run that is longer than all that may be remembered everything is
    chain._remember(runs[3], [fact] * 7)
    assert {run: len(facts) for run, facts in kept.items()} == {runs[3]: 7}


def test_words_that_come_again_are_kept_once() -> None:
    first, second = (fact_of(Chain(1).events[0]) for _ in range(2))
    for one in ("step", "kind", "person"):
        assert getattr(first, one) is getattr(second, one)
    assert next(iter(first.payload)) is next(iter(second.payload))
    assert first.at is first.received_at


def test_what_a_run_offers_is_let_through_by_the_table() -> None:
    for name, action in ACTIONS.items():
        assert action.roles <= (TABLE["running.append_events"] or frozenset()), name
    assert ACTIONS["photo"].roles == TABLE["running.keep_photo"]
    assert ACTIONS["take_over"].roles == TABLE["running.take_lease"]


def test_a_key_that_is_too_short_to_be_a_secret_is_refused(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("ORTHOTORQ_SECRET_KEY", "x")
    with pytest.raises(settings.MissingSetting, match="too short"):
        settings.read("ORTHOTORQ_SECRET_KEY")
    monkeypatch.setenv("ORTHOTORQ_SECRET_KEY", "x" * settings.LEAST_KEY)
    assert settings.read("ORTHOTORQ_SECRET_KEY") == "x" * 32
