"""From where the server is reached: by which names, when it listens, and what is told of what cannot be."""

import socket
import time
import urllib.error
import urllib.request

import pytest

from juxtaform import reach as room
from juxtaform.mariadb import free_port
from juxtaform.reach import CannotReach, Reach, open_once_somebody_is_known
from juxtaform.studio import accounts
from juxtaform.web.app import create_app
from juxtaform.web.doors import LOCAL_HOSTS
from tests.conftest import empty_workspace
from tests.people import PASSWORD


def test_without_anything_it_is_this_machine_alone():
    for plain in (Reach(), Reach(host="127.0.0.1"), Reach(host="localhost"), Reach(host="::1")):
        assert not plain.from_elsewhere
        assert list(plain.entrance().hosts) == list(LOCAL_HOSTS)


def test_behind_a_proxy_it_answers_to_that_name_and_takes_its_origin():
    reach = Reach(public="https://story.example.org:8443/", names=["studio"])
    entrance = reach.entrance()
    assert (entrance.from_elsewhere, entrance.public) == (True, "https://story.example.org:8443")
    assert list(entrance.hosts) == [*LOCAL_HOSTS, "studio", "story.example.org"]
    assert reach.address(8765) == "https://story.example.org:8443"


def test_an_address_of_its_own_is_a_name_too(tmp_path):
    for name in ("a.pem", "a.key"):
        (tmp_path / name).write_text("x")
    reach = Reach("192.0.2.7", certificate=tmp_path / "a.pem", key=tmp_path / "a.key")
    assert {"192.0.2.7", socket.gethostname()} <= set(reach.entrance().hosts)
    assert reach.address(8765) == "https://192.0.2.7:8765"


def test_all_addresses_are_those_that_it_has_but_loopback(monkeypatch):
    class Address:
        def __init__(self, family, address):
            self.family, self.address = family, address

    found = {
        "lo": [Address(socket.AF_INET, "127.0.0.1"), Address(socket.AF_INET6, "::1")],
        "eth0": [
            Address(socket.AF_INET, "192.0.2.7"),
            Address(socket.AF_INET6, "2001:db8::7"),
            Address(socket.AF_INET6, "fe80::1%eth0"),
        ],
    }
    monkeypatch.setattr(room.psutil, "net_if_addrs", lambda: found)
    assert Reach("0.0.0.0").address(80) == "http://192.0.2.7:80"
    names = Reach("::").entrance().hosts
    assert {"192.0.2.7", "[2001:db8::7]"} <= set(names)
    assert not [n for n in names if "%" in n or n == "::1"]


@pytest.mark.parametrize(
    ("options", "words"),
    [
        ({"public": "story.example.org"}, "--public is the address"),
        ({"public": "ftp://story.example.org"}, "--public is the address"),
        ({"public": "https://story.example.org/path"}, "--public is the address"),
        ({"host": "192.0.2.7", "certificate": "a.pem"}, "go together"),
        ({"host": "192.0.2.7", "certificate": "a.pem", "key": "a.key"}, "is not there"),
    ],
)
def test_what_cannot_be_is_told_at_once(tmp_path, options, words):
    given = {k: tmp_path / v if k in ("certificate", "key") else v for k, v in options.items()}
    with pytest.raises(CannotReach, match=words):
        Reach(**given)


def test_nobody_comes_in_from_elsewhere_before_the_first_account_is_made(server, checker, tmp_path, monkeypatch):
    """Another loopback address stands for one outside."""
    monkeypatch.setattr(room, "_is_loopback", lambda host: host == "127.0.0.1")
    port = free_port()
    address = f"http://127.0.0.2:{port}/api/me"
    with empty_workspace(server, tmp_path / "pictures") as ws:
        reach = Reach("127.0.0.2")
        app = create_app(ws, checker, reach.entrance())
        outside = open_once_somebody_is_known(app, reach, port)
        try:
            with pytest.raises(urllib.error.URLError):
                urllib.request.urlopen(address, timeout=2)
            with ws.database.session() as s:
                accounts.make(s, "mira", "Mira", PASSWORD, keeper=True)
            app.state.doorkeeper.first_made()
            patience = time.monotonic() + 20
            while True:
                try:
                    assert urllib.request.urlopen(address, timeout=5).status == 200
                    break
                except (urllib.error.URLError, ConnectionError):
                    if time.monotonic() > patience:
                        pytest.fail("it does not listen")
                    time.sleep(0.02)
        finally:
            outside.stop()


def test_a_port_that_is_taken_is_told_before_anything_starts(ws, checker):
    with socket.create_server(("127.0.0.3", 0)) as taken:
        port = taken.getsockname()[1]
        with pytest.raises(CannotReach, match="cannot be listened on"):
            room.OutsideServer(create_app(ws, checker), Reach("127.0.0.3"), port)
