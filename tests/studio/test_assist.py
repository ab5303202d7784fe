"""Help with words: the Prompter that ships, services that do not answer as they should, and what is refused."""

import json
import threading
from http.server import BaseHTTPRequestHandler, HTTPServer

import pytest
from fastapi.testclient import TestClient

from juxtaform.studio import assist, projects, proposals, story_frame
from juxtaform.studio.workspace import NotPossible
from juxtaform.understudy import prompter
from tests.conftest import plan_from, rows


@pytest.fixture
def service():
    """A writing service on loopback that answers what it is told to, and remembers what it was asked."""

    class Answering(BaseHTTPRequestHandler):
        def do_POST(self):
            asked = self.rfile.read(int(self.headers["content-length"]))
            self.server.asked.append((self.path, json.loads(asked)))
            status, body = self.server.answer
            self.send_response(status)
            self.end_headers()
            self.wfile.write(body if isinstance(body, bytes) else json.dumps(body).encode())

        def log_message(self, *_):
            pass

    server = HTTPServer(("127.0.0.1", 0), Answering)
    server.asked, server.answer = [], (200, {"version": 1, "offers": [{"text": "Pell sits."}], "note": "Mine."})
    threading.Thread(target=server.serve_forever, daemon=True).start()
    yield server
    server.shutdown()


def address(server):
    return f"http://127.0.0.1:{server.server_address[1]}"


@pytest.fixture
def planned(ws, project):
    projects.edit(
        ws, project, {"premise": "A crab minds the tide.", "frame_cast": [{"name": "Pell", "line": "nine"}]}, None
    )
    story_frame.draw_up(ws, project, "round")
    plan_from(ws, project, "Pell came in and hung up the coat. At midnight Oda left the house.")
    proposals.make_threads(ws, project, [("character", "Pell")])
    return project


def test_a_service_is_asked_with_what_it_needs_to_know(ws, planned, service):
    beat = rows(ws, planned, "beat")[0]
    offers = assist.for_beat(ws, address(service), planned, beat["id"])
    assert (offers.texts, offers.note) == (("Pell sits.",), "Mine.")
    shot = rows(ws, planned, "shot")[0]
    assist.for_description(ws, address(service), planned, shot["id"])
    (path, asked), (_, described) = service.asked
    assert path == "/text-assist/v1/offers"
    assert (asked["task"], asked["premise"], asked["title"]) == ("beat", "A crab minds the tide.", beat["title"])
    assert described["words"] == "Pell came in and hung up the coat."
    assert [c["name"] for c in described["cast"]] == ["Pell"]
    prompter.Request.model_validate(asked)
    prompter.Request.model_validate(described)


@pytest.mark.parametrize(
    ("answer", "says"),
    [
        ((500, {}), "refused"),
        ((200, b"no json"), "does not speak"),
        ((200, {"offers": "x"}), "does not speak"),
        ((200, {"version": 1, "offers": []}), "nothing to offer"),
    ],
)
def test_a_service_that_answers_badly_is_told_in_one_sentence(ws, planned, service, answer, says):
    service.answer = answer
    with pytest.raises(NotPossible, match=says):
        assist.for_beat(ws, address(service), planned, rows(ws, planned, "beat")[0]["id"])


@pytest.mark.parametrize(
    ("where", "says"),
    [
        ("http://127.0.0.1:9", "does not answer"),
        ("ftp://127.0.0.1", "no address"),
        ("nonsense", "no address"),
        ("http://192.0.2.1:80", "https only"),
    ],
)
def test_addresses_that_cannot_be_asked(ws, planned, where, says):
    with pytest.raises(NotPossible, match=says):
        assist.for_beat(ws, where, planned, rows(ws, planned, "beat")[0]["id"])


def test_the_address_comes_from_the_environment(monkeypatch):
    assert assist.service_address("own") == "own"
    monkeypatch.setenv(assist.VARIABLE, "http://127.0.0.1:9000/")
    assert assist.service_address("own") == "http://127.0.0.1:9000"


@pytest.fixture(scope="module")
def prompting():
    return TestClient(prompter.app)


def test_the_prompter_says_who_it_is_and_that_it_is_simple(prompting):
    assert prompting.get("/text-assist/v1").json()["tasks"] == ["beat", "description"]
    told = prompting.post(
        "/text-assist/v1/offers", json={"task": "beat", "cast": [{"name": "Pell"}], "purpose": "It goes wrong."}
    ).json()
    assert "by rules" in told["note"]
    assert any("Pell" in o["text"] for o in told["offers"])


def test_the_prompter_describes_from_the_words_and_leaves_speech_out(prompting):
    body = {
        "task": "description",
        "words": "“Nine,” she said. Oda counted the boats on the mud.",
        "cast": [{"name": "Oda"}],
        "place": "the quay",
    }
    offers = [o["text"] for o in prompting.post("/text-assist/v1/offers", json=body).json()["offers"]]
    assert offers[0] == "Oda counted the boats on the mud."
    assert "Oda, at the quay." in offers
    assert prompting.post("/text-assist/v1/offers", json={"task": "song"}).status_code == 422
