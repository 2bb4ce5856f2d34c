# Starting and stopping the demo; running tests and measurements with a cluster of their own.

APP_PORT=${ORTHOTORQ_PORT:-8237}

# The process of a pid file, if it is still ours: ours NAME WORDS.
ours() {
  local pid
  pid=$(cat "var/$1.pid" 2>/dev/null) || return 1
  [ -r "/proc/$pid/cmdline" ] || return 1
  tr '\0' ' ' <"/proc/$pid/cmdline" 2>/dev/null | grep -q "$2" && printf %s "$pid"
}

end_one() {
  local pid
  if pid=$(ours "$1" "$2"); then
    kill "$pid"
    for _ in $(seq 50); do [ -d "/proc/$pid" ] || break; sleep 0.1; done
  fi
  rm -f "var/$1.pid"
}

# Workers whose master was killed: of this folder, and of no other.
end_left() {
  local one
  for one in /proc/[0-9]*; do
    [ "$(readlink "$one/cwd" 2>/dev/null)" = "$ROOT" ] || continue
    tr '\0' ' ' <"$one/cmdline" 2>/dev/null | grep -q "gunicorn.*--pid var/demo.pid" || continue
    kill -9 "${one#/proc/}" 2>/dev/null || true
  done
}

app_stop() {
  end_one worker "orthotorq worker" &
  end_one demo "gunicorn.*orthotorq"
  wait
  end_left
}

# The worker of long jobs runs beside the server, away from this shell.
worker_start() {
  setsid nohup env -u ORTHOTORQ_OWNER_URL .venv/bin/orthotorq worker >var/worker.log 2>&1 </dev/null &
  echo $! >var/worker.pid
}

demo_start() {
  mkdir -p var
  app_stop
  cluster_start demo "${ORTHOTORQ_PG_PORT:-54617}" ORTHOTORQ_PG_PORT
  port_busy "$APP_PORT" && { say "Port $APP_PORT is busy; set ORTHOTORQ_PORT to a free one."; exit 1; }
  # the address in codes, links and calendars follows the port
  export ORTHOTORQ_DEMO=1 ORTHOTORQ_FRONTEND="$ROOT/frontend/build" ORTHOTORQ_PORT=$APP_PORT
  export ORTHOTORQ_DISKS=${ORTHOTORQ_DISKS:-".:$(cluster_home demo)"}
  .venv/bin/orthotorq prepare-demo
  # the owner's address is for the line above alone
  env -u ORTHOTORQ_OWNER_URL .venv/bin/gunicorn -c python:orthotorq.serving \
    --pid var/demo.pid --daemon --log-file var/server.log --capture-output
  for _ in $(seq 100); do
    if .venv/bin/orthotorq health "http://127.0.0.1:$APP_PORT" 2>/dev/null; then
      worker_start
      say "Orthotorq runs at http://127.0.0.1:$APP_PORT (demo people and their password stand on the sign-in page)."
      return
    fi
    sleep 0.1
  done
  say "The application did not start; the last lines of var/server.log:"
  tail -n 20 var/server.log >&2
  exit 1
}

# The command line works on the demo while it runs, unless told otherwise.
demo_settings() {
  local home
  [ -z "${ORTHOTORQ_DATABASE_URL:-}" ] || return 0
  home=$(cluster_home demo)
  if [ -f "$home/secrets" ] && cluster_running "$home"; then
    cluster_start demo "${ORTHOTORQ_PG_PORT:-54617}" ORTHOTORQ_PG_PORT
  fi
}

demo_stop() { app_stop; cluster_stop demo; }

demo_reset() { cluster_remove demo; rm -f var/server.log var/worker.log; }

with_test_cluster() {
  cluster_start test "${ORTHOTORQ_TEST_PG_PORT:-54618}" ORTHOTORQ_TEST_PG_PORT
  export ORTHOTORQ_TEST_SUPER_URL=$DB_SUPER_URL ORTHOTORQ_FRONTEND="$ROOT/frontend/build"
  trap 'cluster_stop test' EXIT
}

frontend_checks() {
  cd frontend
  npm run --silent check && npm run --silent lint && npm run --silent format:check && node --test --test-reporter=dot tests/*.test.ts
}

# Linters of both sides at the same time: each has a processor of its own.
run_linters() {
  local beside failed=0
  (frontend_checks) >"$ROOT/frontend/.build.log" 2>&1 & beside=$!
  .venv/bin/ruff check src tests bench && .venv/bin/ruff format --check -q src tests bench &&
    .venv/bin/mypy || failed=1
  wait "$beside" || { cat frontend/.build.log >&2; failed=1; }
  return "$failed"
}

run_tests() {
  [ $# -gt 0 ] || run_linters
  with_test_cluster
  if [ $# -gt 0 ]; then .venv/bin/python -m pytest "$@"; return; fi
  # two at a time, a file at a time; then those that pull PostgreSQL down under everybody
  .venv/bin/python -m pytest -n 2 --dist loadfile --no-loadscope-reorder -m "not alone" --durations=12 \
    --screenshot only-on-failure --output var/test-results
  .venv/bin/python -m pytest -m alone $(grep -rl --include='*.py' 'pytest.mark.alone' tests)
}

# All that is kept as it was read, written anew: to be read in the difference.
run_golden() {
  local one
  with_test_cluster
  for one in tests.golden tests.golden.{readings,sheets,benches,troubles,odd,findings,acts,manuals,orders,answers}; do
    say "$one"
    .venv/bin/python -m "$one" >"$ROOT/var/golden.log" 2>&1 || { tail -20 "$ROOT/var/golden.log" >&2; exit 1; }
  done
}

run_bench() {
  with_test_cluster
  .venv/bin/python -m bench "$@"
}
