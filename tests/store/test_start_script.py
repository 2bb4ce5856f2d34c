"""The start script never removes a database that is there."""
from __future__ import annotations

import subprocess
from pathlib import Path

SCRIPT = Path(__file__).parents[2] / "scripts" / "cluster.sh"


def test_a_database_whose_passwords_are_missing_is_kept_and_told(tmp_path: Path) -> None:
    data = tmp_path / "data"
    data.mkdir()
    (data / "PG_VERSION").write_text("15")
    shell = f'say() {{ echo "$@"; }}; . "{SCRIPT}"; as_postgres() {{ "$@"; }}; cluster_create "{tmp_path}"'
    done = subprocess.run(["bash", "-c", shell], capture_output=True, text=True, check=False, cwd=tmp_path)
    assert done.returncode == 1
    assert "Put that file back" in done.stdout and "Nothing was changed" in done.stdout
    assert (data / "PG_VERSION").read_text() == "15" and not (tmp_path / "secrets").exists()
