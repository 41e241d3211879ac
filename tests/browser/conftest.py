"""The built application on the real ASGI server, and Debian's Chromium to drive it."""

from __future__ import annotations

import contextlib
import os
import socket
import subprocess
import sys
import time
from collections import defaultdict
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path

import psycopg
import pytest
from kitchenhand import machine, snapshot
from playwright.sync_api import (
    Browser,
    BrowserContext,
    ConsoleMessage,
    Error,
    Page,
    expect,
    sync_playwright,
)

ROOT = Path(__file__).parents[2]
SERVER = ROOT / "server"
AXE = (ROOT / "web/node_modules/axe-core/axe.min.js").read_text(encoding="utf-8")
CHROMIUM_FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--no-first-run",
    # Drawing in the browser's own process is less work for two cores than in one apart.
    "--in-process-gpu",
    "--disable-software-rasterizer",
]
PASSWORD = "nappe-at-82"
KITCHEN = "/k/tidemill-house"
expect.set_options(timeout=20_000)


FIRST_VISIT = """() => new Promise((done) => {
  let lcp = 0, shift = 0;
  const watch = (type, each) => new PerformanceObserver((list) => list.getEntries().forEach(each))
    .observe({type, buffered: true});
  watch("largest-contentful-paint", (one) => { lcp = one.startTime; });
  watch("layout-shift", (one) => { if (!one.hadRecentInput) shift += one.value; });
  setTimeout(() => done({lcp, shift}), 700);
})"""
"""When the largest thing was drawn [ms], and how much jumped meanwhile."""


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return probe.getsockname()[1]


def database_name() -> str:
    """Each of the processes that test at once has a database of its own."""
    return f"oldspoon_browser{os.environ.get('PYTEST_XDIST_WORKER', '')}"


def known() -> dict[str, str]:
    """How the database is reached."""
    return {word: os.environ[f"OLDSPOON_DB_{word.upper()}"] for word in ("host", "port", "user", "password")}


@pytest.fixture(scope="session")
def address() -> Iterator[str]:
    """The application with its demo kitchen, in a database of its own."""
    environment = {**os.environ, "OLDSPOON_DB_NAME": database_name()}
    with psycopg.connect(**known(), dbname="postgres", autocommit=True) as connection:
        connection.execute(f"DROP DATABASE IF EXISTS {database_name()}")
        connection.execute(f"CREATE DATABASE {database_name()} TEMPLATE {snapshot.SEEDED}")
    port = free_port()
    command = [sys.executable, "-m", "oldspoon.serve", str(port)]
    server = subprocess.Popen(command, cwd=SERVER, env=environment)
    work = subprocess.Popen([sys.executable, "manage.py", "work"], cwd=SERVER, env=environment)
    try:
        for _ in range(600):
            with contextlib.suppress(OSError), socket.create_connection(("127.0.0.1", port), timeout=1):
                break
            time.sleep(0.1)
        yield f"http://127.0.0.1:{port}"
    finally:
        for process in (server, work):
            process.terminate()
        for process in (server, work):
            process.wait(timeout=15)


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        chromium = playwright.chromium.launch(executable_path=machine.chromium(), args=CHROMIUM_FLAGS)
        yield chromium
        chromium.close()


@pytest.fixture(scope="session")
def state_of(browser: Browser, address: str) -> Callable[[str], dict]:
    """Log in once a person, and reuse the session."""
    known: dict[str, dict] = {}

    def get(username: str) -> dict:
        if username not in known:
            context = browser.new_context(base_url=address)
            page = context.new_page()
            log_in(page, username)
            known[username] = context.storage_state()
            context.close()
        return known[username]

    return get


def log_in(page: Page, username: str) -> None:
    page.goto("/")
    page.get_by_label("Name").fill(username)
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Into the kitchen").click()
    page.get_by_role("heading", name="The book of").wait_for()


def tab(page: Page, name: str) -> None:
    """Open one of the things about a mix."""
    page.get_by_role("tab", name=name).click()


