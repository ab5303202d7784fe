"""Sound in the run-through: a line is recorded with its words before you, lengths follow it, a file is laid, heard at its time, and mended; shots between."""

import pytest
from selenium.webdriver.common.keys import Keys

from juxtaform.studio import plan, projects, sounds, story
from juxtaform.studio.sounds import NewSound
from tests.browser.conftest import Page, chromium
from tests.browser.test_accessible import faults
from tests.conftest import rows
from tests.constructed_sounds import music, voice, wav

TEXT = "The tide had been gone three days. Nobody knew why.\n\nSprocket hummed."
LINES = ("The tide had been gone three days. Nobody knew why.", "Sprocket hummed.")
STARTS = """
window.begun = [];
const { start, stop } = AudioBufferSourceNode.prototype;
AudioBufferSourceNode.prototype.start = function (when, offset, duration) {
  window.begun.push([when, offset, duration, this.buffer.duration, this.context.currentTime]);
  return start.call(this, when, offset, duration);
};
AudioBufferSourceNode.prototype.stop = function () {
  window.begun.push(null);
  return stop.call(this);
};
"""
# When each sound lies in the whole, and from which second of it; by how long it is in the file.
LIES = {1.5: (0.2, 0.0), 1.2: (2.2, 0.0), 10.0: (0.0, 1.0)}


@pytest.fixture
def shots(ws, project):
    """Two shots of two seconds that cover the text."""
    plan.add_scene(ws, project, "The quay")
    story.keep(ws, project, TEXT)
    plan.insert_shot(ws, project, rows(ws, project, "shot")[0]["id"])
    ids = [x["id"] for x in rows(ws, project, "shot")]
    revision, cut = rows(ws, project, "project")[0]["text_revision"], TEXT.index("Sprocket")
    for shot, (start, end) in zip(ids, ((0, cut - 2), (cut, len(TEXT))), strict=True):
        story.anchor_again(ws, project, shot, start, end, revision)
        plan.edit_shot(ws, project, shot, {"length_s": 2.0}, None)
    return ids


@pytest.fixture
def speaking(address, tmp_path):
    """A browser whose microphone hears a voice that says something for two seconds, again and again."""
    (tmp_path / "said.wav").write_bytes(wav(voice([(0.1, 1.9)], 2.0, 0.4)))
    driver = chromium(more=(f"--use-file-for-fake-audio-capture={tmp_path / 'said.wav'}",))
    yield Page(driver, address)
    driver.quit()


def test_lines_are_recorded_one_after_another_and_lengths_follow_when_asked(speaking, ws, project, shots):
    page = speaking
    page.open(f"/p/{project}/run")
    page.one("[data-row]")
    page.keys("v")
    page.see("2 without a voice")
    assert LINES[0] in page.one("[data-voice-line]").text
    assert faults(page) == []
    page.keys("r")
    page.until(lambda: float(page.one("[role=timer]").text.split()[0]) > 3.0, "it records")
    # The made-up microphone beeps: between two beeps there is nothing to hear.
    page.until(lambda: int(page.one("[role=meter]").get_attribute("aria-valuenow")) > 20, "it hears")
    page.keys("r")
    page.see("take 1")
    page.see("1 without a voice")
    made = rows(ws, project, "sound")[0]
    assert (made["shot_id"], made["line"], made["kind"], made["picked"]) == (shots[0], LINES[0], "voice", True)
    page.see("the shot has 2.0")
    page.one("[data-follow-one]").click()
    page.until(lambda: rows(ws, project, "shot")[0]["length_s"] > 3.0, "the shot has the time")
    page.until(lambda: not page.all("[data-follow-one]"), "and nothing is short any more")
    page.keys("r")
    page.until(lambda: float(page.one("[role=timer]").text.split()[0]) > 0.6, "it records again")
    page.keys("r")
    page.until(lambda: len(page.all("[data-voice-take]")) == 2, "two takes")
    assert [r["picked"] for r in sorted(rows(ws, project, "sound"), key=lambda r: r["position"])] == [False, True]
    page.all("[data-voice-take] [aria-pressed]")[0].click()
    page.until(
        lambda: next(r for r in rows(ws, project, "sound") if r["id"] == made["id"])["picked"], "the first is heard"
    )
    page.keys(Keys.ARROW_DOWN)
    page.until(lambda: LINES[1] in page.one("[data-voice-line]").text, "the next line")
    page.keys("r")
    page.one("[role=timer]")
    page.keys(Keys.ESCAPE)
    page.until(lambda: not page.all("[role=timer]"), "put away")
    assert len(rows(ws, project, "sound")) == 2
    assert page.trouble() == []


