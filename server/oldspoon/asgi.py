"""The ASGI application."""

import importlib
import os
import threading
import warnings

import custard
from django.core.asgi import get_asgi_application

# WhiteNoise streams files with plain iterators; Django reads them in a thread, which is what we want.
warnings.filterwarnings("ignore", message="StreamingHttpResponse must consume synchronous iterators")
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "oldspoon.settings")
django = get_asgi_application()

from practice.lane import Lane  # noqa: E402 they read the settings, which are known only now
from stove.live.listening import Listening  # noqa: E402

from oldspoon.bounded import Bounded  # noqa: E402
from oldspoon.memory import Answering  # noqa: E402

answering = Answering(django)
application = Bounded(Lane(Listening(answering)))


def warm() -> None:
    """Fetch from disk what the first question would wait for, while nobody waits for it yet."""
    threading.Thread(target=_fetch, name="warm", daemon=True).start()


def _fetch() -> None:
    custard.compile_kernels()
    importlib.import_module("scipy.optimize")
