#!/bin/sh
# The browser walk needs Debian's Chromium; the PDF tests need pdftoppm and one font-subsetting library.
set -e
need=""
ldconfig=$(command -v ldconfig || echo /sbin/ldconfig) # not on an ordinary user's path
command -v chromium-headless-shell >/dev/null 2>&1 || need="$need chromium-headless-shell"
command -v pdftotext >/dev/null 2>&1 || need="$need poppler-utils"
"$ldconfig" -p 2>/dev/null | grep -q libpangoft2-1.0.so || need="$need libpango-1.0-0 libpangoft2-1.0-0"
"$ldconfig" -p 2>/dev/null | grep -q libharfbuzz-subset.so || need="$need libharfbuzz-subset0"
[ -z "$need" ] && exit 0
if [ "$(id -u)" -eq 0 ] && command -v apt-get >/dev/null 2>&1; then
  apt-get update -qq
  DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends $need >/dev/null
else
  echo "The tests need these Debian packages:$need" >&2
  echo "Install them as root:  apt-get install --no-install-recommends$need" >&2
  exit 1
fi
