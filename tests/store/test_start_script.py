"""The start script never removes a database that is there."""

from __future__ import annotations

import subprocess
import time
from pathlib import Path

SCRIPT = Path(__file__).parents[2] / "scripts" / "cluster.sh"


def test_a_database_whose_passwords_are_missing_is_kept_and_told(tmp_path: Path) -> None:
    data = tmp_path / "data"
    data.mkdir()
    (data / "PG_VERSION").write_text("15")
    shell = (
        f'say() {{ echo "$@"; }}; . "{SCRIPT}"; as_postgres() {{ "$@"; }}; cluster_create '
        f'"{tmp_path}"'
    )
    done = subprocess.run(
        ["bash", "-c", shell], capture_output=True, text=True, check=False, cwd=tmp_path
    )
    assert done.returncode == 1
    assert "Put that file back" in done.stdout and "Nothing was changed" in done.stdout
    assert (data / "PG_VERSION").read_text() == "15" and not (tmp_path / "secrets").exists()


def test_workers_whose_master_was_killed_are_ended_and_those_of_another_folder_are_not(
    tmp_path: Path,
) -> None:
    here, elsewhere = tmp_path / "here", tmp_path / "elsewhere"
    worker = [
        "bash",
        "-c",
        "exec -a 'gunicorn -c python:orthotorq.serving --pid var/demo.pid' sleep 60",
    ]
    started = []
    for folder in (here, elsewhere):
        folder.mkdir()
        started.append(subprocess.Popen(worker, cwd=folder))
    own, other = started
    try:
        script = SCRIPT.with_name("demo.sh")
        # until both have taken their names
        for one in started:
            while "gunicorn" not in Path(f"/proc/{one.pid}/cmdline").read_text():
                time.sleep(0.01)
        subprocess.run(
            ["bash", "-c", f'ROOT="{here}"; . "{script}"; end_left'], check=True, timeout=60
        )
        assert own.wait(10) == -9
        assert other.poll() is None
    finally:
        for one in started:
            one.kill()
            one.wait()
