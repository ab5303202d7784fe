"""A file out is made: in a worker process, in a folder of its own, under its name only when it is whole."""

from __future__ import annotations

import hashlib
import os
import shutil
import zipfile
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

from pydantic import TypeAdapter

from juxtaform.core.book.cover import Cover
from juxtaform.core.book.pages import Layout
from juxtaform.formats.out import animatic as film
from juxtaform.formats.out import book as paper
from juxtaform.formats.out import captions, cues, epub, pictures, storyboard, timeline
from juxtaform.formats.out import cover as front
from juxtaform.formats.out.book import OutBook
from juxtaform.formats.out.sequence import Going, OutSequence, Stopped, file_name, ranges
from juxtaform.formats.zips import put
from juxtaform.records.rules import DeliveryKind, DeliveryOptions

CBZ_COVER_PX = 2000
_SEQUENCE = TypeAdapter(OutSequence)
_LAYOUT = TypeAdapter(Layout | None)
_COVER = TypeAdapter(Cover | None)


@dataclass(frozen=True)
class DeliveryTask:
    """What is to be made, and the folder for it."""

    kind: DeliveryKind
    options: DeliveryOptions
    sequence: OutSequence
    folder: str
    layout: Layout | None = None
    cover: Cover | None = None


@dataclass(frozen=True)
class Produced:
    """What came of a task: the file's name in the folder, or why there is none. `note` says what is not as it should be in a whole file."""

    name: str = ""
    note: str = ""
    trouble: str = ""
    stopped: bool = False


def produce(task: DeliveryTask) -> Produced:
    """Make a file; runs in a worker process and raises nothing."""
    folder = Path(task.folder)
    half = folder / "half"
    try:
        _begin(task, folder)
        name, unread, more = _made(task, half, Going(folder))
        os.replace(half, folder / name)
        shutil.rmtree(folder / "kept", ignore_errors=True)
        cards = (
            f"The picture of {'shot' if len(unread) == 1 else 'shots'} {ranges(unread)} could not be read; a card stands there."
            if unread
            else ""
        )
        return Produced(name, f"{cards} {more}".strip())
    except Stopped:
        return Produced(stopped=True)
    except OSError as error:
        room = error.errno == 28
        why = (
            "The disk is full. Free some room, then go on; what was made so far is kept."
            if room
            else f"It broke off: {error}"
        )
        return Produced(trouble=why)
    except Exception as error:
        return Produced(trouble=str(error) or f"It broke off: {type(error).__name__}")
    finally:
        half.unlink(missing_ok=True)


def _begin(task: DeliveryTask, folder: Path) -> None:
    """What was kept half-way is of use for the very same task alone."""
    folder.mkdir(parents=True, exist_ok=True)
    about = (
        f"{task.kind} {task.options.model_dump_json()}".encode()
        + _SEQUENCE.dump_json(task.sequence)
        + _LAYOUT.dump_json(task.layout)
        + _COVER.dump_json(task.cover)
    )
    digest, known = hashlib.sha256(about).hexdigest(), folder / "made-of"
    if not known.exists() or known.read_text() != digest:
        shutil.rmtree(folder / "kept", ignore_errors=True)
        known.write_text(digest)


def _made(task: DeliveryTask, to: Path, going: Going) -> tuple[str, list[int], str]:
    """Make the file; returns its name, the numbers of shots whose picture could not be read, and what else is to be told."""
    sequence, options = task.sequence, task.options
    title = file_name(sequence.title)
    if not sequence.shots:
        raise ValueError("There is no shot yet. Plan one on the Sheet first.")
    if task.kind == "pictures":
        pictures.numbered_zip(sequence, to, going, placeholders=options.placeholders)
        return f"{title}, pictures.zip", [], ""
    if task.kind == "cbz":
        whole = OutBook(sequence, task.layout, task.cover) if task.layout and task.cover else None
        cover = front.front_jpeg(whole, CBZ_COVER_PX) if whole else None
        pictures.cbz(sequence, to, going, placeholders=options.placeholders, front=cover)
        return f"{title}.cbz", [], ""
    if task.kind == "storyboard":
        storyboard.storyboard(sequence, options.a_page, to, going)
        return f"{title}, storyboard.pdf", [], ""
    if task.kind == "timeline":
        _timeline(sequence, to, going)
        return f"{title}, timeline.zip", [], ""
    if task.layout is not None and task.kind in ("book", "dummy", "epub", "cover"):
        return *_on_paper(task.kind, OutBook(sequence, task.layout, task.cover), title, to, going), ""
    if task.kind == "captions":
        words = captions.web_vtt(sequence) if options.captions == "vtt" else captions.srt(sequence)
        to.write_text(words, encoding="utf-8")
        return f"{title}.{options.captions}", [], ""
    if task.kind == "cues":
        if not sequence.sounds:
            raise ValueError("No sound lies on the sequence yet. Lay one in the run-through first.")
        to.write_text(cues.cue_sheet(sequence), encoding="utf-8-sig", newline="")
        return f"{title}, cue sheet.csv", [], ""
    return _animatic(sequence, options, title, to, going)


def _animatic(
    sequence: OutSequence, options: DeliveryOptions, title: str, to: Path, going: Going
) -> tuple[str, list[int], str]:
    form = film.AnimaticForm(options.form, options.height, options.words == "burnt in", options.sound)
    if options.words != "beside":
        made = film.animatic(sequence, form, to, going)
        return f"{title}, animatic.{options.form}", made.unread, made.sound
    alone = going.kept(f"whole.{options.form}")
    made = film.animatic(sequence, form, alone, going)
    with zipfile.ZipFile(to, "w") as archive:
        archive.write(alone, f"{title}.{options.form}", zipfile.ZIP_STORED)
        put(archive, f"{title}.vtt", captions.web_vtt(sequence).encode())
    return f"{title}, animatic.zip", made.unread, made.sound


def _on_paper(kind: str, book: OutBook, title: str, to: Path, going: Going) -> tuple[str, list[int]]:
    if kind == "epub":
        return f"{title}.epub", epub.epub(book, datetime.now(UTC), to, going)
    if kind == "cover":
        return f"{title}, cover.pdf", front.cover_pdf(book, to, going)
    if kind == "dummy":
        return f"{title}, dummy to fold.pdf", paper.dummy_pdf(book, to, going)
    return f"{title}, book.pdf", paper.book_pdf(book, to, going)


def _timeline(sequence: OutSequence, to: Path, going: Going) -> None:
    """The timeline with the pictures and sounds that it names, so that it opens wherever it is unpacked."""
    with zipfile.ZipFile(to, "w") as archive:
        put(archive, f"{file_name(sequence.title)}.otio", timeline.otio_text(sequence).encode())
        for i, shot in enumerate(sequence.shots):
            going.done(i, len(sequence.shots))
            if shot.picture:
                put(archive, timeline.picture_name(shot), Path(shot.picture.path).read_bytes(), packed=False)
        for path, name in timeline.sound_names(sequence).items():
            archive.write(path, name, zipfile.ZIP_STORED)
        going.done(len(sequence.shots), len(sequence.shots))
