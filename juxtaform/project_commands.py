"""Commands on the projects of a running Juxtaform, for scripts: a project from a text and a folder, check, briefs, files out."""

from __future__ import annotations

import json
import os
import re
import sys
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Annotated, Any, Literal, cast, get_args

import typer

from juxtaform.client import Api, NotReached, Refused
from juxtaform.client.api import DeliveryOptions, DeliveryView, TakenIn
from juxtaform.limits import PICTURE_ENDINGS

TOKEN = "JUXTAFORM_TOKEN"
"""The variable that holds a token; on a command line others on the machine could read it."""
LOOKS_EVERY_S = 0.3
PICTURES = PICTURE_ENDINGS | {".mp4", ".webm", ".mov"}
BOOKS = {".cbz", ".pdf"}

At = Annotated[str, typer.Option("--at", envvar="JUXTAFORM_AT", help="Where Juxtaform runs.")]
Lines = Annotated[
    bool, typer.Option("--json", help="Print JSON Lines: an object for each step, and for what came of it.")
]
Project = Annotated[str, typer.Argument(help="The project's id, or its title where only one has it.")]
Kind = Literal[
    "pictures", "cbz", "storyboard", "animatic", "timeline", "captions", "book", "dummy", "epub", "cues", "cover"
]

app = typer.Typer(
    no_args_is_help=True,
    help=f"Work on the projects of a running Juxtaform. Exit 0 when all is well, 1 with something to look at, 2 when it could not be done. "
    f"Where there are accounts, {TOKEN} holds a token from your account’s page.",
)


class Teller:
    """Says what happens, each thing once: words for people on standard error, or JSON Lines on standard output."""

    def __init__(self, lines: bool) -> None:
        self._lines = lines
        self._last = ""

    def tell(self, event: str, words: str, **facts: object) -> None:
        line = json.dumps({"event": event, **facts}, ensure_ascii=False) if self._lines else words
        if line and line != self._last:
            print(line, file=sys.stdout if self._lines else sys.stderr, flush=True)
        self._last = line

    def give(self, event: str, words: str, **facts: object) -> None:
        """What a person or a script goes on with: on standard output in either form."""
        if self._lines:
            self.tell(event, "", **facts)
        else:
            print(words, flush=True)


@contextmanager
def _api(at: str, teller: Teller) -> Iterator[Api]:
    """The server, and what goes wrong in one sentence with exit 2."""
    try:
        with Api(at, os.environ.get(TOKEN, "")) as api:
            yield api
    except (Refused, NotReached) as error:
        teller.tell("error", str(error), message=str(error))
        raise typer.Exit(2) from error
    except OSError as error:
        words = f"{f'{error.filename}: ' if error.filename else ''}{error.strerror or error}"
        teller.tell("error", words, message=words)
        raise typer.Exit(2) from error


def _found(api: Api, asked: str, teller: Teller) -> str:
    """The id of a project by its id or title. An id needs no list: a token may be for one project alone."""
    if re.fullmatch(r"[0-9a-f]{32}", asked):
        return asked
    cards = api.get_projects()
    ids = [c["id"] for c in cards if asked == c["title"]]
    if len(ids) == 1:
        return ids[0]
    words = f"There is no project “{asked}”." if not ids else f"{len(ids)} projects are called “{asked}”: give an id."
    teller.tell("error", words, message=words)
    raise typer.Exit(2)


@app.command("list")
def every(at: At = "http://127.0.0.1:8765", lines: Lines = False) -> None:
    """The projects, newest first."""
    teller = Teller(lines)
    with _api(at, teller) as api:
        for card in api.get_projects():
            teller.give("project", f"{card['id']}\t{card['title']}\t{card['shots']} shots", **card)


