"""The one HTML page; the browser's router takes it from there."""

from django.conf import settings
from django.db import Error, connection
from django.http import HttpRequest, HttpResponse
from django.views.decorators.cache import never_cache
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.decorators.http import require_safe
from psycopg_pool import PoolTimeout

from oldspoon.problems import RETRY_S

AWAY = """<!doctype html>
<html lang="en"><meta charset="utf-8"><meta http-equiv="refresh" content="2"><title>Old Spoon</title>
<p>The kitchen’s book cannot be reached just now. This page asks again every two seconds.
Marks that were made are kept on the device that made them.</p></html>
"""


@require_safe
@never_cache
@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    """The built page, or a sentence when it has not been built, or when there is nothing to show on it."""
    try:
        content = (settings.WEB_DIST / "index.html").read_bytes()
    except FileNotFoundError:
        return HttpResponse(
            "The pages are not built yet. Run ./spoon build.", status=503, content_type="text/plain"
        )
    try:
        with connection.cursor() as cursor:
            cursor.execute("SELECT 1")
    except (Error, PoolTimeout):
        return HttpResponse(AWAY, status=503, headers={"Retry-After": str(RETRY_S)})
    nonce = f'name="style-nonce" content="{request.csp_nonce}"'.encode()  # type: ignore[attr-defined]
    return HttpResponse(content.replace(b'name="style-nonce" content=""', nonce))
