"""Commands over files and the database."""

from __future__ import annotations

import json
import os
import re
import subprocess
import sys
from pathlib import Path
from typing import Any

import pytest

from orthotorq.core.documents.plan import Plan
from orthotorq.demo.load import plan_document, plan_names
from tests.conftest import Database
from tests.plans import cover, small, wheel


def run(*arguments: str, **environment: str) -> Any:
    return subprocess.run(
        [sys.executable, "-m", "orthotorq.cli", *arguments],
        capture_output=True,
        text=True,
        check=False,
        env={**os.environ, **environment},
    )


@pytest.mark.parametrize("make", [cover, wheel, small])
def test_compute_writes_the_result_document(tmp_path: Path, make) -> None:
    plan, out = tmp_path / "plan.json", tmp_path / "result.json"
    plan.write_text(json.dumps(make()), encoding="utf-8")
    printed = run("compute", str(plan))
    assert printed.returncode == 0, printed.stderr
    assert run("compute", str(plan), "-o", str(out)).stdout == ""
    result = json.loads(out.read_text(encoding="utf-8"))
    assert result == json.loads(printed.stdout)
    assert (result["format"], result["version"]) == ("orthotorq.result", 1)
    assert len(result["plan_hash"]) == 64


def test_a_bad_plan_names_every_field_and_prints_no_result(tmp_path: Path) -> None:
    document = small()
    document["targets"]["b"]["torque"] = "1,200 N·m"
    document["groups"][0]["layout"]["count"] = 0
    plan = tmp_path / "plan.json"
    plan.write_text(json.dumps(document), encoding="utf-8")
    done = run("compute", str(plan))
    assert (done.returncode, done.stdout) == (2, "")
    assert {line.split(":")[0] for line in done.stderr.strip().splitlines()} == {
        "targets/b/torque",
        "groups/0/layout/count",
    }


@pytest.mark.parametrize(
    "content",
    [b"", b"{", b"[]", b"\xff\xfe", b'{"format": "orthotorq.plan", "version": 9}', b"null"],
)
def test_files_that_are_no_plan(tmp_path: Path, content: bytes) -> None:
    plan = tmp_path / "plan.json"
    plan.write_bytes(content)
    done = run("compute", str(plan))
    assert (done.returncode, done.stdout) == (2, "")
    assert "Traceback" not in done.stderr
    assert len(done.stderr) > 15


def test_the_handbook_shows_the_table_of_findings_as_it_is() -> None:
    page = Path(__file__).parents[2] / "docs" / "findings.md"
    assert run("findings").stdout == page.read_text(encoding="utf-8"), (
        "write it anew: ./torq cli findings > docs/findings.md"
    )


def test_the_schema_is_published_and_describes_every_field() -> None:
    schema = json.loads(run("schema").stdout)
    assert set(Plan.model_fields) == set(schema["properties"])
    assert schema["additionalProperties"] is False
    assert schema["$defs"]["Circle"]["properties"]["count"]["maximum"] == 400


def test_verify_walks_the_chains_of_a_database(database: Database) -> None:
    done = run("verify", ORTHOTORQ_DATABASE_URL=database.app_url)
    assert done.returncode == 0, done.stderr
    assert re.fullmatch(
        r"3 runs with \d{3} entries walked, 0 things do not hold\.", done.stdout.strip()
    )


def test_a_seal_is_written_and_verified_against(database: Database, tmp_path: Path) -> None:
    names = {"ORTHOTORQ_DATABASE_URL": database.app_url}
    printed = run("seal", "--out", str(tmp_path), **names)
    assert printed.returncode == 0, printed.stderr
    made = next(tmp_path.glob("seal-*.txt"))
    digest = printed.stdout.split()[0]
    assert made.read_text(encoding="utf-8").splitlines()[-2] == f"digest {digest}"
    done = run("verify", "--seal", str(made), **names)
    assert done.returncode == 0 and f"Held against the seal {digest}." in done.stdout
    made.write_text(
        made.read_text(encoding="utf-8").replace("Tam Hollis", "Tom Hollis"), encoding="utf-8"
    )
    changed = run("verify", "--seal", str(made), **names)
    assert changed.returncode != 0 and "the file was changed" in changed.stderr
    other = run(
        "verify", **names, ORTHOTORQ_SECRET_KEY="another secret of at least thirty-two characters"
    )
    assert other.returncode == 1 and "its code is not the server's" in other.stdout


