# What ./start and ./test share.

say() { printf '› %s\n' "$*"; }

# Whether all of these programs are there.
are_there() { local one; for one; do command -v "$one" >/dev/null || return 1; done; }

need_tools() {
  for tool in dotnet node npm; do
    command -v "$tool" >/dev/null || { echo "$tool is missing. Hold Court needs the .NET 10 SDK and Node.js 20 with npm." >&2; exit 1; }
  done
  export DOTNET_CLI_TELEMETRY_OPTOUT=1 DOTNET_NOLOGO=1
  # Compilers and tests run for minutes: measuring every method first costs a third.
  export DOTNET_TieredPGO=0
}

# Whether all of these libraries are there. The whole list is read: a pipe that ends early is a failure under pipefail.
libraries_are_there() { local all one; all=$(ldconfig -p); for one; do [[ $all == *"$one"* ]] || return 1; done; }

# Installs a folder's packages when its lock file is newer than what is there.
npm_install() {
  if [ ! -f "$1/node_modules/.package-lock.json" ] || [ "$1/package-lock.json" -nt "$1/node_modules/.package-lock.json" ]; then
    say "Fetching packages for $1"
    (cd "$1" && npm ci --silent --no-audit --no-fund && touch node_modules/.package-lock.json)
  fi
}

need_nginx() {
  [ -x /usr/sbin/nginx ] && return
  say "Installing nginx for the tests behind a proxy"
  local sudo=; [ "$(id -u)" = 0 ] || sudo=sudo
  $sudo apt-get update -qq && RUNLEVEL=1 $sudo apt-get install -y -qq --no-install-recommends nginx-light >/dev/null
}

need_chromium() {
  [ -x "${CHROMIUM:-/usr/bin/chromium}" ] && return
  say "Installing Chromium for the browser tests"
  local sudo=; [ "$(id -u)" = 0 ] || sudo=sudo
  $sudo apt-get update -qq && $sudo apt-get install -y -qq --no-install-recommends chromium >/dev/null
}

# What makes pages of documents, in a sandbox: without them documents cannot be shown, and all else works.
pages_are_there() { are_there pdftoppm bwrap qpdf prlimit; }
need_pages() {
  pages_are_there && return
  say "Installing poppler-utils, bubblewrap and qpdf for the pages of documents"
  local sudo=; [ "$(id -u)" = 0 ] || sudo=sudo
  $sudo apt-get update -qq && $sudo apt-get install -y -qq --no-install-recommends poppler-utils bubblewrap qpdf >/dev/null
}

# What makes films of recordings: without them recordings are kept as tracks, and all else works.
films_are_there() { are_there ffmpeg bwrap && libraries_are_there libvpx.so libyuv.so && [ -d /usr/share/fonts/truetype/dejavu ]; }
need_films() {
  films_are_there && return
  say "Installing ffmpeg, libvpx, libyuv and a font for the films of recordings"
  local sudo=; [ "$(id -u)" = 0 ] || sudo=sudo
  $sudo apt-get update -qq && $sudo apt-get install -y -qq --no-install-recommends ffmpeg bubblewrap libyuv0 fonts-dejavu-core \
    "$(apt-cache search --names-only '^libvpx[0-9]+$' | cut -d' ' -f1 | sort -V | tail -n 1)" >/dev/null
}

# What writes captions by itself: without it people write them, and all else works.
words_are_there() { libraries_are_there libpocketsphinx.so && [ -d /usr/share/pocketsphinx/model/en-us ]; }
need_words() {
  words_are_there && are_there flite && return
  say "Installing pocketsphinx for captions by machine, and flite for its tests"
  local sudo=; [ "$(id -u)" = 0 ] || sudo=sudo
  $sudo apt-get update -qq && $sudo apt-get install -y -qq --no-install-recommends pocketsphinx pocketsphinx-en-us flite >/dev/null
}

# An X server without a screen, and what takes its picture, for the made-up desk whose controls are lent.
desk_is_there() { are_there Xvfb ffmpeg && libraries_are_there libXtst.so.6; }
need_desk() {
  desk_is_there && return
  say "Installing Xvfb, libXtst and ffmpeg for the made-up desk"
  local sudo=; [ "$(id -u)" = 0 ] || sudo=sudo
  $sudo apt-get update -qq && $sudo apt-get install -y -qq --no-install-recommends xvfb libxtst6 ffmpeg >/dev/null
}