@app.command()
def new(
    text: Annotated[Path, typer.Argument(help="The story: .txt, .md, .fountain, .docx, .odt or .rtf.")],
    title: Annotated[str, typer.Option(help="Its title; the text’s file name when left out.")] = "",
    pictures: Annotated[
        Path | None, typer.Option(help="A folder of pictures, clips or a book; each goes to the shot of its number.")
    ] = None,
    at: At = "http://127.0.0.1:8765",
    lines: Lines = False,
) -> None:
    """Make a project of a text, its shots settled as they are proposed, with the pictures of a folder as takes. Prints its id. Exit 1 when a picture was
    refused, or belongs to no shot."""
    teller = Teller(lines)
    with _api(at, teller) as api:
        story = (text.name, text.read_bytes())
        files = _files(pictures) if pictures else []
        project = api.post_projects({"title": title or text.stem})["id"]
        teller.tell("project", f"“{title or text.stem}” is made.", id=project, title=title or text.stem)
        api.post_projects_text_file(project, story)
        api.post_projects_proposals(project, {})
        api.post_projects_proposals_accept(project, {})
        shots = len(api.get_projects_one(project)["rows"]["shot"])
        teller.tell("shots", f"{shots} shots.", shots=shots)
        left = _brought(api, project, files, teller)
        teller.give("done", project, id=project, shots=shots, left_out=left)
        raise typer.Exit(1 if left else 0)


def _files(folder: Path) -> list[Path]:
    """The pictures, clips and books of a folder by their numbers. Raises OSError."""
    known = [p for p in folder.iterdir() if p.suffix.lower() in PICTURES | BOOKS and not p.name.startswith(".")]
    return sorted(known, key=lambda p: [int(part) if part.isdigit() else 0 for part in re.split(r"(\d+)", p.name)])


def _brought(api: Api, project: str, files: list[Path], teller: Teller) -> int:
    """Send files and make takes of those that belong to a shot; how many stayed out."""
    came: list[TakenIn] = []
    left = 0
    for i, path in enumerate(files):
        file = (path.name, path.read_bytes())
        is_book = path.suffix.lower() in BOOKS
        taken = (
            api.post_projects_book_pages(project, file)
            if is_book
            else [api.post_projects_pictures(project, file, path.name)]
        )
        for one in taken:
            if one["sha"]:
                came.append(one)
            else:
                left += 1
                teller.tell("refused", f"{one['name']}: {one['refused']}", name=one["name"], why=one["refused"])
        teller.tell("progress", f"{i + 1} of {len(files)} files sent", done=i + 1, total=len(files))
    if not came:
        return left
    places = api.post_projects_takes_propose(
        project, {"files": [{"name": t["name"], "sha": str(t["sha"])} for t in came]}
    )
    for p in places:
        if p["shot_id"] is None:
            left += 1
            teller.tell("left", f"{p['name']}: {p['reason']}", name=p["name"], why=p["reason"])
    placed = [{"name": p["name"], "sha": p["sha"], "shot_id": p["shot_id"]} for p in places if p["shot_id"]]
    if placed:
        api.post_projects_takes(project, {"files": cast(Any, placed)})
    teller.tell("takes", f"{len(placed)} takes.", takes=len(placed))
    return left


@app.command()
def check(project: Project, at: At = "http://127.0.0.1:8765", lines: Lines = False) -> None:
    """Check a project: exit 0 when all holds or was let stand, 1 with findings."""
    teller = Teller(lines)
    with _api(at, teller) as api:
        found = _found(api, project, teller)
        status = api.post_projects_check(found)
        while status["state"] in ("queued", "running"):
            words = f"{status['done']} of {status['total']} pictures measured"
            if status["total"]:
                teller.tell("progress", words, done=status["done"], total=status["total"])
            time.sleep(LOOKS_EVERY_S)
            status = api.get_projects_check(found)["status"]
        if status["state"] != "done":
            words = status["message"] or f"The check is {status['state']}."
            teller.tell("error", words, message=words)
            raise typer.Exit(2)
        whole = api.get_projects_one(found)["rows"]
        stood = {s["finding_key"] for s in whole["stet"] if s["verdict"] == "stet"}
        groups = [g for g in api.get_projects_findings(found)["groups"] if g["source"] == "check"]
        findings = [f for g in groups for f in g["findings"] if f.get("key") not in stood]
        numbers = _numbers(whole["scene"], whole["shot"])
        for f in findings:
            number = numbers.get(f.get("shot") or "", 0)
            facts = {k: f.get(k) for k in ("kind", "title", "advice", "severity", "shot", "key")}
            teller.give("finding", f"{number or '–'}: {f['title']}", number=number, **facts)
        teller.tell("done", f"{len(findings)} findings.", findings=len(findings))
        raise typer.Exit(1 if findings else 0)


