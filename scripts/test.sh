#!/bin/sh
# Everything that guards the project. Needs Chromium for the console's tests: Debian's is installed when it may be.
set -eu
cd "$(dirname "$0")/.."
say() { printf '%s\n' "$*" >&2; }

if ! command -v chromium >/dev/null 2>&1 && [ -z "${CHROMIUM:-}" ]; then
  if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null 2>&1; then
    say "Installing Chromium for the console's tests ..."
    { apt-get install -y -qq chromium || { apt-get update -qq && apt-get install -y -qq chromium; }; } >/dev/null 2>&1 || true
  fi
  command -v chromium >/dev/null 2>&1 || { say "hodcarrier: Chromium is missing. Install it (Debian: apt install chromium), or set CHROMIUM to its path."; exit 1; }
fi

# Tests start some hundred processes: each would compile all sources anew where nobody may keep what they are compiled to.
unset PYTHONDONTWRITEBYTECODE

.venv/bin/ruff format -q --check . || { say "Run make fmt."; exit 1; }
.venv/bin/ruff check -q .
.venv/bin/mypy
# The linter of the console takes minutes and little else: it goes on beside the tests, in what they leave over.
(cd console && exec nice npm run -s check) &
checking=$!
trap 'kill $checking 2>/dev/null || true' EXIT
(cd console && npm run -s test)
# Two at a time: one worker begins with the demo, whose audits take minutes, while the other takes everything else.
.venv/bin/python -m pytest -n 2 --dist loadscope --no-loadscope-reorder
wait $checking || { say "The console does not pass npm run check."; exit 1; }
