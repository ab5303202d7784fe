"""The commands."""

from __future__ import annotations

import json
import sys
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Annotated

import typer

from juxtaform import project_commands
from juxtaform.formats import manifest as manifests

Var = Annotated[Path, typer.Option(help="Where the database and the pictures lie.")]
app = typer.Typer(
    add_completion=False, no_args_is_help=True, pretty_exceptions_enable=False, help="Juxtaform's commands."
)
app.add_typer(project_commands.app, name="project")


@app.command()
def check(
    manifest: Annotated[Path, typer.Argument(help="A sequence manifest (see docs/manifest.md).")],
    json_out: Annotated[Path | None, typer.Option("--json", help="Write the whole report here; `-` prints it.")] = None,
    quiet: Annotated[bool, typer.Option("--quiet", help="Say nothing but errors.")] = False,
) -> None:
    """Check a sequence: exit 0 when it holds, 1 with findings, 2 when the manifest is wrong."""
    from juxtaform.studio.headless import check_manifest

    show = sys.stderr.isatty() and not quiet

    def progress(done: int, total: int) -> None:
        if show:
            print(
                f"\r{done} of {total} pictures measured", end="" if done < total else "\n", file=sys.stderr, flush=True
            )

    try:
        report = check_manifest(manifests.read(manifest), manifest, progress)
    except manifests.ManifestWrong as error:
        print(f"{manifest}: {error}", file=sys.stderr)
        raise typer.Exit(2) from error
    text = json.dumps(report, ensure_ascii=False, indent=1) + "\n"
    if json_out == Path("-"):
        sys.stdout.write(text)
    elif json_out:
        try:
            json_out.write_text(text, encoding="utf-8")
        except OSError as error:
            print(f"The report cannot be written to {json_out}: {error.strerror}.", file=sys.stderr)
            raise typer.Exit(2) from error
    if not quiet and json_out != Path("-"):
        for finding in report["findings"]:
            print(f"{finding['shot']}: {finding['title']}  [{finding['measured']} {finding['unit']}]")
        print(f"{len(report['findings'])} findings in {len(report['shots'])} shots.")
    raise typer.Exit(1 if report["findings"] else 0)


@app.command()
def schema() -> None:
    """Print the JSON Schema of the sequence manifest."""
    print(json.dumps(manifests.schema(), ensure_ascii=False, indent=1))


@app.command()
def serve(
    port: Annotated[int, typer.Option(help="The port on 127.0.0.1; 0 takes a free one.")] = 8765,
    empty: Annotated[bool, typer.Option("--empty", help="Do not load the demo.")] = False,
    var: Var = Path("var"),
    host: Annotated[
        str, typer.Option(help="An address of this machine to listen on too, once there is an account (docs/reach.md).")
    ] = "",
    public: Annotated[
        str, typer.Option(help="The address of a proxy before it, such as https://story.example.org.")
    ] = "",
    backup: Annotated[Path | None, typer.Option(help="A file that backups are added to while it runs.")] = None,
    every: Annotated[float, typer.Option(min=0.01, help="Hours between backups.")] = 24.0,
    name: Annotated[list[str] | None, typer.Option(help="A further name by which this machine is reached.")] = None,
    certificate: Annotated[Path | None, typer.Option(help="A certificate (PEM) for TLS on --host.")] = None,
    key: Annotated[Path | None, typer.Option(help="The certificate's key (PEM).")] = None,
    second_factor: Annotated[
        bool, typer.Option("--second-factor", help="Everybody has to have a second factor beside the password.")
    ] = False,
) -> None:
    """Start MariaDB and the server."""
    from juxtaform.listening import CannotStart
    from juxtaform.reach import CannotReach, Reach
    from juxtaform.server import serve as run

    try:
        run(
            var,
            port,
            demo=not empty,
            reach=Reach(host, public, name or [], certificate, key, second_factor),
            backup=(backup, every) if backup else None,
        )
    except KeyboardInterrupt:
        print("Stopped.")
    except (CannotStart, CannotReach) as error:
        print(error, file=sys.stderr)
        raise typer.Exit(1) from error


