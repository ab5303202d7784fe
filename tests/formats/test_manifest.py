"""The sequence manifest and the check without a screen."""

import json
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from typer.testing import CliRunner

from juxtaform.cli import app
from juxtaform.formats.manifest import ManifestWrong, read, schema
from tests.conftest import LOOK, png
from tests.constructed import LIGHTS, random_pose, reference, scene

DOCS = Path(__file__).parents[2] / "docs"


@pytest.fixture(scope="module")
def folder(tmp_path_factory):
    """Eight shots of one figure; the fourth has a recoloured coat, the sixth is in another hand."""
    home = tmp_path_factory.mktemp("sequence")
    rng = np.random.default_rng(8)
    (home / "refs").mkdir()
    (home / "refs/front.png").write_bytes(png(reference(LOOK)))
    (home / "refs/other.png").write_bytes(png(reference(LOOK, random_pose(rng))))
    for g in (5, 6, 7, 8):
        (home / f"refs/style{g}.png").write_bytes(png(scene([], rng, ground=g)[0]))
    shots = []
    for i in range(8):
        look = replace(LOOK, coat="#6b4a8c") if i == 3 else LOOK
        picture, [box] = scene([look], rng, LIGHTS[i % 3], ground=i, scale=0.95, hand="inked" if i == 5 else "paper")
        (home / f"s{i}.png").write_bytes(png(picture))
        shots.append(
            {
                "id": f"s{i}",
                "picture": f"s{i}.png",
                "style": "paper",
                "appearances": [{"reference": "ada", "box": [box.x, box.y, box.w, box.h]}],
            }
        )
    manifest = {
        "references": [
            {
                "id": "ada",
                "kind": "character",
                "name": "Ada",
                "pictures": [{"path": "refs/front.png"}, {"path": "refs/other.png", "weight": 0.5}],
            },
            {"id": "paper", "kind": "style", "pictures": [{"path": f"refs/style{g}.png"} for g in (5, 6, 7, 8)]},
        ],
        "shots": shots,
    }
    (home / "manifest.json").write_text(json.dumps(manifest))
    return home


def run(*arguments):
    return CliRunner().invoke(app, [str(a) for a in arguments])


def changed(folder, name, **edits):
    """A copy of the manifest with some values set by JSON pointer."""
    manifest = json.loads((folder / "manifest.json").read_text())
    for pointer, value in edits.items():
        parts = pointer.strip("/").split("/")
        at = manifest
        for part in parts[:-1]:
            at = at[int(part)] if isinstance(at, list) else at[part]
        at[int(parts[-1]) if isinstance(at, list) else parts[-1]] = value
    (folder / name).write_text(json.dumps(manifest))
    return folder / name


def test_the_check_finds_the_two_faults_and_nothing_else(folder):
    result = run("check", folder / "manifest.json", "--json", folder / "report.json")
    assert result.exit_code == 1, result.output
    report = json.loads((folder / "report.json").read_text())
    assert [(f["kind"], f["shot"]) for f in report["findings"]] == [("trait_changed", "s3"), ("style_break", "s5")]
    fault = report["shots"][3]["appearances"][0]
    assert fault["verdict"] == "drifts"
    [coat] = [t for t in fault["traits"] if t["verdict"] == "changed"]
    assert coat["distance"] > coat["allowed"]
    assert coat["expected"]
    assert coat["seen"]
    assert [s["style"]["verdict"] for s in report["shots"]].count("drifts") == 1
    assert report["threads"]


def test_a_clean_sequence_exits_0(folder):
    clean = json.loads((folder / "manifest.json").read_text())
    clean["shots"] = [s for i, s in enumerate(clean["shots"]) if i not in (3, 5)]
    (folder / "clean.json").write_text(json.dumps(clean))
    assert run("check", folder / "clean.json").exit_code == 0


@pytest.mark.parametrize(
    ("edits", "pointer"),
    [
        ({"/shots/2/picture": "../outside.png"}, "/shots/2/picture"),
        ({"/shots/2/picture": "/etc/passwd"}, "/shots/2/picture"),
        ({"/shots/2/picture": "gone.png"}, "/shots/2/picture"),
        ({"/shots/1/id": "s0"}, "/shots/1/id"),
        ({"/shots/0/appearances/0/reference": "bob"}, "/shots/0/appearances/0/reference"),
        ({"/shots/0/appearances/0/box": [0, 0, -4, 5]}, "/shots/0/appearances/0/box/2"),
        ({"/shots/0/appearances/0/box": [99999, 0, 4, 5]}, "/shots/0/picture"),
        ({"/references/0/kind": "hero"}, "/references/0/kind"),
        ({"/references/0/pictures/0/path": "manifest.json"}, ""),
        ({"/shots/0/colour": "red"}, "/shots/0/colour"),
    ],
)
def test_a_wrong_manifest_names_the_place_and_exits_2(folder, edits, pointer):
    result = run("check", changed(folder, "wrong.json", **edits))
    assert result.exit_code == 2, result.output
    assert pointer in result.output


@pytest.mark.parametrize(
    "text", ["", "{", "[]", '{"shots": []}', '{"format": "other/1", "shots": [{"id": "a"}]}', "\x00\xff"]
)
def test_what_is_no_manifest_exits_2_with_one_sentence(tmp_path, text):
    (tmp_path / "m.json").write_text(text)
    result = run("check", tmp_path / "m.json")
    assert result.exit_code == 2
    assert "Traceback" not in result.output


def test_a_manifest_that_is_not_there_is_told(tmp_path):
    with pytest.raises(ManifestWrong, match="cannot be read"):
        read(tmp_path / "none.json")


def test_the_published_schema_is_the_current_one():
    assert json.loads((DOCS / "manifest.schema.json").read_text()) == schema()
    assert json.loads(run("schema").output) == schema()
