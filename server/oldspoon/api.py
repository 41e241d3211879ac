"""The API: every route of every place, log-in by session, CSRF on every write."""

from archive.routes import router as archive
from bench.routes import router as bench
from book.picture_routes import router as pictures
from book.routes import router as book
from day.routes import router as day
from devices.routes import router as devices
from kitchen.crew_routes import router as crew
from kitchen.routes import router as kitchen
from log.routes import router as log
from ninja.security import SessionAuth
from papers.routes import router as papers
from people.routes import router as people
from photos.routes import router as photos
from practice.routes import router as practice
from shelf.routes import router as shelf
from stove.routes import router as stove
from trouble.routes import router as trouble
from wall.routes import router as wall

from oldspoon import problems
from oldspoon.contract import Documented

api = Documented(
    title="Old Spoon",
    version="1",
    description="What the pages of Old Spoon talk to. Errors are problem details that name fields.",
    auth=SessionAuth(csrf=True),
    docs_url=None,
    openapi_url=None,
)
problems.register(api)
api.add_router("", people, tags=["people"])
api.add_router("", kitchen, tags=["kitchen"])
api.add_router("", crew, tags=["people"])
api.add_router("", book, tags=["book"])
api.add_router("", pictures, tags=["book"])
api.add_router("", bench, tags=["bench"])
api.add_router("", devices, tags=["devices"])
api.add_router("", stove, tags=["stove"])
api.add_router("", photos, tags=["photos"])
api.add_router("", shelf, tags=["shelf"])
api.add_router("", trouble, tags=["trouble"])
api.add_router("", day, tags=["day"])
api.add_router("", practice, tags=["practice"])
api.add_router("", log, tags=["log"])
api.add_router("", wall, tags=["wall"])
api.add_router("", papers, tags=["papers"])
api.add_router("", archive, tags=["archive"])
