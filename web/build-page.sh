#!/usr/bin/env bash
# Installs the page's packages when the lockfile changed, then checks and builds the page.
set -euo pipefail
cd "$(dirname "$0")"
stamp=node_modules/.lock-stamp
if ! cmp -s package-lock.json "$stamp"; then
  npm ci --no-audit --no-fund --prefer-offline --loglevel=error
  cp package-lock.json "$stamp"
fi
npm run --silent build
