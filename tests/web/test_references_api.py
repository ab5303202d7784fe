"""The API of references, briefs, the library and bundles: what comes back, and how bad input is answered."""

import io
import json
import zipfile

import pytest

from juxtaform.studio import projects
from tests.conftest import client_of, flat, plan_from, rows


@pytest.fixture(scope="module")
def client(ws, checker):
    return client_of(ws, checker)


@pytest.fixture
def made(ws, client):
    """A project with two shots, a character with a view, a setting and a style, all assigned."""
    project = projects.make(ws, "API")
    plan_from(ws, project, "# One\nPell sat on the step.\n\n# Two\nPell and Oda left.")
    base = f"/api/projects/{project}"
    for kind, name in (("character", "Pell"), ("character", "Oda"), ("setting", "Step"), ("style", "Paper")):
        client.post(f"{base}/threads", json={"kind": kind, "name": name})
    ids = {t["name"]: t["id"] for t in rows(ws, project, "thread")}
    shots = [s["id"] for s in rows(ws, project, "shot")]
    for name in ("Pell", "Step", "Paper"):
        client.put(f"{base}/threads/{ids[name]}/run", json={"shot_ids": shots, "on": True})
    sha = picture(client, base, (10, 80, 120))
    client.post(f"{base}/threads/{ids['Pell']}/references", json={"pictures": [{"sha": sha, "name": "front"}]})
    return base, ids, shots


def picture(client, base, code):
    return client.post(f"{base}/pictures", files={"file": ("a.png", flat(code))}, data={"name": "a.png"}).json()["sha"]


def reference(client, base):
    return client.get(base).json()["rows"]["reference"][0]["id"]


def test_a_brief_is_given_compared_edited_mended_and_remembered(client, made):
    base, ids, shots = made
    brief = client.get(f"{base}/shots/{shots[1]}/brief").json()
    assert brief["text"].startswith("Pell and Oda left.")
    assert all(p["source"] for p in brief["whole"]["phrases"])
    concern = next(f for f in brief["findings"] if f["kind"] == "named_not_attached")
    assert concern["words"]["text"] == "Oda"
    done = client.post(f"{base}/shots/{shots[1]}/brief/mend", json={"key": concern["key"]})
    assert done.json()["label"] == "attach Oda, shot 2"
    assert client.post(f"{base}/shots/{shots[1]}/brief/mend", json={"key": concern["key"]}).status_code == 404
    edited = client.put(
        f"{base}/shots/{shots[1]}/brief/phrase", json={"key": f"cast:{ids['Pell']}", "now": "Pell, tired."}
    )
    assert edited.status_code == 200
    pieces = client.get(f"{base}/shots/{shots[1]}/brief/difference?other=before").json()
    assert "tired" in "".join(p["words"] for p in pieces if p["kind"] == "new")
    assert client.get(f"{base}/shots/{shots[0]}/brief/difference?other=before").status_code == 404
    assert client.post(f"{base}/briefs/sent", json={"shot_ids": shots}).status_code == 204
    assert {p["kind"] for p in client.get(f"{base}/shots/{shots[0]}/brief/difference?other=sent").json()} == {"same"}
    assert client.get(f"{base}/shots/none/brief").status_code == 404
    short = client.get(f"{base}/shots/{shots[0]}/brief?profile=Short brief, two pictures").json()
    assert short["profile"]["name"] == "Short brief, two pictures"


@pytest.mark.parametrize(
    ("form", "kind"),
    [("md", "text/markdown"), ("csv", "text/csv"), ("json", "application/json"), ("zip", "application/zip")],
)
def test_all_briefs_leave_as_one_file(client, made, form, kind):
    base, _, _ = made
    answer = client.get(f"{base}/briefs.{form}")
    assert answer.headers["content-type"].startswith(kind)
    assert answer.headers["content-disposition"].endswith(f"API%20briefs.{form}")
    assert b"Pell" in (
        zipfile.ZipFile(io.BytesIO(answer.content)).read("001/brief.txt") if form == "zip" else answer.content
    )
    assert client.get(f"{base}/briefs.exe").status_code == 422


