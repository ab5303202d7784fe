"""Accounts: the first one, signing in, who guesses, links that open once, tokens, and what a stranger's page gets."""

import json
import re
from datetime import timedelta

import pytest
from argon2 import PasswordHasher
from fastapi.testclient import TestClient
from sqlalchemy import delete, update

from juxtaform.records.models import now
from juxtaform.records.people import Account, ApiToken, Invitation, Member, SignIn, Trying
from juxtaform.studio import accounts, invitations, projects, secrets
from juxtaform.studio.accounts import EARLIER_HOLDS, RENEWED_AFTER, RESTS
from juxtaform.studio.workspace import NotPossible
from juxtaform.web.app import Entrance, create_app
from juxtaform.web.doors import POLICY
from tests.conftest import client_on, empty_workspace
from tests.people import PASSWORD, House, accounts_cookie, joins, person, without_people


@pytest.fixture(scope="module")
def empty(server, checker, tmp_path_factory):
    with empty_workspace(server, tmp_path_factory.mktemp("pictures")) as ws:
        yield House(ws, checker)


@pytest.fixture
def house(empty):
    return without_people(empty)


def join(client, path, login="mira", name="Mira", password=PASSWORD, **more):
    body = {"secret": path.split("#")[-1], "login": login, "name": name, "password": password, **more}
    return client.post("/api/me/joined", json=body)


def sign_in(client, login, password=PASSWORD):
    return client.post("/api/me/sign-in", json={"login": login, "password": password})


def test_the_first_account_comes_by_a_link_that_opens_once_and_takes_over_what_is_there(house):
    project = projects.make(house.ws, "From before")
    client = house.client()
    assert client.get("/api/me").json() == {"closed": True, "first": True, "person": None, "second_wanted": False}
    assert client.get(f"/api/projects/{project}").status_code == 401
    link = invitations.first(house.ws)
    assert client.post("/api/me/invited", json={"secret": link}).json()["invites"] == "first"
    assert join(client, link, " Mira@Example.org ").status_code == 201
    assert client.get("/api/me").json()["person"] == {
        "id": client.get("/api/me").json()["person"]["id"],
        "login": "mira@example.org",
        "name": "Mira",
        "keeper": True,
        "second": False,
    }
    assert client.get(f"/api/projects/{project}").status_code == 200
    again = join(house.client(), link, "other")
    assert again.status_code == 404
    assert "does not open" in again.json()["detail"]
    with pytest.raises(NotPossible):
        invitations.first(house.ws)


def test_where_there_is_no_account_this_machine_works_as_ever_and_from_the_first_on_it_is_closed(house):
    app = create_app(house.ws, house.checker)
    client = client_on(app)
    assert client.get("/api/me").json() == {"closed": False, "first": False, "person": None, "second_wanted": False}
    assert client.post("/api/projects", json={"title": "Free"}).status_code == 201
    person(house.ws, "mira", keeper=True)
    app.state.doorkeeper._looked_at = -10.0  # Two seconds later.
    assert client.get("/api/projects").status_code == 401


def test_a_cookie_is_out_of_reach_of_scripts_and_other_sites(house):
    person(house.ws, "mira")
    plain = sign_in(house.client(), "mira").headers["set-cookie"]
    assert re.match(r"juxtaform=\S{40,}; HttpOnly; Max-Age=\d+; Path=/; SameSite=strict$", plain)
    client = client_on(house.app, base_url="https://127.0.0.1")
    told = sign_in(client, "mira").headers["set-cookie"]
    assert told.startswith("__Host-juxtaform=")
    assert "Secure" in told
    assert "Domain" not in told
    assert client.get("/api/me").json()["person"]["login"] == "mira"


def test_which_of_name_and_password_is_wrong_is_not_told(house):
    person(house.ws, "mira")
    client = house.client()
    wrong, nobody = sign_in(client, "mira", "not this one"), sign_in(client, "nobody", "not this one")
    assert wrong.status_code == nobody.status_code == 401
    assert wrong.json() == nobody.json()
    assert sign_in(client, "MIRA ").status_code == 200


