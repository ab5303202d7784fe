"""Every route that takes JSON, given what it asks for and then, field by field, what nobody should send: a clear answer each
time, never a broken server, and the project can still be read."""

import json
import math

import pytest

from juxtaform.core.regions import Box
from juxtaform.studio import projects, takes, threads
from juxtaform.web.app import create_app
from tests.conftest import client_of, flat, plan_from, rows

HOSTILE = ("", "\u0000\ud83e\udd80 ‮ '; DROP TABLE shot; --", "x" * 70_000, None, -1, 2**63, math.nan, 1e300, [None], {})  # fmt: skip
LEAST, MOST = 200, 499


@pytest.fixture(scope="module")
def client(ws, checker):
    return client_of(ws, checker, raise_server_exceptions=False)


class Small:
    """A small project with one of everything, and what stands for each parameter of a path."""

    def __init__(self, ws) -> None:
        self.project = projects.make(ws, "Small")
        plan_from(ws, self.project, "# One\nPell sat on the step.\n\n# Two\nPell left the step.")
        threads.make(ws, self.project, "character", "Pell")
        threads.make(ws, self.project, "style", "Paper")
        thread, style = (t["id"] for t in rows(ws, self.project, "thread"))
        shot = rows(ws, self.project, "shot")[0]["id"]
        self.sha = str(takes.take_in(ws, "a.png", flat((10, 80, 120))).sha)
        threads.add_references(ws, self.project, thread, [(self.sha, "front")], "")
        reference = rows(ws, self.project, "reference")[0]["id"]
        threads.add_trait(ws, self.project, reference, "Coat", "outfit", Box(4, 4, 20, 20), ["#102030"])
        takes.accept(ws, self.project, [("a.png", self.sha, shot)])
        take = rows(ws, self.project, "take")[0]["id"]
        takes.mark(ws, self.project, take, thread, Box(4, 4, 20, 20))
        self.ids = {
            "project_id": self.project, "thread_id": thread, "shot_id": shot, "reference_id": reference, "take_id": take,
            "trait_id": rows(ws, self.project, "trait")[0]["id"], "scene_id": rows(ws, self.project, "scene")[0]["id"],
            "style_id": style, "shot_ids": [shot], "thread_ids": [thread, style], "first_shot_id": shot, "sha": self.sha,
        }  # fmt: skip


def routes():
    """(method, path, schema of the body) of every route that takes JSON, and the schemas that these refer to."""
    document = create_app(None, None).openapi()  # type: ignore[arg-type]
    told = []
    for path, operations in document["paths"].items():
        for method, operation in operations.items():
            body = operation.get("requestBody", {}).get("content", {}).get("application/json")
            if body:
                told.append((method, path, body["schema"]))
    return told, document["components"]["schemas"]


ROUTES, SCHEMAS = routes()


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
            return {k: sample(v, small, k) for k, v in schema.get("properties", {}).items() if k != "revision"}
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


def ask(client, small, method, path, body):
    filled = path
    for name, value in small.ids.items():
        filled = filled.replace("{" + name + "}", str(value))
    for part in ("beat_id", "mark_id", "stet_id", "change_id"):
        filled = filled.replace("{" + part + "}", "1")
    return client.request(method, filled, content=json.dumps(body), headers={"content-type": "application/json"})


@pytest.mark.parametrize(("method", "path", "schema"), ROUTES, ids=[f"{m} {p}" for m, p, _ in ROUTES])
def test_nothing_that_is_sent_breaks_a_route(ws, client, method, path, schema):
    small = Small(ws)
    good = sample(schema, small)
    assert LEAST <= ask(client, small, method, path, good).status_code <= MOST
    for broken in bodies(good):
        answer = ask(client, small, method, path, broken)
        assert LEAST <= answer.status_code <= MOST, (answer.status_code, answer.text[:300], str(broken)[:300])
        if answer.status_code >= 400:
            told = answer.json()
            assert told["detail"], told
            assert len(told["detail"]) < 600, told["detail"][:700]
    left = client.get(f"/api/projects/{small.project}")
    assert left.status_code in (200, 404)
    if left.status_code == 200:
        json.loads(left.text, parse_constant=lambda word: pytest.fail(f"{word} was kept"))


def bodies(good):
    """The good body with one value after another made hostile, at any depth."""
    yield from ([], None, "text", 5)
    yield from spoiled(good)


def spoiled(value):
    if isinstance(value, dict):
        for key, held in value.items():
            for worse in (*HOSTILE, *spoiled(held)):
                yield {**value, key: worse}
            yield {k: v for k, v in value.items() if k != key}
    elif isinstance(value, list) and value:
        for worse in (*HOSTILE, *spoiled(value[0])):
            yield [worse, *value[1:]]


def test_a_body_that_is_no_json_is_refused(client, ws):
    small = Small(ws)
    answer = client.patch(f"/api/projects/{small.project}", content=b"{not json", headers={"content-type": "application/json"})  # fmt: skip
    assert answer.status_code == 422
    assert answer.json()["detail"]
