"""Pictures measured by workers elsewhere: the same to the byte however many there are, whoever dies, and wherever the pictures lie."""

import os
import signal
import subprocess
import sys
import threading
import time
from contextlib import contextmanager

import numpy as np
import pytest

from juxtaform.media import shared
from juxtaform.media.decode import decoded_file
from juxtaform.media.store import PictureStore
from juxtaform.studio import measuring
from juxtaform.studio.far import Far
from juxtaform.studio.measuring import PictureTask, Workers, done_by_workers, measure_task, to_text
from tests.conftest import png
from tests.constructed import scene

QUIET = {**os.environ, "PYTHONWARNINGS": "ignore"}


@pytest.fixture(scope="module")
def pictures(tmp_path_factory):
    """A store with pictures, and a task for each."""
    store = PictureStore(tmp_path_factory.mktemp("far") / "pictures")
    rng = np.random.default_rng(4)
    shas = [store.put(png(scene([], rng, ground=i % 10)[0][:240, :360])).sha for i in range(9)]
    return store, [PictureTask(str(store.path(sha)), sha, (), ()) for sha in shas]


@pytest.fixture(scope="module")
def alone(pictures, checker):
    """What comes of them on this machine."""
    return texts(done_by_workers(measure_task, pictures[1], checker.workers.executor()))


def texts(measures):
    return {m.key: to_text(m.measure) for m in measures}


@contextmanager
def process(*command, ready, **environment):
    """A process of ours, once it says that it is ready."""
    started = subprocess.Popen(
        [sys.executable, *command],
        env={**QUIET, **environment},
        stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT,
        text=True,
        start_new_session=True,
    )
    said = []
    for line in started.stdout:
        said.append(line)
        if ready in line:
            break
    else:
        raise AssertionError("".join(said))
    threading.Thread(target=lambda: list(started.stdout), daemon=True).start()
    try:
        yield started, "".join(said)
    finally:
        os.killpg(started.pid, signal.SIGKILL)
        started.wait()


@contextmanager
def scheduler():
    command = ("-m", "distributed.cli.dask_scheduler", "--host", "127.0.0.1", "--port", "0", "--no-dashboard")
    with process(*command, ready="Scheduler at:") as (started, said):
        yield started, next(w for w in said.split() if w.startswith("tcp://"))


@pytest.fixture(scope="module")
def asked():
    """The address of a scheduler that nobody kills."""
    with scheduler() as (_, address):
        yield address


@contextmanager
def workers(address, count, copies, **environment):
    command = ("-m", "juxtaform.cli", "worker", address, "--processes", str(count), "--copies", str(copies))
    with process(*command, ready="measure pictures for", **environment) as (started, _):
        yield started


@pytest.fixture
def far(monkeypatch):
    made = []

    def at(address):
        monkeypatch.setenv(measuring.SCHEDULER_VARIABLE, address)
        made.append(Workers())
        return made[-1]

    yield at
    for w in made:
        w.close()


@pytest.mark.parametrize("count", [1, 4])
def test_one_and_four_workers_measure_the_same_to_the_byte(pictures, alone, far, asked, tmp_path, count):
    with workers(asked, count, tmp_path / "copies"):
        assert texts(far(asked).done(measure_task, pictures[1])) == alone


@pytest.mark.kill
def test_a_worker_of_two_that_is_killed_half_way_changes_nothing(pictures, alone, far, asked, tmp_path):
    with workers(asked, 2, tmp_path / "copies") as started:
        going, found = far(asked).done(measure_task, pictures[1]), {}
        for done, m in enumerate(going):
            found[m.key] = to_text(m.measure)
            if done == 1:
                os.kill(children(started.pid)[0], signal.SIGKILL)
        assert found == alone


@pytest.mark.kill
def test_a_scheduler_that_is_killed_half_way_is_gone_on_without(pictures, alone, far, tmp_path):
    with scheduler() as (started, address), workers(address, 1, tmp_path / "copies"):
        own, found = far(address), []
        for done, m in enumerate(own.done(measure_task, pictures[1])):
            found.append((m.key, to_text(m.measure)))
            if done == 0:
                os.killpg(started.pid, signal.SIGKILL)
        assert dict(found) == alone
        assert len(found) == len(alone), "none is told twice"
        began = time.monotonic()
        assert texts(own.done(measure_task, pictures[1][:2])).items() <= alone.items()
        assert time.monotonic() - began < 60, "it is not asked again at once"


