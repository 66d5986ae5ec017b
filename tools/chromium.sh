#!/bin/sh
# The browser tests need Chromium: Debian's package is installed where it is
# missing and this is root; otherwise its name is said. It is the one without
# windows: the other looks, in the background, for what it could fill into each
# form, which took most of the time that the journeys took.
set -e
command -v "${EXACTFLASK_CHROMIUM:-chromium-headless-shell}" >/dev/null 2>&1 && exit 0
[ -z "$EXACTFLASK_CHROMIUM" ] && command -v chromium >/dev/null 2>&1 && [ "$(id -u)" != 0 ] && exit 0
if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null 2>&1; then
  echo "installing Chromium from Debian's packages"
  export DEBIAN_FRONTEND=noninteractive
  apt-get -o DPkg::Lock::Timeout=300 update -qq
  apt-get -o DPkg::Lock::Timeout=300 install -y -qq chromium-headless-shell >/dev/null
  exit 0
fi
echo "The browser tests need Chromium. Install Debian's package 'chromium-headless-shell' or 'chromium', or set EXACTFLASK_CHROMIUM to its executable." >&2
exit 1