def test_what_is_heard_begins_at_its_time(page, ws, project, shots):
    sounds.add(ws, project, wav(voice([(0.1, 1.4)], 1.5)), NewSound(shots[0], "One", "voice", LINES[0]))
    sounds.add(ws, project, wav(voice([(0.1, 1.1)], 1.2)), NewSound(shots[1], "Two", "voice", LINES[1]))
    song = sounds.add(ws, project, wav(music(12.0, 0.1)), NewSound(shots[0], "Song", "music")).rows["sound"][0]
    sounds.edit(ws, project, song["id"], {"from_s": 1.0})
    page.open(f"/p/{project}/run")
    page.driver.execute_script(STARTS)
    page.until(lambda: len(page.all("[data-sound]")) == 3, "the sounds lie there")
    page.keys(" ")
    page.until(lambda: page.one("[data-time]").text.startswith("0:04"), "to the end")
    # What was fetched while it played is at hand the second time: all that lies at the start begins together.
    page.driver.execute_script("window.begun = []")
    page.keys(Keys.HOME, " ")
    page.until(lambda: page.one("[data-time]").text.startswith("0:04"), "to the end again")
    # Where picture and sound part on a busy machine, all stops and begins anew: each such stretch has a start of its own.
    stretches, compared = [[]], set()
    for start in page.driver.execute_script("return window.begun"):
        stretches.append([]) if start is None else stretches[-1].append(start)
    for stretch in filter(None, stretches):
        lies = {round(seconds, 1): (when - offset, offset + played) for when, offset, played, seconds, _ in stretch}
        whole_began = {length: at - LIES[length][0] + LIES[length][1] for length, (at, _) in lies.items()}
        assert max(whole_began.values()) - min(whole_began.values()) < 0.01, stretch
        compared |= set(lies) if len(lies) > 1 else set()
        assert lies.get(1.2, (0, 1.2))[1] == pytest.approx(1.2, abs=0.01)
    assert compared >= {1.5, 1.2, 10.0}
    assert page.trouble() == []


def test_a_file_is_laid_turned_down_faded_moved_and_taken_off(page, ws, project, shots, tmp_path):
    (tmp_path / "song.wav").write_bytes(wav(music(20.0, 0.1)))
    (tmp_path / "none.wav").write_bytes(b"RIFF no sound at all")
    page.open(f"/p/{project}/run")
    page.one("[data-row]")
    page.keys(".", ".", ".", ".", ".", ".")
    page.one("input[aria-label='Sound files']").send_keys(str(tmp_path / "none.wav"))
    page.see("is no sound that is read here")
    page.one("input[aria-label='Sound files']").send_keys(str(tmp_path / "song.wav"))
    page.one("[data-sound-facts]")
    made = rows(ws, project, "sound")[0]
    assert (made["kind"], made["start_s"]) == ("music", 0.25)
    page.see("3.75 s are heard")
    assert faults(page) == []
    gain = page.one("[data-sound-facts] input[type=range]")
    gain.send_keys(*[Keys.ARROW_LEFT] * 8)
    page.until(lambda: rows(ws, project, "sound")[0]["gain_db"] == -4.0, "turned down")
    field = page.one("input[aria-label='Seconds of the fade out']")
    field.send_keys(Keys.CONTROL, "a")
    field.send_keys("1,5", Keys.ENTER)
    page.until(lambda: rows(ws, project, "sound")[0]["fade_out_s"] == 1.5, "faded")
    box = page.one("[data-sound]").rect
    page.drag(box["x"] + 5, box["y"] + 20, box["x"] + 5, box["y"] + 30)  # ten px a second
    page.until(lambda: rows(ws, project, "sound")[0]["start_s"] == pytest.approx(1.25, abs=0.06), "moved by a second")
    page.keys(Keys.DELETE)
    page.until(lambda: not rows(ws, project, "sound"), "taken off")
    page.chord(Keys.CONTROL, "z")
    page.until(lambda: rows(ws, project, "sound"), "and back")
    page.until(lambda: page.all("[data-sound]"), "on the screen too")
    projects.undo(ws, project)
    page.until(lambda: abs(rows(ws, project, "sound")[0]["start_s"] - 0.25) < 1e-6, "where it was")
    assert all("422" in t for t in page.trouble())


def test_what_is_wrong_is_told_and_mended_with_a_click(page, ws, project, shots):
    sounds.add(ws, project, wav(voice([(0.1, 3.9)], 4.0)), NewSound(shots[0], "One", "voice", LINES[0]))
    sounds.add(ws, project, wav(voice([(1.6, 2.4)], 2.6)), NewSound(shots[1], "Two", "voice", LINES[1]))
    page.open(f"/p/{project}/run")
    page.see("Listen")
    page.at("//*[@role='radio'][contains(., 'Listen')]").click()
    page.see("The line takes 4.2 s, shot 1 has 2.0")
    page.see("“Two” begins with 1.6 s of silence")
    assert faults(page) == []
    page.button("Take the silence off").click()
    page.until(lambda: "silence" not in page.one("aside").text, "the silence is off")
    page.button("Give it the time").click()
    page.see("Nothing is wrong with the sound")
    assert page.trouble() == []


def test_a_shot_between_is_put_in_with_one_key_or_not(page, ws, project, shots):
    plan.edit_shot(ws, project, shots[0], {"size": "MS", "shows": "Somebody waits."}, None)
    page.open(f"/p/{project}/run")
    page.one("[data-row]")
    page.keys("b")
    page.see("The words of shot 1 take")
    assert faults(page) == []
    page.keys("x")
    page.see("No shot is missing")
    page.chord(Keys.CONTROL, "z")
    page.see("The words of shot 1 take")
    page.keys(Keys.ENTER)
    page.see("Shot 2 is in.")
    fresh = rows(ws, project, "shot")[1]
    assert fresh["bridge"]
    page.chord(Keys.CONTROL, "z")
    page.see("Undone: put a shot between")
    assert len(rows(ws, project, "shot")) == 2
    assert page.trouble() == []
