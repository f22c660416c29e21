#!/usr/bin/env bash
# Tries the two commands in a bare Debian, made anew with debootstrap in a folder given here (3 GB; as root): as root, as a user
# without sudo, as root in that user's clone, with a mirror that is away; starts and ends. `houses.sh FOLDER [all]`; `all` runs the tests too.
# What is tried prints a line; ends with counts. Nothing is left running.
set -euo pipefail
here="$(cd "$(dirname "$(readlink -f "$0")")/.." && pwd -P)"
folder="${1:?a folder to make the Debian in}"
[ "$(id -u)" -eq 0 ] || { echo 'Only root can make a Debian in a folder.' >&2; exit 1; }
command -v debootstrap >/dev/null || apt-get install -y -q debootstrap >/dev/null
# In a view of the mounts of its own: what is mounted here goes with it.
[ -n "${HOUSES_APART:-}" ] || HOUSES_APART=1 exec unshare --mount --mount-proc --pid --fork --propagation private "$0" "$@"

debian="$folder/debian"
mirror="$(apt-get indextargets --format '$(REPO_URI)' | head -1)"
if [ ! -e "$debian/etc/debian_version" ]; then
  echo 'Making a bare Debian …'
  mkdir -p "$folder"
  debootstrap --variant=minbase --include=ca-certificates bookworm "$debian" "$mirror" > "$folder/debootstrap.log" 2>&1 || { tail -5 "$folder/debootstrap.log" >&2; exit 1; }
