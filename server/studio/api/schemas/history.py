"""The history of a project."""

from ninja import Schema

from server.studio.actions.undoing import next_of
from server.studio.api.schemas.board import CellOut
from server.studio.api.schemas.framing import FramingOut
from server.studio.models import Change, Footage, Framing, Project

CELLS_SENT = 60
"""Of so many cells an answer has the values; with more of them the board is asked for."""


class ChangeOut(Schema):
    """A change in a history; `where` names the clip, or the clip and the frame, or the number of cells.

    `framing` is the id of the framing, if it is a change of one framing only.
    """

    id: int
    label: str
    where: str
    framing: int | None

    @classmethod
    def of(cls, change: Change) -> "ChangeOut":
        """From its row."""
        ids = _ids(change)
        framings = ids.get("framing", [])
        framing = framings[0] if len(framings) == 1 == len(change.after_json) else None
        return cls(id=change.pk, label=change.label, where=_where(ids), framing=framing)


def _ids(change: Change) -> dict[str, list[int]]:
    """Ids of the rows of a change, by kind."""
    ids: dict[str, list[int]] = {}
    for key in change.after_json:
        kind, pk = key.split(":")
        ids.setdefault(kind, []).append(int(pk))
    return ids


def _where(ids: dict[str, list[int]]) -> str:
    framings, clips = ids.get("framing", []), ids.get("footage", [])
    if len(framings) > 1:
        return f"{len(framings)} cells"
    if framings and (row := Framing.objects.select_related("footage", "frame").filter(pk=framings[0]).first()):
        return f"{row.footage.name}, {row.frame.value.name}"
    if len(clips) == 1 and (clip := Footage.everything.filter(pk=clips[0]).first()):
        return clip.name
    return ""


class HistoryOut(Schema):
    """The changes that undo and redo would apply to, for the visitor; null if there is none."""

    undo: ChangeOut | None
    redo: ChangeOut | None

    @classmethod
    def of(cls, project: Project, person: object) -> "HistoryOut":
        """Of a person in a project."""
        undo, redo = (next_of(project, person, redo=way) for way in (False, True))
        return cls(undo=undo and ChangeOut.of(undo), redo=redo and ChangeOut.of(redo))


class SavedOut(Schema):
    """A framing after a change, and the history with it."""

    framing: FramingOut
    history: HistoryOut


class WalkIn(Schema):
    """A press of undo or redo: at which framing, and about which change; about the next one if that is null."""

    framing: int | None = None
    change: int | None = None


class WalkedOut(Schema):
    """The change that was undone or redone, and the state after it.

    `done` is null if there was nothing to do. `framing` is the requested one. `cells` are those that changed; null if
    many of them, or anything else, did. `left` parts of the change stay as they are, because others changed them since.
    """

    done: ChangeOut | None
    left: int
    framing: FramingOut | None
    cells: list[CellOut] | None
    history: HistoryOut
