"""What the server answers over the demo's year of work, as of one day: every list, every screen's
view, every record.

`python -m tests.golden.answers` writes it anew, to be read before it is committed; it needs the
cluster of the tests.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from itertools import count
from pathlib import Path
from typing import Any

import pytest

from orthotorq.demo.load import load
from orthotorq.services.running import pulls
from orthotorq.services.schema import upgrade
from orthotorq.web import create_app, operation
from orthotorq.web.database import sessions
from tests.api.conftest import Client
from tests.conftest import APP_ROLE, Database, drop_database, make_database
from tests.golden.benches import leaves

HERE = Path(__file__).parent / "answers"
#: the day on which the demo is looked at, and the time of every call
DAY, TIME = datetime(2026, 11, 24, 7, 30, tzinfo=UTC), datetime(2026, 11, 24, 9, 0, tzinfo=UTC)
LISTS = (
    "shift",
    "equipment",
    "runs?limit=30",
    "due-dates?limit=200",
    "calendar",
    "tools",
    "own-entries",
    "lessons",
    "sites",
    "people",
    "records",
    "devices",
    "search?find=pump",
    "search?find=cover+450",
    "search?find=TW-0",
    "factors",
)
OF_JOINT, OF_PLAN = (
    ("", "/history", "/plans-to-copy"),
    ("/revisions", "/suggestions", "/side-drafts"),
)
#: runs whose record is kept whole: the last of each plan
RECORDS = 13


class Clock(datetime):
    """A clock that stands."""

    @classmethod
    def now(cls, tz: Any = None) -> datetime:  # type: ignore[override]
        return TIME


def plain(line: str) -> str:
    """Without what is drawn by chance."""
    line = re.sub(r"[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}", "ID", line)
    return re.sub(r"\b[0-9a-f]{32,64}\b", "HASH", line)


def asked(get: Callable[[str], Any]) -> Iterator[tuple[str, str]]:
    """(name of the file, address) of all that is asked."""
    yield from (("lists", one) for one in LISTS)
    yield "tables", "table-sheets"
    machines = get("equipment")["items"]
    for machine in machines:
        yield "machines", f"equipment/{machine['id']}/meters"
        for joint in machine["joints"]:
            yield from (("joints", f"joints/{joint['id']}{one}") for one in OF_JOINT)
            for plan in joint["plans"]:
                yield from (("plans", f"plans/{plan['id']}{one}") for one in OF_PLAN)
                if plan["revision_id"]:
                    yield "plans", f"revisions/{plan['revision_id']}/start"
    for tool in get("tools")["items"]:
        yield from (("tools", f"tools/{tool['id']}{one}") for one in ("", "/touched"))
    seen = set()
    for run in get("runs?limit=100")["items"]:
        if run["title"] not in seen and len(seen) < RECORDS:
            seen.add(run["title"])
            yield "records", f"runs/{run['id']}/record"
            yield "records", f"runs/{run['id']}/readings"


@contextmanager
def year() -> Iterator[tuple[Callable[[str], Any], Database]]:
    """What asks a server over the demo's year as of the day, and the database of it."""
    database = make_database()
    upgrade(database.owner_url, APP_ROLE)
    opened = database.sessions()
    with pytest.MonkeyPatch.context() as patch:
        # what a simulated wrench reads is drawn by the id of its pull
        patch.setattr(pulls, "_seed", lambda _id, drawn=count(): next(drawn))
        with opened.begin() as session:
            load(session, year=True, today=DAY)
        opened.kw["bind"].dispose()
        patch.setenv("ORTHOTORQ_DATABASE_URL", database.app_url)
        patch.setattr(operation, "datetime", Clock)
        app = create_app()
        clients = {login: Client(app.test_client(), login) for login in ("mira", "runa", "jory")}

        def get(address: str) -> Any:
            answers = [clients[login].get(f"/api/v1/{address}") for login in clients]
            return next(
                (one.json for one in answers if one.status_code == 200),
                {"status": answers[0].status_code},
            )

        yield get, database
        sessions(app).kw["bind"].dispose()
    drop_database(database)


def lines(get: Callable[[str], Any]) -> dict[str, list[str]]:
    """File -> what is answered, an object a line."""
    out: dict[str, list[str]] = {}
    for name, address in asked(get):
        answer = get(address)
        out.setdefault(name, []).append(plain(f"== {address}"))
        out[name] += [
            plain(line)
            for line in leaves(answer if isinstance(answer, dict) else {"items": answer}, "")
        ]
    return out


if __name__ == "__main__":
    HERE.mkdir(exist_ok=True)
    with year() as (ask, _):
        for file, told in lines(ask).items():
            (HERE / f"{file}.txt").write_text("\n".join(told) + "\n", encoding="utf-8")
