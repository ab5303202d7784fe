"""Whatever was done, in whatever order: undo walks back through every state, redo forth again, and the plan stays whole."""

import uuid

import numpy as np
import pytest
from sqlalchemy import select

from juxtaform.core.picture.regions import Box
from juxtaform.records.models import JOURNALED, Project
from juxtaform.studio import (
    bridges,
    library,
    mending,
    plan,
    planning,
    projects,
    proposals,
    rowsheet,
    sounds,
    story,
    takes,
    taste,
    threads,
    versions,
)
from juxtaform.studio.findings import Findings, let_stand
from juxtaform.studio.sounds import NewSound
from juxtaform.studio.workspace import NotPossible, NotThere, plain
from tests.conftest import flat, rows
from tests.constructed_sounds import music, voice, wav

SONG, SAID = wav(music(4.0, 0.1)), wav(voice([(0.2, 5.8)], 6.0))

TEXT = (
    "# The quay\nAda came in. “You are late,” said Bo. Ada sat down on the bench and took the key out of her coat.\n\n"
    "# The cellar\nBo opened the cellar. Nobody was there. Ada looked behind the barrel; the lamp went out.\n"
)
WORDS = (
    "Ada",
    "Bo",
    "sits",
    "on the quay",
    "with the key",
    "runs",
    "in snow",
    "at night",
    "a striped shirt",
    "and then",
)