def chosen(page: Page, label: str, typed: str) -> None:
    """Take one of a list that is found by typing."""
    box = page.get_by_role("combobox", name=label)
    box.fill(typed)
    page.locator("[role=listbox]:visible [role=option]").first.wait_for()
    box.press("Enter")


@dataclass
class Seeded:
    """A database with a copy of everything as it was seeded; `rows` tells whether a table still is."""

    connection: psycopg.Connection
    tables: list[str]
    rows: dict[str, tuple[int, int]]


def rows_of(connection: psycopg.Connection, tables: list[str]) -> dict[str, tuple[int, int]]:
    """How many rows each table has, and the newest transaction that wrote one: any write changes either."""
    each = "SELECT '{0}', count(*), coalesce(max(xmin::text::bigint), 0) FROM public.{0}"
    asked = " UNION ALL ".join(each.format(table) for table in tables)
    return {table: (count, newest) for table, count, newest in connection.execute(asked)}


@pytest.fixture(scope="session")
def seeded(address: str) -> Iterator[Seeded]:
    """The database, with a copy of everything as it was seeded."""
    with psycopg.connect(**known(), dbname=database_name(), autocommit=True) as connection:
        connection.execute("DROP SCHEMA IF EXISTS seeded CASCADE")
        connection.execute("CREATE SCHEMA seeded")
        every = tables(connection)
        for table in every:
            connection.execute(f"CREATE TABLE seeded.{table} AS TABLE public.{table}")
        yield Seeded(connection, every, rows_of(connection, every))


def tables(connection: psycopg.Connection) -> list[str]:
    """Everything that tests may write; who is logged in and what workers are told stays."""
    found = connection.execute("SELECT tablename FROM pg_tables WHERE schemaname = 'public' ORDER BY 1")
    return [name for (name,) in found if not name.startswith(("django_", "procrastinate_"))]


@pytest.fixture(autouse=True)
def own_kitchen(seeded: Seeded) -> None:
    """Every test finds the demo kitchen as it was seeded, whatever the one before did to it.

    New rows go on counting, so that no test meets an id of another's.
    """
    connection = seeded.connection
    while True:
        # All locks at once or none: server and worker are at work, and would be waited for crosswise.
        with contextlib.suppress(psycopg.errors.LockNotAvailable), connection.transaction():
            now = rows_of(connection, seeded.tables)
            changed = [table for table in seeded.tables if now[table] != seeded.rows[table]]
            if not changed:
                return
            connection.execute(f"LOCK TABLE {', '.join(changed)} IN ACCESS EXCLUSIVE MODE NOWAIT")
            # Rows are put back in no order of their own: what refers to what was right when they were taken.
            connection.execute("SET LOCAL session_replication_role = replica")
            for table in changed:
                connection.execute(f"DELETE FROM {table}")  # noqa: S608 our own
                connection.execute(f"INSERT INTO {table} SELECT * FROM seeded.{table}")  # noqa: S608 our own
            seeded.rows |= rows_of(connection, changed)
            return
        time.sleep(0.02)


def until_the_worker_rests(seeded: Seeded) -> None:
    """What the test before asked of the worker is over: a plan that comes later would change a page that is
    looked at."""
    waiting = """SELECT count(*) FROM procrastinate_jobs
        WHERE status = 'doing' OR (status = 'todo' AND coalesce(scheduled_at, now()) <= now())"""
    for _ in range(150):
        if seeded.connection.execute(waiting).fetchone() == (0,):
            return
        time.sleep(0.2)