def test_whoever_guesses_waits_longer_each_time_by_account_and_by_address(house):
    person(house.ws, "mira")
    client = house.client()
    for _ in range(5):
        assert sign_in(client, "mira", "guess").status_code == 401
    slowed = sign_in(client, "mira")
    assert slowed.status_code == 429
    assert slowed.headers["retry-after"] == "2"
    assert "Try again in 2 s" in slowed.json()["detail"]
    with house.ws.database.session() as s:
        for row in s.query(Trying):
            row.at -= timedelta(seconds=3)
    assert sign_in(client, "mira").status_code == 200
    for i in range(20):
        sign_in(client, f"nobody{i}", "guess")
    assert sign_in(client, "somebody else").status_code == 429
    assert [secrets.wait_s(n, 5) for n in (0, 4, 5, 6, 7, 20)] == [0, 0, 2, 4, 8, 900]


def test_a_hash_costs_what_rfc_9106_asks_for_where_memory_is_short(real_hasher):
    assert real_hasher.hash("a long enough word").startswith("$argon2id$")
    assert real_hasher.memory_cost >= 64 * 1024
    assert real_hasher.time_cost >= 3


def test_a_password_from_before_todays_rules_signs_in_and_is_hashed_anew(house):
    who = person(house.ws, "mira")
    weaker = PasswordHasher(time_cost=1, memory_cost=1024).hash("1234")
    with house.ws.database.session() as s:
        s.get(Account, who.id).password = weaker
    assert sign_in(house.client(), "mira", "1234").status_code == 200
    with house.ws.database.session() as s:
        kept = s.get(Account, who.id).password
    assert kept != weaker
    assert secrets.holds("1234", kept)
    assert not secrets.is_outdated(kept)


def test_a_cookie_is_renewed_and_the_one_before_ends(house):
    person(house.ws, "mira")
    client = house.client()
    sign_in(client, "mira")
    first = client.cookies["juxtaform"]
    older = now() - RENEWED_AFTER - timedelta(minutes=1)
    with house.ws.database.session() as s:
        s.query(SignIn).one().renewed_at = older
    client.get("/api/me")
    second = client.cookies["juxtaform"]
    assert second != first
    with_first = client_on(house.app, cookies={"juxtaform": first})
    assert with_first.get("/api/me").json()["person"], "a request that was on its way is answered"
    with house.ws.database.session() as s:
        s.query(SignIn).one().renewed_at = now() - EARLIER_HOLDS - timedelta(seconds=1)
    assert with_first.get("/api/me").json()["person"] is None
    assert client.get("/api/me").json()["person"]
    with house.ws.database.session() as s:
        s.query(SignIn).one().seen_at = now() - RESTS - timedelta(minutes=1)
    assert client.get("/api/me").json()["person"] is None


def test_signing_out_and_another_password_end_what_was_open(house):
    person(house.ws, "mira")
    here, there = house.client(), house.client()
    sign_in(here, "mira")
    sign_in(there, "mira")
    token = here.post("/api/me/tokens", json={"name": "script", "scope": "read"}).json()["secret"]
    assert len(here.get("/api/me/sign-ins").json()) == 2
    program = house.client(token=token)
    assert program.get("/api/projects").status_code == 200
    assert here.put("/api/me/password", json={"old": "no", "new": "nine long winters"}).status_code == 401
    assert here.put("/api/me/password", json={"old": PASSWORD, "new": "password1234"}).status_code == 422
    assert here.put("/api/me/password", json={"old": PASSWORD, "new": "nine long winters"}).status_code == 200
    assert here.get("/api/projects").status_code == 200
    assert there.get("/api/projects").status_code == 401
    assert program.get("/api/projects").status_code == 401
    out = here.post("/api/me/sign-out")
    assert out.headers["clear-site-data"] == '"cache", "storage"'
    assert here.get("/api/projects").status_code == 401


@pytest.mark.parametrize(
    "poor", ["short", "password1234", "juxtaform2026", "mira mira mira", "aaaaaaaaaaaaaa", "qwertyuiop", "x" * 300]
)
def test_poor_passwords_are_refused_with_what_to_do(house, poor):
    answer = join(house.client(), invitations.first(house.ws), "mira", "Mira", poor)
    assert answer.status_code == 422
    assert "assword" in answer.text


