"""Bundles: a round trip gives the same bytes, beside its original or elsewhere; a bad bundle is refused by name and leaves nothing."""

import io
import itertools
import json
import zipfile

import numpy as np
import pytest
from sqlalchemy import select

from juxtaform.formats.manifest import read as read_manifest
from juxtaform.media.store import PictureStore
from juxtaform.records.models import Picture
from juxtaform.studio import bundles, library, plan, projects, taste, threads
from juxtaform.studio.findings import Findings, let_stand
from juxtaform.studio.workspace import NotPossible, Workspace
from juxtaform.web.rows import SnapshotOut
from tests.conftest import Staged, covered_in, joined, migrated, rows, text_in


@pytest.fixture(scope="module")
def staged(ws):
    made = Staged(ws)
    threads.edit(
        ws,
        made.project,
        made.ada,
        {
            "wording": "Ada – “naïve” 🦀",
            "costumes": [{"name": "coat", "wording": "Red", "time": "", "weather": "", "damage": ""}],
        },
        None,
    )
    projects.edit(ws, made.project, {"aspect": "3:2", "style_id": made.style, "donts": ["lettering"]}, None)
    plan.edit_shot(ws, made.project, made.shots[1], {"aspect": "1:1"}, None)
    first = library.search(ws, made.project, library.Search()).items
    library.tag(ws, made.project, [first[0].id], ["good"], [])
    taste.choose(ws, made.project, first[0].sha, first[1].sha, "left")
    look = Findings(ws)
    look.stet(made.project, look.of(made.project, "brief")[0].key, "As it should be")
    return made


def given(ws, project):
    out = io.BytesIO()
    bundles.give_out(ws, project, out)
    return out.getvalue()


@pytest.fixture(scope="module")
def data(ws, staged):
    return given(ws, staged.project)


def another(server, folder):
    """A workspace of its own, with nothing in it."""
    database = migrated(server)
    yield Workspace(database, PictureStore(folder / "pictures"))
    database.close()


@pytest.fixture
def elsewhere(server, tmp_path):
    yield from another(server, tmp_path)


@pytest.fixture(scope="module")
def empty(server, tmp_path_factory):
    yield from another(server, tmp_path_factory.mktemp("empty"))


def take_in(ws, data):
    return bundles.take_in(ws, io.BytesIO(data), "given.zip")