class Pool:
    """Pages with somebody logged in, each in a browser context of its own, used again by later tests: what a
    browser has started and compiled once it need not start again. Between two tests nothing else is left."""

    def __init__(self, browser: Browser, address: str, state_of: Callable[[str], dict]) -> None:
        self.browser, self.address, self.state_of = browser, address, state_of
        self.free: dict[str, list[Page]] = defaultdict(list)

    def take(self, username: str) -> Page:
        """An empty page of somebody's, as on a new device of theirs."""
        if self.free[username]:
            return self.free[username].pop()
        context = self.browser.new_context(
            # What a test cuts off is cut off: only where it is about that, the page keeps things itself.
            service_workers="block",
            # What glides into place is waited for: it stands there at once.
            reduced_motion="reduce",
            base_url=self.address,
            storage_state=self.state_of(username),
        )
        return context.new_page()

    def give_back(self, username: str, page: Page) -> None:
        """Empty a page and keep it; a context that does not come to rest is closed."""
        context = page.context
        try:
            for other in context.pages:
                if other is not page:
                    other.close()
            context.set_offline(False)
            for routed in (page, context):
                routed.unroute_all(behavior="ignoreErrors")
            if page.url.startswith(self.address):
                page.evaluate("sessionStorage.clear()")
            page.goto("about:blank")
            page.emulate_media(media="null", reduced_motion="reduce")
            context.clear_cookies()
            cdp = context.new_cdp_session(page)
            cdp.send("Storage.clearDataForOrigin", {"origin": self.address, "storageTypes": "all"})
            cdp.detach()
            context.add_cookies(self.state_of(username)["cookies"])
        except Error:
            context.close()
        else:
            self.free[username].append(page)


@pytest.fixture(scope="session")
def pool(browser: Browser, address: str, state_of) -> Pool:
    return Pool(browser, address, state_of)


@pytest.hookimpl(wrapper=True)
def pytest_runtest_makereport(item: pytest.Item, call: pytest.CallInfo) -> Iterator[None]:
    """What every page shows where a test fails stands in its report."""
    report = yield
    if report.failed and call.when == "call":
        for page in getattr(item, "pages", ()):
            with contextlib.suppress(Error):
                report.sections.append((page.url, page.locator("body").aria_snapshot()))
    return report


@pytest.fixture
def device(request, browser: Browser, address: str, pool: Pool) -> Iterator[Callable[..., Page]]:
    """A new device with somebody logged in; complains of anything the page logs as an error."""
    own: list[BrowserContext] = []
    lent: list[tuple[str, Page]] = []
    wrong: list[str] = []
    request.node.pages = []

    def note_error(error: Error) -> None:
        wrong.append(str(error))

    def note_console(message: ConsoleMessage) -> None:
        _note(message, wrong)

    def make(
        username: str | None = "pastry", width: int = 1280, height: int = 800, *, keeping: bool = False
    ) -> Page:
        if username is None or keeping:
            context = browser.new_context(
                service_workers="allow" if keeping else "block",
                base_url=address,
                viewport={"width": width, "height": height},
                storage_state=pool.state_of(username) if username else None,
            )
            own.append(context)
            page = context.new_page()
        else:
            page = pool.take(username)
            lent.append((username, page))
        request.node.pages.append(page)
        page.set_viewport_size({"width": width, "height": height})
        page.on("pageerror", note_error)
        page.on("console", note_console)
        return page

    yield make
    for context in own:
        context.close()
    for username, page in lent:
        page.remove_listener("pageerror", note_error)
        page.remove_listener("console", note_console)
        pool.give_back(username, page)
    assert wrong == []


def _note(message, wrong: list[str]) -> None:
    """Refusals and a pulled plug are logged by the browser itself and are part of the tests; so is that we
    let no page keep itself."""
    expected = ("Failed to load resource", "Service Worker registration blocked")
    if message.type in ("error", "warning") and not any(text in message.text for text in expected):
        wrong.append(message.text)


def no_axe_violation(page: Page) -> None:
    if not page.evaluate("'axe' in window"):
        page.evaluate(AXE)
    # There are no frames and no sounds: nothing has to be fetched before it looks.
    found = page.evaluate(
        """async () => (await axe.run(
            document, {resultTypes: ["violations"], preload: false, iframes: false}
        )).violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(" ")).join(" | ")}`)"""
    )
    assert found == []


def no_sideways_scroll(page: Page) -> None:
    over = page.evaluate("document.documentElement.scrollWidth - document.documentElement.clientWidth")
    assert over <= 0
