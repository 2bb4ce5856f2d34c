"""Settings from the environment, as one table with help; tests fail on a setting that is read but
not listed here."""

from __future__ import annotations

import os
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Setting:
    """One environment variable: default (None when required) and what it does."""

    name: str
    default: str | None
    help: str


TABLE: tuple[Setting, ...] = (
    Setting(
        "ORTHOTORQ_DATABASE_URL",
        None,
        "SQLAlchemy URL of the application's role, which owns nothing.",
    ),
    Setting(
        "ORTHOTORQ_OWNER_URL",
        "",
        "SQLAlchemy URL of the role that owns the schema; only migrations use it.",
    ),
    Setting("ORTHOTORQ_SECRET_KEY", None, "Signs the session cookie; at least 32 characters."),
    Setting(
        "ORTHOTORQ_KEYS",
        "",
        "File with the keys of the record, a line each: a name and 64 or more hexadecimal "
        "digits; the last one is used. Without a file the key is made from the secret key.",
    ),
    Setting(
        "ORTHOTORQ_SEALS",
        "",
        "Folder in which the worker leaves the seal of each night; best on another machine.",
    ),
    Setting(
        "ORTHOTORQ_APP_ROLE",
        "orthotorq_app",
        "Name of the application's database role, for the grants.",
    ),
    Setting(
        "ORTHOTORQ_DEMO",
        "0",
        "1 shows the four demo people with their password on the sign-in page.",
    ),
    Setting(
        "ORTHOTORQ_STATEMENT_TIMEOUT_MS",
        "10000",
        "PostgreSQL ends a statement of a request after so many ms.",
    ),
    Setting(
        "ORTHOTORQ_COOKIE_SECURE",
        "0",
        "1 sends the session cookie over HTTPS only; set it behind a proxy.",
    ),
    Setting(
        "ORTHOTORQ_ONE_SIGNS_BOTH",
        "0",
        "1 lets a supervisor who pulled bolts of a run sign it as supervisor, too.",
    ),
    Setting(
        "ORTHOTORQ_SEVERAL_RUNS",
        "0",
        "1 lets several runs work on one joint at once, for training and load tests.",
    ),
    Setting(
        "ORTHOTORQ_RELEASE_BY_TWO",
        "0",
        "1 lets a plan be released only by somebody else than who changed it last.",
    ),
    Setting("ORTHOTORQ_FRONTEND", "frontend/build", "Folder of the built front end."),
    Setting("ORTHOTORQ_PORT", "8237", "Port of the application on 127.0.0.1 (start command)."),
    Setting(
        "ORTHOTORQ_PG_PORT", "54617", "Port of the demo's PostgreSQL on 127.0.0.1 (start command)."
    ),
    Setting(
        "ORTHOTORQ_TEST_PG_PORT",
        "54618",
        "Port of the tests' PostgreSQL on 127.0.0.1 (test command).",
    ),
    Setting(
        "ORTHOTORQ_METRICS_TOKEN",
        "",
        "Who has it reads /metrics; without one they are answered to this machine alone.",
    ),
    Setting(
        "ORTHOTORQ_TRUSTED_HOPS",
        "0",
        "How many proxies stand in front and say who asks (X-Forwarded-For, -Proto).",
    ),
    Setting(
        "ORTHOTORQ_SIGN_ON_ISSUER",
        "",
        "Address of the plant's own sign-on (OpenID Connect); empty where there is none.",
    ),
    Setting("ORTHOTORQ_SIGN_ON_CLIENT", "", "How this application is known there."),
    Setting("ORTHOTORQ_SIGN_ON_SECRET", "", "Its secret there."),
    Setting(
        "ORTHOTORQ_SIGN_ON_CLAIM",
        "preferred_username",
        "What of an answer from there is the sign-in name here.",
    ),
    Setting(
        "ORTHOTORQ_SIGN_ON_SCOPE",
        "openid profile",
        "What is asked for there, such as openid profile email.",
    ),
    Setting("ORTHOTORQ_SIGN_ON_NAME", "works account", "How the sign-on is called on the page."),
    Setting(
        "ORTHOTORQ_RATE",
        "900",
        "Calls of the API by one device in a minute, in each worker process; 0 is no limit.",
    ),
    Setting(
        "ORTHOTORQ_PUBLIC_URL",
        "",
        "Address that devices see: QR codes, links and calendars lead there; empty is "
        "http://127.0.0.1 with the port.",
    ),
    Setting(
        "ORTHOTORQ_TIME_ZONE",
        "",
        "Time zone of the place, such as Asia/Tokyo; empty is the zone of this machine.",
    ),
    Setting(
        "ORTHOTORQ_DISKS",
        ".",
        "Folders, separated by colons, whose disks must have room: name the database's data folder "
        "where it is on this machine.",
    ),
    Setting("ORTHOTORQ_WORKERS", "2", "Worker processes of the application (start command)."),
)
#: a key that is shorter can be tried out
LEAST_KEY = 32
_BY_NAME = {s.name: s for s in TABLE}


class MissingSetting(RuntimeError):
    """A setting without a default that nobody gave, or a secret that is none."""


def read(name: str) -> str:
    """The value of a setting. Raises KeyError for one not in the table, MissingSetting when a
    required one is missing."""
    setting = _BY_NAME[name]
    value = os.environ.get(name, setting.default)
    if value is None:
        raise MissingSetting(f"{name} is not set: {setting.help}")
    if name == "ORTHOTORQ_SECRET_KEY" and len(value) < LEAST_KEY:
        raise MissingSetting(f"{name} is too short to be a secret: {setting.help}")
    return value


def public_url() -> str:
    """The address that devices see, without a stroke at its end."""
    return (read("ORTHOTORQ_PUBLIC_URL") or f"http://127.0.0.1:{read('ORTHOTORQ_PORT')}").rstrip(
        "/"
    )
