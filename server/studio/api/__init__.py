"""The API: thin endpoints. Each loads what belongs to the visitor, calls one action and answers."""

from django.contrib.auth.decorators import login_required

from server.studio.access import Visitors
from server.studio.api import (
    analyses,
    deliveries,
    errors,
    extending,
    following,
    footage,
    frames,
    framings,
    history,
    materials,
    people,
    playing,
    projects,
    renders,
    sharing,
    shots,
    treatments,
    uploads,
)

api = errors.Api(title="Cadrage", version="1", auth=Visitors(), docs_url="/docs", docs_decorator=login_required)
errors.install(api)
api.add_router("", projects.router)
api.add_router("", sharing.router)
api.add_router("", people.router)
api.add_router("", frames.router)
api.add_router("", footage.router)
api.add_router("", uploads.router)
api.add_router("", analyses.router)
api.add_router("", framings.router)
api.add_router("", history.router)
api.add_router("", playing.router)
api.add_router("", shots.router)
api.add_router("", following.router)
api.add_router("", extending.router)
api.add_router("", materials.router)
api.add_router("", renders.router)
api.add_router("", deliveries.router)
api.add_router("", treatments.router)
