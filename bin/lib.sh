# What the commands share: Debian packages, and a private PostgreSQL cluster on loopback.
# To be sourced.

root=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
cd "$root"
target=${CARGO_TARGET_DIR:-$root/target}

say() { printf '%s\n' "$*" >&2; }

# need_packages PACKAGE... installs what is missing from Debian's packages.
need_packages() {
    local missing=() package
    for package in "$@"; do
        dpkg-query -W -f '${Status}' "$package" 2>/dev/null | grep -q 'ok installed' || missing+=("$package")
    done
    [ ${#missing[@]} -eq 0 ] && return
    say "Installing from Debian's packages: ${missing[*]}"
    local sudo=()
    [ "$(id -u)" -eq 0 ] || sudo=(sudo)
    "${sudo[@]}" apt-get update -qq
    DEBIAN_FRONTEND=noninteractive "${sudo[@]}" apt-get install -y -qq --no-install-recommends "${missing[@]}" >/dev/null
}

# PostgreSQL refuses to run as root; its own user stands in.
as_postgres_user() {
    if [ "$(id -u)" -eq 0 ]; then (cd / && runuser -u postgres -- "$@"); else "$@"; fi
}

free_port() {
    local port
    while :; do
        port=$((20000 + RANDOM % 40000))
        (exec 3<>"/dev/tcp/127.0.0.1/$port") 2>/dev/null || { echo "$port"; return; }
    done
}

# start_postgres FOLDER [OPTION...] starts a cluster there, made when there is none, and sets
# DATABASE_URL. Only those who can read FOLDER/password can sign in to it.
start_postgres() {
    local folder=$1 port
    shift
    pg_bin=$(ls -d /usr/lib/postgresql/*/bin | sort -V | tail -n 1)
    pg_folder=$folder
    mkdir -p "$folder"
    if [ "$(id -u)" -eq 0 ]; then
        chown postgres "$folder"
        as_postgres_user test -w "$folder" || {
            say "The user postgres cannot reach $folder, and PostgreSQL does not run as root."
            say "Set ZEROFOLD_DATA to a folder outside of any root-only one."
            exit 1
        }
    fi
    chmod 700 "$folder"
    if [ ! -s "$folder/cluster/PG_VERSION" ]; then
        (umask 077 && head -c 24 /dev/urandom | base64 | tr -d '/+=\n' >"$folder/password")
        [ "$(id -u)" -ne 0 ] || chown postgres "$folder/password"
        as_postgres_user "$pg_bin/initdb" -D "$folder/cluster" -U zerofold -A scram-sha-256 \
            --pwfile "$folder/password" -E UTF8 --locale C.UTF-8 >/dev/null
    fi
    port=$(free_port)
    as_postgres_user "$pg_bin/pg_ctl" -D "$folder/cluster" -l "$folder/postgres.log" -w -s \
        -o "-p $port -c listen_addresses=127.0.0.1 -c unix_socket_directories='' $*" start || {
        say "PostgreSQL did not start; its log ends with:"
        tail -n 5 "$folder/postgres.log" >&2
        exit 1
    }
    export DATABASE_URL="postgres://zerofold:$(cat "$folder/password")@127.0.0.1:$port/postgres"
}

stop_postgres() {
    [ -z "${pg_folder:-}" ] || as_postgres_user "$pg_bin/pg_ctl" -D "$pg_folder/cluster" -m fast -w -s stop || true
}

# Builds the front end when its sources are newer than what was built.
build_web() {
    if [ ! -d web/node_modules ] || [ web/package-lock.json -nt web/node_modules ]; then
        say "Installing the front end's packages"
        # Not `npm ci`, which also wants entries for the native parts of other systems.
        npm --prefix web install --no-save --no-audit --no-fund --loglevel error >&2
        touch web/node_modules
    fi
    if [ ! -f web/build/index.html ] || [ -n "$(find web/src web/package.json web/*.ts web/*.js web/static -newer web/build/index.html 2>/dev/null | head -n 1)" ]; then
        say "Building the front end"
        npm --prefix web run --silent build -- --logLevel error >&2
    fi
}
