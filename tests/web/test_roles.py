"""Who may do what: every route of the API's own document, asked by everybody there is."""

import json

import pytest

from juxtaform.studio import library, members, projects, takes
from tests.conftest import documented, empty_workspace, flat, row
from tests.people import House, joins, person

NOWHERE = "0" * 32
ANYBODY = {"GET /me", "POST /me/sign-in", "POST /me/sign-out", "POST /me/invited", "POST /me/joined"}
KEEPER = {
    "GET /accounts",
    "POST /accounts/invitations",
    "POST /accounts/{account_id}/password-link",
    "PUT /accounts/{account_id}/closed",
    "DELETE /accounts/{account_id}/second",
}
OWNER = {
    "DELETE /projects/{project_id}",
    "POST /projects/{project_id}/services",
    "PATCH /projects/{project_id}/services/{service_id}",
    "DELETE /projects/{project_id}/services/{service_id}",
    "PUT /projects/{project_id}/services/{service_id}/token",
    "PUT /projects/{project_id}/members/{account_id}",
    "DELETE /projects/{project_id}/members/{account_id}",
    "GET /projects/{project_id}/invitations",
    "POST /projects/{project_id}/invitations",
    "DELETE /projects/{project_id}/invitations/{invitation_id}",
}
LOOKING = {
    "POST /projects/{project_id}/loupe",
    "POST /projects/{project_id}/lights",
    "POST /projects/{project_id}/pegs",
    "POST /projects/{project_id}/references/{reference_id}/colours",
    "PUT /projects/{project_id}/here",
    "DELETE /projects/{project_id}/members/me",
}
PEOPLE = ("/me", "/accounts", "/projects/{project_id}/members", "/projects/{project_id}/invitations")
REFUSED = {401, 403}


def every_route():
    document = documented()
    return [
        (method.upper(), path.removeprefix("/api"))
        for path, operations in document["paths"].items()
        for method in operations
        if not path.endswith("/events")  # It never ends; it is asked below.
        and path != "/api/me/sign-out"  # Whoever asks that is nobody afterwards.
    ]


@pytest.fixture(scope="module")
def house(server, checker, tmp_path_factory):
    with empty_workspace(server, tmp_path_factory.mktemp("pictures")) as ws:
        made = House(ws, checker)
        made.keeper = person(ws, "keeper", keeper=True)
        made.people = {name: person(ws, name) for name in ("owner", "illustrator", "reviewer", "stranger")}
        yield made


class Asked:
    """One project with a picture, and everybody who may ask."""

    def __init__(self, house):
        ws, people = house.ws, house.people
        self.house = house
        self.project = projects.make(ws, "A story", people["owner"].id)
        self.other = projects.make(ws, "Another", people["owner"].id)
        for role in ("illustrator", "reviewer"):
            joins(ws, self.project, people[role], role)
        self.sha = takes.take_in(ws, "a.png", flat((9, 9, 90))).sha
        library.seen(ws, self.project, self.sha, "a.png")
        self.clients = {
            "nobody": house.client(raise_server_exceptions=False),
            **{n: house.client(p, raise_server_exceptions=False) for n, p in people.items()},
            "keeper": house.client(house.keeper, raise_server_exceptions=False),
        }
        tokens = {
            "owner's token": ("write", None),
            "owner's reading token": ("read", None),
            "owner's token for this": ("write", self.project),
            "owner's token for another": ("write", self.other),
        }
        for name, (scope, project) in tokens.items():
            secret = house.token(people["owner"], scope, project)
            self.clients[name] = house.client(token=secret, raise_server_exceptions=False)

    def ask(self, name, method, path, project=None):
        ids = {"project_id": project or self.project, "sha": self.sha, "form": "md", "change_id": "1"}
        for part in [p for p in path.split("/") if p.startswith("{") or ".{" in p]:
            key = part[part.index("{") + 1 : part.index("}")]
            path = path.replace("{" + key + "}", ids.get(key, NOWHERE))
        body = None if method in ("GET", "DELETE") else b"{}"
        headers = {"content-type": "application/json"}
        return self.clients[name].request(method, f"/api{path}", content=body, headers=headers)


@pytest.fixture(scope="module")
def asked(house):
    return Asked(house)


def may(name, method, path):
    """What is right, said here once more: who may ask for what."""
    route = f"{method} {path}"
    by_token = "token" in name
    if route in ANYBODY or path.startswith("/shown/"):
        return True  # A showing asks for the cookie of its own link.
    if name == "nobody":
        return False
    if by_token and path.startswith(PEOPLE):
        return False
    if route in KEEPER:
        return name == "keeper"
    if path.startswith(("/me", "/projects/{project_id}")) is False:
        if path.startswith(("/pictures", "/clips", "/sounds")):
            return None  # by the picture: below
        return not (by_token and ("for" in name or ("reading" in name and method != "GET")))
    if path.startswith("/me"):
        return True
    if name in ("stranger", "keeper", "owner's token for another"):
        return False
    if name == "owner's reading token":
        return method == "GET" or route in LOOKING
    if route in OWNER:
        return name.startswith("owner")
    if method == "GET" or route in LOOKING:
        return True
    return name != "reviewer"