def _numbers(scenes: Any, shots: Any) -> dict[str, int]:
    """The shots' numbers in the order of the story."""
    place = {s["id"]: s["position"] for s in scenes}
    ordered = sorted(shots, key=lambda s: (place.get(s["scene_id"], 0.0), s["position"]))
    return {s["id"]: i + 1 for i, s in enumerate(ordered)}


@app.command()
def briefs(
    project: Project,
    to: Annotated[Path, typer.Option(help="The file to write: .md, .csv, .json, or .zip with a folder a shot.")],
    profile: Annotated[str, typer.Option(help="For which service’s profile.")] = "",
    at: At = "http://127.0.0.1:8765",
    lines: Lines = False,
) -> None:
    """Write what each picture is made from, as it is handed to whoever makes it."""
    teller = Teller(lines)
    form = to.suffix.lower().removeprefix(".")
    with _api(at, teller) as api:
        if form not in ("md", "csv", "json", "zip"):
            words = f"{to.name}: briefs are written as .md, .csv, .json or .zip."
            teller.tell("error", words, message=words)
            raise typer.Exit(2)
        _written(to, api.get_projects_briefs_in_form(_found(api, project, teller), form, profile=profile or None))
        teller.give("done", str(to), file=str(to))


@app.command()
def deliver(
    project: Project,
    kind: Annotated[Kind, typer.Argument(help="What is made.")],
    to: Annotated[Path, typer.Option(help="The folder that the file comes into.")] = Path(),
    option: Annotated[
        list[str] | None, typer.Option("--set", help="How it is made, such as a_page=4, form=webm, placeholders=false.")
    ] = None,
    at: At = "http://127.0.0.1:8765",
    lines: Lines = False,
) -> None:
    """Make a file for other programs or for paper, and fetch it. Exit 1 when something in it is not as it should be."""
    teller = Teller(lines)
    with _api(at, teller) as api:
        wanted = _options(option or [], teller)
        found = _found(api, project, teller)
        made = api.post_projects_deliveries(found, {"kind": kind, "options": wanted})
        while made["state"] in ("waiting", "running"):
            if made["total"]:
                teller.tell("progress", f"{made['done']} of {made['total']}", done=made["done"], total=made["total"])
            time.sleep(LOOKS_EVERY_S)
            made = _still(api, found, made["id"], teller)
        if made["state"] != "done":
            words = made["message"] or f"It is {made['state']}."
            teller.tell("error", words, message=words)
            raise typer.Exit(2)
        path = to / made["name"]
        _written(path, api.get_projects_deliveries_file(found, made["id"]))
        if made["message"]:
            teller.tell("note", made["message"], message=made["message"])
        teller.give("done", str(path), file=str(path), message=made["message"])
        raise typer.Exit(1 if made["message"] else 0)


def _still(api: Api, project: str, delivery: str, teller: Teller) -> DeliveryView:
    """How a file out stands. Ends the command when somebody took it away."""
    made = next((d for d in api.get_projects_deliveries(project) if d["id"] == delivery), None)
    if made is None:
        words = "Somebody removed the file while it was made."
        teller.tell("error", words, message=words)
        raise typer.Exit(2)
    return made


def _options(told: list[str], teller: Teller) -> DeliveryOptions:
    """Options from the command line; the server says which of them it does not know."""
    options: dict[str, object] = {}
    for one in told:
        name, is_set, value = one.partition("=")
        if not is_set:
            words = f"“{one}” says nothing: write name=value, such as {get_args(Kind)[2]} with a_page=4."
            teller.tell("error", words, message=words)
            raise typer.Exit(2)
        options[name] = {"true": True, "false": False}.get(value, int(value) if value.isdigit() else value)
    return cast(DeliveryOptions, options)


def _written(path: Path, data: bytes) -> None:
    """A whole file under its name, or none. Raises OSError."""
    path.parent.mkdir(parents=True, exist_ok=True)
    handle, name = tempfile.mkstemp(dir=path.parent, prefix=".part-")
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(data)
        Path(name).replace(path)
        path.chmod(0o644)
    except BaseException:
        Path(name).unlink(missing_ok=True)
        raise
