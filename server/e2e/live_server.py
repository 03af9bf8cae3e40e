"""The server that ships, in a thread of the tests: answers come in parts, as they do for a person."""

from __future__ import annotations

import socket
import threading
from typing import Any

import uvicorn


class UvicornThread(threading.Thread):
    """Stands in for Django's own thread of a live server, which answers whole replies only."""

    def __init__(
        self, host: str, static_handler: Any, connections_override: dict[str, Any], port: int
    ) -> None:
        super().__init__()
        self.connections_override = connections_override
        self.is_ready = threading.Event()
        self.error: Exception | None = None
        self._socket = socket.create_server((host, port))
        self.port = self._socket.getsockname()[1]
        config = uvicorn.Config("config.asgi:application", lifespan="off", log_level="error")
        self._server = uvicorn.Server(config)

    def run(self) -> None:
        try:
            self.is_ready.set()  # the socket listens; who comes early waits
            self._server.run(sockets=[self._socket])
        except Exception as error:
            self.error = error

    def terminate(self) -> None:
        self._server.should_exit = True
        self._server.force_exit = True
        self.join()
        self._socket.close()