def test_migrate_and_load_twice_change_nothing(database: Database) -> None:
    names = {"ORTHOTORQ_DATABASE_URL": database.app_url, "ORTHOTORQ_OWNER_URL": database.owner_url}
    for command in ("migrate", "prepare-demo"):
        done = run(command, **names)
        assert done.returncode == 0, done.stderr
        assert "Loaded" not in done.stderr


def test_a_missing_setting_is_said_by_name() -> None:
    environment = {k: v for k, v in os.environ.items() if not k.startswith("ORTHOTORQ_")}
    done = subprocess.run(
        [sys.executable, "-m", "orthotorq.cli", "verify"],
        capture_output=True,
        text=True,
        check=False,
        env=environment,
    )
    assert done.returncode == 2
    assert (
        done.stderr.startswith("ORTHOTORQ_DATABASE_URL is not set")
        and "Traceback" not in done.stderr
    )


@pytest.mark.parametrize("command", [["verify"], ["export", "plans", "--as", "mira"]])
def test_a_database_that_does_not_answer_is_one_sentence(
    command: list[str], tmp_path: Path
) -> None:
    nobody = "postgresql+psycopg://orthotorq_app:x@127.0.0.1:9/orthotorq"
    done = subprocess.run(
        [sys.executable, "-m", "orthotorq.cli", *command],
        capture_output=True,
        text=True,
        check=False,
        cwd=tmp_path,
        env={**os.environ, "ORTHOTORQ_DATABASE_URL": nobody},
    )
    assert done.returncode == 2
    assert (
        done.stderr == "The database does not answer: is it running, and do the settings name it?\n"
    )
    assert not list(tmp_path.iterdir())


def test_health_of_nothing_is_not_well() -> None:
    assert run("health", "http://127.0.0.1:9").returncode == 1


def test_openapi_is_written_without_a_database(tmp_path: Path) -> None:
    out = tmp_path / "openapi.json"
    assert run("openapi", "-o", str(out)).returncode == 0
    assert "/api/v1/compute" in json.loads(out.read_text(encoding="utf-8"))["paths"]


def test_steps_are_listed_only_when_asked(tmp_path: Path) -> None:
    source = tmp_path / "plan.json"
    source.write_text(json.dumps(plan_document("evaporator-cover")), encoding="utf-8")
    plain, asked = (
        json.loads(run("compute", str(source), *more).stdout) for more in ((), ("--steps",))
    )
    steps = asked.pop("steps")
    assert "steps" not in plain
    assert asked == plain
    assert len(steps) == len(set(steps)) >= 16 * 5
    pulled = {s.split("/")[4] for s in steps if s.startswith("-/close/") and "/r1/" in s}
    assert pulled == {f"studs.{n}" for n in range(1, 17)}


def test_every_plan_goes_out_and_comes_in_by_a_folder(database: Database, tmp_path: Path) -> None:
    one, two = tmp_path / "one", tmp_path / "two"
    done = run("export", str(one), "--as", "mira", ORTHOTORQ_DATABASE_URL=database.app_url)
    assert done.returncode == 0, done.stderr
    files = sorted(one.glob("*.json"))
    assert len(files) == len(plan_names())
    done = run("import", str(one), "--as", "mira", ORTHOTORQ_DATABASE_URL=database.app_url)
    assert (done.returncode, done.stdout.strip()) == (0, f"{len(files)} plans imported."), (
        done.stderr
    )
    run("export", str(two), "--as", "mira", ORTHOTORQ_DATABASE_URL=database.app_url)
    again = sorted(p.read_text(encoding="utf-8") for p in two.glob("*.json"))
    assert again == sorted(2 * [p.read_text(encoding="utf-8") for p in files])


def test_one_bad_file_keeps_a_folder_out_and_is_named(database: Database, tmp_path: Path) -> None:
    good, bad = plan_document("bellows-clamp"), plan_document("bellows-clamp")
    bad["stages"][0]["kind"] = "hammer"
    for name, document in (("good", good), ("bad", bad)):
        (tmp_path / f"{name}.json").write_text(json.dumps(document), encoding="utf-8")
    done = run("import", str(tmp_path), "--as", "mira", ORTHOTORQ_DATABASE_URL=database.app_url)
    assert (done.returncode, done.stdout.strip()) == (2, "0 plans imported.")
    assert done.stderr.startswith("bad.json: stages/0") and "good.json" not in done.stderr
    assert (
        run(
            "import", str(tmp_path), "--as", "nobody", ORTHOTORQ_DATABASE_URL=database.app_url
        ).returncode
        != 0
    )
    assert (
        "Nobody has the login"
        in run("export", str(tmp_path), "--as", "x", ORTHOTORQ_DATABASE_URL=database.app_url).stderr
    )
