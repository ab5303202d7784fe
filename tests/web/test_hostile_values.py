"""Every route, from the OpenAPI document itself: it takes what it asks for, and answers what nobody should send with a clear
problem, field by field; never a broken server, and the project can still be read."""

import asyncio
import json
import math
import re
import threading
import zlib
from concurrent.futures import ThreadPoolExecutor

import pytest
from fastapi.testclient import TestClient
from starlette.responses import PlainTextResponse

from juxtaform import limits
from juxtaform.studio import (
    projects,
)
from juxtaform.web.doors import Doors
from tests.conftest import client_of, documented
from tests.small import AREA, Small

NOWHERE, NO_PICTURE = "0" * 32, "0" * 64
HOSTILE = (
    "",
    "\u0000\ud83e\udd80 ‮ '; DROP TABLE shot; --",
    "\ud800",
    "x" * 70_000,
    None,
    -1,
    2**31,
    2**63,
    10**400,
    math.nan,
    1e300,
    [None],
    {},
    NOWHERE,
    NO_PICTURE,
)
ODD_QUERIES = ("", "\u0000", "x" * 5000, "-1", "1e999", "nan", "9" * 30, "%ff", "../..", NOWHERE, NO_PICTURE, "⁴")
LEAST, MOST = 200, 499
BY_ACCOUNTS = re.compile(r"^/api/(me|accounts|shown)(/|$)|/(members|invitations)(/|$)")
"""Where people are looked after; test_people.py asks there, where there are accounts."""
NOT_SAMPLED = {"revision", "seen", "revisions"}


@pytest.fixture(scope="module")
def client(ws, checker):
    return client_of(ws, checker, raise_server_exceptions=False)


