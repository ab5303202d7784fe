"""A showing by its link: what it froze and nothing more, comments that become findings, what changed since, and annotations out and in."""

import json
from datetime import timedelta

import pytest

from juxtaform.records.models import now
from juxtaform.records.showings import Showing, ShowingViewer
from juxtaform.studio import plan, projects, showings, takes, threads
from juxtaform.studio.findings import Findings
from juxtaform.studio.workspace import NotThere
from juxtaform.web.app import Entrance, create_app
from tests.conftest import client_of, client_on, empty_workspace, flat, plan_from, rows
from tests.people import House, joins, person

TEXT = "# One\nPell sat on the step.\n# Two\nOda came in and laughed."


class Asked:
    """A project with two pictures of which one is shown, who makes it, and a stranger's browser."""

    def __init__(self, ws, checker):
        self.ws = ws
        self.project = projects.make(ws, "The borrowed tide")
        plan_from(ws, self.project, TEXT)
        self.shots = [s["id"] for s in rows(ws, self.project, "shot")]
        self.shown = self.take(flat((200, 60, 40)))
        self.hidden = str(takes.take_in(ws, "h.png", flat((10, 60, 40))).sha)
        takes.accept(ws, self.project, [("o.png", self.take_in(flat((1, 2, 3))), self.shots[1])])
        takes.accept(ws, self.project, [("h.png", self.hidden, self.shots[1])])
        self.inside = client_of(ws, checker)
        self.app = self.inside.app

    def take_in(self, data):
        return str(takes.take_in(self.ws, "a.png", data).sha)

    def take(self, data, shot=0):
        sha = self.take_in(data)
        takes.accept(self.ws, self.project, [("a.png", sha, self.shots[shot])])
        fresh = next(t for t in rows(self.ws, self.project, "take") if t["picture_sha"] == sha)
        takes.pick(self.ws, self.project, fresh["id"])
        return sha

    def make(self, **more):
        made = self.inside.post(f"/api/projects/{self.project}/showings", json={"title": "To Ines", **more})
        assert made.status_code == 201, made.text
        return made.json()

    def stranger(self):
        return client_on(self.app)

    def opened(self, made, **more):
        client = self.stranger()
        done = client.post("/api/shown/open", json={"secret": made["path"].split("#")[1], **more})
        assert done.status_code == 200, done.text
        return client, f"/api/shown/{done.json()['showing_id']}"


@pytest.fixture
def asked(ws, checker):
    return Asked(ws, checker)


def test_a_link_shows_what_it_froze_and_nothing_more(asked):
    made = asked.make(words="New: the harbour.")
    client, at = asked.opened(made)
    seen = client.get(at).json()
    assert (seen["title"], seen["words"], seen["edition"]) == ("To Ines", "New: the harbour.", 1)
    assert [s["words"] or s["shows"] for s in seen["sequence"]["shots"]] == [
        "Pell sat on the step.",
        "Oda came in and laughed.",
    ]
    assert seen["sequence"]["shots"][0]["sha"] == asked.shown
    assert client.get(f"{at}/pictures/{asked.shown}").status_code == 200
    assert client.get(f"{at}/pictures/{asked.shown}/thumb").headers["cache-control"] == "private, max-age=300"
    assert client.get(f"{at}/pictures/{asked.hidden}").status_code == 404, "a take that is not picked"
    plan.edit_shot(asked.ws, asked.project, asked.shots[0], {"notes": "a secret", "shows": "Something else"}, None)
    later = asked.take(flat((9, 9, 9)))
    again = client.get(at)
    assert again.json()["sequence"] == seen["sequence"]
    assert "a secret" not in again.text
    assert client.get(f"{at}/pictures/{later}").status_code == 404
    without = asked.stranger()
    for path in ("", f"/pictures/{asked.shown}", f"/pictures/{asked.shown}/thumb", "/sound"):
        assert without.get(at + path).status_code == 404
    cookie = asked.stranger().post("/api/shown/open", json={"secret": made["path"].split("#")[1]}).headers["set-cookie"]
    assert "HttpOnly" in cookie
    assert f"Path={at}" in cookie
    assert "SameSite=strict" in cookie


