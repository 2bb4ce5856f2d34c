"""How gunicorn serves the application: `gunicorn -c python:orthotorq.web.serving`. Command lines add the folder's own things."""
from __future__ import annotations

from .. import settings

wsgi_app = "orthotorq.web:create_app()"
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
