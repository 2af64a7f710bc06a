#!/usr/bin/env bash
# Run by npm after it installed: marks node_modules with what it was made from, so that no command installs it again.
set -euo pipefail
cd "$(dirname "$(readlink -f "$0")")/.."
. scripts/prepare.sh
if [ -d node_modules ]; then packages_wanted >node_modules/.installed-from; fi