def test_it_ends_is_taken_back_and_guessing_is_slowed(asked):
    made = asked.make(days=3)
    client, at = asked.opened(made)
    with asked.ws.database.session() as s:
        s.get(Showing, made["showing"]["id"]).ends_at = now() - timedelta(seconds=1)
    assert client.get(at).status_code == 404
    assert "taken back, or its time is over" in client.get(at).json()["detail"]
    other = asked.make()
    client, at = asked.opened(other)
    assert (
        asked.inside.post(f"/api/projects/{asked.project}/showings/{other['showing']['id']}/revoke").status_code == 204
    )
    assert client.get(at).status_code == 404
    assert client.get(f"{at}/pictures/{asked.shown}").status_code == 404
    assert asked.stranger().post("/api/shown/open", json={"secret": other["path"].split("#")[1]}).status_code == 404
    asked.inside.delete(f"/api/projects/{asked.project}/showings/{other['showing']['id']}")
    guess = asked.stranger()
    statuses = [guess.post("/api/shown/open", json={"secret": f"guess{i}"}).status_code for i in range(24)]
    assert statuses[0] == 404
    assert statuses[-1] == 429


def test_a_passphrase_is_asked_for(ws, checker):
    asked = Asked(ws, checker)
    refused = asked.inside.post(f"/api/projects/{asked.project}/showings", json={"passphrase": "abc"})
    assert refused.status_code == 422
    made = asked.make(passphrase="low water")
    secret = made["path"].split("#")[1]
    assert made["showing"]["has_passphrase"]
    with ws.database.session() as s:
        from juxtaform.records.people import Trying

        s.query(Trying).delete()
    stranger = asked.stranger()
    without = stranger.post("/api/shown/open", json={"secret": secret})
    assert (without.status_code, without.json()["title"]) == (401, "Passphrase")
    assert stranger.post("/api/shown/open", json={"secret": secret, "passphrase": "high water"}).status_code == 401
    assert stranger.post("/api/shown/open", json={"secret": secret, "passphrase": " low water "}).status_code == 200


def test_what_viewers_say_becomes_something_to_look_at_on_its_shot(ws, checker):
    asked = Asked(ws, checker)
    client, at = asked.opened(asked.make())
    nameless = client.post(f"{at}/notes", json={"shot_id": asked.shots[0], "words": "Her boots!"})
    assert nameless.status_code == 422
    assert "who you are" in nameless.json()["detail"]
    pinned = client.post(
        f"{at}/notes", json={"shot_id": asked.shots[0], "words": "Her boots!", "name": "Ines", "place": [0.5, 0.25]}
    ).json()
    client.post(f"{at}/notes", json={"shot_id": asked.shots[1], "words": "Too quick.", "at_s": 2.5})
    assert client.get(at).json()["name"] == "Ines"
    client.put(f"{at}/shots/{asked.shots[1]}/word", json={"says": "change"})
    client.put(f"{at}/shots/{asked.shots[0]}/word", json={"says": "good"})
    told = Findings(ws).of(asked.project, "viewer")
    assert [(f.shot, f.title) for f in told] == [
        (asked.shots[0], "Ines: Her boots!"),
        (asked.shots[1], "Ines, at 2.5 s: Too quick."),
        (asked.shots[1], "Ines wants this changed"),
    ]
    assert (told[0].region.x, told[0].region.y) == (32, 12)
    assert told[0].key == pinned["key"]
    answered = asked.inside.post(
        f"/api/projects/{asked.project}/notes/{pinned['id']}/answers", json={"words": "Mended."}
    )
    assert answered.json()["inside"]
    client.post(f"{at}/notes", json={"shot_id": asked.shots[0], "words": "Thank you.", "parent_id": pinned["id"]})
    assert len(Findings(ws).of(asked.project, "viewer")) == 3, "answers ask for nothing by themselves"
    Findings(ws).stet(asked.project, pinned["key"], "mended in take 4")
    client.put(f"{at}/shots/{asked.shots[1]}/word", json={"says": None})
    assert [f.kind for f in Findings(ws).of(asked.project, "viewer")] == ["viewer_note", "viewer_note"]
    signed = client.post(f"{at}/signs", json={"words": "Lovely."}).json()
    assert [(s["name"], s["edition"]) for s in signed] == [("Ines", 1)]
    assert client.post(f"{at}/signs", json={}).status_code == 422
    [card] = asked.inside.get(f"/api/projects/{asked.project}/showings").json()
    assert (card["viewers"], len(card["notes"]), card["signs"][0]["words"]) == (["Ines"], 4, "Lovely.")