def test_a_link_into_a_project_makes_an_account_or_lets_in_who_has_one(house):
    mira, tomas = person(house.ws, "mira", keeper=True), person(house.ws, "tomas")
    project = projects.make(house.ws, "A story", mira.id)
    owner = house.client(mira)
    ask = lambda role: owner.post(f"/api/projects/{project}/invitations", json={"role": role}).json()["path"]  # noqa: E731
    known = house.client(tomas)
    joined = known.post("/api/me/joined", json={"secret": ask("reviewer").split("#")[1], "as_known": True})
    assert joined.json()["project_id"] == project
    fresh = house.client()
    assert join(fresh, ask("illustrator"), "nuria", "Nuria").json()["project_id"] == project
    roles = {m["login"]: m["role"] for m in owner.get(f"/api/projects/{project}/members").json()}
    assert roles == {"mira": "owner", "tomas": "reviewer", "nuria": "illustrator"}
    ask("owner")
    waiting = owner.get(f"/api/projects/{project}/invitations").json()
    assert [w["role"] for w in waiting] == ["owner"]
    owner.delete(f"/api/projects/{project}/invitations/{waiting[0]['id']}")
    assert not owner.get(f"/api/projects/{project}/invitations").json()
    out = owner.delete(f"/api/projects/{project}/members/{tomas.id}").json()
    assert {m["login"] for m in out} == {"mira", "nuria"}
    assert known.get(f"/api/projects/{project}").status_code == 404


def test_a_lost_password_is_helped_by_the_keeper_and_a_closed_account_opens_nothing(house):
    mira, tomas = person(house.ws, "mira", keeper=True), person(house.ws, "tomas")
    keeper, theirs = house.client(mira), house.client(tomas)
    link = keeper.post(f"/api/accounts/{tomas.id}/password-link").json()["path"]
    fresh = house.client()
    assert fresh.post("/api/me/invited", json={"secret": link.split("#")[1]}).json()["login"] == "tomas"
    assert join(fresh, link, password="nine long winters").status_code == 201
    assert theirs.get("/api/projects").status_code == 401
    assert sign_in(house.client(), "tomas", "nine long winters").status_code == 200
    closed = keeper.put(f"/api/accounts/{tomas.id}/closed", json={"closed": True}).json()
    assert [a["login"] for a in closed if a["closed"]] == ["tomas"]
    assert fresh.get("/api/projects").status_code == 401
    assert sign_in(house.client(), "tomas", "nine long winters").status_code == 401
    only = keeper.put(f"/api/accounts/{mira.id}/closed", json={"closed": True})
    assert only.status_code == 422


def test_a_token_has_a_scope_an_end_and_is_never_told_again(house):
    mira = person(house.ws, "mira")
    client = house.client(mira)
    made = client.post("/api/me/tokens", json={"name": "report", "scope": "read", "days": 30}).json()
    assert made["secret"].startswith("jxf_")
    assert made["secret"] not in client.get("/api/me/tokens").text
    program = house.client(token=made["secret"])
    assert program.get("/api/projects").status_code == 200
    assert program.post("/api/projects", json={"title": "No"}).status_code == 403
    assert program.get("/api/me/tokens").status_code == 403
    with house.ws.database.session() as s:
        kept = s.query(ApiToken).one()
        assert kept.digest == secrets.digest(made["secret"])
        kept.ends_at = now() - timedelta(seconds=1)
    assert program.get("/api/projects").status_code == 401
    client.delete(f"/api/me/tokens/{made['token']['id']}")
    assert client.get("/api/me/tokens").json() == []


def test_no_secret_lies_in_the_database_as_it_is(house):
    mira = person(house.ws, "mira", keeper=True)
    client = house.client()
    sign_in(client, "mira")
    link = invitations.to_account(house.ws, mira.id)
    with house.ws.database.session() as s:
        kept = [s.query(Account).one().password, s.query(SignIn).one().digest, s.query(Invitation).one().digest]
    assert kept[0].startswith("$argon2id$")
    for secret in (PASSWORD, client.cookies["juxtaform"], link):
        assert not any(secret in k for k in kept)


@pytest.mark.parametrize(
    ("headers", "status"),
    [
        ({"origin": "http://evil.example"}, 403),
        ({"origin": "null"}, 403),
        ({"sec-fetch-site": "cross-site"}, 403),
        ({"sec-fetch-site": "same-site"}, 403),
        ({"origin": "http://127.0.0.1", "sec-fetch-site": "same-origin"}, 201),
        ({"host": "evil.example"}, 400),
    ],
)
def test_a_strangers_page_changes_nothing_and_reads_nothing(house, headers, status):
    client = house.client(person(house.ws, "mira"))
    assert client.post("/api/projects", json={"title": "A"}, headers=headers).status_code == status
    if "sec-fetch-site" in headers:
        assert client.get("/api/projects", headers=headers).status_code == (403 if status == 403 else 200)


