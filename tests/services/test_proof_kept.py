"""Keys that change, parts of a walk and photos: what is proved goes on being proved."""

from __future__ import annotations

import io
import uuid
from datetime import UTC, datetime
from pathlib import Path

import pytest
from PIL import Image

from orthotorq.services import keys
from orthotorq.services.accounts.commands import actor_of
from orthotorq.services.codes import time_text
from orthotorq.services.context import Ctx
from orthotorq.services.keys import KeyFileError, code_of, holds
from orthotorq.services.running import verify_at_once
from orthotorq.services.running.commands import append_events
from orthotorq.services.running.photos import keep_photo
from orthotorq.services.running.start import Choices, start_run
from orthotorq.services.running.verify_at_once import parts_of
from orthotorq.store.models import Person, Revision
from tests.conftest import Database
from tests.services.test_proof import OF_LAST, bend, missed, sealed, walk


def test_keys_are_changed_and_old_ones_still_verify(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    made = tmp_path / "keys"
    before = code_of("a text")
    assert before.startswith("secret:") and holds(before, "a text") is None
    made.write_text(f"# keys of the record\n2026a {'ab' * 32}\n")
    monkeypatch.setenv("ORTHOTORQ_KEYS", str(made))
    first = code_of("a text")
    made2 = tmp_path / "keys2"
    made2.write_text(f"2026a {'ab' * 32}\n2026b {'cd' * 32}\n")
    monkeypatch.setenv("ORTHOTORQ_KEYS", str(made2))
    second = code_of("a text")
    assert first.startswith("2026a:") and second.startswith("2026b:")
    assert [holds(one, "a text") for one in (before, first, second)] == [None] * 3
    assert all(holds(one, "another") for one in (before, first, second))
    for wrong in ("short ab\n", "no key at all\n", "x " + "zz" * 32):
        made3 = tmp_path / f"keys{len(wrong)}"
        made3.write_text(wrong)
        monkeypatch.setenv("ORTHOTORQ_KEYS", str(made3))
        with pytest.raises(KeyFileError, match="Line 1"):
            code_of("a text")
    monkeypatch.setenv("ORTHOTORQ_KEYS", str(tmp_path / "none"))
    with pytest.raises(KeyFileError, match="cannot be read"):
        keys.keys()


def test_a_person_of_the_demo_acts(own: Database) -> None:
    """The actor that the tests above stand on is a real one."""
    sessions = own.sessions()
    with sessions() as session:
        assert actor_of(session.query(Person).filter(Person.login == "tam").one()).roles == {
            "fitter"
        }
    sessions.kw["bind"].dispose()


@pytest.mark.parametrize("count", [1, 2, 3, 7])
def test_parts_together_are_everything_and_no_run_is_in_two(count: int) -> None:
    runs = [
        (uuid.UUID(int=number), entries)
        for number, entries in enumerate([1, 40, 1, 1, 900, 3, 2, 2, 60, 1], 1)
    ]
    parts = parts_of(runs, count)
    assert 1 <= len(parts) <= count
    taken = [
        [run for run, _ in runs if (first or run) <= run <= (last or run)] for first, last in parts
    ]
    assert [run for part in taken for run in part] == [run for run, _ in runs] and all(taken)


def test_the_walk_on_all_processors_finds_what_the_plain_one_finds(
    own: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    bend(
        own,
        f"UPDATE event SET happened_at = NULL WHERE sequence = 5 AND run_id = {OF_LAST}",
        "UPDATE person SET name = 'Runa Else' WHERE login = 'runa'",
    )
    plain = walk(own)
    monkeypatch.setattr(verify_at_once, "WORTH_IT", 0)
    monkeypatch.setattr("os.cpu_count", lambda: 3)
    sessions = own.sessions()
    with sessions() as session:
        found = verify_at_once.verify_database(session, own.app_url)
    sessions.kw["bind"].dispose()
    assert (found.runs, found.entries, found.breaks) == (plain.runs, plain.entries, plain.breaks)
    assert sorted(map(str, found.said)) == sorted(map(str, plain.said)) and len(found.breaks) == 1


def test_a_photo_that_was_bent_or_taken_away_is_found(own: Database) -> None:
    with_photo(own)
    assert walk(own).breaks == []
    bend(own, "UPDATE photo SET data = data || '\\x00'::bytea")
    assert [one.what for one in walk(own).breaks] == ["its photo is not the one that was kept"]
    bend(own, "UPDATE photo SET digest = encode(sha256(data), 'hex')")
    assert [one.what for one in walk(own).breaks] == ["its photo is not the one that was kept"]
    bend(own, "DELETE FROM photo")
    assert [one.what for one in walk(own).breaks] == ["its photo is not there"]


def with_photo(database: Database) -> None:
    """A run of the demo that has a photo."""
    sessions = database.sessions()
    with sessions.begin() as session:
        tam = actor_of(session.query(Person).filter(Person.login == "tam").one())
        ctx = Ctx(session, datetime.now(UTC), tam)
        revision = session.query(Revision).order_by(Revision.id).first()
        assert revision is not None
        run = start_run(ctx, revision.id, Choices("tablet"))
        out = io.BytesIO()
        Image.new("RGB", (8, 8)).save(out, "PNG")
        photo = keep_photo(ctx, run, out.getvalue()).run(ctx)
        sent = {
            "id": str(ctx.new_id()),
            "run": str(run),
            "step": "-",
            "kind": "photo",
            "payload": {"photo": str(photo)},
            "device": "tablet",
            "device_sequence": 1,
            "device_time": time_text(ctx.now),
            "lease": 1,
            "last_seen": 1,
        }
        assert append_events(ctx, run, [sent])[0][0].verdict == "accepted"
    sessions.kw["bind"].dispose()


def test_a_revision_without_its_code_and_with_other_figures_is_found(own: Database) -> None:
    seal = sealed(own)
    bend(
        own,
        "UPDATE revision SET code = '', result = replace(result, '1', '2') WHERE id = "
        "(SELECT id FROM revision "
        "ORDER BY id LIMIT 1)",
    )
    assert [one for one in missed(own, seal) if "revision" in one]
    assert any("has no code" in str(one) for one in walk(own).breaks)
