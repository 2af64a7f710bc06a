# Sourced by bin/start and bin/test: what the machine must have, and the packages of the lock file.
# On a machine without root it names the one command to run.

need_node() {
  if ! command -v node >/dev/null 2>&1; then
    echo "Node.js 20 or newer is missing." >&2
    exit 2
  fi
}

# need_debian PROGRAM-TEST PACKAGE...
need_debian() {
  local test="$1"
  shift
  if eval "$test" >/dev/null 2>&1; then return; fi
  if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null 2>&1; then
    echo "Installing $* …" >&2
    # Debian would make and start a cluster of its own; this project has a private one.
    if [[ "$*" == *postgresql* ]] && [ ! -e /etc/postgresql-common/createcluster.conf ]; then
      mkdir -p /etc/postgresql-common
      echo "create_main_cluster = false" >/etc/postgresql-common/createcluster.conf
    fi
    { apt-get update && DEBIAN_FRONTEND=noninteractive apt-get install -y --no-install-recommends "$@"; } >&2
  else
    echo "Missing: $*. Run:  sudo apt-get install $*" >&2
    exit 2
  fi
}

# What the packages are made from; node_modules carries it as a mark, written by whatever installs them: bin/start, bin/test, or `npm ci`.
packages_wanted() {
  cat package-lock.json package.json core/package.json web/package.json | sha256sum
}

# The committed lock, whatever this platform is: `npm ci` where it takes the lock; where it refuses it (the registry serves optional
# binaries here that it did not serve where the lock was made), an install that writes nothing. No tracked file ever changes.
need_packages() {
  local stamp=node_modules/.installed-from
  local now
  now="$(packages_wanted)"
  if [ -f "$stamp" ] && [ "$(cat "$stamp")" = "$now" ]; then return; fi
  echo "Installing packages (about a minute) …" >&2
  npm ci --no-audit --no-fund --prefer-offline --loglevel=error >&2 ||
    npm install --no-save --no-audit --no-fund --prefer-offline --loglevel=error >&2
  echo "$now" >"$stamp"
}
