"""The network between clients and the server, which can be cut."""

from __future__ import annotations

import asyncio
import contextlib
import threading

from kitchenhand.crew import LOOPBACK


class Wire:
    """Passes what arrives on its own port on to the server's, and back, until it is cut."""

    def __init__(self, server_port: int) -> None:
        self._server_port = server_port
        self._open: set[asyncio.StreamWriter] = set()
        self._cut = False
        self._loop = asyncio.new_event_loop()
        self._thread = threading.Thread(target=self._loop.run_forever, daemon=True)
        self._thread.start()
        listening = asyncio.start_server(self._pass_on, LOOPBACK, 0)
        self._server = asyncio.run_coroutine_threadsafe(listening, self._loop).result()
        self.port: int = self._server.sockets[0].getsockname()[1]

    def cut(self) -> None:
        """End all connections without a word, and refuse new ones."""
        self._loop.call_soon_threadsafe(self._cut_now)

    def mend(self) -> None:
        """Let new connections through again."""
        self._cut = False

    def close(self) -> None:
        """Listen no longer."""
        asyncio.run_coroutine_threadsafe(self._end(), self._loop).result()
        self._loop.call_soon_threadsafe(self._loop.stop)
        self._thread.join()
        self._loop.close()

    def _cut_now(self) -> None:
        self._cut = True
        for writer in self._open:
            writer.transport.abort()

    async def _end(self) -> None:
        self._cut_now()
        self._server.close()
        passing = asyncio.all_tasks() - {asyncio.current_task()}
        for one in passing:
            one.cancel()
        await asyncio.gather(*passing, return_exceptions=True)

    async def _pass_on(self, reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        if self._cut:
            writer.transport.abort()
            return
        try:
            answers, asks = await asyncio.open_connection(LOOPBACK, self._server_port)
        except OSError:
            writer.transport.abort()
            return
        self._open |= {writer, asks}
        await asyncio.gather(_pump(reader, asks), _pump(answers, writer))
        self._open -= {writer, asks}


async def _pump(source: asyncio.StreamReader, target: asyncio.StreamWriter) -> None:
    with contextlib.suppress(OSError):
        while data := await source.read(1 << 16):
            target.write(data)
            await target.drain()
    with contextlib.suppress(OSError):
        target.close()
