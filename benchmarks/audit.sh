#!/usr/bin/env bash
# What is known against the pinned parts: asks the public lists of advisories, so it needs a network that reaches them.
# Exits with 1 when a part has one. Its last output stands in docs/audit.md.
set -uo pipefail
cd "$(dirname "$(readlink -f "$0")")/.."
found=0
for lock in requirements-bootstrap.lock requirements-run.lock requirements-test.lock; do
  echo "== $lock"
  .venv/bin/uv tool run pip-audit==2.10.1 -r "$lock" --disable-pip --no-deps || found=1
done
echo "== web/package-lock.json"
(cd web && PATH="$PWD/../.venv/bin:$PATH" npm audit --omit=dev) || found=1
exit $found
