#!/bin/sh
# Lays documents of the world outside out, and compares them with Chromium: pages of Debian's documentation packages, by
# many authors of many decades, with one web font on both sides. Nothing of them is kept but the figures, in
# docs/WORLD.md. Usage: scripts/world.sh [FOLDER FOR THE PACKAGES]
set -eu
cd "$(dirname "$0")/.."
here=$(pwd)
where=${1:-$(mktemp -d)}
packages="apache2-doc aptitude-doc-en autoconf-doc bash-doc debian-faq debian-history debian-policy debian-reference-en
developers-reference erlang-doc exim4-doc-html git-doc libboost-doc libssl-doc libxml2-doc maint-guide
python3-doc python3.11-doc r-doc-html sqlite3-doc tcl8.6-doc zsh-doc nasm m4-doc
sharutils-doc libffi-dev libglib2.0-doc libgtk-3-doc libcairo2-doc libpango1.0-doc lua5.4 valgrind-dbg groff
perl-doc vim-doc ncurses-doc nettle-dev ntp-doc ntpsec-doc postfix-doc
console-setup-linux xterm gnuplot-doc sbcl-doc
python-sympy-doc python-django-doc libjs-jquery-ui-docs"
mkdir -p "$where/deb" "$where/files"
cd "$where/deb"
for p in $packages; do
	ls "$p"_*.deb >/dev/null 2>&1 || apt-get download -q "$p" >/dev/null 2>&1 || echo "no package $p" >&2
done
cd ..
for d in deb/*.deb; do
	name=$(basename "$d" | cut -d_ -f1)
	[ -d "files/$name" ] || { mkdir "files/$name"; dpkg-deb --fsys-tarfile "$d" | tar -x -C "files/$name" \
		--wildcards --no-anchored '*.html' '*.htm' '*.css' '*.png' '*.gif' '*.jpg' '*.svg' 2>/dev/null || true; }
done
cd "$here"
go run ./e2e/cmd/world -files "$where/files" -to docs/WORLD.md
