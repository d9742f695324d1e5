#!/bin/sh
# Remakes the lock files with hashes and without any index address. Needs uv from the package registry.
set -eu
cd "$(dirname "$0")/.."
common="--quiet --universal --python-version 3.11 --generate-hashes --no-emit-index-url --no-emit-find-links --no-header --no-annotate"
uv pip compile $common --extra run pyproject.toml -o requirements-lean.lock
uv pip compile $common --extra run --extra best-order pyproject.toml -o requirements.lock
uv pip compile $common --extra run --extra best-order --extra camera --extra dev pyproject.toml -o requirements-dev.lock
uv pip compile $common --extra run --extra package pyproject.toml -o requirements-package.lock
uv pip compile $common --extra docs pyproject.toml -o requirements-docs.lock
echo uv | uv pip compile $common - -o requirements-uv.lock
