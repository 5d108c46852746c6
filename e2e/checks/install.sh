#!/usr/bin/env bash
# Installs the independent readers when the lockfile changed.
set -euo pipefail
cd "$(dirname "$0")"
if ! cmp -s package-lock.json node_modules/.lock-stamp; then
  npm ci --no-audit --no-fund --prefer-offline --loglevel=error
  cp package-lock.json node_modules/.lock-stamp
fi
