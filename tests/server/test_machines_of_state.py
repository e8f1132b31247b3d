"""A project's history and a job, whatever is done to them in whatever order, against the simplest model of each."""

from fractions import Fraction

import pytest
from hypothesis import HealthCheck, settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, invariant, precondition, rule, run_state_machine_as_test

from cadrage.errors import BadRequest, Stale
from cadrage.formats import Delivery, Frame
from cadrage.geometry import Placement
from cadrage.output import Settings
from cadrage.plan import Design, Range
from server.studio.actions import analyses, footage, frames, framing_plans, framings, history, jobs, undoing
from server.studio.models import Analysis, Change, Framing

pytestmark = pytest.mark.django_db
FEW = settings(max_examples=12, stateful_step_count=18, deadline=None, suppress_health_check=list(HealthCheck))
State = Analysis.State
FRAME = Frame(width=180, height=320, name="Totem")
TIGHTNESSES = st.integers(0, 8)


def history_of(row, owner):  # noqa: C901 - its rules are methods of one class
    class History(RuleBasedStateMachine):
        """A list of states, and where we are in it: the plan (None is the preset), the range and the frame's name."""

        def __init__(self):
            super().__init__()
            Framing.objects.filter(pk=row.pk).update(current=0)
            row.steps.filter(number__gt=0).delete()
            Change.objects.all().delete()
            footage.mark(self.now.footage, Range())
            frames.change(self.now.frame, FRAME, Delivery(), Settings())
            Change.objects.all().delete()
            self.states, self.at = [(None, None, FRAME.name)], 0

        @property
        def now(self):
            return Framing.objects.select_related("footage__project", "frame__project").get(pk=row.pk)

        def stepped(self, number, value):
            state = list(self.states[self.at])
            if state[number] != value:
                state[number] = value
                self.states = [*self.states[: self.at + 1], tuple(state)]
                self.at += 1

        @rule(tightness=TIGHTNESSES)
        def change(self, tightness):
            design = Design(placement=Placement(tightness=tightness))
            if framing_plans.plan_of(self.now).design != design:
                framings.change(self.now, design, "Changed")
                self.stepped(0, tightness)

        @rule()
        def obey(self):
            framings.obey([self.now])
            self.stepped(0, None)

        @rule(end=st.sampled_from([None, Fraction(1, 5)]))
        def mark(self, end):
            footage.mark(self.now.footage, Range(end=end))
            self.stepped(1, end)

        @rule(name=st.sampled_from(["Totem", "Foyer"]))
        def rename(self, name):
            frame = self.now.frame
            frames.change(frame, frame.value.model_copy(update={"name": name}), frame.delivery, frame.settings)
            self.stepped(2, name)

        @rule()
        def undo(self):
            walked = undoing.walk(self.now.footage.project, owner, redo=False)
            assert (walked is None) == (self.at == 0)
            self.at = max(0, self.at - 1)

        @rule()
        def redo(self):
            last = len(self.states) - 1
            walked = undoing.walk(self.now.footage.project, owner, redo=True)
            assert (walked is None) == (self.at == last)
            self.at = min(last, self.at + 1)

        @rule(tightness=TIGHTNESSES)
        def change_what_is_stale(self, tightness):
            design = Design(placement=Placement(tightness=tightness))
            with pytest.raises(Stale):
                framings.change(self.now, design, "Too late", version=-1)

        @invariant()
        def what_is_in_force_is_what_the_model_says(self):
            now = self.now
            tightness = None if now.own is None else now.own.placement.tightness
            assert (tightness, now.footage.range.end, now.frame.value.name) == self.states[self.at]

    return History


def test_a_history_goes_back_and_forth_as_a_list_does(framing, people, monkeypatch):
    monkeypatch.setattr(history, "person", lambda: people[0])
    run_state_machine_as_test(history_of(framing, people[0]), settings=FEW)


def job_of(row):  # noqa: C901 - as above
    class Life(RuleBasedStateMachine):
        """A job, and what people and workers do to it."""

        def __init__(self):
            super().__init__()
            Analysis.objects.filter(pk=row.pk).update(
                state=State.QUEUED, cancel_asked=False, pause_asked=False, attempts=0, stalled_attempts=0
            )

        @property
        def now(self):
            return Analysis.objects.get(pk=row.pk)

        def allowed(self, states, do):
            if self.now.state in states:
                do(self.now)
            else:
                with pytest.raises(BadRequest):
                    do(self.now)

        @rule()
        def cancel(self):
            self.allowed((State.QUEUED, State.RUNNING, State.PAUSED), jobs.cancel)

        @rule()
        def pause(self):
            self.allowed((State.QUEUED, State.RUNNING, State.PAUSED), jobs.pause)

        @rule()
        def resume(self):
            if self.now.state == State.PAUSED or (self.now.state == State.RUNNING and self.now.pause_asked):
                jobs.resume(self.now)

        @rule()
        def retry(self):
            self.allowed((State.DONE, State.FAILED, State.CANCELLED), analyses.retry)

        @precondition(lambda self: self.now.state == State.QUEUED)
        @rule()
        def begin(self):
            assert jobs.claim(self.now)
            assert self.now.state == State.RUNNING

        @precondition(lambda self: self.now.state == State.RUNNING)
        @rule(state=st.sampled_from([State.DONE, State.FAILED]))
        def end(self, state):
            jobs.end(self.now, state)

        @rule()
        def a_worker_dies(self):
            jobs.pick_up(Analysis.objects.filter(state=State.RUNNING), lambda _: None)
            assert self.now.state != State.RUNNING

        @invariant()
        def it_can_always_go_on(self):
            """From wherever it is, somebody can bring it to its end."""
            state = State(self.now.state)
            assert state in Analysis.NEXT
            reached, before = {state}, set()
            while reached != before:
                before = set(reached)
                reached |= {after for one in before for after in Analysis.NEXT[one]}
            assert State.DONE in reached

    return Life


def test_a_job_is_never_where_nobody_can_bring_it_on(framing):
    row = Analysis.objects.filter(footage=framing.footage).first()
    run_state_machine_as_test(job_of(row), settings=FEW)
