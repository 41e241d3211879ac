"""The ASGI application."""

import os
import warnings

from django.core.asgi import get_asgi_application

# WhiteNoise streams files with plain iterators; Django reads them in a thread, which is what we want.
warnings.filterwarnings("ignore", message="StreamingHttpResponse must consume synchronous iterators")
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "oldspoon.settings")
application = get_asgi_application()