def test_project_defaults_are_kept_and_bad_ones_refused(client, made):
    base, ids, _ = made
    good = {
        "aspect": "3:2",
        "style_id": ids["Paper"],
        "donts": ["frames"],
        "seed_rule": "one",
        "seed": 5,
        "profile": "Mine",
        "profiles": [{"name": "Mine", "text_limit": 90}],
    }
    assert client.patch(base, json=good).status_code == 200
    assert client.get(f"{base}/profiles").json()[0]["name"] == "Mine"
    for bad in (
        {"aspect": "wide"},
        {"seed_rule": "lucky"},
        {"profiles": [{"name": ""}]},
        {"profiles": [{"name": "x", "text_limit": -4}]},
        {"seed": -1},
    ):
        answer = client.patch(base, json=bad)
        assert answer.status_code == 422
        assert answer.json()["detail"]


def test_a_reference_is_replaced_and_what_becomes_stale_is_told_before(client, made):
    base, _, shots = made
    old = reference(client, base)
    assert client.get(f"{base}/references/{old}/stale").json() == []
    sha = picture(client, base, (200, 200, 0))
    done = client.post(f"{base}/references/{old}/replace", json={"sha": sha, "from_shot_id": shots[1]})
    assert done.json()["label"] == "replaced Pell, front, from shot 2 on"
    assert client.post(f"{base}/references/{old}/replace", json={"sha": "0" * 64}).status_code == 422
    assert client.post(f"{base}/references/none/replace", json={"sha": sha}).status_code == 404


def test_a_thread_gives_its_sheet_plate_fitness_trial_and_palette(client, made):
    base, ids, _ = made
    pell, paper = (f"{base}/threads/{ids[n]}" for n in ("Pell", "Paper"))
    assert client.get(f"{pell}/model-sheet.pdf").content.startswith(b"%PDF")
    assert client.get(f"{pell}/model-sheet.png").content.startswith(b"\x89PNG")
    assert client.get(f"{pell}/plate.png?side=512&margin=8&labels=false").content.startswith(b"\x89PNG")
    assert client.get(f"{pell}/plate.png?side=9").status_code == 422
    assert client.get(f"{pell}/fitness").json()[0]["faults"]
    assert client.get(f"{paper}/trial").json()["vocabulary"]["count"] == 0
    assert client.get(f"{paper}/palette.gpl").status_code == 422
    sent = client.post(f"{paper}/palette", files={"file": ("p.css", b":root{--lead-teal: #1f5f66}")})
    assert sent.json()["rows"]["thread"][0]["tones"] == [{"hex": "#1f5f66", "role": "lead"}]
    assert "--lead-teal" in client.get(f"{paper}/palette.css").text
    assert "line 1" in client.post(f"{paper}/palette", files={"file": ("p.css", b"--a: #12")}).json()["detail"]


def test_threads_keep_all_of_a_model_sheet(client, made):
    base, ids, _ = made
    values = {
        "short_wording": "Pell.",
        "must_keep": ["whistle"],
        "vocabulary": ["flat"],
        "donts": ["text"],
        "costumes": [{"name": "night", "wording": "A shirt", "light": "one lantern"}],
        "tones": [{"hex": "#102030", "role": "ground"}],
    }
    row = client.patch(f"{base}/threads/{ids['Pell']}", json=values).json()["rows"]["thread"][0]
    assert {k: row[k] for k in ("short_wording", "must_keep", "vocabulary", "donts", "tones")} == {
        k: values[k] for k in ("short_wording", "must_keep", "vocabulary", "donts", "tones")
    }
    assert row["costumes"][0]["light"] == "one lantern"
    assert (
        client.patch(f"{base}/threads/{ids['Pell']}", json={"tones": [{"hex": "red", "role": "lead"}]}).status_code
        == 422
    )
    view = client.patch(f"{base}/references/{reference(client, base)}", json={"view": "back", "anchor": True})
    assert view.json()["rows"]["reference"][0]["anchor"]
    box = {"x": 1, "y": 1, "w": 20, "h": 20}
    trait = client.post(
        f"{base}/references/{reference(client, base)}/traits",
        json={"name": "Coat", "box": box, "outline": [[1, 1], [20, 1], [20, 20]]},
    )
    made_trait = trait.json()["rows"]["trait"][0]
    assert made_trait["outline"] == [[1, 1], [20, 1], [20, 20]]
    loose = client.patch(
        f"{base}/traits/{made_trait['id']}", json={"tolerance": 12.5, "free": True, "body_x": 0.5, "body_y": 0.4}
    )
    assert loose.json()["rows"]["trait"][0]["tolerance"] == 12.5
    assert client.patch(f"{base}/traits/{made_trait['id']}", json={"tolerance": 500}).status_code == 422


