"""Playing: what is seen and heard is what is rendered; round and round; and what happens where the machine is slow."""

import re
import threading
import time
from dataclasses import replace
from fractions import Fraction as F

import av
import numpy as np
import pytest

from cadrage.compose import Compositor
from cadrage.errors import BadRequest, MissingSource
from cadrage.footage import ClipReader, FrameStore, probe
from cadrage.formats import Frame
from cadrage.geometry import Placement
from cadrage.motion import Motion, Pan, Push
from cadrage.output import Settings
from cadrage.plan import Plan, Range, Shot
from cadrage.playing import PlayRequest, PlayStream
from cadrage.playing.clock import LEAD, MOST_LEFT_OUT, Clock
from cadrage.playing.pictures import Painter
from cadrage.render import render
from cadrage.surrounds import Plain
from tests.clips import write_clip
from tests.corpus.drawing import number_in, picture
from tests.played import Patient, pieces, play

RATE = 25
FRAMES = 75
STRETCHED = Plan(frame=Frame(width=112, height=64), placement=Placement(sizing="stretch"), surround=Plain())
UPRIGHT = Plan(frame=Frame(width=180, height=320), motion=Motion(move=Pan()), placement=Placement(tightness=F(1)))
SMALL = 64


def numbered(number):
    return np.repeat(picture(number, 192, 108)[..., None], 3, axis=2)


@pytest.fixture(scope="module")
def clip(tmp_path_factory):
    return write_clip(
        tmp_path_factory.mktemp("play") / "numbered.mov",
        size=(192, 108),
        frames=FRAMES,
        paint=numbered,
        sound="pcm_s16le",
    )


def asked(clip, plan=STRETCHED, start=0, **more):
    return PlayRequest((plan,), clip, probe(clip), F(start), **{"lines": SMALL, **more})


def seen(path):
    """Times and luma as they are read back."""
    with av.open(str(path)) as container:
        return [(frame.time, frame.to_ndarray()[: frame.height]) for frame in container.decode(video=0)]


def numbers(path, seconds=None):
    return [number_in(luma) for time, luma in seen(path) if seconds is None or time < seconds - 0.001]


def samples(path):
    with av.open(str(path)) as container:
        return np.concatenate([frame.to_ndarray()[0] for frame in container.decode(audio=0)])


def test_it_plays_from_a_moment_to_the_end_and_round(clip, tmp_path):
    film, _ = play(asked(clip, start=2), 3, tmp_path)
    assert numbers(film, 3) == [*range(50, 75), *range(50)]
    assert [round(at * RATE, 3) for at, _ in seen(film)][:75] == list(range(75))


def test_the_range_is_a_loop_and_a_moment_outside_it_plays_all(clip, tmp_path):
    part = STRETCHED.model_copy(update={"range": Range(start=F(1), end=F(2))})
    film, _ = play(asked(clip, part, F(3, 2)), 2, tmp_path)
    assert numbers(film, 2) == [*range(37, 50), *range(25, 50), *range(25, 37)]
    film, _ = play(asked(clip, part, F(5, 2)), 1, tmp_path)
    assert numbers(film, 1) == [*range(62, 75), *range(12)]


def test_a_shot_alone_goes_round_as_far_as_it_is_delivered(clip, tmp_path):
    shots = tuple(Shot(start=F(at, RATE)) for at in (0, 20, 50))
    cut = STRETCHED.model_copy(update={"shots": shots, "range": Range(start=F(30, RATE))})
    film, _ = play(asked(clip, cut, F(40, RATE), shot_alone=True), 1.2, tmp_path)
    assert numbers(film, 1.2) == [*range(40, 50), *range(30, 50)]


def test_its_sound_is_that_of_the_file_to_the_sample(clip, tmp_path):
    part = STRETCHED.model_copy(update={"range": Range(start=F(1), end=F(2))})
    file = tmp_path / "out.mov"
    render(part, clip, file, probe(clip), settings=Settings(kind="mov-prores", sound="pcm-16"))
    with av.open(str(file)) as container:
        mono = np.concatenate([frame.to_ndarray()[0] for frame in container.decode(audio=0)])
    _, sound = play(asked(clip, part, 1), 2.5, tmp_path)
    heard = samples(sound)
    assert len(mono) == 48_000
    assert len(heard) > 2.5 * 48_000
    assert (heard == np.tile(mono, 5)[: len(heard)]).all()