BOX = {"x": 4, "y": 4, "w": 20, "h": 20}
GOOD = {
    "patch /projects/{project_id}/text": lambda s: {"at": 3, "gone": 2, "put": "word", "seen": s.text_revision},
    "post /projects/{project_id}/found": lambda s: {"threads": [{"kind": "character", "name": "Oda"}]},
    "post /projects/{project_id}/beats": lambda s: {"after": s.ids["beat_id"]},
    "post /projects/{project_id}/beats/{beat_id}/move": lambda s: {"step": 1},
    "post /projects/{project_id}/pages/shots": lambda s: {"sha": s.sha, "boxes": [BOX], "scene_id": s.ids["scene_id"]},
    "post /projects/{project_id}/pages/references": lambda s: {
        "sha": s.sha,
        "boxes": [BOX],
        "thread_id": s.ids["thread_id"],
    },
    "post /projects/{project_id}/table": lambda s: {"cells": "Shows\tSize\nA crab\tCU"},
    "post /projects/{project_id}/shots/{shot_id}/move": lambda s: {"step": 1},
    "post /projects/{project_id}/shots/{shot_id}/split": lambda s: {"at": 12},
    "put /projects/{project_id}/shots/{shot_id}/framings": lambda s: {
        "framings": [{"size": "CU", "angle": "low", "move": "pan"}],
        "picked": 0,
    },
    "post /projects/{project_id}/references/{reference_id}/colours": lambda s: BOX,
    "put /projects/{project_id}/shots/{shot_id}/brief/phrase": lambda s: {"key": "extra", "now": "word"},
    "post /projects/{project_id}/shots/{shot_id}/brief/mend": lambda s: {"key": s.concern},
    "post /projects/{project_id}/takes/{take_id}/vary": lambda s: {"key": "extra", "now": "in snow"},
    "post /projects/{project_id}/references/{reference_id}/replace": lambda s: {
        "sha": s.other,
        "name": "new",
        "from_shot_id": s.ids["later"],
    },
    "post /projects/{project_id}/library/tags": lambda s: {"ids": [s.picture], "add": ["sky"], "remove": ["sea"]},
    "post /projects/{project_id}/library/bin": lambda s: {"ids": [s.picture], "binned": False},
    "post /projects/{project_id}/library/taste": lambda s: {"left": s.sha, "right": s.other, "chosen": "right"},
    "post /projects/{project_id}/library/taste/style": lambda s: {"thread_id": s.ids["style_id"]},
    "put /projects/{project_id}/takes/{take_id}/marks": lambda s: {"thread_id": s.ids["thread_id"], "box": BOX},
    "post /projects/{project_id}/deliveries": lambda s: {"kind": "captions", "options": {"captions": "srt"}},
    "post /projects/{project_id}/showings": lambda s: {"title": "word", "days": 3, "passphrase": "low water"},
    "post /projects/{project_id}/bridges": lambda s: {"key": s.bridge},
    "post /projects/{project_id}/bridges/refuse": lambda s: {"key": s.bridge},
    "post /projects/{project_id}/follow-voice": lambda s: {"shot_ids": [s.ids["shot_id"]]},
    "post /projects/{project_id}/turn-down": lambda s: {"at_s": 0.9},
    "patch /projects/{project_id}/sounds/{sound_id}": lambda s: {"from_s": 1.0, "to_s": 2.0, "gain_db": -3.0},
    "post /projects/{project_id}/sounds/{sound_id}/trim-silence": lambda s: {},
    "post /projects/{project_id}/scenes/{scene_id}/fit": lambda s: {"target_s": 60.5},
    "post /projects/{project_id}/decisions": lambda s: {"finding_keys": [s.concern], "verdict": "retake"},
    "post /projects/{project_id}/stets": lambda s: {"finding_key": s.concern, "reason": "meant"},
    "put /projects/{project_id}/shots/{shot_id}/span": lambda s: {"start": 0, "end": 30},
    "post /projects/{project_id}/references/{reference_id}/traits": lambda s: {
        "name": "Hat",
        "box": BOX,
        "colours": ["#336699"],
    },
    "post /projects/{project_id}/services": lambda s: {"name": "Other", "address": "http://127.0.0.1:9/other"},
    "patch /projects/{project_id}/services/{service_id}": lambda s: {
        "name": "New",
        "address": "http://127.0.0.1:9/new",
    },
    "post /projects/{project_id}/orders": lambda s: {
        "shot_ids": s.ids["shot_ids"],
        "service_id": s.ids["service_id"],
        "as_it_is": True,
    },
    "post /projects/{project_id}/orders/offer": lambda s: {
        "shot_ids": s.ids["shot_ids"],
        "service_id": s.ids["service_id"],
    },
    "post /projects/{project_id}/takes/{take_id}/faults": lambda s: {"kind": "hand", "box": BOX},
    "patch /projects/{project_id}/faults/{fault_mark_id}": lambda s: {"kind": "twice", "box": BOX},
    "post /projects/{project_id}/takes/{take_id}/remake": lambda s: {"count": 1},
    "post /projects/{project_id}/finals": lambda s: {},
    "post /projects/{project_id}/shots/{shot_id}/trials": lambda s: {
        "axes": [{"varies": "weight", "about": s.ids["thread_id"], "choices": ["40", "90"]}],
        "seeds": 1,
        "service_id": s.ids["service_id"],
    },
    "post /projects/{project_id}/trials/{trial_id}/winner": lambda s: {"at": [1]},
    "post /projects/{project_id}/takes/{take_id}/crop": lambda s: {"box": BOX},
    "post /projects/{project_id}/takes/{take_id}/area": lambda s: {"area": AREA, "words": "a hat"},
    "post /projects/{project_id}/takes/{take_id}/growth": lambda s: {"aspect": "3:2"},
    "post /projects/{project_id}/takes/{take_id}/retouched": lambda s: {"sha": s.other, "name": "r.png", "area": AREA},
    "post /projects/{project_id}/takes/{take_id}/clip": lambda s: {"seconds": 1.5},
    "put /projects/{project_id}/takes/{take_id}/trim": lambda s: {"part": [0.0, 0.2]},
    "post /projects/{project_id}/takes/{take_id}/frame": lambda s: {"at_s": 0.1},
    "post /projects/{project_id}/faults/mend": lambda s: {
        "fault": "twice",
        "kind": "words",
        "what": "smiling",
        "how": "dont",
    },
    "post /projects/{project_id}/jobs/steer": lambda s: {"deed": "pause"},
    "patch /projects/{project_id}/traits/{trait_id}": lambda s: {"name": "Hat", "colours": ["#336699"], "tolerance": 9},
}
"""Good bodies where a sample of the schema will not do, by method and path."""