@pytest.mark.parametrize(("method", "path"), every_route(), ids=[f"{m} {p}" for m, p in every_route()])
def test_each_route_lets_in_whom_it_may_and_nobody_else(house, asked, method, path):
    spoils = path in ("/projects/{project_id}", "/projects/{project_id}/members/me") and method == "DELETE"
    for name in asked.clients:
        right = may(name, method, path)
        if right is None:
            continue
        if right and spoils:
            fresh = projects.make(house.ws, "To go", house.people["owner"].id)
            for role in ("illustrator", "reviewer"):
                joins(house.ws, fresh, house.people[role], role)
            answer = asked.ask(name, method, path, fresh)
            if "for this" in name:
                assert answer.status_code == 404, name
                continue
        else:
            answer = asked.ask(name, method, path)
        told = (name, answer.status_code, answer.text[:160])
        if name == "nobody" and not right:
            assert answer.status_code == 401, told
        elif right:
            wrong_password = path == "/me/sign-in" and answer.json()["title"] in ("Wrong", "Too often", "Not valid")
            assert answer.status_code not in REFUSED or wrong_password, told
            assert "no such project among yours" not in answer.text, told
        else:
            assert answer.status_code in (403, 404), told
            if answer.status_code == 404 and not path.startswith("/me"):
                assert "among yours" in answer.text, told
        if answer.status_code >= 400:
            assert answer.headers["content-type"] == "application/problem+json", told


def test_a_picture_is_seen_by_those_whose_project_has_it(house, asked):
    for name in asked.clients:
        for path in ("/pictures/{sha}", "/pictures/{sha}/thumb"):
            status = asked.ask(name, "GET", path).status_code
            inside = name in ("owner", "illustrator", "reviewer") or ("token" in name and "another" not in name)
            assert status == (200 if inside else 401 if name == "nobody" else 404), (name, path, status)


def test_live_events_and_headings_are_for_members(house, asked):
    for name in ("nobody", "stranger", "keeper", "owner's token for another"):
        assert asked.clients[name].get(f"/api/projects/{asked.project}/events").status_code in (401, 404)
        assert asked.clients[name].head(f"/api/projects/{asked.project}").status_code in (401, 404, 405)


def test_everybody_sees_their_own_shelf(house, asked):
    ids = {
        name: {c["id"] for c in asked.clients[name].get("/api/projects").json()}
        for name in ("owner", "reviewer", "stranger")
    }
    assert {asked.project, asked.other} <= ids["owner"]
    assert asked.project in ids["reviewer"]
    assert asked.other not in ids["reviewer"]
    assert not ids["stranger"]


def test_who_did_it_stands_in_the_history(house, asked):
    client = asked.clients["illustrator"]
    client.patch(f"/api/projects/{asked.project}", json={"premise": "A crab borrows the tide."})
    assert client.get(f"/api/projects/{asked.project}/history").json()[0]["by"] == "Illustrator"
    told = asked.clients["owner"].get(f"/api/projects/{asked.project}").json()
    assert told["undo_label"] == "Illustrator: wrote the premise"


def test_a_project_keeps_an_owner(house, asked):
    owner = house.people["owner"]
    left = asked.clients["owner"].delete(f"/api/projects/{asked.project}/members/{owner.id}")
    assert left.status_code == 422
    assert "needs an owner" in left.json()["detail"]
    assert members.role_of(house.ws, asked.project, owner.id) == "owner"


def test_whoever_makes_a_project_owns_it(house, asked):
    made = asked.clients["stranger"].post("/api/projects", json={"title": "Mine"}).json()["id"]
    assert members.role_of(house.ws, made, house.people["stranger"].id) == "owner"
    assert asked.clients["owner"].get(f"/api/projects/{made}").status_code == 404
    assert row(house.ws, made, "project")["title"] == "Mine"


def test_the_document_says_what_each_route_needs():
    document = documented()
    needs = {
        f"{m.upper()} {p.removeprefix('/api')}": o["x-needs"]
        for p, ops in document["paths"].items()
        for m, o in ops.items()
    }
    assert {r for r, n in needs.items() if n == "owner"} == OWNER
    assert {r for r, n in needs.items() if n == "keeper"} == KEEPER
    assert {r for r, n in needs.items() if n == "anybody"} == {*ANYBODY, "POST /shown/open"}
    assert {n for r, n in needs.items() if "/shown/" in r} == {"anybody", "link"}
    assert all(o["security"] for ops in document["paths"].values() for o in ops.values())
    assert json.dumps(document["components"]["securitySchemes"])