@app.command()
def accounts(
    link: Annotated[str, typer.Option(help="Print a link to a new password for who signs in as this.")] = "",
    without_second: Annotated[
        str, typer.Option(help="Take the second factor off the account that signs in as this, when it is lost.")
    ] = "",
    var: Var = Path("var"),
) -> None:
    """List the accounts, or help somebody who lost a password. The server may run meanwhile."""
    from juxtaform.at_hand import at_hand
    from juxtaform.studio import accounts as people
    from juxtaform.studio import invitations, second

    with _told(), at_hand(var) as ws:
        cards = people.all_of_them(ws)
        asked = (link or without_second).strip().casefold()
        wanted = next((c for c in cards if c.login == asked), None)
        if asked and wanted is None:
            print(f"Nobody signs in as {asked}.", file=sys.stderr)
            raise typer.Exit(1)
        if wanted and without_second:
            second.take_off(ws, wanted.id)
            print(f"{wanted.login} has no second factor any more.")
            if not link:
                return
        if wanted:
            print(f"/enter#{invitations.to_password(ws, wanted.id)}")
            print("Put this behind Juxtaform's address. It opens once, within 24 hours.")
            return
        for c in cards:
            print(f"{c.login}\t{c.name}{'  (keeper)' if c.keeper else ''}{'  (closed)' if c.closed else ''}")
        if not cards:
            print("There are no accounts.")


@app.command()
def backup(
    file: Annotated[Path, typer.Argument(help="The backup file; one that is there gets what is new.")],
    verify: Annotated[bool, typer.Option("--verify", help="Afterwards read back everything that is in it.")] = False,
    only_verify: Annotated[
        bool, typer.Option("--only-verify", help="Back nothing up: read back what is in it.")
    ] = False,
    var: Var = Path("var"),
) -> None:
    """Back everything up into one file; people may work meanwhile. Exit 1 when something is missing or damaged."""
    from juxtaform.at_hand import at_hand
    from juxtaform.studio import backup as backups

    with _told():
        complete = True
        if not only_verify:
            with at_hand(var) as ws:
                done = backups.back_up(ws, file, _progress("{done} of {of} files"))
            print(f"Backed up at {done.at}: {done.rows} rows, {done.files} files, {done.fresh} of them new.")
            if done.missing:
                complete = False
                print(f"{len(done.missing)} files that rows name are not there: run juxtaform doctor.", file=sys.stderr)
        if verify or only_verify:
            wrong = backups.verify(file, _progress("{done} of {of} read back"))
            for name in wrong[:20]:
                print(f"damaged: {name}", file=sys.stderr)
            complete = complete and not wrong
            print(f"{len(wrong)} parts are damaged." if wrong else "All that is in it was read back and is whole.")
        if not complete:
            raise typer.Exit(1)


@app.command()
def restore(
    file: Annotated[Path, typer.Argument(help="A backup file.")],
    number: Annotated[
        int | None, typer.Option("--at", help="Which backup of it, counted from 1; the newest if left out.")
    ] = None,
    listed: Annotated[bool, typer.Option("--list", help="Only tell which backups it holds.")] = False,
    missing: Annotated[
        bool, typer.Option("--missing", help="Only put files back that are missing or damaged here.")
    ] = False,
    var: Var = Path("var"),
) -> None:
    """Restore a backup into an empty place: another machine, another MariaDB (JUXTAFORM_DATABASE), another --var."""
    from juxtaform.at_hand import at_hand, database_at_hand
    from juxtaform.formats import backup_file
    from juxtaform.studio import backup as backups

    with _told():
        with backup_file.opened(file):
            pass  # What is no backup is told before a database is started.
        if listed:
            with backup_file.opened(file) as kept:
                for i, whole in enumerate(kept.backups, 1):
                    rows = sum(count for _, count in whole.tables.values())
                    print(f"{i}  {whole.at}  schema {whole.schema}, {rows} rows, {len(whole.files)} files")
        elif missing:
            with at_hand(var) as ws:
                back = backups.missing_back(ws, file, _progress("{done} of {of} looked at"))
            print(f"{back} files are put back.")
        else:
            with database_at_hand(var) as database:
                done = backups.restore(database, var, file, number, _progress("{done} of {of} files"))
            print(f"Restored the state of {done.at}: {done.rows} rows, {done.files} files. Start it with bin/start.")


