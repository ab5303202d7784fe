"""A second factor: set up by its first code, asked for at every sign-in, spare codes, lost ones, and a house where everybody has to have one."""

import time
from types import SimpleNamespace

import pyotp
import pytest
from typer.testing import CliRunner

from juxtaform import at_hand, cli
from juxtaform.records.people import SpareCode
from juxtaform.studio import invitations, projects, second
from juxtaform.studio.second import STEP_S
from juxtaform.web.app import Entrance, create_app
from tests.conftest import client_on, empty_workspace
from tests.people import AT, PASSWORD, House, accounts_cookie, person, without_people


@pytest.fixture(scope="module")
def empty(server, checker, tmp_path_factory):
    with empty_workspace(server, tmp_path_factory.mktemp("pictures")) as ws:
        yield House(ws, checker)


@pytest.fixture
def house(empty):
    return without_people(empty)


@pytest.fixture
def clock(monkeypatch):
    """A clock that goes on when it is told to, so that no test waits half a minute for the next code."""

    class Clock:
        at = time.time()

        def goes_on(self, seconds=STEP_S):
            self.at += seconds

    made = Clock()
    monkeypatch.setattr(second, "time", SimpleNamespace(time=lambda: made.at))
    return made


def code_of(secret, at):
    return pyotp.TOTP(secret).at(int(at))


def set_up(client, clock):
    """Turn a second factor on; its secret and the spare codes."""
    secret = client.post("/api/me/second").json()["secret"]
    done = client.put("/api/me/second", json={"password": PASSWORD, "code": code_of(secret, clock.at)})
    assert done.status_code == 200, done.text
    clock.goes_on()
    return secret, done.json()["codes"]


def sign_in(client, code="", password=PASSWORD, login="mira"):
    return client.post("/api/me/sign-in", json={"login": login, "password": password, "code": code})


def test_it_counts_from_its_first_code_on_and_is_asked_for_at_every_sign_in(house, clock):
    client = house.client(person(house.ws, "mira"))
    assert client.get("/api/me/second").json() == {"on": False, "spare_left": 0}
    offer = client.post("/api/me/second").json()
    assert offer["address"].startswith("otpauth://totp/Juxtaform:mira?secret=" + offer["secret"])
    assert {len(row) for row in offer["square"]} == {len(offer["square"])}
    assert sign_in(house.client()).status_code == 200, "an offer alone asks nobody for anything"
    wrong = client.put("/api/me/second", json={"password": PASSWORD, "code": "000000"})
    assert (wrong.status_code, wrong.json()["title"]) == (401, "Code wanted")
    assert client.put("/api/me/second", json={"password": "not this", "code": "000000"}).json()["title"] == "Wrong"
    clock.goes_on()
    secret, codes = set_up(client, clock)
    assert len(set(codes)) == 10
    assert client.get("/api/me").json()["person"]["second"] is True
    assert client.get("/api/me/second").json() == {"on": True, "spare_left": 10}
    assert client.post("/api/me/second").status_code == 422, "there is one already"
    other = house.client()
    assert sign_in(other).json()["title"] == "Code wanted"
    assert other.get("/api/me").json()["person"] is None
    assert sign_in(other, code_of(secret, clock.at), "not this").json()["title"] == "Wrong"
    assert sign_in(other, code_of(secret, clock.at)).status_code == 200
    assert other.get("/api/me").json()["person"]["login"] == "mira"


def test_a_code_opens_once_and_a_clock_may_be_half_a_minute_out(house, clock):
    client = house.client(person(house.ws, "mira"))
    secret, _ = set_up(client, clock)
    early = code_of(secret, clock.at + STEP_S)
    assert sign_in(house.client(), early).status_code == 200
    assert sign_in(house.client(), early).status_code == 401, "the same code again"
    assert sign_in(house.client(), code_of(secret, clock.at)).status_code == 401, "an earlier one than was used"
    clock.goes_on(10 * STEP_S)
    assert sign_in(house.client(), code_of(secret, clock.at - 3 * STEP_S)).status_code == 401, "too old"
    late = code_of(secret, clock.at - STEP_S)
    assert sign_in(house.client(), f" {late[:3]} {late[3:]} ").status_code == 200, "as the app writes it"


