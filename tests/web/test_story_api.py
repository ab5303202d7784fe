"""The story's routes: what they answer, and how they refuse."""

import numpy as np
import pytest

from tests.conftest import client_of, flat, png
from tests.constructed_pages import drawn_page
from tests.written import docx, par

TEXT = "# One\n\nAda came in and hung up the coats.\n\nAt midnight Bo left the house."


@pytest.fixture(scope="module")
def client(ws, checker):
    return client_of(ws, checker)


@pytest.fixture
def project(client):
    made = client.post("/api/projects", json={"title": "Story by API"}).json()["id"]
    client.put(f"/api/projects/{made}/text", json={"text": TEXT})
    client.post(f"/api/projects/{made}/proposals", json={})
    return f"/api/projects/{made}"


def rows(client, project, table):
    return client.get(project).json()["rows"][table]


def test_a_reading_tells_passages_gaps_and_what_is_named(client, project):
    told = client.get(f"{project}/story").json()
    assert [p[0] for p in told["passages"]] == ["scene", "action", "action"]
    assert told["gaps"] == []
    assert {"Ada", "Bo"} <= {f["name"] for f in told["found"]}
    assert told["words"] == 14


def test_the_plan_tells_findings_and_what_each_shot_needs(client, project):
    told = client.get(f"{project}/findings").json()
    assert {s["shot_id"] for s in told["shots"]} == {s["id"] for s in rows(client, project, "shot")}
    assert told["lengths"]["balance"]["total_s"] == pytest.approx(
        sum(s["length_s"] for s in rows(client, project, "shot")), abs=0.2
    )


def test_two_writers_get_a_409_with_both_texts(client, project):
    seen = rows(client, project, "project")[0]["text_revision"]
    client.put(f"{project}/text", json={"text": "Mine.", "seen": seen})
    answer = client.put(f"{project}/text", json={"text": "Theirs.", "seen": seen})
    assert answer.status_code == 409
    assert (answer.json()["mine"]["text"], answer.json()["theirs"]["text"]) == ("Theirs.", "Mine.")


def test_a_file_goes_in_and_out_by_bytes(client, project):
    data = "# Zwei\r\n\r\nÖ.".encode("utf-8-sig")
    assert client.post(f"{project}/text/file", files={"file": ("s.md", data)}).status_code == 200
    out = client.get(f"{project}/text/file")
    assert out.content == data
    assert "attachment" in out.headers["content-disposition"]


def test_a_document_comes_in_as_its_words_and_one_that_is_none_changes_nothing(client, project):
    data = docx(par("One", "Heading1"), par("Otto sat."), par("It rained."))
    assert client.post(f"{project}/text/file", files={"file": ("story.docx", data)}).status_code == 200
    assert client.get(f"{project}/text/file").text == "# One\n\nOtto sat.\n\nIt rained.\n"
    refused = client.post(f"{project}/text/file", files={"file": ("story.doc", b"\xd0\xcf\x11\xe0" + bytes(99))})
    assert refused.status_code == 422
    assert "save it as .docx" in refused.text
    assert client.get(f"{project}/text/file").text.startswith("# One")


def test_a_table_with_strange_names_is_asked_about_with_what_would_be_done(client, project):
    cells = "Shows\tCharacters\nEve bakes.\tEve"
    asked = client.post(f"{project}/table", json={"cells": cells})
    assert (asked.status_code, asked.json()["offer"]) == (422, "Take it in: make a thread of it")
    file = ("t.csv", b"Shows,Hue\nA,red", "text/csv")
    assert client.post(f"{project}/table/file", files={"file": file}).json()["offer"].endswith("leave out that column")
    assert client.post(f"{project}/table", json={"cells": cells, "mend": True}).status_code == 200
    assert client.post(f"{project}/table/file?mend=true", files={"file": file}).status_code == 200
    assert "Eve" in {t["name"] for t in rows(client, project, "thread")}


@pytest.mark.parametrize(
    ("method", "path", "body", "status"),
    [
        ("post", "/proposals", {"start": -1}, 422),
        ("put", "/shots/none/span", {"start": 0, "end": 5}, 404),
        ("put", "/shots/{s}/span", {"start": 5, "end": 5}, 422),
        ("post", "/found", {"threads": [{"kind": "style", "name": "x"}]}, 422),
        ("post", "/found", {"threads": [{"kind": "character", "name": "Nobody"}]}, 422),
        ("post", "/frame", {"shape": "spiral"}, 422),
        ("patch", "/beats/none", {"title": "x"}, 404),
        ("post", "/beats/none/move", {"step": 1}, 422),
        ("put", "/text/syntax", {"syntax": "latex"}, 422),
        ("post", "/pages/shots", {"sha": "x", "boxes": []}, 422),
        ("post", "/pages/shots", {"sha": "a" * 64, "boxes": [{"x": 0, "y": 0, "w": 5, "h": 5}]}, 422),
        ("put", "/shots/{s}/framings", {"framings": [], "picked": 2}, 422),
        ("post", "/shots/{s}/to-motion", None, 422),
        ("post", "/plan/fit", {}, 422),
        ("post", "/table", {"cells": "Shows\tSize\nA\tHUGE"}, 422),
        ("post", "/history/999999", None, 404),
        ("patch", "/shots/{s}", {"move_start": [0, 0, 1]}, 422),
        ("patch", "", {"pace_factor": 9}, 422),
        ("patch", "", {"audience": "cats"}, 422),
    ],
)
def test_what_is_asked_wrongly_is_refused_with_a_reason(client, project, method, path, body, status):
    shot = rows(client, project, "shot")[0]["id"]
    before = client.get(project).json()["rows"]
    answer = client.request(method, project + path.format(s=shot), json=body)
    assert answer.status_code == status
    assert answer.headers["content-type"] == "application/problem+json"
    assert len(answer.json()["detail"]) > 10
    assert client.get(project).json()["rows"] == before