@app.command()
def doctor(
    deep: Annotated[bool, typer.Option("--deep", help="Read every byte and hold it against its name.")] = False,
    mend: Annotated[
        bool,
        typer.Option("--mend", help="Make missing thumbnails again, and lay what is missing into the shared store."),
    ] = False,
    var: Var = Path("var"),
) -> None:
    """See whether rows and files belong together, and say what to do: exit 0 when all is well, 1 when not."""
    from juxtaform.at_hand import at_hand
    from juxtaform.studio import doctor as doctors

    with _told(), at_hand(var) as ws:
        if mend:
            print(f"{doctors.mend(ws)} pictures were mended.")
        found = doctors.examine(ws, deep=deep, progress=_progress("{done} of {of} files read"))
        print(f"Looked at {found.projects} projects, {found.pictures} pictures, {found.sounds} sounds.")
        for c in found.complaints:
            print(f"\n{c.count} {c.what}:")
            for about in c.about:
                print(f"  {about}")
            if c.count > len(c.about):
                print(f"  and {c.count - len(c.about)} more")
            print(f"  {c.do}")
        if found.complaints:
            raise typer.Exit(1)
        print("All is well." if deep else "All is well. With --deep every byte is read.")


@contextmanager
def _told() -> Iterator[None]:
    """Foreseen errors in one sentence, with exit 2."""
    from sqlalchemy.exc import SQLAlchemyError

    from juxtaform.formats.backup_file import BackupWrong
    from juxtaform.listening import CannotStart
    from juxtaform.studio.workspace import NotPossible

    try:
        yield
    except (BackupWrong, CannotStart, NotPossible) as error:
        print(error, file=sys.stderr)
        raise typer.Exit(2) from error
    except OSError as error:
        about = f"{error.filename}: " if error.filename else ""
        print(f"{about}{error.strerror or error}. What was there is as it was.", file=sys.stderr)
        raise typer.Exit(2) from error
    except SQLAlchemyError as error:
        print(f"The database says: {str(error).splitlines()[0]}", file=sys.stderr)
        raise typer.Exit(2) from error


def _progress(words: str) -> Callable[[int, int], None]:
    show = sys.stderr.isatty()

    def progress(done: int, of: int) -> None:
        if show and (done % 50 == 0 or done == of):
            end = "\n" if done == of else ""
            print(f"\r{words.format(done=done, of=of)}", end=end, file=sys.stderr, flush=True)

    return progress


@app.command()
def worker(
    scheduler: Annotated[str, typer.Argument(envvar="JUXTAFORM_SCHEDULER", help="A Dask scheduler, tcp://host:8786.")],
    processes: Annotated[int, typer.Option(min=0, help="How many pictures at once; 0: one for each core.")] = 0,
    memory: Annotated[
        str, typer.Option(help="The most memory of a process; one that takes more is made anew.")
    ] = "4GB",
    copies: Annotated[Path, typer.Option(help="Where copies of shared pictures are kept.")] = Path("var/copies"),
) -> None:
    """Measure pictures for a Juxtaform elsewhere, on a Dask scheduler that both reach (docs/scale.md)."""
    from juxtaform.far_worker import run

    raise typer.Exit(run(scheduler, processes, memory, copies))


@app.command()
def openapi() -> None:
    """Print the API's OpenAPI document."""
    from juxtaform.media.store import PictureStore
    from juxtaform.records.database import Database
    from juxtaform.studio.checking import Checker
    from juxtaform.studio.workspace import Workspace
    from juxtaform.web.app import create_app

    ws = Workspace(Database("mysql+pymysql://127.0.0.1/none"), PictureStore(Path()))
    print(json.dumps(create_app(ws, Checker(ws)).openapi(), ensure_ascii=False))


@app.command()
def understudy(
    port: Annotated[int, typer.Option(help="The port on 127.0.0.1; 0 takes a free one.")] = 8766,
    often: Annotated[
        float, typer.Option(min=0, max=1, help="The chance that something goes wrong in a picture.")
    ] = 0.2,
    tells: Annotated[bool, typer.Option("--tells", help="Tell at /understudy what went wrong, to judge by.")] = False,
    keep: Annotated[Path | None, typer.Option(help="A folder where its jobs and pictures outlive it.")] = None,
) -> None:
    """Run the simulated picture-making service (docs/picture-service.md); JUXTAFORM_UNDERSTUDY_TOKEN closes it to others."""
    import os

    import uvicorn

    from juxtaform.listening import CannotStart, listening_on
    from juxtaform.understudy.service import PREFIX, make_app

    try:
        listening = listening_on(port)
    except CannotStart as error:
        print(error, file=sys.stderr)
        raise typer.Exit(1) from error
    print(f"The Understudy is at http://127.0.0.1:{listening.getsockname()[1]}{PREFIX}/", flush=True)
    made = make_app(os.environ.get("JUXTAFORM_UNDERSTUDY_TOKEN", ""), often=often, tells=tells, keep=keep)
    uvicorn.Server(uvicorn.Config(made, log_level="warning", server_header=False)).run(sockets=[listening])


if __name__ == "__main__":
    app()