def remade(data, changed=None, drop=(), add=()):
    """The bundle with entries changed by a function of their bytes, dropped, or added."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(data)) as old, zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as new:
        for info in old.infolist():
            if info.filename in drop:
                continue
            body = old.read(info)
            new.writestr(info, (changed or {}).get(info.filename, lambda b: b)(body))
        for name, body in add:
            new.writestr(name, body)
    return out.getvalue()


def told(**values):
    return lambda body: json.dumps({**json.loads(body), **values}).encode()


def row_changed(table, **values):
    def change(body):
        whole = json.loads(body)
        whole["tables"][table][0].update(values)
        return json.dumps(whole).encode()

    return change


def older(end=None):
    """As a bundle was before a text had parts: the text whole in the project, and what a shot covers by characters of it."""

    def change(body):
        whole = json.loads(body)
        parts = sorted(whole["tables"].pop("text_part"), key=lambda p: p["position"])
        starts = dict(zip((p["id"] for p in parts), itertools.accumulate(len(p["words"]) for p in parts), strict=True))
        starts = {p["id"]: starts[p["id"]] - len(p["words"]) for p in parts}
        whole["tables"]["project"][0]["text"] = joined(parts)
        for shot in whole["tables"]["shot"]:
            for side in ("start", "end"):
                part, at = shot.pop(f"{side}_part_id"), shot.pop(f"{side}_at")
                shot[f"span_{side}"] = None if part is None else starts[part] + at
        if end is not None:
            whole["tables"]["shot"][0]["span_end"] = end
        return json.dumps(whole).encode()

    return change


def test_an_older_bundle_brings_its_text_and_what_its_shots_cover(ws, staged, data, elsewhere):
    project = take_in(elsewhere, remade(data, {"bundle.json": older()}))
    assert text_in(elsewhere, project) == text_in(ws, staged.project) != ""
    assert covered_in(elsewhere, project) == covered_in(ws, staged.project)
    assert any(covered_in(elsewhere, project))


def test_the_same_project_gives_the_same_bytes(ws, staged, data):
    assert given(ws, staged.project) == data


def test_a_round_trip_into_another_workspace_gives_the_same_bytes_and_keeps_stets(ws, staged, data, elsewhere):
    project = take_in(elsewhere, data)
    assert project == staged.project
    assert given(elsewhere, project) == data
    assert Findings(elsewhere).of(project, "brief")[0].key in let_stand(elsewhere, project)
    assert rows(elsewhere, project, "thread")[0]["wording"] == "Ada – “naïve” 🦀"
    assert len(list(elsewhere.store.root.rglob("*"))) > 10


def test_what_it_brings_is_measured_on_arrival(data, elsewhere):
    project = take_in(elsewhere, data)
    assert any(f.kind == "unfit_reference" for f in Findings(elsewhere).of(project))


def test_beside_its_original_it_is_a_copy_of_its_own(ws, staged, data):
    copy = take_in(ws, data)
    assert copy != staged.project
    ours, theirs = ([t["name"] for t in rows(ws, p, "thread")] for p in (staged.project, copy))
    assert ours == theirs
    beads = rows(ws, copy, "bead")
    shots = {s["id"] for s in rows(ws, copy, "shot")}
    assert all(b["shot_id"] in shots for b in beads)
    made_from = [t["made_from"]["references"] for t in rows(ws, copy, "take")]
    references = {r["id"] for r in rows(ws, copy, "reference")}
    assert all(set(m) <= references for m in made_from)
    assert rows(ws, copy, "project")[0]["style_id"] in {t["id"] for t in rows(ws, copy, "thread")}
    projects.remove(ws, copy)
    assert rows(ws, staged.project, "thread")


def test_it_holds_the_manifest_of_the_check_and_marks_as_web_annotations(data, tmp_path):
    zipfile.ZipFile(io.BytesIO(data)).extractall(tmp_path)
    manifest = read_manifest(tmp_path / "manifest.json")
    assert len(manifest.shots) == 4
    assert all((tmp_path / s.picture).is_file() for s in manifest.shots)
    assert sum(len(s.appearances) for s in manifest.shots) == 4
    marks = json.loads((tmp_path / "marks.json").read_text())
    assert marks["type"] == "AnnotationCollection"
    item = marks["first"]["items"][0]
    assert item["target"]["selector"]["value"].startswith("xywh=pixel:")
    assert (tmp_path / item["target"]["source"]).is_file()


BAD = [
    (lambda d: b"no zip at all", "no zip file"),
    (lambda d: d[: len(d) // 2], "no zip file|damaged"),
    (lambda d: remade(d, drop=["bundle.json"]), "bundle.json is missing"),
    (lambda d: remade(d, {"bundle.json": lambda b: b[:-9]}), "bundle.json is no whole JSON"),
    (lambda d: remade(d, {"bundle.json": told(format="other")}), "the format is 'other'"),
    (lambda d: remade(d, {"bundle.json": told(version=9)}), "version 9 is not known"),
    (lambda d: remade(d, {"bundle.json": told(tables={"spells": []})}), "no table 'spells'"),
    (lambda d: remade(d, {"bundle.json": told(tables={})}), "exactly one project"),
    (lambda d: remade(d, {"bundle.json": row_changed("shot", colour="red")}), "there is no column 'colour'"),
    (
        lambda d: remade(d, {"bundle.json": row_changed("shot", length_s="long")}),
        "length_s: Input should be a valid number",
    ),
    (lambda d: remade(d, {"bundle.json": row_changed("shot", size="x" * 99)}), "size: Input should be 'EWS'"),
    (lambda d: remade(d, {"bundle.json": row_changed("bead", shot_id="0" * 32)}), "shot_id: it names the shot 000"),
    (lambda d: remade(d, {"bundle.json": row_changed("take", picture_sha="0" * 64)}), "names the picture 000"),
    (lambda d: remade(d, {"bundle.json": row_changed("shot", id="../../etc")}), "id: String should match"),
    (lambda d: remade(d, {"bundle.json": row_changed("shot", end_at=10**9)}), "end_at: Input should be less"),
    (lambda d: remade(d, {"bundle.json": row_changed("shot", end_at=None)}), "has a start and an end"),
    (lambda d: remade(d, {"bundle.json": row_changed("shot", end_at=5000)}), "end_at: this part of the text has"),
    (lambda d: remade(d, {"bundle.json": row_changed("shot", end_part_id="0" * 32)}), "names the text_part 000"),
    (lambda d: remade(d, {"bundle.json": older(end=10**9)}), "span_end: the text has"),
    (lambda d: remade(d, {"bundle.json": older(end="far")}), "has a start, and an end after it"),
    (
        lambda d: remade(d, {"bundle.json": row_changed("shot", length_s=float("nan"))}),
        "length_s: Input should be a finite",
    ),
    (lambda d: remade(d, {"bundle.json": row_changed("shot", shows="\ud800")}), "shows: "),
    (lambda d: remade(d, {"bundle.json": row_changed("shot", position=10**400)}), "position: |no whole JSON"),
    (lambda d: remade(d, {"bundle.json": row_changed("mark", x=1e5)}), "mark .*: x: The box"),
    (lambda d: remade(d, {"bundle.json": row_changed("project", source={"encoding": "rot13"})}), "source/encoding: "),
    (
        lambda d: remade(d, {"bundle.json": row_changed("thread", owner_id="0" * 32)}),
        "owner_id: it names the thread 000",
    ),
    (
        lambda d: remade(d, {"bundle.json": row_changed("take", made_from={"references": "x"})}),
        "made_from/references: ",
    ),
    (
        lambda d: remade(d, {"bundle.json": row_changed("project", created_at="yesterday")}),
        "created_at: this is no time",
    ),
    (lambda d: remade(d, {"bundle.json": row_changed("stet", finding_key="")}), "finding_key: "),
    (lambda d: remade(d, {"bundle.json": lambda b: b"[" * 100_000 + b"]" * 100_000}), "no whole JSON"),
    (lambda d: remade(d, {"bundle.json": lambda b: b'{"tables": ' + b"9" * 5000 + b"}"}), "no whole JSON"),
    (lambda d: remade(d, add=[("../outside.txt", b"x")]), "leads out of the bundle"),
    (lambda d: remade(d, add=[("/etc/passwd", b"x")]), "leads out of the bundle"),
    (lambda d: remade(d, add=[("C:\\x", b"x")]), "leads out of the bundle"),
    (lambda d: remade(d, add=[("zeros", b"\0" * (64 << 20))]), "zip bomb"),
]


@pytest.mark.parametrize(("spoil", "message"), BAD, ids=[m for _, m in BAD])
def test_a_bad_bundle_is_refused_by_name_and_leaves_nothing(ws, data, empty, spoil, message):
    with pytest.raises(NotPossible, match=message):
        take_in(empty, spoil(data))
    assert projects.shelf(empty) == []
    assert [p for p in empty.store.root.rglob("*") if p.is_file()] == []
    with empty.database.session() as s:
        assert s.scalars(select(Picture)).all() == []


def test_a_picture_whose_bytes_are_not_its_own_is_told(data, empty):
    name = next(n for n in zipfile.ZipFile(io.BytesIO(data)).namelist() if n.startswith("pictures/"))
    with pytest.raises(NotPossible, match="SHA-256 differs"):
        take_in(empty, remade(data, {name: lambda b: b[:-1] + b"x"}))
    with pytest.raises(NotPossible, match="is missing from the bundle"):
        take_in(empty, remade(data, drop=[name]))
    assert projects.shelf(empty) == []
    assert [p for p in empty.store.root.rglob("*") if p.is_file()] == []


def test_a_damaged_stream_is_told(data, empty):
    """The bytes of an entry are spoiled, its name and length are not."""
    rng = np.random.default_rng(8)
    for _ in range(60):
        spoiled = bytearray(data)
        at = int(rng.integers(60, len(data) // 3))
        spoiled[at : at + 8] = bytes(rng.integers(0, 256, 8, dtype=np.uint8))
        try:
            project = take_in(empty, bytes(spoiled))
        except NotPossible:
            continue
        projects.remove(empty, project)


def test_what_is_taken_in_opens_undoes_and_goes_out_again(data, empty):
    """Rows changed at random to other values that might do: a bundle that is taken in is as good as any project."""
    rng = np.random.default_rng(9)
    whole = json.loads(zipfile.ZipFile(io.BytesIO(data)).read("bundle.json"))
    odd = [
        "",
        "x",
        "x" * 300,
        None,
        0,
        -1,
        1.5,
        1e300,
        2**31,
        True,
        [],
        ["x"],
        {},
        "#112233",
        "0" * 32,
        "0" * 64,
        "\ud800",
    ]
    taken, refused = 0, []
    for _ in range(90):
        told = json.loads(json.dumps(whole))
        table = str(rng.choice([t for t, rows in told["tables"].items() if rows]))
        row = told["tables"][table][int(rng.integers(len(told["tables"][table])))]
        for _ in range(int(rng.integers(1, 3))):
            column = str(rng.choice(sorted(row)))
            others = [r[column] for r in told["tables"][table] if column in r]
            row[column] = (
                odd[int(rng.integers(len(odd)))] if rng.random() < 0.7 else others[int(rng.integers(len(others)))]
            )
        try:
            project = take_in(empty, remade(data, {"bundle.json": lambda b, told=told: json.dumps(told).encode()}))
        except NotPossible as error:
            refused.append(str(error))
            continue
        taken += 1
        SnapshotOut.model_validate(projects.snapshot(empty, project), from_attributes=True)
        before = projects.snapshot(empty, project).rows
        plan.add_scene(empty, project, "More")
        projects.undo(empty, project)
        assert projects.snapshot(empty, project).rows == before
        Findings(empty).since(project)
        again = given(empty, project)
        projects.remove(empty, project)
        assert given(empty, take_in(empty, again)) == again
        projects.remove(empty, project)
    assert taken > 8
    assert len(refused) > 30
    assert all(told.startswith("bundle.json: ") for told in refused)


def test_a_link_in_a_bundle_is_refused(data, empty):
    info = zipfile.ZipInfo("pictures/link")
    info.external_attr = 0o120777 << 16
    out = io.BytesIO(data)
    with zipfile.ZipFile(out, "a") as archive:
        archive.writestr(info, "/etc/passwd")
    with pytest.raises(NotPossible, match="is a link"):
        take_in(empty, out.getvalue())
