"""Debian's Chromium, headless, as tests and screenshots drive it."""

from playwright.sync_api import Browser, Playwright

FLAGS = (
    "--no-sandbox --disable-gpu --disable-quic --no-first-run --disable-background-networking "
    "--disable-component-update --disable-sync"
)


def launch(playwright: Playwright) -> Browser:
    """A browser without a window."""
    return playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS.split())
