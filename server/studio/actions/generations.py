"""Having pictures made by an outside generator: asking for them, waiting, taking them in."""

import logging
import time
from fractions import Fraction
from pathlib import Path

from django.conf import settings

from cadrage.compose.outside_still import mask_of
from cadrage.errors import BadRequest, CadrageError, Cancelled
from cadrage.plan import Plan
from server.studio.actions import jobs
from server.studio.actions.analyses import sweep_locks
from server.studio.actions.calls import call, called
from server.studio.actions.extending import library_for, take_in
from server.studio.actions.turns import waiting
from server.studio.generator import MOST_VARIANTS, Generator
from server.studio.models import Framing, Generation

State = Generation.State
LOOK_SECONDS = 1.0
KEPT = 20
"""Of a framing: orders that are kept, the newest."""
log = logging.getLogger(__name__)


def configured() -> bool:
    """Whether there is a generator to ask."""
    return bool(settings.GENERATOR)


def request(framing: Framing, plan: Plan, moment: Fraction, prompt: str, count: int) -> Generation:
    """Ask for pictures of what lies beyond the picture of a framing. This is the only way in which anything is sent.

    Raises:
        BadRequest: there is no generator.
    """
    if not configured():
        raise BadRequest(
            "No generator is set up here.",
            remedy="Save the still and finish it by other means, or set CADRAGE_GENERATOR.",
        )
    row = Generation.objects.create(
        framing=framing,
        plan_json=plan.model_dump(mode="json"),
        time=str(moment),
        prompt=prompt[:2000],
        count=min(max(count, 1), MOST_VARIANTS),
        total=100,
    )
    old = framing.generations.filter(state__in=Generation.ENDED).order_by("-pk").values_list("pk", flat=True)[KEPT:]
    Generation.objects.filter(pk__in=list(old)).delete()
    call("generation")
    return row


def perform_next(person: int | None = None) -> bool:
    """See to the first order that waits and that nobody else sees to; say whether there was one.

    Args:
        person: whose; None for the first of all.
    """
    return jobs.take(waiting(Generation, person), _perform)


def _perform(row: Generation) -> None:
    generator: Generator | None = None
    try:
        generator = Generator(settings.GENERATOR)
        _generate(row, generator)
    except Cancelled:
        if generator is not None and row.remote:
            generator.cancel(row.remote)
        jobs.end(row, State.CANCELLED)
    except CadrageError as error:
        jobs.end(row, State.FAILED, problem=error.problem, remedy=error.remedy)
    except Exception:
        log.exception("A generation stopped: %s", row)
        jobs.end(row, State.FAILED, problem="It stopped unexpectedly.", remedy="Try again.")
    else:
        jobs.end(row, State.DONE, done=100)


def _generate(row: Generation, generator: Generator) -> None:
    footage, plan = row.framing.footage, row.plan
    still, mask = mask_of(plan, footage.path, footage.info, row.moment, library_for(footage, plan))
    if not row.remote:
        jobs.save(row, remote=generator.begin(still, mask, row.prompt, row.count), phase="generating")
    until = time.monotonic() + settings.GENERATOR_SECONDS
    while (standing := generator.standing(row.remote)).state in ("waiting", "running"):
        if Generation.objects.filter(pk=row.pk, cancel_asked=True).exists():
            raise Cancelled("It was cancelled.", remedy="Ask for it again when you want it.")
        if time.monotonic() > until:
            generator.cancel(row.remote)
            raise BadRequest(
                f"The generator took longer than {settings.GENERATOR_SECONDS:g} seconds.", remedy="Ask again later."
            )
        jobs.save(row, done=min(90, int(standing.percent)))
        time.sleep(LOOK_SECONDS)
    if standing.state == "failed":
        raise BadRequest(f"The generator gave up: {standing.problem or 'it does not say why'}.", remedy="Ask again.")
    _take_in(row, generator, standing.variants)


def _take_in(row: Generation, generator: Generator, count: int) -> None:
    """Take in every picture that is one; where none is, say why."""
    found = []
    refused: CadrageError | None = None
    for number in range(min(count, row.count)):
        try:
            data = generator.picture(row.remote, number)
            _, about, material = take_in(row.framing.footage, row.plan, row.moment, f"generated {number + 1}.png", data)
        except CadrageError as error:
            refused = error
            continue
        found.append({"material": material.ref, "about": about.summary})
    if not found:
        raise refused or BadRequest("The generator made no picture.", remedy="Ask again, in other words.")
    jobs.save(row, variants_json=found)


def pick_up() -> None:
    """See to orders that a dead worker left, and that nobody was called for. Called by a worker, now and then."""
    jobs.pick_up(Generation.objects.filter(state=State.RUNNING).select_related("framing__footage"), lambda _: None)
    if not called("generation") and waiting(Generation, None).exists():
        call("generation")
    there = set(Generation.objects.values_list("pk", flat=True))
    sweep_locks(Path(settings.ANALYSES_DIR).glob(".generation-lock-*"), there)
