"""How gunicorn serves the application: `gunicorn -c python:orthotorq.serving`. Command lines add
the folder's own things."""

from __future__ import annotations

import gc
import os
import shutil
import tempfile
from typing import Any

from . import settings

# every worker counts in files of its own; who asks for figures gets the sum. It has to be said
# before the library is loaded, so this stands outside of the package of the web
if "PROMETHEUS_MULTIPROC_DIR" not in os.environ:
    os.environ["PROMETHEUS_MULTIPROC_DIR"] = tempfile.mkdtemp(prefix="orthotorq-figures-")

# for migrate, backup and restore alone: a server that does not know it cannot give it away
os.environ.pop("ORTHOTORQ_OWNER_URL", None)

wsgi_app = "orthotorq.web:create_app(documented=False)"
bind = f"127.0.0.1:{settings.read('ORTHOTORQ_PORT')}"
worker_class = "orthotorq.web.worker.PatientWorker"
workers = int(settings.read("ORTHOTORQ_WORKERS"))
threads = 24
worker_connections = 500
preload_app = True
keepalive = 30
timeout = 60
graceful_timeout = 20
control_socket_disable = True


def when_ready(_server: Any) -> None:
    """What is loaded before the workers are made stays shared with them: their collector does not
    walk it, which would copy it page by page into each of them."""
    gc.collect()
    gc.freeze()


def on_exit(_server: Any) -> None:
    """Leave nothing of the figures behind."""
    shutil.rmtree(os.environ["PROMETHEUS_MULTIPROC_DIR"], ignore_errors=True)


def child_exit(_server: Any, worker: Any) -> None:
    """A worker that has ended is no longer counted among the living."""
    from prometheus_client import multiprocess

    multiprocess.mark_process_dead(worker.pid)  # type: ignore[no-untyped-call]
