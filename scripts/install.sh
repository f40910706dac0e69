#!/bin/sh
# Installs what the project needs into the checkout: virtual environment, npm packages, built console.
# Does nothing that is done already, so it works offline from the second time on.
set -eu
cd "$(dirname "$0")/.."
python=${1:-python3}

say() { printf '%s\n' "$*" >&2; }
stop() { say "hodcarrier: $1"; exit 1; }

[ -w . ] || stop "this folder cannot be written to. Copy the checkout to a folder of yours."
command -v "$python" >/dev/null 2>&1 || stop "Python is missing. Install Python 3.11 or newer (Debian: apt install python3 python3-venv)."
"$python" -c 'import sys; sys.exit(sys.version_info < (3, 11))' || stop "Python 3.11 or newer is needed; $("$python" --version) was found."
"$python" -c 'import venv, ensurepip' 2>/dev/null || stop "Python's venv module is missing. Install it (Debian: apt install python3-venv)."
command -v node >/dev/null 2>&1 || stop "Node is missing. Install Node 20 or newer (with npm)."
command -v npm >/dev/null 2>&1 || stop "npm is missing. Install it along with Node 20 or newer."
[ "$(node -p 'process.versions.node.split(".")[0]')" -ge 20 ] || stop "Node 20 or newer is needed; $(node --version) was found."

mkdir -p .state
sum() { cat "$@" | sha256sum | cut -c1-32; }
# done_already NAME SUM: whether a step was finished for just this input
done_already() { [ -f ".state/$1" ] && [ "$(cat ".state/$1")" = "$2" ]; }

wanted=$(sum requirements.lock pyproject.toml)
if ! { [ -x .venv/bin/python ] && done_already python "$wanted"; }; then
  say "Installing Python packages (about a minute the first time) ..."
  "$python" -m venv .venv
  .venv/bin/python -m pip install -q --disable-pip-version-check --require-hashes -r requirements.lock \
    || stop "the Python packages could not be installed; see above."
  .venv/bin/python -m pip install -q --disable-pip-version-check --no-deps --no-build-isolation -e . \
    || stop "the project itself could not be installed; see above."
  echo "$wanted" >.state/python
fi

wanted=$(sum console/package-lock.json)
if ! { [ -d console/node_modules ] && done_already node "$wanted"; }; then
  say "Installing npm packages ..."
  (cd console && npm ci --silent --no-audit --no-fund) || stop "the npm packages could not be installed; see above."
  echo "$wanted" >.state/node
fi

wanted=$(find console/src console/public console/index.html console/vite.config.ts console/package-lock.json -type f | sort | xargs cat | sha256sum | cut -c1-32)
if ! { [ -f hodcarrier/console/index.html ] && done_already console "$wanted"; }; then
  say "Building the console ..."
  (cd console && npm run -s build -- --logLevel error) || stop "the console could not be built; see above."
  echo "$wanted" >.state/console
fi

if ! done_already pango yes; then
  if .venv/bin/python -c 'import weasyprint' >/dev/null 2>&1; then
    echo yes >.state/pango
  elif [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null 2>&1; then
    say "Installing the text layout library for PDFs ..."
    { apt-get install -y -qq libpango-1.0-0 libpangoft2-1.0-0 libharfbuzz-subset0 || { apt-get update -qq && apt-get install -y -qq libpango-1.0-0 libpangoft2-1.0-0 libharfbuzz-subset0; }; } >/dev/null 2>&1 || true
    if .venv/bin/python -c 'import weasyprint' >/dev/null 2>&1; then echo yes >.state/pango; else say "PDF reports need Pango; it could not be installed (Debian: libpango-1.0-0 libpangoft2-1.0-0)."; fi
  else
    say "PDF reports need Pango (Debian: apt install libpango-1.0-0 libpangoft2-1.0-0); everything else works without."
  fi
fi
