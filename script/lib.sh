# Shared by the scripts: sets up what they need on a fresh machine, once per lock file.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
# As calm_basin has it, for what loads numpy before it: tests and measurements.
export OPENBLAS_NUM_THREADS=1

say() { printf '\033[1m%s\033[0m\n' "$*" >&2; }
fail() { printf 'error: %s\n' "$*" >&2; exit 1; }

as_root() {
  if [ "$(id -u)" = 0 ]; then "$@"; elif command -v sudo >/dev/null; then sudo "$@"
  else fail "$1 has to run as root: run '$*' and try again"; fi
}

debian_packages() {
  command -v apt-get >/dev/null || fail "install $* with this system's package manager and try again"
  say "Installing $*"
  as_root apt-get update -qq
  as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq "$@" >/dev/null
}

# python_packages LOCK_FILE: the virtual environment with what the lock file names, and this project.
python_packages() {
  local lock=$1 stamp
  python3 -c 'import sys; sys.exit(sys.version_info < (3, 11))' 2>/dev/null ||
    fail "Python 3.11 or newer is needed as python3"
  stamp=.venv/.has-$(sha256sum "$lock" pyproject.toml | sha256sum | cut -c1-16)
  if [ ! -e "$stamp" ]; then
    say "Installing Python packages from $lock"
    [ -x .venv/bin/python ] || python3 -m venv .venv || { debian_packages python3-venv; python3 -m venv .venv; }
    .venv/bin/python -m pip install -q --disable-pip-version-check --require-hashes -r "$lock"
    .venv/bin/python -m pip install -q --disable-pip-version-check --no-deps -e .
    touch "$stamp"
  fi
  # Compiled once it starts faster, also where Python is told to write no bytecode by itself.
  .venv/bin/python -m compileall -q src tests
}

node_packages() {
  local stamp
  node -e 'const [a, b] = process.versions.node.split(".").map(Number); process.exit(a > 20 || (a === 20 && b >= 19) ? 0 : 1)' \
    2>/dev/null || fail "Node 20.19 or newer is needed, with npm"
  stamp=frontend/node_modules/.has-$(sha256sum frontend/package-lock.json | cut -c1-16)
  [ -e "$stamp" ] && return
  say "Installing front-end packages"
  # Not "npm ci": it refuses a lock file made where some platforms' optional packages are not served.
  (cd frontend && npm install --no-save --no-audit --no-fund --loglevel=error)
  touch "$stamp"
}

front_end() {
  local built=src/calm_basin/web/static/index.html
  node_packages
  if [ ! -e "$built" ] || [ -n "$(find frontend/src frontend/public frontend/*.json frontend/*.html \
    frontend/vite.config.ts -newer "$built" -print -quit)" ]; then
    say "Building the front end"
    (cd frontend && npx vite build --logLevel warn)
  fi
}
