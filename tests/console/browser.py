"""Debian's Chromium, headless, driven by Playwright; used by the console's tests and by the screenshots."""

from __future__ import annotations

import atexit
from collections.abc import Iterator
from contextlib import contextmanager
from functools import lru_cache
from typing import Any

from playwright.sync_api import Browser, BrowserContext, Page, expect, sync_playwright

FLAGS = [
    "--headless",
    "--no-sandbox",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--disable-gpu-compositing",
    "--use-angle=swiftshader",
    "--enable-unsafe-swiftshader",
]


expect.set_options(timeout=30_000)  # a busy machine is slow, not wrong


@lru_cache(maxsize=1)
def _browser() -> Browser:
    """One for all that a process looks at; each page is a person of its own."""
    playwright = sync_playwright().start()
    atexit.register(playwright.stop)
    return playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)


@contextmanager
def page_at(url: str, user: str = "engineer", errors: list[str] | None = None) -> Iterator[Page]:
    """A page of 1280 x 800 signed in to the service at `url`; what the browser complains of goes into `errors`."""
    context = _browser().new_context(viewport={"width": 1280, "height": 800})
    page = context.new_page()
    page.set_default_timeout(90_000)
    if errors is not None:
        page.on("pageerror", lambda error: errors.append(str(error)))
        page.on("console", lambda message: errors.append(message.text) if message.type == "error" else None)
    try:
        if not _known(context, url, user):
            sign_in(page, url, user)
            _SIGNED_IN[url, user] = context.cookies()
        elif page.goto(f"{url}/") is None:
            raise AssertionError(f"{url} has no page")
        yield page
    finally:
        context.close()


_SIGNED_IN: dict[tuple[str, str], list[Any]] = {}  # a session of each person, as the service's own cookie


def _known(context: BrowserContext, url: str, user: str) -> bool:
    """Whether somebody is still signed in from a page before: it takes seconds, and is tested where it is the point."""
    if (url, user) not in _SIGNED_IN:
        return False
    context.add_cookies(_SIGNED_IN[url, user])
    if context.request.get(f"{url}/api/v1/me").ok:
        return True
    context.clear_cookies()
    return False


@contextmanager
def quiet_page(url: str, user: str = "engineer") -> Iterator[Page]:
    """The same, where the browser may complain of nothing in the end but of what the service refused."""
    errors: list[str] = []
    with page_at(url, user, errors) as page:
        yield page
    assert not [e for e in errors if "Failed to load resource" not in e], errors


def sign_in(page: Page, url: str, user: str) -> None:
    page.goto(f"{url}/sign-in")
    page.fill("input[name=name]", user)
    page.fill("input[name=password]", "alder-street")
    page.click("button[type=submit]")
    page.wait_for_url(f"{url}/")
