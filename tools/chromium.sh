#!/bin/sh
# Makes sure a chromium is there for the browser tests, and the quicker shell of it, through apt where that is possible.
command -v chromium >/dev/null 2>&1 && command -v chromium-headless-shell >/dev/null 2>&1 && exit 0
if command -v apt-get >/dev/null 2>&1 && [ "$(id -u)" = 0 ]; then
  echo "installing chromium for the browser tests ..."
  (apt-get update -qq && apt-get install -y -qq chromium && apt-get install -y -qq --no-install-recommends chromium-headless-shell) >/dev/null 2>&1
fi
command -v chromium >/dev/null 2>&1 && exit 0
echo "The browser tests need chromium; run: sudo apt-get install chromium"
