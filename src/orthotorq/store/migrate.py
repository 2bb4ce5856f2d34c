"""Alembic without an ini file: the migrations of this package against a database URL of the
owner."""

from __future__ import annotations

from functools import cache
from pathlib import Path

from alembic import command
from alembic.config import Config
from alembic.script import ScriptDirectory


def config_for(url: str, app_role: str) -> Config:
    """Alembic configuration for a URL and the role that gets the grants."""
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    config.attributes["url"] = url
    config.attributes["app_role"] = app_role
    return config


@cache
def newest() -> str:
    """The newest revision of the schema that this program knows."""
    return ScriptDirectory.from_config(config_for("", "")).get_current_head() or ""


def upgrade(url: str, app_role: str, revision: str = "head") -> None:
    """Bring the schema up to a revision."""
    command.upgrade(config_for(url, app_role), revision)


def downgrade(url: str, app_role: str, revision: str) -> None:
    """Bring the schema down to a revision."""
    command.downgrade(config_for(url, app_role), revision)
