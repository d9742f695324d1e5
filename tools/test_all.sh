#!/bin/sh
# Runs types, layers and tests on every Python that is promised; each gets an environment of its own, made by uv, which
# comes with the usual one.
set -eu
cd "$(dirname "$0")/.."
uv=$(command -v uv || echo .venv/bin/uv)
command -v "$uv" >/dev/null || { echo "uv is missing; install it with: python3 -m pip install uv" >&2; exit 1; }
for version in ${PYTHONS:-3.11 3.12 3.13}; do
    venv=".venv-$version"
    if [ ! -e "$venv/.ready" ] || [ requirements-dev.lock -nt "$venv/.ready" ]; then
        echo "Setting up Python $version ..."
        "$uv" venv --quiet --allow-existing --python "$version" "$venv"
        "$uv" pip install --quiet --python "$venv/bin/python" --require-hashes -r requirements-dev.lock
        "$uv" pip install --quiet --python "$venv/bin/python" --no-deps --no-build-isolation -e .
        touch "$venv/.ready"
    fi
    echo "Python $version:"
    "$venv/bin/mypy"
    "$venv/bin/lint-imports" --no-cache >/dev/null
    QT_QPA_PLATFORM=offscreen "$venv/bin/python" -m pytest -q -n auto --dist loadfile ${PYTEST_WORDS:-}
done