def test_a_viewer_sees_what_changed_since_their_last_look(ws, checker):
    asked = Asked(ws, checker)
    made = asked.make()
    client, at = asked.opened(made)
    assert client.get(at).json()["changed"] == {}
    fresh = asked.take(flat((7, 200, 40)))
    threads.make(ws, asked.project, "prop", "A kettle")
    freeze = f"/api/projects/{asked.project}/showings/{made['showing']['id']}/freeze"
    assert asked.inside.post(freeze).json()["edition"] == 2
    seen = client.get(at).json()
    assert (seen["edition"], seen["since"]) == (2, 1)
    assert seen["changed"] == {asked.shots[0]: ["picture"]}
    assert client.get(at).json()["changed"] == seen["changed"], "a reload is the same look"
    assert client.get(f"{at}/pictures/{fresh}").status_code == 200
    plan.edit_shot(ws, asked.project, asked.shots[1], {"length_s": 9.0}, None)
    plan.insert_shot(ws, asked.project, asked.shots[1])
    asked.inside.post(freeze)
    assert sorted(client.get(at).json()["changed"].values()) == [["length"], ["new"]]
    with ws.database.session() as s:
        for viewer in s.query(ShowingViewer):
            viewer.at -= timedelta(hours=3)
    assert client.get(at).json()["changed"] == {}


def test_comments_go_out_and_in_as_web_annotations(ws, checker):
    asked = Asked(ws, checker)
    made = asked.make()
    client, at = asked.opened(made)
    note = client.post(
        f"{at}/notes", json={"shot_id": asked.shots[0], "words": "Här!", "name": "Ines", "place": [0.1, 0.2, 0.3, 0.4]}
    ).json()
    client.post(f"{at}/notes", json={"shot_id": asked.shots[0], "words": "Yes.", "parent_id": note["id"]})
    client.post(f"{at}/notes", json={"shot_id": asked.shots[1], "words": "Slow.", "at_s": 3.25})
    client.put(f"{at}/shots/{asked.shots[0]}/word", json={"says": "good"})
    url = f"/api/projects/{asked.project}/showings/{made['showing']['id']}/annotations"
    out = asked.inside.get(url)
    assert out.headers["content-type"].startswith("application/ld+json")
    page = out.json()
    assert page["@context"] == "http://www.w3.org/ns/anno.jsonld"
    assert [i["motivation"] for i in page["items"]] == ["commenting", "replying", "commenting", "assessing"]
    assert page["items"][0]["target"]["selector"]["value"] == "xywh=percent:10,20,30,40"
    assert page["items"][2]["target"]["selector"]["value"] == "t=3.250"
    again = asked.inside.post(url, files={"file": ("c.jsonld", out.content)}).json()
    assert (again["taken"], again["known"]) == (0, 3) or again["known"] >= 3
    foreign = [
        {
            "@context": "http://www.w3.org/ns/anno.jsonld",
            "id": "https://other.example/1",
            "type": "Annotation",
            "creator": {"type": "Person", "name": "Aino"},
            "body": [
                {"type": "TextualBody", "value": "sky", "purpose": "tagging"},
                {"type": "TextualBody", "value": "A colder sky."},
            ],
            "target": {
                "source": f"urn:sha256:{asked.shown}",
                "selector": {"type": "FragmentSelector", "value": "xywh=pixel:16,12,32,24"},
            },
        },
        {
            "id": "https://other.example/2",
            "type": "Annotation",
            "bodyValue": "Stay longer.",
            "target": f"urn:juxtaform:shot:{asked.shots[1]}#t=npt:1.5,3",
        },
        {
            "id": "https://other.example/4",
            "type": "Annotation",
            "motivation": "replying",
            "bodyValue": "Colder still.",
            "target": "https://other.example/1",
        },
        {
            "id": "https://other.example/3",
            "type": "Annotation",
            "bodyValue": "Elsewhere",
            "target": "https://other.example/page",
        },
        {"type": "Annotation", "target": []},
        "no annotation",
    ]
    taken = asked.inside.post(url, files={"file": ("c.json", json.dumps(foreign))}).json()
    assert (taken["taken"], len(taken["left_out"])) == (3, 3), taken
    notes = client.get(at).json()["notes"]
    assert [(n["name"], n["words"], n["place"], n["at_s"]) for n in notes[-3:]] == [
        ("Aino", "A colder sky.", [0.25, 0.25, 0.5, 0.5], None),
        ("Somebody", "Stay longer.", None, 1.5),
        ("Somebody", "Colder still.", None, None),
    ]
    assert notes[-1]["parent_id"] == notes[-3]["id"]
    assert asked.inside.post(url, files={"file": ("c.json", json.dumps(foreign))}).json()["known"] == 3
    for odd in (b"", b"{", b"[1]", b'{"a": 1}', b"\xff\xfe", b"[" * 5000):
        answer = asked.inside.post(url, files={"file": ("c.json", odd)})
        assert answer.status_code in (201, 200, 422)
        assert answer.status_code == 422 or answer.json()["taken"] == 0


