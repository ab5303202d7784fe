"""Who is where: windows come, move and go, and those who listen are woken for it alone."""

import pytest

from juxtaform.studio import presence
from juxtaform.studio.presence import Here, Presence
from juxtaform.studio.workspace import Listeners


@pytest.fixture
def told():
    """A room of windows, and how often its listeners were woken, and its followers."""
    listeners, woken = Listeners(), {"listener": 0, "follower": 0}
    listeners.follow(lambda project: woken.__setitem__("follower", woken["follower"] + 1))
    with listeners.listening("p", lambda: woken.__setitem__("listener", woken["listener"] + 1)):
        yield Presence(listeners), woken


def test_windows_come_move_and_go(told):
    room, woken = told
    room.came("p", Here("w1", "Mira"))
    room.came("p", Here("w2", "Tomas"))
    room.moved("p", Here("w2", "Tomas", view="sheet", shot_id="s"))
    assert [(h.window, h.view, h.shot_id) for h in room.of("p")] == [("w1", "", None), ("w2", "sheet", "s")]
    room.left("p", "w1")
    assert [h.window for h in room.of("p")] == ["w2"]
    assert (room.stamp("p"), woken["listener"]) == (4, 4)
    assert woken["follower"] == 0, "the journal has nothing new to be read for"


def test_what_changes_nothing_wakes_nobody(told):
    room, woken = told
    here = Here("w1", "Mira", view="sheet")
    room.came("p", here)
    room.came("p", here)
    room.moved("p", here)
    room.moved("p", Here("never came", view="takes"))
    room.left("p", "never came")
    room.left("elsewhere", "w1")
    assert (room.stamp("p"), woken["listener"]) == (1, 1)
    assert room.stamp("elsewhere") == 0


def test_projects_know_nothing_of_each_other_and_rooms_have_an_end(told, monkeypatch):
    room, _ = told
    monkeypatch.setattr(presence, "MOST_WINDOWS", 3)
    for i in range(5):
        room.came("p", Here(f"w{i}"))
    room.came("q", Here("w0"))
    assert [h.window for h in room.of("p")] == ["w0", "w1", "w2"]
    assert [h.window for h in room.of("q")] == ["w0"]
    room.left("q", "w0")
    assert room.of("q") == []
