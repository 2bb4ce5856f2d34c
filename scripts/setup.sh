# What the machine, the virtual environment and the front end need. Quiet when everything is there.
# runuser stands in a folder that not every PATH names
export PATH="$ROOT/.venv/bin:$PATH:/usr/sbin:/sbin"
# compiled modules are kept, else every start pays for compiling them again
unset PYTHONDONTWRITEBYTECODE
# node trusts only the authorities built into it; a network with its own stands in Debian's list
[ -r /etc/ssl/certs/ca-certificates.crt ] && export NODE_EXTRA_CA_CERTS=${NODE_EXTRA_CA_CERTS:-/etc/ssl/certs/ca-certificates.crt}
PACKAGES_DEMO="postgresql libpango-1.0-0 libpangoft2-1.0-0 libharfbuzz-subset0 python3-venv"
# without the parts of a window, which cost a fifth of the time of the browser tests; where a Debian has no such package, the whole one
PACKAGES_TEST="chromium-headless-shell"

say() { printf '%s\n' "$*" >&2; }

# Debian packages that are missing are installed as root or with sudo; else named.
setup_system() {
  local wanted="$PACKAGES_DEMO" missing="" one sudo=""
  [ "$1" = test ] && wanted="$wanted $PACKAGES_TEST"
  for one in $wanted; do
    # a Python from elsewhere brings its own venv
    [ "$one" = python3-venv ] && python3 -c 'import venv, ensurepip' 2>/dev/null && continue
    dpkg-query -W -f '${Status}' "$one" 2>/dev/null | grep -q 'install ok installed' || missing="$missing $one"
  done
  [ -z "$missing" ] && return
  if [ "$(id -u)" != 0 ]; then
    if command -v sudo >/dev/null; then sudo=sudo; else
      say "These Debian packages are missing; install them as root:$missing"; exit 1
    fi
  fi
  say "Installing Debian packages:$missing"
  # the package's own cluster is not wanted, only its programs
  $sudo mkdir -p /etc/postgresql-common
  [ -e /etc/postgresql-common/createcluster.conf ] ||
    echo 'create_main_cluster = false' | $sudo tee /etc/postgresql-common/createcluster.conf >/dev/null
  $sudo apt-get update -qq
  apt-cache show chromium-headless-shell >/dev/null 2>&1 || missing=${missing/chromium-headless-shell/chromium}
  # shellcheck disable=SC2086
  $sudo env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends $missing >/dev/null
}

# The virtual environment from a lock; the development lock contains the runtime one.
setup_python() {
  local lock="requirements/$1.txt" stamp=.venv/stamp want have
  want="$1 $(cat "$lock" pyproject.toml | sha256sum)"
  have=$(cat "$stamp" 2>/dev/null || true)
  [ "$have" = "$want" ] && return
  if [ "$1" = runtime ] && [ "$have" = "dev $(cat requirements/dev.txt pyproject.toml | sha256sum)" ]; then return; fi
  python3 -c 'import sys; sys.exit(sys.version_info < (3, 11))' || { say "Python 3.11 or later is needed."; exit 1; }
  [ -x .venv/bin/pip ] || python3 -m venv .venv
  say "Installing Python packages ($1) ..."
  .venv/bin/pip install -qq --disable-pip-version-check --require-hashes -r "$lock"
  .venv/bin/pip install -qq --disable-pip-version-check --no-deps --no-build-isolation -e .
  echo "$want" >"$stamp"
}

tree_hash() { find "$@" -type f -not -name '*.pyc' -print0 | sort -z | xargs -0 sha256sum | sha256sum; }

# Node modules from the lock, types from the API, the built front end.
setup_frontend() {
  local modules=frontend/node_modules/.stamp build=frontend/build/.stamp want
  want=$(cat frontend/package-lock.json frontend/package.json | sha256sum)
  if [ "$(cat "$modules" 2>/dev/null || true)" != "$want" ]; then
    say "Installing front-end packages ..."
    (cd frontend && npm ci --loglevel=error >/dev/null)
    echo "$want" >"$modules"
  fi
  want=$(tree_hash frontend/src frontend/static frontend/package-lock.json frontend/vite.config.ts src/orthotorq)
  [ "$(cat "$build" 2>/dev/null || true)" = "$want" ] && return
  say "Building the front end ..."
  build_frontend || exit 1
  tree_hash frontend/src frontend/static frontend/package-lock.json frontend/vite.config.ts src/orthotorq >"$build"
}

build_frontend() {
  .venv/bin/orthotorq openapi -o frontend/src/lib/api/openapi.json &&
    (cd frontend && npm run --silent types >/dev/null && npm run --silent build >"$ROOT/frontend/.build.log" 2>&1) ||
    { tail -40 frontend/.build.log >&2; return 1; }
}
