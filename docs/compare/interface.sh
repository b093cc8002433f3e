#!/usr/bin/env bash
# Tries the HTTP interface against its own description with generated requests (schemathesis, from PyPI).
#
#   docs/compare/interface.sh http://127.0.0.1:7411 .rookery/token [seconds]
#
# The token is what `rookery serve --token-file` (or `cargo xtask demo`) writes. Use a throw-away database: scenes are made and deleted.
# Left out: the stream of events, which never ends; it is tried in crates/rookery-server/tests/http/trust.rs.
set -euo pipefail
address=$1
token=$(cat "$2")
seconds=${3:-300}
place=$(mktemp -d)
trap 'rm -rf "$place"' EXIT
python3 -m venv "$place"
"$place/bin/pip" install --quiet schemathesis
timeout "$seconds" "$place/bin/schemathesis" run "$address/api/openapi.json" \
  --header "Authorization: Bearer $token" \
  --exclude-path '/api/scenes/{scene}/events' \
  --checks all --max-examples 20 --workers 2