fi
cp -r /etc/apt/apt.conf.d "$debian/etc/apt/" 2>/dev/null || true
cp /etc/resolv.conf /etc/hosts "$debian/etc/" 2>/dev/null || true
mkdir -p "$debian/usr/local/share/ca-certificates" && cp /usr/local/share/ca-certificates/*.crt "$debian/usr/local/share/ca-certificates/" 2>/dev/null || true
mount -t proc proc "$debian/proc"
mount --rbind /dev "$debian/dev"
chroot "$debian" update-ca-certificates > /dev/null 2>&1 || true
# Whom this machine trusts, where its network speaks for others.
mkdir -p "$debian/etc/ssl/certs" && cat "${NODE_EXTRA_CA_CERTS:-/etc/ssl/certs/ca-certificates.crt}" > "$debian/etc/ssl/certs/of-the-house.crt"
# Node.js as a release unpacked into /usr/local: the binary, npm beside it.
install -D "$(readlink -f "$(command -v node)")" "$debian/usr/local/bin/node"
mkdir -p "$debian/usr/local/lib/node_modules"
[ -e "$debian/usr/local/lib/node_modules/npm" ] || cp -r "$(dirname "$(dirname "$(readlink -f "$(command -v npm)")")")" "$debian/usr/local/lib/node_modules/npm"
ln -sf ../lib/node_modules/npm/bin/npm-cli.js "$debian/usr/local/bin/npm"
registry="$(npm config get registry 2>/dev/null)"

clone() { # where, whose
  rm -rf "${debian:?}$1"
  mkdir -p "$debian$1"
  git -C "$here" archive HEAD | tar -x -C "$debian$1"
  chroot "$debian" chown -R "$2" "$1"
}
as_root() { chroot "$debian" env -i PATH=/usr/local/bin:/usr/bin:/bin:/usr/sbin:/sbin HOME=/root npm_config_registry="$registry" NODE_EXTRA_CA_CERTS=/etc/ssl/certs/of-the-house.crt "$@"; }
# A plain `su` keeps the path of the user, without /usr/sbin.
as_su() { chroot "$debian" env -i PATH=/usr/local/bin:/usr/bin:/bin HOME=/root npm_config_registry="$registry" NODE_EXTRA_CA_CERTS=/etc/ssl/certs/of-the-house.crt "$@"; }
as_user() { chroot --userspec=rower:rower "$debian" env -i PATH=/usr/local/bin:/usr/bin:/bin HOME=/home/rower npm_config_registry="$registry" NODE_EXTRA_CA_CERTS=/etc/ssl/certs/of-the-house.crt "$@"; }

passed=0; failed=0
ok() { passed=$((passed + 1)); echo "  ✓ $1"; }
bad() { failed=$((failed + 1)); echo "  ✘ $1"; sed 's/^/      /' "$folder/out" | tail -12; }
says() { # name, expected status, pattern, command …
  local name="$1" status="$2" pattern="$3" got=0; shift 3
  "$@" > "$folder/out" 2>&1 || got=$?
  if [ "$got" -eq "$status" ] && grep -qE -- "$pattern" "$folder/out"; then ok "$name"; else echo "      (ended with $got)"; bad "$name"; fi
}
left() { pgrep -f 'ops\.mjs|web-server\.mjs|reader-service\.mjs|postgres -D' || true; }
# Starts, waits until it is ready, asks it, ends it by a signal, and looks whether anything is left.
runs() { # name, signal, command …
  local name="$1" signal="$2" child i; shift 2
  "$@" > "$folder/out" 2>&1 & child=$!
  for i in $(seq 600); do grep -q 'Calque is ready' "$folder/out" && break; kill -0 $child 2>/dev/null || break; sleep 1; done
  if grep -q 'Calque is ready' "$folder/out" && as_root node -e 'fetch("http://127.0.0.1:4400/api/projects").then((r) => r.json()).then((p) => process.exit(p.open.length === 1 ? 0 : 1))'; then ok "$name: is ready after $i s, with the demo"; else bad "$name"; fi
  pkill "-$signal" -f 'ops\.mjs start' || true
  sleep 2.5
  if [ -z "$(left)" ]; then ok "$name: $signal ends all of it within two seconds"; else left > "$folder/out"; bad "$name: something is left after $signal"; pkill -9 -f 'ops\.mjs|web-server\.mjs|reader-service\.mjs|postgres -D' || true; fi
  wait $child 2>/dev/null || true
}

chroot "$debian" id rower > /dev/null 2>&1 || chroot "$debian" useradd -m rower
clone '/home/rower/Zeichnungen für alle' rower
chmod 755 "$debian/home/rower"
own='/home/rower/Zeichnungen für alle'
says 'a user without sudo is told what to install, and nothing of sudo' 1 'Missing from this machine: .*postgresql.* As root, run: apt-get update && apt-get install' as_user "$own/calque" start
mv "$debian/etc/apt/sources.list" "$folder/sources.list" 2>/dev/null || true
echo "deb http://mirror.invalid/debian bookworm main" > "$debian/etc/apt/sources.list"
clone /opt/calque root
says 'a mirror that is away is told, in apt-get'"'"'s own words' 1 'could not be installed\. What apt-get said' as_root /opt/calque/calque start
echo "deb $mirror bookworm main" > "$debian/etc/apt/sources.list"
rm -rf "$debian"/var/lib/apt/lists/*
runs 'root, in a clone of root'"'"'s, without a package index' INT as_su /opt/calque/calque start
runs 'the same again' HUP as_root /opt/calque/calque start
runs 'root, in the clone of a user' TERM as_root "$own/calque" start
if [ -z "$(find "$debian$own" ! -user "$(chroot "$debian" id -u rower)" -print -quit)" ]; then ok 'nothing in it belongs to root'; else find "$debian$own" ! -user "$(chroot "$debian" id -u rower)" | head > "$folder/out"; bad 'something in it belongs to root'; fi
runs 'the user, in the same clone' INT as_user "$own/calque" start
says 'a second user is told where data could lie' 1 'Data cannot be kept in .*CALQUE_DATA=FOLDER' chroot --userspec=65534:65534 "$debian" env -i PATH=/usr/local/bin:/usr/bin:/bin HOME=/tmp "$own/calque" start
runs 'a second user with data of their own' INT chroot --userspec=65534:65534 "$debian" env -i PATH=/usr/local/bin:/usr/bin:/bin HOME=/tmp CALQUE_DATA=/tmp/of-nobody "$own/calque" start
clone /root/calque root
chmod 700 "$debian/root"
runs 'root, in a clone in root'"'"'s closed home' INT as_root /root/calque/calque start
says 'a backup of it' 0 'Backed up 1 project' as_root bash -c 'cd /root/calque && ./calque backup /root/b.backup'
says 'restored elsewhere' 0 'all of it was compared' as_root env CALQUE_DATA=/var/tmp/restored /root/calque/calque restore /root/b.backup
if [ "${2:-}" = all ]; then says 'all tests, as a user' 0 '[0-9]+ passed, 0 failed' as_user "$own/calque" test; fi
echo "$passed passed, $failed failed"
[ "$failed" -eq 0 ]
