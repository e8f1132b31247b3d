import threading

import pytest

from cadrage.render.pipeline import map_in_thread, prefetch


def test_order_is_kept():
    assert list(map_in_thread(prefetch(range(100)), lambda number: number * 2)) == list(range(0, 200, 2))


def test_an_error_reaches_the_caller_with_its_place():
    def failing():
        yield 1
        raise LookupError("here")

    items = prefetch(failing())
    assert next(items) == 1
    with pytest.raises(LookupError, match="here") as caught:
        next(items)
    assert "failing" in [entry.name for entry in caught.traceback]


def test_closing_stops_the_thread():
    made = []

    def endless():
        while True:
            made.append(len(made))
            yield len(made)

    items = prefetch(endless())
    next(items)
    items.close()
    assert len(made) < 20
    assert not [thread for thread in threading.enumerate() if thread.name == "ahead"]


def test_only_a_few_items_wait():
    made = []
    items = prefetch(made.append(number) or number for number in range(1000))
    next(items)
    threading.Event().wait(0.2)
    assert len(made) <= 7
    items.close()