def test_rows_are_edited_copied_and_pasted_together(client, made):
    base, ids, shots = made
    assert (
        client.patch(f"{base}/shots", json={"shot_ids": shots, "values": {"size": "CU"}}).json()["label"]
        == "set size of 2 shots"
    )
    assert client.patch(f"{base}/shots", json={"shot_ids": shots, "values": {"size": "HUGE"}}).status_code == 422
    copied = client.get(f"{base}/shots/copied", params={"shots": shots}).json()
    pasted = client.post(f"{base}/shots/paste", json={"after_shot_id": shots[0], "shots": copied})
    assert len(pasted.json()["rows"]["shot"]) == 2
    column = {"first_shot_id": shots[0], "beads": [{"hold": "face"}, None]}
    assert client.put(f"{base}/threads/{ids['Oda']}/column", json=column).json()["label"] == "pasted Oda over 2 shots"
    order = client.put(f"{base}/threads/order", json={"thread_ids": [ids["Oda"], ids["Pell"]]})
    assert order.status_code == 200


def test_the_library_answers_tags_bins_and_ranks(client, made):
    base, _, _ = made
    for code in ((200, 30, 30), (30, 200, 30)):
        picture(client, base, code)
    part = client.get(f"{base}/library").json()
    assert part["total"] == 3
    ids = [i["id"] for i in part["items"]]
    assert client.post(f"{base}/library/tags", json={"ids": ids[:1], "add": ["good"]}).status_code == 200
    assert client.get(f"{base}/library?tag=good").json()["total"] == 1
    assert client.get(f"{base}/library?colour=%23c81e1e").json()["items"][0]["score"] > 0.5
    assert client.get(f"{base}/library?colour=red").status_code == 422
    assert client.get(f"{base}/library?like={part['items'][0]['sha']}").json()["items"][0]["id"] == ids[0]
    free = [i["id"] for i in part["items"] if not i["uses"]]
    assert client.post(f"{base}/library/bin", json={"ids": free, "binned": True}).status_code == 200
    assert client.get(f"{base}/library?binned=true").json()["total"] == 2
    client.post(f"{base}/library/bin", json={"ids": free, "binned": False})
    pair = client.get(f"{base}/library/taste").json()
    choice = {"left": pair["left"], "right": pair["right"], "chosen": "left"}
    assert client.post(f"{base}/library/taste", json=choice).status_code == 200
    assert client.get(f"{base}/library/taste").json()["ranking"][0]["sha"] == pair["left"]
    assert client.post(f"{base}/library/taste", json={**choice, "right": choice["left"]}).status_code == 422


def test_a_bundle_goes_out_and_comes_in(client, made):
    base, _, _ = made
    data = client.get(f"{base}/bundle.zip").content
    came = client.post("/api/bundles", files={"file": ("b.zip", data)})
    assert came.status_code == 201
    copy = client.get(f"/api/projects/{came.json()['id']}").json()
    assert [t["name"] for t in copy["rows"]["thread"]] == ["Pell", "Oda", "Step", "Paper"]
    refused = client.post("/api/bundles", files={"file": ("b.zip", b"nothing")})
    assert refused.status_code == 422
    assert "b.zip is no zip file" in refused.json()["detail"]
    assert json.loads(zipfile.ZipFile(io.BytesIO(data)).read("bundle.json"))["version"] == 1


def test_the_first_reading_of_a_project_leaves_out_takes_that_are_not_picked(client, ws, made):
    base, _ids, shots = made
    for i, code in enumerate(((1, 1, 1), (2, 2, 2))):
        files = [{"name": f"{i}.png", "sha": picture(client, base, code), "shot_id": shots[0]}]
        assert client.post(f"{base}/takes", json={"files": files}).status_code == 200
    whole, first = client.get(base).json(), client.get(f"{base}?picked_alone=true").json()
    rest = client.get(f"{base}/others").json()
    assert (len(whole["rows"]["take"]), len(first["rows"]["take"]), len(rest["rows"]["take"])) == (2, 1, 1)
    assert {t["id"] for t in whole["rows"]["take"]} == {first["rows"]["take"][0]["id"], rest["rows"]["take"][0]["id"]}
    assert len(rest["pictures"]) == 1
    words = client.get(f"{base}/takes/{first['rows']['take'][0]['id']}/words").json()
    assert words[0] == ["action", "Pell sat on the step."]
    done = client.post(
        f"{base}/takes/{first['rows']['take'][0]['id']}/vary", json={"key": "framing", "now": "Close-up."}
    )
    assert done.json()["rows"]["shot"][0]["brief_edits"][0]["now"] == "Close-up."