@pytest.mark.parametrize("plan", [UPRIGHT, UPRIGHT.model_copy(update={"motion": Motion(move=Push(percent=F(20)))})])
def test_what_plays_is_what_is_composed(clip, tmp_path, plan):
    """32 dB: what an encoder that must not wait may take of it."""
    request = asked(clip, plan, lines=320)
    film, _ = play(request, 3, tmp_path)
    frames = seen(film)
    info = probe(clip)
    with ClipReader(clip, info) as reader:
        compositor = None
        for number in range(0, FRAMES, 8):
            stored = reader.frame_at(F(number, RATE))
            compositor = compositor or Compositor(plan, stored.planes.layout, info, request.tile())
            composed = compositor.compose(stored.planes, time=stored.time).luma8
            apart = (frames[number][1].astype(float) - composed) ** 2
            assert 10 * np.log10(255**2 / max(apart.mean(), 1e-9)) >= 32, number


def test_it_plays_faster(clip, tmp_path):
    film, sound = play(asked(clip, start=1, speed=2), 1, tmp_path)
    assert numbers(film, 1) == [*range(25, 75, 2)]
    assert len(samples(sound)) >= 48_000
    film, sound = play(asked(clip, speed=4), 1, tmp_path)
    assert numbers(film, 0.74) == [*range(0, 75, 4)]
    assert sound is None


def test_fields_are_moments_of_their_own(tmp_path, clip):
    frame = STRETCHED.frame.model_copy(update={"fields": "upper_first", "rate": F(25)})
    film, _ = play(asked(clip, STRETCHED.model_copy(update={"frame": frame})), 1, tmp_path)
    assert numbers(film, 1) == [number for number in range(25) for _ in range(2)]


def test_a_rate_that_varies_is_played_as_it_is(tmp_path):
    stamps = [0, 40, 100, 400, 440, 500, 900, 940]
    path = write_clip(
        tmp_path / "varies.mkv", size=(192, 108), frames=8, paint=numbered, stamps=stamps, sound="pcm_s16le"
    )
    film, _ = play(asked(path), 0.95, tmp_path)
    found = [(number_in(luma), round(at * 1000)) for at, luma in seen(film)]
    assert found[:8] == [(number, stamp) for number, stamp in enumerate(stamps)]


def test_ways_side_by_side_are_one_picture(clip, tmp_path):
    tiny = {"placement": Placement(sizing="scale", scale=F(1, 100))}
    plain = [
        STRETCHED.model_copy(update=tiny | {"surround": Plain(colour=colour)}) for colour in ("#ffffff", "#000000")
    ]
    request = PlayRequest((*plain, STRETCHED), clip, probe(clip), lines=SMALL)
    film, _ = play(request, 0.5, tmp_path)
    assert request.grid == (2, 2)
    _, luma = seen(film)[5]
    assert luma.shape == (128, 224)
    white, black, third = luma[:64, :112], luma[:64, 112:], luma[64:, :112]
    assert np.median(white) > 225
    assert np.median(black) < 30
    assert number_in(third) == 5


def test_ways_into_different_frames_are_refused(clip):
    other = STRETCHED.model_copy(update={"frame": Frame(width=64, height=112)})
    with pytest.raises(BadRequest):
        PlayRequest((STRETCHED, other), clip, probe(clip))
    with pytest.raises(BadRequest):
        PlayRequest((STRETCHED,) * 10, clip, probe(clip))


def test_a_clip_that_is_gone_is_told(clip, tmp_path):
    gone = asked(clip)
    with pytest.raises(MissingSource):
        next(PlayStream(replace(gone, source=tmp_path / "gone.mov")).parts())