def test_what_pages_may_load_is_said_without_anything_inline(house):
    assert "unsafe" not in POLICY
    for path in ("/", "/api/docs", "/api/projects"):
        policy = house.client().get(path).headers["content-security-policy"]
        assert "unsafe" not in policy
        assert "default-src 'self'" in policy or "default-src 'none'" in policy
        assert "frame-ancestors 'none'" in policy


def test_behind_a_proxy_its_own_origin_is_let_in_and_its_name_answered(house):
    mira = person(house.ws, "mira")
    app = create_app(
        house.ws, house.checker, Entrance(["127.0.0.1", "story.example.org"], "https://story.example.org", True)
    )
    client = TestClient(
        app,
        base_url="http://story.example.org",
        cookies={"juxtaform": accounts.sign_in(house.ws, "mira", PASSWORD, "", "", "").cookie},
    )
    assert (
        client.post("/api/projects", json={"title": "A"}, headers={"origin": "https://story.example.org"}).status_code
        == 201
    )
    assert (
        client.post("/api/projects", json={"title": "A"}, headers={"origin": "https://other.example.org"}).status_code
        == 403
    )
    assert client.post("/understudy/text-assist/v1/offers", json={}).status_code == 404
    joins(house.ws, projects.make(house.ws, "B"), mira, "owner")


def test_odd_input_at_the_door_is_told_and_breaks_nothing(house):
    mira = person(house.ws, "mira", keeper=True)
    client = house.client(mira, raise_server_exceptions=False)
    project = projects.make(house.ws, "A story", mira.id)
    odd = ("", "\u0000", "x" * 5000, None, -1, [], {}, "\ud800")
    routes = [
        ("POST", "/api/me/sign-in", {"login": "a", "password": "b"}),
        ("POST", "/api/me/joined", {"secret": "s", "login": "a", "name": "n", "password": "p", "as_known": False}),
        ("POST", "/api/me/invited", {"secret": "s"}),
        ("PATCH", "/api/me", {"name": "Mira"}),
        ("PUT", "/api/me/password", {"old": "a", "new": "b"}),
        ("POST", "/api/me/tokens", {"name": "t", "scope": "read", "project_id": project, "days": 3}),
        ("POST", f"/api/projects/{project}/invitations", {"role": "reviewer"}),
        ("PUT", f"/api/projects/{project}/members/{mira.id}", {"role": "owner"}),
        ("PUT", f"/api/accounts/{mira.id}/closed", {"closed": False}),
    ]
    for method, path, good in routes:
        for key in good:
            for worse in odd:
                content = json.dumps({**good, key: worse})
                answer = client.request(method, path, content=content, headers={"content-type": "application/json"})
                assert answer.status_code < 500, (path, key, worse, answer.text)
                if answer.status_code >= 400:
                    assert answer.json()["detail"]


def test_who_asks_is_known_by_one_question_and_what_changes_holds_at_once(house):
    ws = house.ws
    mira = person(ws, "mira", keeper=True)
    project = projects.make(ws, "Hers")
    cookie = accounts_cookie(ws, mira)
    assert accounts.known_at_once(ws, cookie, project) == (mira, None)
    client = house.client(mira)
    assert client.get(f"/api/projects/{project}").status_code == 404
    joins(ws, project, mira, "reviewer")
    assert accounts.known_at_once(ws, cookie, project) == (mira, "reviewer")
    assert client.get(f"/api/projects/{project}").status_code == 200
    assert client.post(f"/api/projects/{project}/scenes", json={}).status_code == 403
    with ws.database.session() as s:
        s.execute(delete(Member).where(Member.account_id == mira.id))
    assert client.get(f"/api/projects/{project}").status_code == 404
    with ws.database.session() as s:  # What is to be written down is left to the longer way.
        s.execute(update(SignIn).values(seen_at=now() - accounts.SEEN_AGAIN - timedelta(seconds=1)))
    assert accounts.known_at_once(ws, cookie, project) is None
    assert accounts.known(ws, cookie) == (mira, None)
    assert accounts.known_at_once(ws, cookie, None) == (mira, None)
    accounts.sign_out(ws, cookie)
    assert accounts.known_at_once(ws, cookie, project) is None