def routes():
    """(method, path, schema of the body, its parameters) of every route but the live events, and the schemas that they refer to."""
    document = documented()
    told = []
    for path, operations in document["paths"].items():
        for method, operation in operations.items():
            content = operation.get("requestBody", {}).get("content", {})
            body = content.get("application/json", {}).get("schema")
            if not path.endswith("/events") and "multipart/form-data" not in content and not BY_ACCOUNTS.search(path):
                told.append((method, path, body, operation.get("parameters", [])))
    return told, document["components"]["schemas"]


ROUTES, SCHEMAS = routes()
WITH_BODY = [(m, p, b) for m, p, b, _ in ROUTES if b]
READING = [(p, q) for m, p, _, q in ROUTES if m == "get"]


def good_body(schema, small, method, path):
    make = GOOD.get(f"{method} {path.removeprefix('/api')}")
    return make(small) if make else sample(schema, small)


def sample(schema, small, name=""):
    """A value that a schema allows; names of ids are filled with those of the small project."""
    if name in small.ids:
        return small.ids[name]
    if "$ref" in schema:
        return sample(SCHEMAS[schema["$ref"].rsplit("/", 1)[1]], small, name)
    if "const" in schema:
        return schema["const"]
    if "enum" in schema:
        return schema["enum"][0]
    for some in ("anyOf", "oneOf", "allOf"):
        if some in schema:
            return sample(schema[some][0], small, name)
    match schema.get("type"):
        case "object":
            return {k: sample(v, small, k) for k, v in schema.get("properties", {}).items() if k not in NOT_SAMPLED}
        case "array":
            items = schema.get("prefixItems")
            if items:
                return [sample(i, small) for i in items]
            return [sample(schema.get("items", {}), small)] * max(1, schema.get("minItems", 0))
        case "integer" | "number":
            least = schema.get("minimum", schema.get("exclusiveMinimum", 0) + 1)
            return min(max(least, 1), schema.get("maximum", 1e9))
        case "boolean":
            return False
        case _:
            return text_for(schema)


def text_for(schema):
    pattern = schema.get("pattern", "")
    if "#" in pattern:
        return "#336699"
    if ":" in pattern:
        return "3:2"
    return "word"[: schema.get("maxLength", 4)]


def filled(path, ids):
    for name, value in ids.items():
        path = path.replace("{" + name + "}", str(value))
    assert "{" not in path, path
    return path


def ask(client, small, method, path, body, ids=None):
    headers = {"content-type": "application/json"}
    content = None if body is None and method == "get" else json.dumps(body)
    return client.request(method, filled(path, ids or small.ids), content=content, headers=headers)


def answered(answer, about):
    """A clear answer: done, or a problem in words."""
    assert LEAST <= answer.status_code <= MOST, (answer.status_code, ascii(answer.text[:300]), ascii(about)[:300])
    if answer.status_code >= 400:
        assert answer.headers["content-type"] == "application/problem+json"
        told = answer.json()
        assert 0 < len(told["detail"]) < 600, told["detail"][:700]
        assert told["status"] == answer.status_code


def can_be_read(client, project):
    left = client.get(f"/api/projects/{project}")
    assert left.status_code in (200, 404)
    if left.status_code == 200:
        json.loads(left.text, parse_constant=lambda word: pytest.fail(f"{word} was kept"))


named = [f"{m} {p}" for m, p, _ in WITH_BODY]


@pytest.fixture(scope="module")
def shared(ws):
    """A small project that is only asked, and never changed."""
    return Small(ws)


@pytest.fixture(scope="module")
def in_turn(ws):
    """A small project for a few routes in turn, then another one, or a fresh one at once: to make one takes longer than to ask a route."""
    made = []

    def project(*, fresh=False):
        if fresh or not made or made[-1][1] >= 8:
            made.append([Small(ws), 0])
        made[-1][1] += 1
        return made[-1][0]

    return project


@pytest.mark.parametrize(("method", "path", "schema"), WITH_BODY, ids=named)
def test_what_is_asked_for_is_taken_and_nothing_else_breaks_a_route(ws, client, in_turn, method, path, schema):
    for fresh in (False, True):  # what another route left may stand in the way
        small = in_turn(fresh=fresh)
        ids = small.of_another_kind(ws, f"{method} {path.removeprefix('/api')}")
        good = good_body(schema, small, method, path)
        answer = ask(client, small, method, path, good, ids)
        if answer.is_success:
            break
    assert 200 <= answer.status_code < 300, answer.text
    for broken in bodies(good):
        answered(ask(client, small, method, path, broken, ids), broken)
    can_be_read(client, small.project)


