"""Commands over files and the database."""
from __future__ import annotations

import json
import os
import subprocess
import sys
from pathlib import Path
from typing import Any

import pytest

from orthotorq.core.documents.plan import Plan
from tests.conftest import Database
from tests.plans import cover, small, wheel


def run(*arguments: str, **environment: str) -> Any:
    return subprocess.run([sys.executable, "-m", "orthotorq.cli", *arguments], capture_output=True, text=True, check=False,
                          env={**os.environ, **environment})


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
    assert {line.split(":")[0] for line in done.stderr.strip().splitlines()} == {"targets/b/torque", "groups/0/layout/count"}


@pytest.mark.parametrize("content", [b"", b"{", b"[]", b"\xff\xfe", b'{"format": "orthotorq.plan", "version": 9}', b"null"])
def test_files_that_are_no_plan(tmp_path: Path, content: bytes) -> None:
    plan = tmp_path / "plan.json"
    plan.write_bytes(content)
    done = run("compute", str(plan))
    assert (done.returncode, done.stdout) == (2, "")
    assert "Traceback" not in done.stderr
    assert len(done.stderr) > 15


def test_the_schema_is_published_and_describes_every_field() -> None:
    schema = json.loads(run("schema").stdout)
    assert set(Plan.model_fields) == set(schema["properties"])
    assert schema["additionalProperties"] is False
    assert schema["$defs"]["Circle"]["properties"]["count"]["maximum"] == 400


def test_verify_walks_the_chains_of_a_database(database: Database) -> None:
    done = run("verify", ORTHOTORQ_DATABASE_URL=database.app_url)
    assert (done.returncode, done.stdout.strip()) == (0, "3 chains walked, 0 do not hold.")


def test_migrate_and_load_twice_change_nothing(database: Database) -> None:
    names = {"ORTHOTORQ_DATABASE_URL": database.app_url, "ORTHOTORQ_OWNER_URL": database.owner_url}
    for command in ("migrate", "prepare-demo"):
        done = run(command, **names)
        assert done.returncode == 0, done.stderr
        assert "Loaded" not in done.stderr


def test_a_missing_setting_is_said_by_name() -> None:
    environment = {k: v for k, v in os.environ.items() if not k.startswith("ORTHOTORQ_")}
    done = subprocess.run([sys.executable, "-m", "orthotorq.cli", "verify"], capture_output=True, text=True, check=False,
                          env=environment)
    assert done.returncode != 0
    assert "ORTHOTORQ_DATABASE_URL" in done.stderr


def test_health_of_nothing_is_not_well() -> None:
    assert run("health", "http://127.0.0.1:9").returncode == 1


def test_openapi_is_written_without_a_database(tmp_path: Path) -> None:
    out = tmp_path / "openapi.json"
    assert run("openapi", "-o", str(out)).returncode == 0
    assert "/api/v1/compute" in json.loads(out.read_text(encoding="utf-8"))["paths"]
