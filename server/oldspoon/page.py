"""The one HTML page; the browser's router takes it from there."""

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.views.decorators.cache import never_cache
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.decorators.http import require_safe


@require_safe
@never_cache
@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    """The built page, or a sentence when it has not been built."""
    try:
        return HttpResponse((settings.WEB_DIST / "index.html").read_bytes())
    except FileNotFoundError:
        return HttpResponse(
            "The pages are not built yet. Run ./spoon build.", status=503, content_type="text/plain"
        )