def test_odd_input_at_a_showing_is_told_and_breaks_nothing(asked):
    client, at = asked.opened(asked.make())
    strange = client_on(asked.app, raise_server_exceptions=False, cookies=client.cookies)
    good = [
        (
            "POST",
            f"{at}/notes",
            {"shot_id": asked.shots[0], "words": "a", "name": "b", "place": [0.1, 0.2], "at_s": 1.0, "parent_id": None},
        ),
        ("PUT", f"{at}/shots/{asked.shots[0]}/word", {"says": "good", "name": "b"}),
        ("POST", f"{at}/signs", {"name": "b", "words": "c"}),
        ("POST", "/api/shown/open", {"secret": "s", "passphrase": ""}),
    ]
    for method, path, body in good:
        for key in body:
            for worse in ("", "\u0000", "x" * 9000, None, -1, [], {}, "\ud800", [0.5], [2, 3], [0.1, 0.2, 0.3]):
                answer = strange.request(
                    method, path, content=json.dumps({**body, key: worse}), headers={"content-type": "application/json"}
                )
                assert answer.status_code < 500, (path, key, worse, answer.text)
    for sha in ("0" * 64, "x", asked.hidden):
        assert strange.get(f"{at}/pictures/{sha}").status_code in (404, 422)


def test_a_viewer_comes_in_without_an_account_and_gets_nothing_else(server, checker, tmp_path):
    with empty_workspace(server, tmp_path / "pictures") as ws:
        house = House(ws, checker)
        mira = person(ws, "mira", keeper=True)
        project = projects.make(ws, "A story", mira.id)
        joins(ws, project, mira, "owner")
        plan_from(ws, project, TEXT)
        owner = house.client(mira)
        made = owner.post(f"/api/projects/{project}/showings", json={}).json()
        assert made["showing"]["made_by"] == "Mira"
        stranger = client_on(house.app)
        at = stranger.post("/api/shown/open", json={"secret": made["path"].split("#")[1]}).json()["showing_id"]
        assert stranger.get(f"/api/shown/{at}").status_code == 200
        for path in ("/api/projects", f"/api/projects/{project}", f"/api/projects/{project}/showings"):
            assert stranger.get(path).status_code == 401
        assert create_app(ws, checker, Entrance()).state.doorkeeper.closed
        projects.remove(ws, project)
        assert stranger.get(f"/api/shown/{at}").status_code == 404
        with pytest.raises(NotThere):
            showings.of(ws, project)