class Player:
    """Somebody who does one thing after another to a project, as the dice fall."""

    def __init__(self, ws, seed):
        self.look = Findings(ws)
        self.ws, self.rng, self.colour = ws, np.random.default_rng(seed), 1000 * seed
        self.project = projects.make(ws, f"Played {seed}")
        story.keep(ws, self.project, TEXT)
        proposals.propose(ws, self.project)
        proposals.accept(ws, self.project)
        for kind, name in (("character", "Ada"), ("setting", "Quay"), ("style", "Paper"), ("style", "Ink")):
            threads.make(ws, self.project, kind, name)
        projects.forget_history(ws, self.project)

    def one(self, table, **facts):
        held = [i for i, r in self.state()[table].items() if all(r.get(k) == v for k, v in facts.items())]
        if not held:
            raise NotThere(table)
        return sorted(held)[self.rng.integers(len(held))]

    def shots(self):
        ids = [r["id"] for r in rows(self.ws, self.project, "shot")]
        first = int(self.rng.integers(len(ids)))
        return ids[first : first + int(self.rng.integers(1, 4))]

    def sha(self):
        self.colour += 1
        code = self.colour
        return str(takes.take_in(self.ws, "p.png", flat((code % 251, code * 7 % 251, code // 251 % 251))).sha)

    def words(self):
        return " ".join(self.rng.choice(WORDS, 4)) + "."

    def deeds(self):
        ws, p, rng = self.ws, self.project, self.rng
        return {
            "add scene": lambda: plan.add_scene(ws, p, self.words()),
            "edit shot": lambda: plan.edit_shot(ws, p, self.one("shot"), {"shows": self.words(), "size": "CU"}, None),
            "insert": lambda: plan.insert_shot(ws, p, self.one("shot")),
            "delete": lambda: plan.delete_shots(ws, p, self.shots()[:1]),
            "move": lambda: plan.move_shot(ws, p, self.one("shot"), int(rng.choice([-1, 1]))),
            "split": lambda: plan.split_shot(ws, p, self.one("shot")),
            "merge": lambda: plan.merge_up(ws, p, self.one("shot")),
            "retype": lambda: story.keep(
                ws, p, TEXT.replace("barrel", str(rng.choice(["barrel", "stove", "barrel, again"])))
            ),
            "propose": lambda: proposals.propose(ws, p),
            "accept": lambda: proposals.accept(ws, p),
            "rename": lambda: threads.edit(ws, p, self.one("thread"), {"name": f"Name {rng.integers(99)}"}, None),
            "assign": lambda: threads.assign(ws, p, self.one("thread"), self.shots(), on=bool(rng.integers(2))),
            "beads": lambda: threads.set_beads(
                ws, p, self.one("thread"), self.shots(), {"weight": float(rng.random())}
            ),
            "reference": lambda: threads.add_references(ws, p, self.one("thread"), [(self.sha(), "view")], ""),
            "trait": lambda: threads.add_trait(
                ws, p, self.one("reference"), "Coat", "outfit", Box(4, 4, 20, 20), ["#102030"]
            ),
            "replace": lambda: versions.replace_reference(
                ws, p, self.one("reference"), self.sha(), "new", str(rng.choice([*self.shots()]))
            ),
            "drop reference": lambda: threads.remove_reference(ws, p, self.one("reference")),
            "drop thread": lambda: threads.remove(ws, p, self.one("thread", kind="style")),
            "order": lambda: rowsheet.order_threads(ws, p, [r["id"] for r in rows(ws, p, "thread")][::-1]),
            "facts": lambda: rowsheet.edit_shots(ws, p, self.shots(), {"angle": "low", "length_s": 2.5}),
            "paste": lambda: rowsheet.paste_shots(ws, p, self.one("shot"), rowsheet.copied_shots(ws, p, self.shots())),
            "take": lambda: takes.accept(ws, p, [("t.png", self.sha(), self.one("shot"))]),
            "pick": lambda: takes.pick(ws, p, self.one("take")),
            "drop take": lambda: takes.remove(ws, p, self.one("take")),
            "mark": lambda: takes.mark(
                ws, p, self.one("take"), self.one("thread", kind="character"), Box(4, 4, 20, 20)
            ),
            "phrase": lambda: mending.edit_phrase(ws, p, self.one("shot"), "extra", self.words()),
            "mend": self.mend,
            "stet": self.stet,
            "time": lambda: planning.time_from_words(ws, p),
            "motion": lambda: planning.move_to_motion(ws, p, self.one("shot")),
            "project": lambda: projects.edit(
                ws, p, {"aspect": str(rng.choice(["3:2", "1:1", ""])), "donts": ["frames"]}, None
            ),
            "tag": lambda: library.tag(ws, p, [self.picture()], [str(rng.choice(["sky", "sea"]))], []),
            "choose": self.choose,
            "lay": lambda: sounds.add(
                ws, p, SONG, NewSound(self.one("shot"), "Song", "music", until_shot_id=self.one("shot"))
            ),
            "record": lambda: sounds.add(ws, p, SAID, NewSound(self.one("shot"), "Said", "voice", "Ada came in.")),
            "sound": lambda: sounds.edit(ws, p, self.one("sound"), {"gain_db": -3.0, "fade_in_s": float(rng.random())}),
            "pick take": lambda: sounds.pick(ws, p, self.one("sound", kind="voice")),
            "drop sound": lambda: sounds.remove(ws, p, self.one("sound")),
            "follow": lambda: sounds.follow_voice(ws, p, shorten=bool(rng.integers(2))),
            "bridge": lambda: bridges.take_in(self.look, ws, p, self.bridge()),
            "no bridge": lambda: bridges.refuse(self.look, ws, p, self.bridge()),
        }

    def picture(self):
        if not self.pictures:
            raise NotThere("pictures")
        return self.pictures[self.rng.integers(len(self.pictures))]

    def bridge(self):
        offered = bridges.proposed(self.look, self.ws, self.project)
        if not offered:
            raise NotThere("bridges")
        return offered[0].key

    def mend(self):
        offers = [(f.shot, f.key) for f in self.look.of(self.project, "brief") if f.mend]
        if not offers:
            raise NotThere("offers")
        shot, key = offers[self.rng.integers(len(offers))]
        mending.mend(self.ws, self.project, shot, key)

    def stet(self):
        stood = let_stand(self.ws, self.project)
        keys = [f.key for f in self.look.of(self.project) if f.key not in stood]
        if not keys:
            raise NotThere("concerns")
        self.look.stet(self.project, keys[0], "it is meant")

    def choose(self):
        round_ = taste.standing(self.ws, self.project)
        if round_.left is None or round_.right is None:
            raise NotThere("pairs")
        taste.choose(self.ws, self.project, round_.left, round_.right, "left")

    def state(self):
        """All that undo has to bring back: every row but for its revision and what only says when."""
        told = {}
        with self.ws.database.session() as s:
            for table, model in JOURNALED.items():
                key = model.id if model is Project else model.project_id
                held = [plain(r) for r in s.scalars(select(model).where(key == self.project))]
                told[table] = {
                    r["id"]: {k: v for k, v in r.items() if not k.endswith(("revision", "_at"))} for r in held
                }
        # The library forgets nothing: a picture stays in it when what brought it is undone. Its tags are undone.
        pictures = told["library_picture"]
        self.pictures = sorted(pictures)
        told["library_picture"] = {i: r["tags"] for i, r in pictures.items() if r["tags"]}
        return told

    def whole(self):
        """Nothing hangs on anything that is not there, and every brief can be composed."""
        held = self.state()
        styles = {i for i, t in held["thread"].items() if t["kind"] == "style"}
        with_style = [b["shot_id"] for b in held["bead"].values() if b["thread_id"] in styles]
        assert len(with_style) == len(set(with_style)), "a shot has one style"
        for bead in held["bead"].values():
            assert bead["shot_id"] in held["shot"]
            assert bead["thread_id"] in held["thread"]
        for shot in held["shot"].values():
            assert shot["scene_id"] in held["scene"]
        for take in held["take"].values():
            assert sum(t["picked"] for t in held["take"].values() if t["shot_id"] == take["shot_id"]) == 1
        kept, anew = self.look, Findings(self.ws)
        assert kept.of(self.project) == anew.of(self.project), "what is kept is what would be found anew"
        assert kept.lengths(self.project) == anew.lengths(self.project)


@pytest.mark.parametrize("seed", range(3))
def test_undo_goes_back_through_every_state_and_redo_forth(ws, seed, monkeypatch):
    """Ids come from the dice too, so that a game can be played again."""
    ids = np.random.default_rng(700 + seed)
    monkeypatch.setattr(uuid, "uuid4", lambda: uuid.UUID(bytes=ids.bytes(16)))
    player = Player(ws, seed)
    states, done = [player.state()], []
    for _ in range(45):
        deeds = player.deeds()
        name = str(player.rng.choice(sorted(deeds)))
        try:
            deeds[name]()
        except (NotPossible, NotThere):
            assert player.state() == states[-1], f"{name} was refused, and yet changed something after {done}"
            continue
        now = player.state()
        if now != states[-1]:
            states.append(now)
            done.append(name)
    assert len(set(done)) >= 12
    player.whole()
    for i in range(len(states) - 2, -1, -1):
        projects.undo(ws, player.project)
        assert player.state() == states[i], f"undo of {done[i]} after {done[:i]}"
    for i in range(1, len(states)):
        projects.redo(ws, player.project)
        assert player.state() == states[i], f"redo of {done[i - 1]}"
    player.whole()