def test_whoever_guesses_codes_waits(house, clock):
    client = house.client(person(house.ws, "mira"))
    secret, _ = set_up(client, clock)
    for _ in range(5):
        assert sign_in(house.client(), "123456").status_code == 401
    slowed = sign_in(house.client(), code_of(secret, clock.at))
    assert slowed.status_code == 429
    assert int(slowed.headers["retry-after"]) >= 1


def test_a_spare_code_opens_once_however_it_is_typed_and_only_its_own_account(house, clock):
    client = house.client(person(house.ws, "mira"))
    _, codes = set_up(client, clock)
    tomas = house.client(person(house.ws, "tomas"))
    set_up(tomas, clock)
    assert sign_in(house.client(), codes[0], login="tomas").status_code == 401
    assert sign_in(house.client(), codes[0].upper().replace("-", " ")).status_code == 200
    assert sign_in(house.client(), codes[0]).status_code == 401
    assert client.get("/api/me/second").json() == {"on": True, "spare_left": 9}
    with house.ws.database.session() as s:
        kept = [r.digest for r in s.query(SpareCode)]
    assert not any(c.replace("-", "") in k for c in codes for k in kept), "what is kept opens nothing"


def test_it_is_taken_off_by_password_and_code_or_by_who_looks_after_accounts_or_in_the_terminal(
    house, clock, monkeypatch
):
    mira = person(house.ws, "mira")
    client = house.client(mira)
    _, codes = set_up(client, clock)
    off = lambda code, password=PASSWORD: client.post("/api/me/second/off", json={"password": password, "code": code})  # noqa: E731
    assert off(codes[1], "not this").status_code == 401
    assert off("").status_code == 401
    assert off(codes[1]).status_code == 204
    assert sign_in(house.client()).status_code == 200
    set_up(client, clock)
    keeper = house.client(person(house.ws, "anna", keeper=True))
    assert client.delete(f"/api/accounts/{mira.id}/second").status_code == 403
    cards = keeper.delete(f"/api/accounts/{mira.id}/second").json()
    assert [c["second"] for c in cards if c["login"] == "mira"] == [False]
    assert sign_in(house.client()).status_code == 200
    set_up(client, clock)

    @at_hand.contextlib.contextmanager
    def here(_):
        yield house.ws

    monkeypatch.setattr(at_hand, "at_hand", here)
    told = CliRunner().invoke(cli.app, ["accounts", "--without-second", "Mira"])
    assert (told.exit_code, "no second factor any more" in told.output) == (0, True), told.output
    assert sign_in(house.client()).status_code == 200


def test_a_link_to_a_new_password_asks_for_a_code_too_and_stays_good_until_one_holds(house, clock):
    mira = person(house.ws, "mira")
    secret, _ = set_up(house.client(mira), clock)
    link = invitations.to_password(house.ws, mira.id)
    browser = house.client()
    assert browser.post("/api/me/invited", json={"secret": link}).json()["second"] is True
    use = lambda code, password="another set of lanterns": browser.post(  # noqa: E731
        "/api/me/joined", json={"secret": link, "password": password, "code": code}
    )
    assert use("").json()["title"] == "Code wanted"
    assert use("999999").status_code == 401
    poor = use(code_of(secret, clock.at), "password1234")
    assert (poor.status_code, "easy to guess" in poor.json()["detail"]) == (422, True)
    assert use(code_of(secret, clock.at)).status_code == 201, "the code is not used up for a poor password"
    clock.goes_on()
    assert sign_in(house.client(), code_of(secret, clock.at), "another set of lanterns").status_code == 200


def test_where_everybody_has_to_have_one_nothing_else_is_open_before(house, clock):
    app = create_app(house.ws, house.checker, Entrance(from_elsewhere=True, second_wanted=True))
    mira = person(house.ws, "mira")
    project = projects.make(house.ws, "A test")
    token = house.token(mira)
    client = client_on(app, base_url=AT)
    client.cookies.set("juxtaform", accounts_cookie(house.ws, mira))
    assert client.get("/api/me").json()["second_wanted"] is True
    for path in ("/api/projects", f"/api/projects/{project}", "/api/accounts"):
        told = client.get(path)
        assert (told.status_code, "second factor" in told.json()["detail"]) == (403, True)
    program = client_on(app, base_url=AT, headers={"authorization": f"Bearer {token}"})
    assert program.get("/api/projects").status_code == 403, "nor to a program of theirs"
    set_up(client, clock)
    assert client.get("/api/projects").status_code == 200
    assert program.get("/api/projects").status_code == 200
