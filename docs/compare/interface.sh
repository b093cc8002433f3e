#!/usr/bin/env bash
# Tries the HTTP interface against its own description with generated requests (schemathesis, from PyPI).
#
#   docs/compare/interface.sh http://127.0.0.1:7411 .rookery/token [seconds]
#
# The token is what `rookery serve --token-file` (or `cargo xtask demo`) writes. Use a throw-away database: scenes are made, changed and
# deleted. Left out: the stream of events, which never ends; it is tried in crates/rookery-server/tests/http/trust.rs.
# 409, 410 and 422 are answers: a description cannot say which numbers make a scene that can be.
set -euo pipefail
address=$1
token=$(cat "$2")
seconds=${3:-300}
place=$(mktemp -d)
trap 'rm -rf "$place"' EXIT
python3 -m venv "$place"
"$place/bin/pip" install --quiet schemathesis

# Scenes that are there, so that requests find something: one to work on and one to delete.
make() {
  curl --silent --fail -H "Authorization: Bearer $token" -H 'Content-Type: application/json' -d '{"from":"kittiwake_head"}' \
    "$address/api/scenes" | python3 -c 'import json, sys; print(json.load(sys.stdin)["id"])'
}
worked_on=$(make)
deleted=$(make)
cat > "$place/schemathesis.toml" <<TOML
[checks]
positive_data_acceptance.expected-statuses = ["2xx", "3xx", "401", "403", "404", "409", "410", "413", "415", "422", "429", "503"]
# 410 says that a name is one of an earlier state.
negative_data_rejection.expected-statuses = ["400", "401", "403", "404", "405", "406", "409", "410", "413", "415", "422", "428", "429", "503"]

[parameters]
"path.scene" = "$worked_on"
"path.layer" = [1, 2, 3, 4]
"path.mask" = [1, 2]

[[operations]]
include-path = "/api/scenes/{scene}"
include-method = "DELETE"
parameters = { "path.scene" = "$deleted" }

[[operations]]
include-path = "/api/scenes/{scene}/restore"
parameters = { "path.scene" = "$deleted" }
TOML
cd "$place"
timeout "$((seconds + 120))" "$place/bin/schemathesis" --config-file "$place/schemathesis.toml" run "$address/api/openapi.json" \
  --header "Authorization: Bearer $token" \
  --exclude-path '/api/scenes/{scene}/events' \
  --request-timeout 60 --checks all --phases examples,coverage,fuzzing --max-examples 20 --max-time "$seconds" --continue-on-failure --workers 2