def test_without_workers_and_with_others_of_another_version_it_is_done_here(
    pictures, alone, far, tmp_path, monkeypatch, caplog
):
    with scheduler() as (_, address):
        monkeypatch.setattr("juxtaform.studio.far.REACH_S", 3.0)
        assert texts(far(address).done(measure_task, pictures[1][:3])).items() <= alone.items()
        assert "no workers yet" in caplog.text
        with workers(address, 1, tmp_path / "copies"):
            monkeypatch.setattr("juxtaform.studio.far.MEASURE_VERSION", "another")
            assert not Far(address).is_reached()
            assert "would measure otherwise" in caplog.text
    assert not Far("tcp://127.0.0.1:9").is_reached()


def test_stopping_is_quick_and_progress_is_told(pictures, far, asked, tmp_path):
    with workers(asked, 1, tmp_path / "copies"):
        going = far(asked).done(measure_task, pictures[1] * 20)
        assert next(going).measure is not None
        began = time.monotonic()
        going.close()
        assert time.monotonic() - began < 5


@pytest.fixture(scope="module")
def bucket():
    """An S3-compatible server on loopback, with a bucket."""
    from moto.server import ThreadedMotoServer

    server = ThreadedMotoServer("127.0.0.1", 0, verbose=False)
    server.start()
    host, port = server.get_host_and_port()
    settings = {
        "FSSPEC_S3_ENDPOINT_URL": f"http://{host}:{port}",
        "FSSPEC_S3_KEY": "key",
        "FSSPEC_S3_SECRET": "secret",
        "AWS_DEFAULT_REGION": "us-east-1",
    }
    import s3fs

    s3fs.S3FileSystem(key="key", secret="secret", endpoint_url=settings["FSSPEC_S3_ENDPOINT_URL"]).mkdir("story")
    yield settings
    server.stop()


@pytest.fixture(params=["a shared folder", "an S3-compatible store"])
def where(request, tmp_path, monkeypatch):
    """The address of a store that all reach, and what is told of it."""
    if request.param == "a shared folder":
        settings = {}
        address = f"file://{tmp_path}/shared"
    else:
        settings = request.getfixturevalue("bucket")
        address = f"s3://story/{tmp_path.name}"
        from fsspec.config import conf, set_conf_env

        monkeypatch.setitem(conf, "s3", {})
        set_conf_env(conf, settings)
    settings = {**settings, shared.STORE_VARIABLE: address}
    for name, value in settings.items():
        monkeypatch.setenv(name, value)
    shared._at.cache_clear()
    yield settings
    shared._at.cache_clear()


def test_workers_without_the_servers_files_fetch_pictures_from_the_shared_store(
    where, alone, pictures, far, asked, tmp_path
):
    store = PictureStore(tmp_path / "pictures")
    tasks = []
    for task in pictures[1][:6]:
        sha = store.put(open(task.path, "rb").read()).sha  # noqa: SIM115
        tasks.append(PictureTask(f"/nowhere/{sha[:2]}/{sha}", sha, (), ()))
    with workers(asked, 2, tmp_path / "copies", **where):
        assert texts(far(asked).done(measure_task, tasks)).items() <= alone.items()
    assert len(list((tmp_path / "copies").glob("??/*"))) == 6


def test_another_server_has_what_one_took_in_and_damage_is_told(where, tmp_path):
    data = png(scene([], np.random.default_rng(1), ground=3)[0][:120, :160])
    one, other = PictureStore(tmp_path / "one"), PictureStore(tmp_path / "other")
    sha = one.put(data).sha
    assert other.path(sha).read_bytes() == data
    assert other.thumb_path(sha, 240).exists()
    one.put_clip(sha, b"a clip")
    assert other.clip_path(sha).read_bytes() == b"a clip"
    assert not other.path("0" * 64).exists()
    kept = shared.shared()
    (tmp_path / "spoiled").write_bytes(b"spoiled")
    kept.put(tmp_path / "spoiled", f"{sha[:2]}/{sha}")
    with pytest.raises(shared.SharedWrong, match="damaged"):
        PictureStore(tmp_path / "third").path(sha)
    with pytest.raises(ValueError, match=r"damaged|cannot be read"):
        decoded_file(tmp_path / "fourth" / sha[:2] / sha)
    assert one.unshared([sha]) == []
    one.forget(sha)
    assert not kept.has(f"{sha[:2]}/{sha}")


def children(pid):
    """The processes that measure, below a worker's own."""
    import psutil

    return [p.pid for p in psutil.Process(pid).children(recursive=True) if "spawn_main" in " ".join(p.cmdline())]
