"""Windows that follow: having clips looked at for them, and finding their ways once that is done.

A plan says that its window follows; while nobody has looked at its clip, it stands. The way that is found is kept
beside the framing, for just what was asked, so that a framing that obeys a rule goes on obeying it.
"""

import logging

from cadrage.compose.following import Seen, followed_alike, follows, solved, unsolved
from cadrage.compose.seen import seen_in
from cadrage.errors import BadRequest, CadrageError
from cadrage.plan import Plan
from server.studio.actions import analyses
from server.studio.actions.calls import call
from server.studio.actions.framing_plans import all_with_plans, loaded
from server.studio.actions.framings import change
from server.studio.actions.rules import RuleBook
from server.studio.models import Analysis, Footage, Framing, Project
from server.studio.models.analysis import store

KIND = "following"
log = logging.getLogger(__name__)


def seen_of(footage: Footage) -> Seen | None:
    """The analysis of movement in a clip; None if there is none, or nothing moves."""
    row = footage.analysis(KIND)
    found = footage.following
    return None if row is None or found is None else seen_in(store.folder(row.key), found)


def seen_or_refused(footage: Footage) -> Seen:
    """The analysis of movement in a clip.

    Raises:
        BadRequest: there is none, or it found nothing.
    """
    seen = seen_of(footage)
    if seen is None:
        raise BadRequest("The movement in it is not analysed yet.", remedy="Wait for that.", clip=footage.name)
    return seen


def request(footage: Footage) -> Analysis:
    """Request the analysis of movement in a clip, if there is none yet."""
    analyses.request(footage, "bars")
    analyses.request(footage, KIND)
    return footage.analyses.get(kind=KIND)


def see_to(project_id: int) -> None:
    """Find the ways of all framings of a project that are to follow and have none; where their clip was not looked at,
    have it looked at. Called by a worker.
    """
    for row, plan in all_with_plans(project_id):
        if not unsolved(plan):
            continue
        try:
            _find_ways(row, plan)
        except CadrageError as error:
            log.info("No way was found for %s: %s", row, error)


def _find_ways(row: Framing, plan: Plan) -> None:
    seen = seen_of(row.footage)
    if seen is not None:
        keep_ways(row, plan, solved(plan, row.footage.info, seen))
        return
    there = row.footage.analysis(KIND)
    if there is None or there.state != Analysis.State.DONE:
        request(row.footage)


def keep_ways(row: Framing, asked: Plan, found: Plan) -> None:
    """Keep the ways that were found for a plan beside its framing."""
    ways = {"asked": row.asked_key(asked), "design": found.design.model_dump(mode="json")}
    Framing.objects.filter(pk=row.pk).update(ways_json=ways)


def give_to_others(row: Framing, plan: Plan) -> list[Framing]:
    """Let a clip follow in its other frames as a plan of it does, in each shot that follows; one step each. What a shot
    has of its own besides stays.

    Raises:
        BadRequest: the clip is not analysed, or nothing follows.
    """
    seen, info = seen_or_refused(row.footage), row.footage.info
    if not follows(plan):
        raise BadRequest("The window does not follow here.", remedy="Choose Follow first.", clip=row.footage.name)
    others = loaded(list(row.footage.framings.exclude(pk=row.pk).select_related("footage__project", "frame")))
    book = RuleBook.of(row.footage.project)
    changed = []
    for other in others:
        before = book.plan(other, other.own)
        after = followed_alike(plan, before, info, seen)
        if after != before:
            changed.append(change(other, after.design, "Follow as in another frame"))
    return changed


def call_if_any_follows(project: Project) -> None:
    """Call a worker to see to the windows of a project that follow, where a rule of it lets them."""
    if any(rule.motion.follow is not None for rule in RuleBook.of(project).framings.values()):
        call(KIND, project.pk)