@pytest.mark.parametrize(
    ("method", "path", "schema"),
    [r[:3] for r in ROUTES if "{" in r[1]],
    ids=[f"{m} {p}" for m, p, _, _ in ROUTES if "{" in p],
)
def test_ids_that_name_nothing_are_told(client, shared, method, path, schema):
    """Well-formed ids of nothing, one parameter of the path at a time."""
    small = shared
    body = good_body(schema, small, method, path) if schema else None
    for part in re.findall(r"{(\w+)}", path):
        if part == "form":
            continue
        nothing = {"sha": NO_PICTURE, "change_id": 10**8}.get(part, NOWHERE)
        answer = ask(client, small, method, path, body, {**small.ids, part: nothing})
        answered(answer, part)
        assert answer.status_code in (404, 422), (part, answer.status_code, answer.text[:200])


@pytest.mark.parametrize(("path", "parameters"), READING, ids=[p for p, _ in READING])
def test_nothing_that_is_asked_breaks_a_reading_route(ws, client, shared, path, parameters):
    small = shared
    ids = small.of_another_kind(ws, f"get {path.removeprefix('/api')}")
    needed = {"shots": small.ids["shot_ids"], "after": 0, "x": 2, "y": 2, "w": 20, "h": 20}
    asked = {q["name"]: needed[q["name"]] for q in parameters if q["in"] == "query" and q.get("required")}
    where = filled(path.replace("{form}", form_of(path)), ids)
    answer = client.get(where, params=asked)
    assert answer.status_code in (
        (200, 404) if "brief/difference" in path or path.endswith("/pictures/{shot_id}") else (200,)
    ), answer.text[:300]
    for q in parameters:
        if q["in"] != "query":
            continue
        for value in ODD_QUERIES[zlib.crc32(f"{path} {q['name']}".encode()) % 3 :: 3]:
            answered(client.get(where, params={**asked, q["name"]: value}), (q["name"], value))
    can_be_read(client, small.project)


def form_of(path):
    return {"model-sheet": "png", "palette": "css"}.get(path.rsplit("/", 1)[-1].split(".")[0], "md")


def bodies(good):
    """The good body with one value after another made hostile, at any depth."""
    yield from ([], None, "text", 5)
    yield from spoiled(good)


def spoiled(value):
    """Each field gets an eighth of all hostile values, by its name; over all routes every kind of field meets every value. `bin/bench fuzz` goes on."""
    if isinstance(value, dict):
        for key, held in value.items():
            for worse in (*HOSTILE[zlib.crc32(key.encode()) % 8 :: 8], *spoiled(held)):
                yield {**value, key: worse}
            yield {k: v for k, v in value.items() if k != key}
    elif isinstance(value, list) and value:
        for worse in (*HOSTILE[len(value) % 8 :: 8], *spoiled(value[0])):
            yield [worse, *value[1:]]


UNREADABLE = {
    "no JSON": b"{not json",
    "not UTF-8": b'{"title": "\xff\xfe"}',
    "too deep": b'{"title": ' + b"[" * 5000 + b"]" * 5000 + b"}",
    "as deep as the limit and one more": b'{"title": ' + b"[" * 40 + b"]" * 40 + b"}",
    "endless number": b'{"title": ' + b"9" * 10_000 + b"}",
    "nothing": b"",
}


@pytest.mark.parametrize("content", UNREADABLE.values(), ids=UNREADABLE)
def test_a_body_that_cannot_be_read_is_refused(client, ws, content):
    small = Small(ws)
    answer = client.patch(
        f"/api/projects/{small.project}", content=content, headers={"content-type": "application/json"}
    )
    assert answer.status_code in (400, 422)
    answered(answer, content[:40])


def test_a_body_that_is_too_large_is_refused_before_it_is_read(client, ws, monkeypatch):
    small = Small(ws)
    url = f"/api/projects/{small.project}"
    declared = client.patch(
        url, content=b"{}", headers={"content-type": "application/json", "content-length": str(10**12)}
    )
    assert declared.status_code == 413
    read = []

    def parts():
        for _ in range(200):
            read.append(1)
            yield b" " * (1 << 20)

    streamed = client.patch(url, content=parts(), headers={"content-type": "application/json"})
    assert streamed.status_code == 413
    assert "32 MB" in streamed.json()["detail"]