def test_a_photo_is_looked_at_and_its_panels_become_shots(client, project):
    photo = png(drawn_page(np.random.default_rng(2), 1).photo)
    found = client.post(f"{project}/pages", files={"file": ("p.png", photo)}).json()
    assert len(found["boxes"]) == 3
    made = client.post(f"{project}/pages/shots", json={"sha": found["sha"], "boxes": found["boxes"]}).json()
    assert len(made["rows"]["shot"]) == 3
    assert {p["sha"] for p in made["pictures"]} == {s["sketch_sha"] for s in made["rows"]["shot"]}
    refused = client.post(f"{project}/pages", files={"file": ("p.png", flat()[:30])})
    assert refused.status_code == 422
    assert refused.json()["detail"].startswith("p.png: ")


def test_tables_and_the_printed_list_have_their_types(client, project):
    for path, kind in (("csv", "text/csv"), ("tsv", "text/tab-separated-values"), ("pdf", "application/pdf")):
        answer = client.get(f"{project}/table.{path}")
        assert answer.status_code == 200
        assert answer.headers["content-type"].startswith(kind)
    assert len(client.get(f"{project}/table/columns").json()) == 23
    file = ("t.csv", client.get(f"{project}/table.csv").content)
    told = client.post(f"{project}/table/file", files={"file": file}).json()
    assert told["version"] == told["since"]


def test_facts_of_a_shot_and_its_facing_go_through(client, project):
    shot = rows(client, project, "shot")[0]
    facts = {
        "motion": "coats swing",
        "sound": "thud",
        "music": "none",
        "notes": "n",
        "move": "pan",
        "move_start": [0, 0, 0.5, 1],
        "move_end": [0.5, 0, 0.5, 1],
        "speakers": ["Ada"],
        "page_form": "spread",
        "bleed": True,
    }
    told = client.patch(f"{project}/shots/{shot['id']}", json=facts | {"revision": shot["revision"]}).json()["rows"][
        "shot"
    ][0]
    assert {k: told[k] for k in facts} == facts
    assert told["status"] == "settled"
    client.post(f"{project}/found", json={"threads": [{"kind": "character", "name": "Ada"}]})
    thread = rows(client, project, "thread")[0]["id"]
    client.patch(f"{project}/threads/{thread}/beads", json={"shot_ids": [shot["id"]], "facing": "left"})
    assert [b["facing"] for b in rows(client, project, "bead") if b["shot_id"] == shot["id"]] == ["left"]
    client.patch(f"{project}/threads/{thread}/beads", json={"shot_ids": [shot["id"]], "face": "wary"})
    bead = next(b for b in rows(client, project, "bead") if b["shot_id"] == shot["id"])
    assert (bead["facing"], bead["face"]) == ("left", "wary")
    beads = f"{project}/threads/{thread}/beads"
    told = client.patch(beads, json={"shot_ids": [shot["id"]], "stands": [0.1, 0.2, 0.3, 0.8]}).json()
    assert (told["label"], told["rows"]["bead"][0]["stands"]) == ("set the place of Ada, 1 shot", [0.1, 0.2, 0.3, 0.8])
    for hostile in ([0.1, 0.2, 0.3], [0.1, 0.2, 0.0, 0.4], [-1, 0, 0.2, 0.2], "left"):
        assert client.patch(beads, json={"shot_ids": [shot["id"]], "stands": hostile}).status_code == 422
    off = client.patch(beads, json={"shot_ids": [shot["id"]], "stands": [0.75, 0.2, 0.5, 0.8]}).json()
    assert off["rows"]["bead"][0]["stands"] == [0.5, 0.2, 0.5, 0.8], "a box over the edge is moved onto the picture"
    client.patch(beads, json={"shot_ids": [shot["id"]], "stands": [0.1, 0.2, 0.3, 0.8]})
    brief = client.get(f"{project}/shots/{shot['id']}/brief").json()
    assert "One figure is to be seen: Ada on the left, looking to the left." in brief["text"]
    gone = client.patch(beads, json={"shot_ids": [shot["id"]], "stands": None}).json()
    assert gone["rows"]["bead"][0]["stands"] is None


def test_history_is_told_and_gone_back_to(client, project):
    entries = client.get(f"{project}/history").json()
    assert [e["label"] for e in entries] == ["proposed 2 shots", "edited the text"]
    client.post(f"{project}/history/0")
    assert rows(client, project, "text_part") == []
    client.post(f"{project}/history/{entries[0]['id']}")
    assert len(rows(client, project, "shot")) == 2


def test_the_shipped_service_is_reached_through_the_server(client):
    assert client.get("/understudy/text-assist/v1").json()["name"] == "Prompter"