def test_a_tile_is_even_and_never_larger_than_what_can_be_made(clip):
    for lines in (63, 540, 1080, 5000):
        for count in (1, 2, 9):
            request = PlayRequest((UPRIGHT,) * count, clip, probe(clip), lines=lines)
            for part in (1, 2, 4):
                wide, tall = request.tile(part)
                assert wide % 2 == tall % 2 == 0
                assert wide * tall * count <= 1920 * 1080 * 1.02
                assert tall <= max(2, lines // part + 2)


def test_who_leaves_ends_all_of_it_and_gives_the_reader_back(clip):
    store, before = FrameStore(), threading.active_count()
    stream = PlayStream(asked(clip), store=store)
    parts = stream.parts()
    for _ in range(5):
        next(parts)
    assert threading.active_count() > before
    parts.close()
    until = time.monotonic() + 10
    while threading.active_count() > before and time.monotonic() < until:
        time.sleep(0.01)
    assert threading.active_count() == before
    with store.lent(clip, probe(clip), STRETCHED.interpretation) as reader:
        mine = reader
    with store.lent(clip, probe(clip), STRETCHED.interpretation) as reader:
        assert reader is mine


def test_a_stream_is_never_far_ahead(clip):
    patient = Patient()
    stream = PlayStream(asked(clip), now=patient.now, wait=patient.wait, wanted=lambda: patient.time < 3)
    sent = pieces(b"".join(stream.parts()))
    assert (3 + LEAD) * RATE - 2 <= len([one for one in sent["picture"] if one]) <= (3 + LEAD) * RATE + 3


def slow(monkeypatch, patient, seconds):
    """A machine that takes so many seconds for a picture; they go by the pixels of it where that is a function."""
    draw = Painter.draw

    def drawn(self, picture):
        shown = draw(self, picture)
        if shown is not None:
            patient.time += seconds(self)
        return shown

    monkeypatch.setattr(Painter, "draw", drawn)


def played_slowly(clip, monkeypatch, seconds, watched=8):
    patient = Patient()
    slow(monkeypatch, patient, seconds)
    stream = PlayStream(asked(clip), now=patient.now, wait=patient.wait, wanted=lambda: patient.time < watched)
    return stream, pieces(b"".join(stream.parts()))


def films(sent, folder):
    """The files that were sent one behind the other, one of each size."""
    data = b"".join(sent["picture"])
    starts = [found.start() - 4 for found in re.finditer(b"ftyp", data)]
    paths = [folder / f"{number}.mp4" for number in range(len(starts))]
    for path, since, until in zip(paths, starts, [*starts[1:], len(data)], strict=True):
        path.write_bytes(data[since:until])
    return paths


def test_where_it_is_too_slow_size_goes_first(clip, monkeypatch, tmp_path):
    stream, sent = played_slowly(clip, monkeypatch, lambda painter: 0.12 / painter._clock.part**2)
    assert (stream.clock.part, stream.clock.every) == (2, 1)
    full, half = films(sent, tmp_path)
    assert seen(full)[0][1].shape == (64, 112)
    assert seen(half)[0][0] == pytest.approx(seen(full)[-1][0] + 1 / RATE)
    frames = seen(half)
    assert frames[0][1].shape == (32, 56)
    times = [round(at * RATE, 3) for at, _ in frames]
    assert times == list(range(int(times[0]), int(times[0]) + len(times)))  # in time with what was sent before


def test_then_pictures_are_left_out_and_time_goes_on(clip, monkeypatch, tmp_path):
    stream, sent = played_slowly(clip, monkeypatch, lambda _: 0.1, watched=12)
    assert stream.clock.part == 4
    assert 2 <= stream.clock.every <= MOST_LEFT_OUT
    frames = [(round(at * RATE), number_in(luma)) for at, luma in seen(films(sent, tmp_path)[-1])]
    late = [(at, number) for at, number in frames if at > frames[-1][0] - 25]
    assert all(number == at % FRAMES for at, number in late)  # each is the picture of its time
    assert len(late) < 25
    sound = tmp_path / "sound.mp4"
    sound.write_bytes(b"".join(sent["sound"]))
    assert len(samples(sound)) / 48_000 >= frames[-1][0] / RATE  # and the sound is whole


def test_who_waits_is_not_run_away_from():
    now = [0.0]
    clock = Clock(lambda: now[0])
    clock.tick(0.04)
    assert clock.ahead(0.04) == pytest.approx(0.04)
    now[0] = 1.0  # nothing came for a second
    clock.tick(0.08)
    assert clock.ahead(0.08) == pytest.approx(0)
    assert clock.part == 2


def test_a_machine_that_keeps_up_gives_up_nothing():
    now = [0.0]
    clock = Clock(lambda: now[0])
    for picture_number in range(1, 500):
        now[0] += 0.02
        clock.tick(picture_number / 25)
        now[0] += clock.too_early(picture_number / 25)
    assert (clock.part, clock.every) == (1, 1)