def test_what_nobody_foresaw_gets_an_id_that_stands_in_the_log(client, ws, monkeypatch, caplog):
    monkeypatch.setattr(projects, "shelf", lambda *_: 1 / 0)
    caplog.set_level("ERROR", logger="juxtaform")
    answer = client.get("/api/projects")
    assert answer.status_code == 500
    assert answer.headers["content-type"] == "application/problem+json"
    assert answer.headers["x-content-type-options"] == "nosniff"
    key = answer.json()["detail"].rstrip(".").rsplit(" ", 1)[-1]
    assert key in caplog.text
    assert "ZeroDivisionError" in caplog.text


def test_errors_are_what_the_document_says_and_unknown_addresses_are_told(client):
    document = client.get("/api/openapi.json").json()
    for operations in document["paths"].values():
        for operation in operations.values():
            for status, answer in operation["responses"].items():
                assert status[0] == "2" or set(answer.get("content", {})) <= {"application/problem+json"}
    for method, path in (
        ("get", "/api/nothing"),
        ("get", "/api"),
        ("get", "/api/projects/x/y/z"),
        ("delete", "/api/projects"),
        ("post", "/nowhere"),
    ):
        answer = client.request(method, path)
        assert answer.status_code in (404, 405), path
        assert answer.headers["content-type"] == "application/problem+json"


def test_every_answer_says_how_it_may_be_used(client, ws):
    small = Small(ws)
    for path in ("/api/projects", "/", f"/api/pictures/{small.sha}", "/api/nothing"):
        headers = client.get(path).headers
        assert headers["referrer-policy"] == "same-origin"
        assert headers["cross-origin-resource-policy"] == headers["cross-origin-opener-policy"] == "same-origin"
        policy = headers["content-security-policy"]
        assert "base-uri 'self'" in policy
        assert "form-action 'self'" in policy
    assert client.get(f"/api/pictures/{small.sha}").headers["cache-control"].startswith("private")


def test_times_carry_their_zone(client, ws):
    small = Small(ws)
    for told in (
        client.get("/api/projects").json()[0]["created_at"],
        client.get(f"/api/projects/{small.project}/history").json()[0]["at"],
    ):
        assert re.search(r"(Z|\+00:00)$", told)


CHANGING = [(m, p, b) for m, p, b, _ in ROUTES if m != "get" and "{project_id}/" in p]


@pytest.fixture(scope="module")
def others(ws):
    """Two small projects, each with one of everything."""
    return Small(ws), Small(ws)


@pytest.mark.parametrize(("method", "path", "schema"), CHANGING, ids=[f"{m} {p}" for m, p, _ in CHANGING])
def test_what_is_asked_of_one_project_never_touches_another(ws, client, others, method, path, schema):
    """Every id but the project's own is of the other project."""
    mine, theirs = others
    before = projects.snapshot(ws, theirs.project)
    body = good_body(schema, theirs, method, path) if schema else None
    answered(ask(client, theirs, method, path, body, {**theirs.ids, "project_id": mine.project}), path)
    assert projects.snapshot(ws, theirs.project) == before
    told = json.dumps(projects.snapshot(ws, mine.project).rows, default=str)
    foreign = {r["id"] for rows in before.rows.values() for r in rows}
    assert not [i for i in foreign if i in told]


def test_only_so_many_files_are_taken_in_at_once(ws, monkeypatch):
    """The next one is asked to come again."""
    monkeypatch.setattr(limits, "MOST_UPLOADS", 2)
    inside, let_go = threading.Barrier(3), threading.Event()

    async def slow(scope, receive, send):
        await asyncio.to_thread(inside.wait)
        await asyncio.to_thread(let_go.wait)
        await PlainTextResponse("taken")(scope, receive, send)

    client = TestClient(Doors(slow), base_url="http://127.0.0.1")
    post = lambda: client.post("/api/x/pictures", files={"file": ("a.png", b"x")})  # noqa: E731
    with ThreadPoolExecutor(2) as pool:
        first = [pool.submit(post) for _ in range(2)]
        inside.wait()
        third = post()
        let_go.set()
        assert [f.result().status_code for f in first] == [200, 200]
    assert third.status_code == 503
    assert third.headers["retry-after"] == "1"
    assert "2 files are being taken in already" in third.json()["detail"]
